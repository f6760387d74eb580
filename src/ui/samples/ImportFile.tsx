'use client';

import { useRouter } from 'next/navigation';
import { useId, useState, useTransition } from 'react';
import type {
  BadRow,
  ColumnTarget,
  DateOrder,
  LabMapping,
  LabSoilUnit,
  ParsedSample,
  PlainTarget,
} from '@/core/ground/labReport';
import { extractantName, nutrientSymbol } from '@/core/book/soilTests';
import type { Answer } from '@/core/quantity/refusal';
import { ChoiceBox, Part } from '../figure/fields';
import { useHydrated } from '../frame/hydrated';

interface Preview {
  headers: string[];
  rows: number;
  delimiter: string;
  firstRows: Record<string, string>[];
  mapping: LabMapping;
  remembered: boolean;
}
export interface ImportFileProps {
  farms: { id: string; name: string }[];
  laboratories: Record<string, string[]>;
  nutrients: { nutrient: string; extractants: string[] }[];
  preview: (form: FormData) => Promise<Answer<Preview>>;
  check: (form: FormData) => Promise<Answer<{ good: ParsedSample[]; bad: BadRow[] }>>;
}

const PLAIN: Record<PlainTarget, string> = {
  ignore: 'leave out',
  field: 'field',
  label: 'sample label',
  date: 'sampling date',
  depth_cm: 'depth, cm',
  cores: 'cores',
  ph_water: 'pH in water',
  ph_cacl2: 'pH in CaCl2',
  buffer_smp: 'buffer pH, SMP',
  buffer_sikora: 'buffer pH, Sikora',
  buffer_adams_evans: 'buffer pH, Adams-Evans',
  buffer_mehlich: 'buffer pH, Mehlich',
  om_pct: 'organic matter, %',
  cec_cmol_kg: 'CEC, cmol/kg',
  al_cmol_kg: 'exchangeable Al, cmol/kg',
  no3n_mg_kg: 'nitrate-N (NO3-N), mg/kg, by layer',
};
const UNITS: readonly [LabSoilUnit, string][] = [
  ['mg_kg', 'mg/kg (ppm)'],
  ['mg_l', 'mg/L'],
  ['lb_ac', 'lb/ac'],
];
const keyOf = (t: ColumnTarget): string =>
  t.kind === 'nutrient' ? `nutrient:${t.nutrient}` : t.kind;

function ColumnRow({
  header,
  target,
  nutrients,
  example,
  onTarget,
}: {
  header: string;
  target: ColumnTarget;
  nutrients: ImportFileProps['nutrients'];
  example: string;
  onTarget: (t: ColumnTarget) => void;
}) {
  const choose = (key: string | null) => {
    if (!key) return;
    if (!key.startsWith('nutrient:')) return onTarget({ kind: key as PlainTarget });
    const nutrient = key.slice(9);
    onTarget({
      kind: 'nutrient',
      nutrient,
      extractant: nutrients.find((n) => n.nutrient === nutrient)?.extractants[0] ?? 'unknown',
      unit: 'mg_kg',
    });
  };
  return (
    <tr>
      <th scope="row">
        {header}
        <span className="note block">{example}</span>
      </th>
      <td>
        <ChoiceBox
          label={`${header} holds`}
          hideLabel
          value={keyOf(target)}
          options={[
            ...Object.entries(PLAIN).map(([value, label]) => ({ value, label })),
            ...nutrients.map((n) => ({
              value: `nutrient:${n.nutrient}`,
              label: nutrientSymbol(n.nutrient),
            })),
          ]}
          onValue={choose}
        />
      </td>
      <td>
        {target.kind === 'nutrient' && (
          <ChoiceBox
            label={`${header} extractant`}
            hideLabel
            value={target.extractant}
            options={(nutrients.find((n) => n.nutrient === target.nutrient)?.extractants ?? []).map(
              (e) => ({ value: e, label: extractantName(e) }),
            )}
            onValue={(v) => v && onTarget({ ...target, extractant: v })}
          />
        )}
      </td>
      <td>
        {target.kind === 'nutrient' && (
          <ChoiceBox
            label={`${header} unit`}
            hideLabel
            value={target.unit}
            options={UNITS.map(([value, label]) => ({ value, label }))}
            onValue={(v) => v && onTarget({ ...target, unit: v as LabSoilUnit })}
          />
        )}
      </td>
    </tr>
  );
}

/** Sends the file and follows what the server says of its progress; the last line is the answer. */
async function sendImport(
  form: FormData,
  onProgress: (p: { done: number; of: number }) => void,
): Promise<Answer<{ imported: number; waiting: number }>> {
  const response = await fetch('/api/soil-import', { method: 'POST', body: form });
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
  const [report, setReport] = useState<{ good: ParsedSample[]; bad: BadRow[] } | null>(null);
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
        <div className="mt-3">
          <p>
            {seen.rows} rows, parted by {seen.delimiter === 'tab' ? 'tabs' : `"${seen.delimiter}"`}.{' '}
            {seen.remembered
              ? `The columns are as you set them for ${laboratory} before.`
              : 'Say what each column holds; an extractant is never guessed from the size of a number.'}
          </p>
          <ChoiceBox
            label="Dates are written"
            value={mapping.dateOrder}
            options={[
              { value: 'dmy', label: 'day month year' },
              { value: 'mdy', label: 'month day year' },
              { value: 'ymd', label: 'year month day' },
            ]}
            onValue={(v) => v && change({ dateOrder: v as DateOrder })}
          />
          <div className="overflow-x-auto">
            <table className="ruled mt-1 max-w-[48rem]">
              <thead>
                <tr>
                  <th>Column</th>
                  <th>holds</th>
                  <th>Extractant</th>
                  <th>Unit</th>
                </tr>
              </thead>
              <tbody>
                {seen.headers.map((h) => (
                  <ColumnRow
                    key={h}
                    header={h}
                    target={mapping.columns[h] ?? { kind: 'ignore' }}
                    nutrients={nutrients}
                    example={seen.firstRows
                      .map((r) => r[h])
                      .filter(Boolean)
                      .slice(0, 3)
                      .join(', ')}
                    onTarget={(t) => change({ columns: { ...mapping.columns, [h]: t } })}
                  />
                ))}
              </tbody>
            </table>
          </div>
          <button
            type="button"
            className="button mt-2"
            disabled={pending}
            onClick={() => step(check, setReport)}
          >
            Check the rows
          </button>
        </div>
      )}
      {report && (
        <div className="mt-3" role="status">
          <p>
            <strong>
              {report.good.length} rows can come in; {report.bad.length}{' '}
              {report.bad.length === 1 ? 'has' : 'have'} a fault.
            </strong>
          </p>
          {report.bad.length > 0 && (
            <div className="overflow-x-auto">
              <table className="ruled max-w-[52rem]" data-testid="bad-rows">
                <thead>
                  <tr>
                    <th>Line</th>
                    <th>Column</th>
                    <th>Stands there</th>
                    <th>Reason</th>
                  </tr>
                </thead>
                <tbody>
                  {report.bad.flatMap((b) =>
                    b.problems.map((p, i) => (
                      <tr key={`${b.row}-${i}`}>
                        <td>{b.row}</td>
                        <td>{p.column}</td>
                        <td>{p.value || 'nothing'}</td>
                        <td className="text-hot">{p.reason}</td>
                      </tr>
                    )),
                  )}
                </tbody>
              </table>
            </div>
          )}
          <button
            type="button"
            className="button button-strong mt-2"
            disabled={pending || report.good.length + report.bad.length === 0}
            onClick={() =>
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
          >
            Bring in {report.good.length} {report.good.length === 1 ? 'row' : 'rows'}
            {report.bad.length > 0 ? `, keep ${report.bad.length} for later` : ''}
          </button>
          {progress && (
            <p className="mt-2">
              <progress
                max={progress.of}
                value={progress.done}
                aria-label="Rows stored"
                className="mr-2 align-middle"
              />
              {progress.done} of {progress.of}
            </p>
          )}
        </div>
      )}
    </Part>
  );
}
