'use client';

import { useRouter } from 'next/navigation';
import { useId, useState, useTransition } from 'react';
import type { BadRow, LabMapping, ParsedSample } from '@/core/ground/labReport';
import type { Answer, RefusalDetail } from '@/core/quantity/refusal';
import { ChoiceBox, Part } from '../figure/fields';
import { useHydrated } from '../frame/hydrated';
import { type Preview, type Checked, Columns, Report } from './ImportSteps';
export interface ImportFileProps {
  farms: { id: string; name: string }[];
  laboratories: Record<string, string[]>;
  nutrients: { nutrient: string; extractants: string[] }[];
  preview: (form: FormData) => Promise<Answer<Preview>>;
  check: (form: FormData) => Promise<Answer<{ good: ParsedSample[]; bad: BadRow[] }>>;
}

/** Sends the file and follows what the server says of its progress; the last line is the answer. */
async function sendImport(
  form: FormData,
  onProgress: (p: { done: number; of: number }) => void,
): Promise<Answer<{ imported: number; waiting: number }>> {
  const response = await fetch('/api/soil-import', { method: 'POST', body: form });
  if (!response.ok)
    return { ok: false, refusal: ((await response.json()) as { error: RefusalDetail }).error };
  const reader = response.body?.pipeThrough(new TextDecoderStream()).getReader();
  let text = '';
  let answer: Answer<{ imported: number; waiting: number }> | null = null;
  const take = (line: string) => {
    if (line.trim() === '') return;
    const said = JSON.parse(line) as
      { progress: { done: number; of: number } } | Answer<{ imported: number; waiting: number }>;
    if ('progress' in said) onProgress(said.progress);
    else answer = said;
  };
  for (let part = await reader?.read(); part && !part.done; part = await reader?.read()) {
    text += part.value;
    const lines = text.split('\n');
    text = lines.pop() ?? '';
    lines.forEach(take);
  }
  take(text);
  if (!answer) throw new Error('no answer');
  return answer;
}

/**
 * A laboratory file in three steps: choose it, say what its columns hold, see what will come in and
 * what not, and why.
 */
export function ImportFile({ farms, laboratories, nutrients, preview, check }: ImportFileProps) {
  const router = useRouter();
  const listId = useId();
  const [working, start] = useTransition();
  const hydrated = useHydrated();
  const pending = working || !hydrated;
  const [farmId, setFarm] = useState(farms[0]?.id ?? '');
  const [laboratory, setLaboratory] = useState('');
  const [file, setFile] = useState<File | null>(null);
  const [seen, setSeen] = useState<Preview | null>(null);
  const [mapping, setMapping] = useState<LabMapping | null>(null);
  const [report, setReport] = useState<Checked | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const [done, setDone] = useState<string | null>(null);
  const [progress, setProgress] = useState<{ done: number; of: number } | null>(null);

  const form = (): FormData => {
    const f = new FormData();
    if (file) f.set('file', file);
    f.set('farmId', farmId);
    f.set('laboratory', laboratory);
    f.set('fileName', file?.name ?? '');
    f.set('mapping', JSON.stringify(mapping));
    return f;
  };
  const step = <T,>(work: (f: FormData) => Promise<Answer<T>>, then: (value: T) => void) =>
    start(async () => {
      setDone(null);
      if (file && file.size > 5 * 1024 * 1024)
        return setSaid(
          `The file has ${(file.size / 1048576).toFixed(1)} MB; at most 5 MB are read. Split it.`,
        );
      const reply = await work(form());
      setSaid(reply.ok ? null : reply.refusal.message);
      if (reply.ok) then(reply.value);
    });
  const importFile = async (f: FormData) => {
    try {
      return await sendImport(f, setProgress);
    } catch {
      return {
        ok: false as const,
        refusal: {
          code: 'infeasible' as const,
          field: 'server',
          message:
            'The server did not answer to the end. Look at the list below before you try again: an import is all or nothing.',
        },
      };
    } finally {
      setProgress(null);
    }
  };
  const change = (part: Partial<LabMapping>) => {
    setMapping((m) => m && { ...m, ...part });
    setReport(null);
  };
  return (
    <Part
      title="Import a laboratory file"
      aside="CSV with a heading, or points as GeoJSON; nothing is written before you say so"
    >
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-2">
        <ChoiceBox
          label="Farm"
          disabled={pending}
          value={farmId}
          options={farms.map((f) => ({ value: f.id, label: f.name }))}
          onValue={(v) => v && setFarm(v)}
        />
        <label className="inline-flex items-baseline gap-1.5">
          Laboratory
          <input
            className="box"
            list={listId}
            disabled={pending}
            value={laboratory}
            maxLength={80}
            onChange={(e) => setLaboratory(e.target.value)}
          />
        </label>
        <datalist id={listId}>
          {(laboratories[farmId] ?? []).map((l) => (
            <option key={l} value={l} />
          ))}
        </datalist>
        <label className="inline-flex items-baseline gap-1.5">
          File
          <input
            type="file"
            accept=".csv,.txt,.geojson,.json,text/csv,application/geo+json"
            className="box"
            disabled={pending}
            onChange={(e) => {
              setFile(e.target.files?.[0] ?? null);
              setSeen(null);
              setMapping(null);
              setReport(null);
              setSaid(null);
              setDone(null);
            }}
          />
        </label>
        <button
          type="button"
          className="button"
          disabled={pending || !file}
          onClick={() =>
            step(preview, (v) => {
              setSeen(v);
              setMapping(v.mapping);
              setReport(null);
            })
          }
        >
          Look at the file
        </button>
      </div>
      {said && (
        <p role="alert" className="problem mt-2">
          {said}
        </p>
      )}
      {done && (
        <p role="status" className="mt-2">
          <strong>{done}</strong>
        </p>
      )}
      {seen && mapping && (
        <Columns
          seen={seen}
          mapping={mapping}
          nutrients={nutrients}
          laboratory={laboratory}
          pending={pending}
          change={change}
          onCheck={() => step(check, setReport)}
        />
      )}
      {report && (
        <Report
          report={report}
          pending={pending}
          progress={progress}
          onImport={() =>
            step(importFile, (v) => {
              setDone(
                `${v.imported} samples came in${v.waiting > 0 ? `; ${v.waiting} rows wait below to be put right` : ''}.`,
              );
              setSeen(null);
              setReport(null);
              setFile(null);
              router.refresh();
            })
          }
        />
      )}
    </Part>
  );
}
