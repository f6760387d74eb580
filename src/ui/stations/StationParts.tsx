'use client';

import type { Route } from 'next';
import Link from 'next/link';

const PARTS: Record<string, readonly (readonly [string, string])[]> = {
  ground: [
    ['', 'Readings'],
    ['sampling', 'Sampling plan'],
    ['survey', 'Map and history'],
    ['barrel', 'Barrel'],
    ['lime', 'pH and lime'],
    ['nutrients', 'S, Mg and trace'],
    ['claims', 'Claims'],
  ],
  budget: [
    ['', 'The sheet'],
    ['organics', 'Manure and compost'],
    ['years', 'P and K over years'],
  ],
};

/** The parts of a station that has several. */
export function StationParts({
  fieldId,
  station,
  title,
  current,
  seasonQuery,
}: {
  fieldId: string;
  station: string;
  title: string;
  current: string;
  seasonQuery: string;
}) {
  const parts = PARTS[station];
  if (!parts) return null;
  return (
    <nav
      aria-label={`Parts of ${title}`}
      className="no-print mb-3 flex flex-wrap gap-x-5 gap-y-1 border-b border-rule pb-1"
    >
      {parts.map(([key, word]) => (
        <Link
          key={key}
          href={`/fields/${fieldId}/${station}${key ? `/${key}` : ''}${seasonQuery}` as Route}
          aria-current={key === current ? 'page' : undefined}
          className={
            key === current ? 'border-b-2 border-ink font-bold no-underline' : 'no-underline'
          }
        >
          {word}
        </Link>
      ))}
    </nav>
  );
}
