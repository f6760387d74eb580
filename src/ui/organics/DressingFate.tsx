'use client';

import { useMemo } from 'react';
import { cropOf } from '@/core/book/crops';
import { countedYield } from '@/core/budget/requirement';
import type { AssessedApplication } from '@/core/lines/organicLines';
import { dressingFate, type FatePart } from '@/core/views/dressingFate';
import { useUnits } from '../frame/units';
import { useAssessed, useBook, usePlan } from '../workspace/context';

const FILL: Record<FatePart['id'], string> = {
  air: 'var(--air)',
  crop: 'var(--demand)',
  behind: 'var(--nitrate)',
  later: 'var(--manure)',
  humus: 'var(--organic-matter)',
};

/** One bar: where the N of the dressing goes, with its figures under it. */
export function DressingFate({ own }: { own: AssessedApplication }) {
  const { season } = usePlan('season');
  const { sums } = useAssessed('sums');
  const book = useBook();
  const { show, unit } = useUnits();
  const parts = useMemo(() => {
    const crop = season.cropKey ? cropOf(book, season.cropKey) : null;
    return crop
      ? dressingFate(own, sums.n, crop.uptakeNKgT * countedYield(crop, season.yieldGoalTHa ?? 0))
      : null;
  }, [own, sums.n, season.cropKey, season.yieldGoalTHa, book]);
  if (!parts) return null;
  const total = parts.reduce((s, p) => s + p.kgHa, 0);
  return (
    <figure className="mt-2 max-w-[52rem]" data-testid="fate">
      <figcaption className="note">
        Where its {show(total, 'nutrient_rate')} {unit('nutrient_rate')} N go
      </figcaption>
      <div className="flex h-5 w-full overflow-hidden border border-faint" aria-hidden>
        {parts.map((p) => (
          <span
            key={p.id}
            className="block h-full"
            style={{ width: `${(100 * p.kgHa) / total}%`, background: FILL[p.id] }}
          />
        ))}
      </div>
      <ul className="mt-1 flex flex-wrap gap-x-4 text-[0.85rem]">
        {parts.map((p) => (
          <li key={p.id} className="inline-flex items-center gap-1.5">
            <span
              className="inline-block size-2.5"
              style={{ background: FILL[p.id] }}
              aria-hidden
            />
            {show(p.kgHa, 'nutrient_rate')} {p.label}
          </li>
        ))}
      </ul>
    </figure>
  );
}
