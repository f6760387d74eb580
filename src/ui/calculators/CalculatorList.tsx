'use client';

import type { Route } from 'next';
import Link from 'next/link';
import { useState } from 'react';

export interface CalculatorEntry {
  id: string;
  title: string;
  group: string;
  /** Words of the trade that it is found by: what goes in and what comes out. */
  words: string;
}

/** All calculators by group; typing leaves those that speak of every word typed. */
export function CalculatorList({ entries }: { entries: readonly CalculatorEntry[] }) {
  const [typed, setTyped] = useState('');
  const words = typed.toLowerCase().split(/\s+/u).filter(Boolean);
  const found = entries.filter((e) => {
    const text = `${e.title} ${e.group} ${e.id} ${e.words}`.toLowerCase();
    return words.every((w) => text.includes(w));
  });
  const groups = [...new Set(found.map((e) => e.group))];
  return (
    <>
      <label className="mb-3 inline-flex items-baseline gap-1.5">
        Find
        <input
          className="box w-72"
          type="search"
          placeholder="bulk density, off-take, C:N ..."
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
        />
        <span role="status" className="note">
          {found.length} of {entries.length}
        </span>
      </label>
      <div className="columns-[20rem] gap-8">
        {groups.map((g) => (
          <section key={g} className="mb-4 break-inside-avoid" aria-label={g}>
            <h2>{g}</h2>
            <ul>
              {found
                .filter((e) => e.group === g)
                .map((e) => (
                  <li key={e.id} className="border-b border-rule py-1">
                    <Link href={`/calculators/${e.id}` as Route}>{e.title}</Link>
                  </li>
                ))}
            </ul>
          </section>
        ))}
      </div>
    </>
  );
}
