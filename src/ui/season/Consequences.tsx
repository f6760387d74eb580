'use client';

import { OUTLOOK_YEARS } from '@/core/season/prepared';
import type { Spread } from '@/core/season/years';
import { useUnits } from '../frame/units';
import { useAssessed } from '../workspace/context';
import { useSeasonYears } from './seasonYears';

const UNLIKELY = 0.8;

/** What the plan comes to over weather years, in one line under the section: at once, then settled. */
export function Consequences() {
  'use memo';
  const years = useSeasonYears();
  const a = useAssessed('supply');
  const { show, unit } = useUnits();
  const o = years?.now;
  if (!years || !o)
    return (
      <p className="note min-h-[1.5rem]" data-testid="consequences">
        {typeof years?.full === 'string' ? '' : 'The weather years are being run.'}
      </p>
    );
  const span = (s: Spread | null) => {
    if (s === null) return 'not reached';
    const [low, high] = [show(s.p10, 'nutrient_rate'), show(s.p90, 'nutrient_rate')];
    return low === high ? low : `${low} to ${high}`;
  };
  const late = o.passesBear.filter((p) => p.id.startsWith('pass.') && p.share < UNLIKELY);
  const figures: [string, string][] = [
    ['short in', `${Math.round(100 * o.shortShare)} % of the years`],
    [
      'days short',
      `${o.spreads.stressDays?.p50.toFixed(0) ?? 0} to ${o.spreads.stressDays?.p90.toFixed(0) ?? 0}`,
    ],
    ['leached', span(o.spreads.leached)],
    ['gas from wet soil', span(o.spreads.denitrified)],
    ['to the air', span(o.spreads.volatilised)],
    ['beyond what is taken late', span(o.lateExcess)],
    ['passes cost', `${show(a.supply.cost, 'price_per_area')} ${unit('price_per_area')}`],
  ];
  return (
    <div data-testid="consequences" data-settled={years.settled} className="mb-1">
      <p className="note">
        {years.settled
          ? `Over ${o.years} weather years, ${unit('nutrient_rate')}:`
          : `A first look over ${o.years} of ${OUTLOOK_YEARS} weather years, ${unit('nutrient_rate')}:`}
      </p>
      <dl className="flex flex-wrap gap-x-5">
        {figures.map(([label, told]) => (
          <div key={label} className="flex gap-1.5">
            <dt className="text-faint">{label}</dt>
            <dd className="font-bold">{told}</dd>
          </div>
        ))}
      </dl>
      {late.length > 0 && (
        <p className="problem">
          The ground bears a machine within the week of the pass in only{' '}
          {late.map((p) => `${Math.round(100 * p.share)} %`).join(' and ')} of the years: another
          date, or a wider window.
        </p>
      )}
    </div>
  );
}
