'use client';

import { useMemo } from 'react';
import { fieldBalance } from '@/core/lines/fieldBalance';
import { cropOf } from '@/core/book/crops';
import { Part } from '../figure/fields';
import { useUnits } from '../frame/units';
import { WhyFigure } from '../frame/why';
import { useBook, useWholeAssessment, useWholePlan } from '../workspace/context';

const READING = {
  undefined: 'Nothing is brought.',
  low: 'Low: much of it stays in the field, or goes to air and water.',
  normal: 'Usual: 50 to 90 % of what is brought leaves with the harvest.',
  mining:
    'The crop lives on the soil: expected after a ley or of a grain legume; for years running organic matter falls.',
} as const;

/**
 * All N that comes into the field against all that leaves it, and P and K beside: another sum than
 * the sheet's, for the years.
 */
export function FieldBalancePart() {
  const plan = useWholePlan();
  const a = useWholeAssessment();
  const { show, unit, words } = useUnits();
  const book = useBook();
  const { cropKey, yieldGoalTHa } = plan.season;
  const b = useMemo(
    () =>
      cropKey && yieldGoalTHa !== null ? fieldBalance(book, plan, cropOf(book, cropKey), a) : null,
    [plan, a, cropKey, yieldGoalTHa, book],
  );
  if (!b) return null;
  const n = (v: number) => show(v, 'nutrient_rate');
  const signed = (v: number) => `${v > 0 ? '+' : v < 0 ? '−' : ''}${n(Math.abs(v))}`;
  return (
    <Part
      title="Into the field and out of it"
      aside="all N of manure, not what this crop can use; soil N is a stock"
    >
      <table className="ruled max-w-[30rem]" data-testid="field-balance">
        <thead>
          <tr>
            <th>{unit('nutrient_rate')}</th>
            <th className="num">N</th>
          </tr>
        </thead>
        <tbody>
          {b.inputs.map((x) => (
            <tr key={x.key}>
              <th scope="row">{x.label}</th>
              <td className="num">{n(x.kgHa)}</td>
            </tr>
          ))}
          <tr>
            <th scope="row">
              Leaves with product{plan.season.strawRemovedFrac > 0 ? ' and straw' : ''}
            </th>
            <td className="num">−{n(b.nOutKgHa)}</td>
          </tr>
          <tr className="total">
            <th scope="row">{b.surplusKgHa < 0 ? 'Taken from the soil' : 'Stays behind'}</th>
            <td className="num">
              <WhyFigure step={b.why} label="N in less N out">
                {n(Math.abs(b.surplusKgHa))}
              </WhyFigure>
            </td>
          </tr>
        </tbody>
      </table>
      <p className="mt-1">
        {b.nuePct !== null && (
          <>
            <strong>{b.nuePct.toFixed(0)} %</strong> of the N brought leaves with the harvest.{' '}
          </>
        )}
        {a.sums.n.stillToApply > 15 &&
          `The ${n(a.sums.n.stillToApply)} ${unit('nutrient_rate')} N still to apply are not in it. `}
        {READING[b.reading]} P {signed(b.pKgHa)} and K {signed(b.kKgHa)} {unit('nutrient_rate')} a
        year.{' '}
        <span className="note">
          {words('A surplus to about 80 kg N/ha a year is the common ceiling in moist climates')},
          less near water. One year after a ley or a drought says little.
        </span>
      </p>
    </Part>
  );
}
