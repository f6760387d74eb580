'use client';

import { useMemo, useState } from 'react';
import type { OrganicApplication } from '@/core/document/document';
import { rateTable, type RateRow } from '@/core/views/rateTable';
import { FigureBox } from '../figure/FigureBox';
import { useUnits } from '../frame/units';
import { Warnings } from '../Warnings';
import { useBook, useEdit, useWholeAssessment, useWholePlan } from '../workspace/context';
import { Scrolled } from '../figure/Scrolled';

const BASIS: Record<RateRow['basis'], string> = {
  planned: 'as planned',
  rate_n: 'by N',
  rate_p: 'by P',
  rate_k: 'by K',
  rate_law: 'by the legal limit',
  rate_max: 'most that the technique takes',
};
const CAP = {
  law: 'the law allows no more',
  technique: 'the technique takes no more',
  machine: 'the machine spreads no more',
} as const;
const WORD = {
  grey: 'short',
  green: 'fits',
  yellow: 'somewhat over',
  red: 'over',
  kg_only: 'none needed',
} as const;

/**
 * What one manure may be by N, by P and by its technique, and what each rate leaves over or short
 * on this field.
 */
export function RatePlanner({
  application,
  take,
}: {
  application: OrganicApplication;
  take: (rate: number) => void;
}) {
  const plan = useWholePlan();
  const a = useWholeAssessment();
  const { readOnly } = useEdit();
  const book = useBook();
  const { show, unit } = useUnits();
  const [years, setYears] = useState(1);
  const table = useMemo(
    () => rateTable(book, plan, a, application.id, years),
    [book, plan, a, application.id, years],
  );
  if (!table) return <p className="note">Crop and goal first.</p>;
  const byP = table.rows.find((r) => r.basis === 'rate_p');
  const dimension = table.unit === 'm3_ha' ? 'volume_rate' : 'mass_rate';
  return (
    <div className="py-1">
      {table.tiesUp && (
        <p className="problem">
          This material gives no N this year: it is dosed by P, by layer or by price, and its tie-up
          stands on the sheet.
        </p>
      )}
      <Scrolled label="Rates by each basis">
        <table className="ruled max-w-[44rem]" data-testid="rate-table">
          <thead>
            <tr>
              <th>Rate</th>
              <th className="num">{unit(dimension)}</th>
              {(['N', 'P', 'K'] as const).map((x) => (
                <th key={x} className="num">
                  {x}, {unit('nutrient_rate')}
                </th>
              ))}
              <th>
                <span className="sr-only">Take</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {table.rows.map((r) => (
              <tr key={r.basis} className={r.binds ? 'font-bold' : ''}>
                <th scope="row" className={r.binds ? 'font-bold' : ''}>
                  {BASIS[r.basis]}
                  {r.binds ? ', binds' : ''}
                </th>
                <td className="num">{show(r.rate, dimension, 1)}</td>
                {(['n', 'p', 'k'] as const).map((x) => (
                  <td key={x} className="num">
                    {r.over[x].kgHa > 0.5 ? '+' : ''}
                    {show(r.over[x].kgHa, 'nutrient_rate', 0)}{' '}
                    <span className={`note ${r.over[x].colour === 'red' ? 'text-hot' : ''}`}>
                      {WORD[r.over[x].colour]}
                    </span>
                  </td>
                ))}
                <td className="pl-4">
                  {!readOnly && r.basis !== 'planned' && r.rate > 0 && (
                    <button
                      type="button"
                      className="button"
                      aria-label={`Take the rate ${BASIS[r.basis]}`}
                      onClick={() => take(Number(r.take.toFixed(1)))}
                    >
                      {r.cap === null
                        ? 'Take it'
                        : `Take ${show(r.take, dimension, 1)}: ${CAP[r.cap]}`}
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </Scrolled>
      <p className="mt-1 flex flex-wrap items-baseline gap-x-4">
        <FigureBox
          label="P paid ahead for"
          value={years}
          range={{ label: 'Years of P off-take', unit: 'years', min: 1, max: 5 }}
          onValue={(v) => v !== null && setYears(v)}
        />
        <span className="note">
          in the years after no P from any source; each figure is what the sheet would then have
          over (+) or short, with the passes as they are planned
        </span>
      </p>
      {byP && byP.over.p.kgHa < -0.5 && (
        <p className="note" data-testid="quick-p">
          By P the off-take is covered in total P; {show(-byP.over.p.kgHa, 'nutrient_rate', 0)}{' '}
          {unit('nutrient_rate')} of quick P would still be to apply for this crop.
        </p>
      )}
      {table.warnings.length > 0 && <Warnings list={table.warnings} empty="" />}
    </div>
  );
}
