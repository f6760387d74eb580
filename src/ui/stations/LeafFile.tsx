'use client';

import { Upload } from 'lucide-react';
import { useState, useTransition } from 'react';
import type { LeafFileRead, LeafOfFile } from '@/core/laboratory/leafFile';
import type { Answers } from '@/core/laboratory/questions';
import { Questions } from '../samples/Questions';
import { useDoors } from '../workspace/doors';

/**
 * A leaf report of any make: what it leaves open is asked, of several samples one is taken, and its
 * values stand in the boxes to be looked at.
 */
export function LeafFile({
  disabled,
  onTake,
}: {
  disabled: boolean;
  onTake: (sample: LeafOfFile) => void;
}) {
  const { readLeafFile } = useDoors();
  const [pending, start] = useTransition();
  const [file, setFile] = useState<File | null>(null);
  const [answers, setAnswers] = useState<Answers>({});
  const [read, setRead] = useState<LeafFileRead | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const [taken, setTaken] = useState<LeafOfFile | null>(null);
  const take = (sample: LeafOfFile) => {
    setTaken(sample);
    onTake(sample);
  };
  const look = (of: File, given: Answers) =>
    start(async () => {
      const form = new FormData();
      form.set('file', of);
      form.set('answers', JSON.stringify(given));
      const reply = await readLeafFile(form);
      setTaken(null);
      setSaid(reply.ok ? null : reply.refusal.message);
      setRead(reply.ok ? reply.value : null);
      const [only, ...more] = reply.ok ? reply.value.samples : [];
      if (reply.ok && reply.value.questions.length === 0 && only && more.length === 0) take(only);
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
      {file && read && read.questions.length > 0 && (
        <Questions
          questions={read.questions}
          pending={pending}
          onAnswer={(key, answer) => {
            const next = { ...answers, [key]: answer };
            setAnswers(next);
            look(file, next);
          }}
        />
      )}
      {read && read.questions.length === 0 && read.samples.length > 1 && (
        <section aria-label="Samples of the file" className="mt-2">
          <h3>Which of the {read.samples.length} samples?</h3>
          <ul>
            {read.samples.map((s, i) => (
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
        {taken && (
          <p className="mt-1">
            {taken.values.length} values stand in the boxes
            {taken.notFound.length > 0 && `; ${taken.notFound.join(', ')} not found`}. Look at them,
            then read the leaf.
          </p>
        )}
        {read && read.remarks.length > 0 && (
          <p className="note">Not brought in: {read.remarks.join('; ')}.</p>
        )}
      </div>
    </div>
  );
}
