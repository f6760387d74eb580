'use client';

import type { Route } from 'next';
import Link from 'next/link';

const GROUND_PARTS = [['', 'Readings'], ['sampling', 'Sampling plan'], ['survey', 'Map and history'], ['barrel', 'Barrel'], ['lime', 'pH and lime'], ['nutrients', 'S, Mg and trace'], ['claims', 'Claims']] as const;

/** The parts of the Ground station: plan the sampling, read the soil, put the pH right. */
export function GroundParts({ fieldId, current, seasonQuery }: { fieldId: string; current: string; seasonQuery: string }) {
  return (
    <nav aria-label="Parts of Ground" className="no-print mb-3 flex flex-wrap gap-x-5 gap-y-1 border-b border-rule pb-1">
      {GROUND_PARTS.map(([key, title]) => <Link key={key} href={`/fields/${fieldId}/ground${key ? `/${key}` : ''}${seasonQuery}` as Route} aria-current={key === current ? 'page' : undefined} className={key === current ? 'border-b-2 border-ink font-bold no-underline' : 'no-underline'}>{title}</Link>)}
    </nav>
  );
}
