'use client';

import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import type { ImportLine } from '@/core/laboratory/bringIn';
import { dateInWords } from '@/core/quantity/calendar';
import type { Answer } from '@/core/quantity/refusal';
import { Part } from '../figure/fields';
import { Scrolled } from '../figure/Scrolled';

type TakeBack = (
  id: string,
) => Promise<Answer<{ samples: number; leaves: number; changed: number }>>;

const ofSoil = (n: number): string => `${n} ${n === 1 ? 'sample' : 'samples'}`;
const ofLeaf = (n: number): string => `${n} ${n === 1 ? 'leaf' : 'leaves'}`;
/** Samples of soil, leaves, or both: what there is none of is not told. */
const both = ({ samples, leaves }: { samples: number; leaves: number }): string =>
  [
    ...(samples > 0 || leaves === 0 ? [ofSoil(samples)] : []),
    ...(leaves > 0 ? [ofLeaf(leaves)] : []),
  ].join(', ');
const counted = (line: ImportLine): string => {
  const { profiles, waiting } = line;
  return [
    both(line),
    ...(profiles > 0 ? [`nitrate of ${profiles} ${profiles === 1 ? 'field' : 'fields'}`] : []),
    ...(waiting > 0 ? [`${waiting} kept waiting`] : []),
  ].join(', ');
};

/** Files as they came in, each to be taken back as a whole. */
export function Imports({ lines, takeBack }: { lines: readonly ImportLine[]; takeBack: TakeBack }) {
  const router = useRouter();
  const [pending, start] = useTransition();
  const [asked, setAsked] = useState<string | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const go = (line: ImportLine) =>
    start(async () => {
      const reply = await takeBack(line.id);
      setAsked(null);
      setSaid(
        reply.ok
          ? `${line.fileName} is taken back: ${both(reply.value)} went${reply.value.changed > 0 ? `, ${reply.value.changed} of them changed since they came` : ''}. Each season reads again what it read before.`
          : reply.refusal.message,
      );
      router.refresh();
    });
  if (lines.length === 0 && said === null) return null;
  return (
    <Part title="Files brought in" aside="the newest first; one can be taken back as a whole">
      <p role="status">{said}</p>
      {lines.length > 0 && (
        <Scrolled label="Files, laboratories and what they hold">
          <table className="ruled max-w-[52rem]">
            <thead>
              <tr>
                <th>File</th>
                <th>Laboratory</th>
                <th>Farm</th>
                <th>Brought in</th>
                <th>Holds</th>
                <th>
                  <span className="sr-only">Take back</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {lines.map((line) => (
                <tr key={line.id}>
                  <th scope="row">{line.fileName}</th>
                  <td>{line.laboratory}</td>
                  <td>{line.farm}</td>
                  <td>
                    {dateInWords(line.on)}, {line.author}
                  </td>
                  <td>{counted(line)}</td>
                  <td>
                    {asked === line.id ? (
                      <span className="inline-flex gap-2">
                        <button
                          type="button"
                          className="button button-strong whitespace-nowrap"
                          disabled={pending}
                          autoFocus
                          onClick={() => go(line)}
                        >
                          Yes, take all of it back
                        </button>
                        <button
                          type="button"
                          className="button whitespace-nowrap"
                          onClick={() => setAsked(null)}
                        >
                          Keep it
                        </button>
                      </span>
                    ) : (
                      <button
                        type="button"
                        className="button"
                        disabled={pending}
                        aria-label={`Take back ${line.fileName}`}
                        onClick={() => setAsked(line.id)}
                      >
                        Take back
                      </button>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </Scrolled>
      )}
    </Part>
  );
}
