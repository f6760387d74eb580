'use client';

import { dateAfter, dateInWords } from '@/core/quantity/calendar';
import type { Outlook } from '@/core/season/outlook';
import { secondDressing } from '@/core/views/inSeason';
import { OUTLOOK_YEARS } from '@/core/season/prepared';
import type { Bed, LateRelease } from '@/core/season/lateRelease';
import type { PassWhatIfs, WhatIf } from '@/core/season/whatIf';
import type { Spread } from '@/core/season/years';
import type { SeasonYears } from '@/workers/reckoner';
import { Part } from '../figure/fields';
import { Scrolled } from '../figure/Scrolled';
import { Running } from '../farm/Running';
import { useUnits } from '../frame/units';
import { placementOf } from '@/core/book/fertilisers';
import { useSeasonYears } from '../season/seasonYears';
import { useWholeAssessment, useWholePlan } from '../workspace/context';

/** The plan over weather years, run in a worker after each change; the sheet stays as it is. */
export function WeatherYears() {
  const years = useSeasonYears();
  if (!years) return null;
  const { full, settled, running, failed, cancel } = years;
  return (
    <Part
      title="Over many years of weather"
      aside="a daily model of water, nitrogen and crop beside the sheet; it changes no figure of it"
    >
      <p role="status" className="note" data-testid="weather-progress">
        <Running
          running={running}
          of={OUTLOOK_YEARS}
          what="years"
          failed={failed}
          cancel={cancel}
        />
        {!settled && full !== null && running === null && failed === null && ' '}
        {!settled && full !== null && 'What stands below is of the plan before the last change.'}
      </p>
      {typeof full === 'string' && <p className="note">{full}</p>}
      {full !== null && typeof full !== 'string' && (
        <div aria-busy={!settled}>
          <Years {...full} />
        </div>
      )}
    </Part>
  );
}

function Years({ outlook: o, whatIfs, lateReleases }: SeasonYears) {
  const { words } = useUnits();
  return (
    <div data-testid="weather-years">
      <p className="max-w-[52rem]">{words(o.sentence)}</p>
      {o.differs !== null && <p className="mt-1 max-w-[52rem]">{words(o.differs)}</p>}
      <div className="mt-2 grid gap-x-8 xl:grid-cols-[2fr_3fr]">
        <Figures outlook={o} />
        {lateReleases.length > 0 && <LateReleases list={lateReleases} years={o.years} />}
      </div>
      <FromToday outlook={o} />
      {whatIfs.length > 0 && <WhatIfs list={whatIfs} years={o.years} />}
      <DayByDay outlook={o} />
      <p className="note mt-1 max-w-[52rem]">
        {o.years} weather years, {o.weather} (seed {o.seed}), from {dateInWords(o.start)}. Within
        reach: what is in the crop and what its roots reach, from emergence on. Assumed:{' '}
        {words(o.assumed.join('; '))}. Grade: model.
      </p>
    </div>
  );
}

/** How the crop stands on the plan's day, and what a second dressing would be. */
function FromToday({ outlook: o }: { outlook: Outlook }) {
  const plan = useWholePlan();
  const a = useWholeAssessment();
  const { words } = useUnits();
  const found = secondDressing(plan, a, o.today);
  if (!found) return null;
  return (
    <div className="mt-3 max-w-[52rem]" data-testid="from-today">
      <h3>From today on</h3>
      {found.words.map((w) => (
        <p key={words(w)}>{words(w)}</p>
      ))}
      <p className="note">
        Quick rule: three quarters of what is in reach and six tenths of what is still set free
        serve this crop. Grade: model, until a test says more.
      </p>
    </div>
  );
}

/** What the section shows dotted, in figures: within reach in eight years of ten, beside the demand. */
function DayByDay({ outlook: o }: { outlook: Outlook }) {
  const { show, unit, system } = useUnits();
  const every = o.days.flatMap((_, i) => (i % 10 === 0 || i === o.days.length - 1 ? [i] : []));
  const water = (v: number) => show(v, 'water', system === 'us' ? 1 : 0);
  return (
    <details className="mt-1">
      <summary className="note cursor-pointer">Within reach and asked for, by the month</summary>
      <Scrolled label="Within reach and asked for">
        <table className="ruled max-w-[52rem]" data-testid="weather-days">
          <thead>
            <tr>
              <th>Day</th>
              <th className="num">Asked for, {unit('nutrient_rate')}</th>
              <th className="num">Within reach, low year</th>
              <th className="num">middle year</th>
              <th className="num">high year</th>
              <th className="num">Rain, {unit('water')}</th>
              <th className="num">Drained, {unit('water')}</th>
            </tr>
          </thead>
          <tbody>
            {every.map((i) => (
              <tr key={i}>
                <th scope="row">{dateInWords(dateAfter(o.start, o.days[i] ?? 0))}</th>
                {[o.demand, o.supply.p10, o.supply.p50, o.supply.p90].map((values, k) => (
                  <td key={k} className="num">
                    {show(values[i] ?? 0, 'nutrient_rate')}
                  </td>
                ))}
                <td className="num">{water(o.rain[i] ?? 0)}</td>
                <td className="num">{water(o.drained[i] ?? 0)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Scrolled>
    </details>
  );
}

/** Low, middle and high of what a plan comes to. */
function Figures({ outlook: o }: { outlook: Outlook }) {
  const { show, unit, system } = useUnits();
  const kg = (v: number) => show(v, 'nutrient_rate');
  const rows: [string, Spread | null, (v: number) => string][] = [
    ['N in the crop to what it asks for, %', o.spreads.plantNFrac, (v) => (100 * v).toFixed(0)],
    ['days on which it is short', o.spreads.stressDays, (v) => v.toFixed(0)],
    [`leached, ${unit('nutrient_rate')}`, o.spreads.leached, kg],
    ['lost as gas from wet soil', o.spreads.denitrified, kg],
    ['lost to the air as ammonia', o.spreads.volatilised, kg],
    ['lost in all', o.loss, kg],
    ['set free by soil and residues', o.spreads.netMin, kg],
    ['nitrate left at harvest', o.spreads.residualNo3, kg],
    [
      `drainage, ${unit('water')}`,
      o.spreads.drainMm,
      (v) => show(v, 'water', system === 'us' ? 1 : 0),
    ],
  ];
  return (
    <Scrolled label="What the plan comes to over weather years">
      <table className="ruled" data-testid="weather-figures">
        <thead>
          <tr>
            <th>Over {o.years} years</th>
            <th className="num">low</th>
            <th className="num">middle</th>
            <th className="num">high</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(([label, s, told]) => (
            <tr key={label}>
              <th scope="row">{label}</th>
              {(['p10', 'p50', 'p90'] as const).map((k) => (
                <td key={k} className="num">
                  {s === null ? '·' : told(s[k])}
                </td>
              ))}
            </tr>
          ))}
          <tr className="sum">
            <th scope="row">years in which it ends short, %</th>
            <td />
            <td className="num">{(100 * o.shortShare).toFixed(0)}</td>
            <td />
          </tr>
        </tbody>
      </table>
    </Scrolled>
  );
}

const BED: Record<Bed, string> = {
  as_planned: 'as planned',
  without: 'a bed without it',
  half_and_early: 'half of it with quick N at planting',
};
/** What dressings still release when the crop should run down, beside two other beds. */
function LateReleases({ list, years }: { list: LateRelease[]; years: number }) {
  const a = useWholeAssessment();
  const { show, unit } = useUnits();
  const kg = (v: number) => show(v, 'nutrient_rate').replace('-', '−');
  const span = (s: Spread | null) => (s === null ? '·' : `${kg(s.p50)} (${kg(s.p90)})`);
  return (
    <Scrolled label="What dressings still release late">
      <table className="ruled mt-3 max-w-[64rem]" data-testid="late-release">
        <caption className="text-left">
          <h3>What dressings still release when the crop should run down</h3>
        </caption>
        <thead>
          <tr>
            <th>Middle (high) of {years} years</th>
            <th className="num">set free before, {unit('nutrient_rate')}</th>
            <th className="num">and after</th>
            <th className="num">N in the crop</th>
            <th className="num">nitrate left</th>
            <th className="num">short years, %</th>
          </tr>
        </thead>
        {list.map((l) => {
          const dressing = a.organics.find((o) => `organic.${o.app.id}` === l.id);
          return (
            <tbody key={l.id}>
              <tr>
                <th scope="rowgroup" colSpan={6}>
                  {dressing ? `${dressing.material.name}, ${dateInWords(dressing.app.date)}` : l.id}
                  :{' '}
                  <span className="font-normal">
                    of it {kg(l.ownAfterKgHa)} {unit('nutrient_rate')} after {dateInWords(l.from)},{' '}
                    {l.isRunDown
                      ? 'when N should have run down'
                      : 'when the crop holds nearly all its N'}
                  </span>
                </th>
              </tr>
              {l.beds.map((b) => (
                <tr key={b.bed}>
                  <th scope="row" className="pl-4 font-normal">
                    {BED[b.bed]}
                    {b.bed === 'half_and_early' && `, ${kg(l.earlyKgHa)} ${unit('nutrient_rate')}`}
                  </th>
                  <td className="num">{span(b.before)}</td>
                  <td className="num">{span(b.after)}</td>
                  <td className="num">{span(b.inCrop)}</td>
                  <td className="num">{span(b.residual)}</td>
                  <td className="num">{(100 * b.shortShare).toFixed(0)}</td>
                </tr>
              ))}
            </tbody>
          );
        })}
      </table>
    </Scrolled>
  );
}

const CHANGE: Record<Exclude<WhatIf['change'], 'placement'>, string> = {
  skip: 'left out',
  halve: 'halved',
  later: 'a fortnight later',
};

/** A placement that changes nothing is told once for all: the table stays short. */
const differs = (c: WhatIf): boolean =>
  c.change !== 'placement' ||
  [c.inCrop.p10, c.inCrop.p50, c.inCrop.p90, c.lost.p50].some((v) => Math.abs(v) >= TOLD_KG);
const TOLD_KG = 0.5;

/** Each planned pass and dressing: what it is worth in the same years. */
function WhatIfs({ list, years }: { list: PassWhatIfs[]; years: number }) {
  const plan = useWholePlan();
  const a = useWholeAssessment();
  const { show, unit } = useUnits();
  const kg = (v: number) => {
    const text = show(v, 'nutrient_rate');
    return v > 0 && text !== '0' ? `+${text}` : text.replace('-', '−');
  };
  const money = (v: number) => show(v, 'price_per_area');
  const nameOf = (id: string): string => {
    const pass = a.supply.passes.find((p) => `pass.${p.pass.id}` === id);
    const dressing = a.organics.find((o) => `organic.${o.app.id}` === id);
    return pass
      ? `${pass.product.name}, ${dateInWords(pass.pass.date)}`
      : dressing
        ? `${dressing.material.name}, ${dateInWords(dressing.app.date)}`
        : id;
  };
  return (
    <Scrolled label="What each pass is worth">
      <table className="ruled mt-3 max-w-[64rem]" data-testid="what-if">
        <caption className="text-left">
          <h3>What each pass is worth</h3>
        </caption>
        <thead>
          <tr>
            <th className="min-w-[9rem]">In the same {years} years</th>
            <th className="num">N in the crop, {unit('nutrient_rate')}</th>
            <th className="num">N lost, {unit('nutrient_rate')}</th>
            <th className="num">short years, %</th>
            {plan.season.cropPricePerT !== null && (
              <th className="num">yield at risk, {unit('price_per_area')}</th>
            )}
            <th className="num">saved, {unit('price_per_area')}</th>
          </tr>
        </thead>
        {list.map(({ id, changes }) => (
          <tbody key={id}>
            <tr>
              <th scope="rowgroup" colSpan={plan.season.cropPricePerT === null ? 5 : 6}>
                {nameOf(id)}
              </th>
            </tr>
            {changes.filter(differs).map((c) => (
              <tr key={`${c.change} ${c.placement ?? ''}`} className={c.clear ? '' : 'text-faint'}>
                <th scope="row" className="pl-4 font-normal">
                  {c.change === 'placement'
                    ? placementOf(c.placement ?? '').name.toLowerCase()
                    : CHANGE[c.change]}
                </th>
                <td className="num">
                  {kg(c.inCrop.p50)}{' '}
                  <span className="note">
                    ({kg(c.inCrop.p10)} to {kg(c.inCrop.p90)})
                  </span>
                </td>
                <td className="num">{kg(c.lost.p50)}</td>
                <td className="num">{(100 * c.shortShare).toFixed(0)}</td>
                {plan.season.cropPricePerT !== null && (
                  <td className="num">{c.riskHa === null ? '·' : money(c.riskHa)}</td>
                )}
                <td className="num">{c.savedHa === 0 ? '·' : money(c.savedHa)}</td>
              </tr>
            ))}
          </tbody>
        ))}
      </table>
      <p className="note">
        The middle year, and eight years of ten in brackets, against the plan as it stands. Other
        placements that are not told come to the same. Paler: the years do not agree on which way it
        goes. Yield at risk is of low confidence.
      </p>
    </Scrolled>
  );
}
