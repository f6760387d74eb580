'use client';

import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import type { FileLook } from '@/core/laboratory/bringIn';
import type { Answers, Choice } from '@/core/laboratory/questions';
import type { Answer } from '@/core/quantity/refusal';
import { Part } from '../figure/fields';
import { useHydrated } from '../frame/hydrated';
import { FileChooser, formOf, type ChosenFile } from './FileChooser';
import { Report } from './ImportSteps';
import { sendImport } from './sendImport';

export interface ImportFileProps {
  farms: { id: string; name: string }[];
  laboratories: Record<string, string[]>;
  headings: Choice[];
  look: (form: FormData) => Promise<Answer<FileLook>>;
}

/**
 * A laboratory file: choose it, answer what can be read several ways, see what each cell becomes and
 * what stays out, and why; then bring it in.
 */
export function ImportFile({ farms, laboratories, headings, look }: ImportFileProps) {
  const router = useRouter();
  const [working, start] = useTransition();
  const hydrated = useHydrated();
  const pending = working || !hydrated;
  const [chosen, setChosen] = useState<ChosenFile>({
    farmId: farms[0]?.id ?? '',
    laboratory: '',
    file: null,
  });
  const { file, laboratory } = chosen;
  const [seen, setSeen] = useState<FileLook | null>(null);
  const [answers, setAnswers] = useState<Answers>({});
  const [anew, setAnew] = useState(false);
  const [said, setSaid] = useState<string | null>(null);
  const [done, setDone] = useState<string | null>(null);
  const [progress, setProgress] = useState<{ done: number; of: number } | null>(null);

  const form = (given: Answers, forget: boolean): FormData => {
    const f = formOf(chosen, given);
    f.set('anew', String(forget));
    return f;
  };
  const step = <T,>(
    work: (f: FormData) => Promise<Answer<T>>,
    then: (value: T) => void,
    given: Answers = answers,
    forget: boolean = anew,
  ) =>
    start(async () => {
      setDone(null);
      if (file && file.size > 10 * 1024 * 1024)
        return setSaid(
          `The file has ${(file.size / 1048576).toFixed(1)} MB; at most 10 MB are read. Split it.`,
        );
      const reply = await work(form(given, forget));
      setSaid(reply.ok ? null : reply.refusal.message);
      if (reply.ok) then(reply.value);
    });
  const importFile = async (f: FormData) => {
    try {
      return await sendImport<{ imported: number; waiting: number }>(
        '/api/soil-import',
        f,
        setProgress,
      );
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
  const reset = () => {
    setSeen(null);
    setAnswers({});
    setAnew(false);
    setSaid(null);
    setDone(null);
  };
  const give = (key: string, value: string) => {
    const { [key]: _before, ...others } = answers;
    const next = value === '' ? others : { ...others, [key]: value };
    setAnswers(next);
    step(look, setSeen, next);
  };
  return (
    <Part
      title="Import a laboratory file"
      aside="CSV, XLSX, or points as GeoJSON; nothing is written before you say so"
    >
      <FileChooser
        labels={{ farm: 'Farm', laboratory: 'Laboratory', file: 'File', look: 'Look at the file' }}
        accept=".csv,.txt,.tsv,.xlsx,.geojson,.json,text/csv,application/geo+json"
        farms={farms}
        laboratories={laboratories}
        chosen={chosen}
        set={(part) => setChosen((c) => ({ ...c, ...part }))}
        onFile={reset}
        onLook={() => step(look, setSeen)}
        disabled={pending}
        ready={file !== null}
      />
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
      {seen && (
        <Report
          look={seen}
          laboratory={laboratory}
          headings={headings}
          pending={pending}
          progress={progress}
          onAnswer={give}
          onForget={() => {
            setAnswers({});
            setAnew(true);
            step(look, setSeen, {}, true);
          }}
          onImport={() =>
            step(importFile, (v) => {
              reset();
              setChosen((c) => ({ ...c, file: null }));
              setDone(
                `${v.imported} ${v.imported === 1 ? 'sample' : 'samples'} came in${v.waiting > 0 ? `; ${v.waiting} ${v.waiting === 1 ? 'row waits' : 'rows wait'} below to be put right` : ''}.`,
              );
              router.refresh();
            })
          }
        />
      )}
    </Part>
  );
}
