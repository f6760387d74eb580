'use client';

import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import { dateInWords } from '@/core/quantity/calendar';
import type { Answer } from '@/core/quantity/refusal';
import { Part } from '../figure/fields';
import { useHydrated } from '../frame/hydrated';

export interface RemovedLine {
  id: string;
  kind: 'field' | 'store' | 'machine' | 'sample';
  name: string;
  author: string;
  on: string;
}

/** What was taken away from a farm, each to be brought back as it was. */
export function RemovedPart({
  lines,
  readOnly,
  bringBack,
}: {
  lines: readonly RemovedLine[];
  readOnly: boolean;
  bringBack: (id: string) => Promise<Answer<string>>;
}) {
  const router = useRouter();
  const hydrated = useHydrated();
  const [said, setSaid] = useState<string | null>(null);
  const [pending, start] = useTransition();
  if (lines.length === 0) return null;
  const undo = (id: string) =>
    start(async () => {
      const reply = await bringBack(id);
      setSaid(reply.ok ? null : reply.refusal.message);
      router.refresh();
    });
  return (
    <Part title="Taken away" aside="kept until it is brought back">
      <ul className="max-w-[44rem]">
        {lines.map((l) => (
          <li key={l.id} className="flex flex-wrap items-center gap-3 border-b border-rule py-1">
            <span>
              {l.name} <span className="note">{l.kind}</span>
            </span>
            <span className="note">
              {l.author}, {dateInWords(l.on)}
            </span>
            {!readOnly && (
              <button
                type="button"
                className="button ml-auto"
                disabled={pending || !hydrated}
                onClick={() => undo(l.id)}
              >
                Bring {l.name} back
              </button>
            )}
          </li>
        ))}
      </ul>
      {said && (
        <p role="alert" className="problem">
          {said}
        </p>
      )}
    </Part>
  );
}
