'use client';

import { Upload } from 'lucide-react';
import { useState, useTransition } from 'react';
import type { Answers } from '@/core/laboratory/questions';
import type { ToldReport } from '@/core/laboratory/readLaboratory';
import type { LabKind } from '@/core/laboratory/samples';
import { camelKeys } from '@/core/quantity/names';
import type { Answer, RefusalDetail } from '@/core/quantity/refusal';
import { Questions } from './Questions';

async function read(kind: LabKind, file: File, answers: Answers): Promise<Answer<ToldReport>> {
  const form = new FormData();
  form.set('file', file);
  form.set('kind', kind);
  form.set('answers', JSON.stringify(answers));
  try {
    const reply = await fetch('/api/read-laboratory', { method: 'POST', body: form });
    const body: unknown = await reply.json();
    return reply.ok
      ? { ok: true, value: camelKeys(body) as ToldReport }
      : { ok: false, refusal: (body as { error: RefusalDetail }).error };
  } catch {
    return {
      ok: false,
      refusal: {
        code: 'server',
        field: 'server',
        message: 'The server does not answer: try again.',
      },
    };
  }
}
const remarksOf = (report: ToldReport): string[] => [
  ...report.leftOut.map((l) => `${l.column}: ${l.reason}`),
  // A day that is missing is typed into the form.
  ...report.waiting
    .filter((w) => w.column !== 'date')
    .map((w) => `line ${w.row}, ${w.column}: ${w.reason}`),
];

/**
 * A laboratory's report for one form: what it leaves open is asked, of several samples one is
 * taken, and its values stand in the boxes to be looked at.
 */
export function ReportFile<S extends { name: string }>({
  kind,
  samplesOf,
  disabled,
  said: taking,
  onTake,
}: {
  kind: LabKind;
  samplesOf: (report: ToldReport) => S[];
  disabled: boolean;
  /** What is told once a sample was taken. */
  said: (sample: S) => string;
  onTake: (sample: S) => void;
}) {
  const [pending, start] = useTransition();
  const [file, setFile] = useState<File | null>(null);
  const [answers, setAnswers] = useState<Answers>({});
  const [report, setReport] = useState<ToldReport | null>(null);
  const [samples, setSamples] = useState<S[]>([]);
  const [said, setSaid] = useState<string | null>(null);
  const [taken, setTaken] = useState<S | null>(null);
  const take = (sample: S) => {
    setTaken(sample);
    onTake(sample);
  };
  const look = (of: File, given: Answers) =>
    start(async () => {
      const reply = await read(kind, of, given);
      setTaken(null);
      setSaid(reply.ok ? null : reply.refusal.message);
      setReport(reply.ok ? reply.value : null);
      const found = reply.ok && reply.value.questions.length === 0 ? samplesOf(reply.value) : [];
      setSamples(found);
      const [only, ...more] = found;
      if (only && more.length === 0) take(only);
    });
  return (
    <div className="basis-full">
      <label className="button">
        <Upload size={14} aria-hidden /> Values from a laboratory file
        <input
          type="file"
          accept=".csv,.txt,.tsv,.xlsx,text/csv"
          className="sr-only"
          disabled={disabled || pending}
          onChange={(e) => {
            const chosen = e.target.files?.[0] ?? null;
            e.target.value = '';
            setFile(chosen);
            setAnswers({});
            if (chosen) look(chosen, {});
          }}
        />
      </label>
      {said && (
        <p role="alert" className="problem">
          {said}
        </p>
      )}
      {file && report && report.questions.length > 0 && (
        <Questions
          questions={report.questions}
          pending={pending}
          onAnswer={(key, answer) => {
            const next = { ...answers, [key]: answer };
            setAnswers(next);
            look(file, next);
          }}
        />
      )}
      {samples.length > 1 && (
        <section aria-label="Samples of the file" className="mt-2">
          <h3>Which of the {samples.length} samples?</h3>
          <ul>
            {samples.map((s, i) => (
              <li key={i} className="mt-1">
                <button
                  type="button"
                  className="button"
                  aria-pressed={taken === s}
                  onClick={() => take(s)}
                >
                  {s.name || `Sample ${i + 1}`}
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
      <div role="status">
        {taken && <p className="mt-1">{taking(taken)}</p>}
        {report && remarksOf(report).length > 0 && (
          <p className="note">Not brought in: {remarksOf(report).join('; ')}.</p>
        )}
      </div>
    </div>
  );
}
