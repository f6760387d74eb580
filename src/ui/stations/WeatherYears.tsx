'use client';

import { useCallback, useEffect } from 'react';
import { dateAfter, dateInWords, dayOfMonth, monthName } from '@/core/quantity/calendar';
import type { Outlook } from '@/core/season/outlook';
import { OUTLOOK_YEARS } from '@/core/season/prepared';
import type { PassWhatIfs, WhatIf } from '@/core/season/whatIf';
import type { Spread } from '@/core/season/years';
import type { SeasonYears } from '@/workers/reckoner';
import { Chart, type ChartProps } from '../chart/Chart';
import { Part } from '../figure/fields';
import { Scrolled } from '../figure/Scrolled';
import { Running } from '../farm/Running';
import { useReckoner } from '../farm/useReckoner';
import { useUnits } from '../frame/units';
import { placementOf } from '@/core/book/fertilisers';
import { useWholeAssessment, useWholePlan } from '../workspace/context';

/** Typing goes on: the years are run once it has paused, ms. */
const PAUSE_MS = 500;

/** The plan over weather years, run in a worker after each change; the sheet stays as it is. */
export function WeatherYears() {
  const plan = useWholePlan();
  const { value, running, failed, start, cancel } = useReckoner<SeasonYears | string>();
  useEffect(() => {
    const timer = setTimeout(() => start((r, done) => r.seasons(plan, done)), PAUSE_MS);
    return () => clearTimeout(timer);
  }, [plan, start]);
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
      </p>
      {typeof value === 'string' && <p className="note">{value}</p>}
      {value !== null && typeof value !== 'string' && (
        <Years outlook={value.outlook} whatIfs={value.whatIfs} />
      )}
    </Part>
  );
}

function Years({ outlook: o, whatIfs }: SeasonYears) {
  const { words } = useUnits();
  return (
    <div data-testid="weather-years">
      <p className="max-w-[52rem]">{words(o.sentence)}</p>
      {o.differs !== null && <p className="mt-1 max-w-[52rem]">{words(o.differs)}</p>}
      <div className="mt-2 grid gap-x-8 xl:grid-cols-[3fr_2fr]">
        <Bands outlook={o} />
        <Figures outlook={o} />
      </div>
      {whatIfs.length > 0 && <WhatIfs list={whatIfs} years={o.years} />}
      <p className="note mt-1 max-w-[52rem]">
        {o.years} weather years made from the climate of the farm (seed {o.seed}), from{' '}
        {dateInWords(o.start)}. Within reach: what is in the crop and what its roots reach, from
        emergence on. Assumed: {words(o.assumed.join('; '))}. Grade: model.
      </p>
    </div>
  );
}

/** What the crop has and can reach, in eight years of ten, beside what it asks for. */
function Bands({ outlook: o }: { outlook: Outlook }) {
  const { show, unit, system } = useUnits();
  const option = useCallback<ChartProps['option']>(
    (colour) => {
      const kg = (v: number) => Number(show(v, 'nutrient_rate', 1));
      const dates = o.days.map((d) => dateAfter(o.start, d));
      const line = { type: 'line' as const, showSymbol: false };
      const hidden = { ...line, stack: 'band', lineStyle: { opacity: 0 }, silent: true };
      return {
        grid: { left: 56, right: 56, top: 72, bottom: 32 },
        legend: {
          top: 4,
          itemGap: 26,
          textStyle: { color: colour('--ink'), fontSize: 13 },
          data: ['asked for', 'middle year', '8 years of 10', 'drained'],
        },
        tooltip: { trigger: 'axis' },
        textStyle: { fontFamily: 'inherit' },
        xAxis: {
          type: 'category',
          data: dates.map((d) => `${dayOfMonth(d)} ${monthName(d)}`),
          axisLabel: { color: colour('--ink') },
        },
        yAxis: [
          {
            type: 'value',
            name: `N, ${unit('nutrient_rate')}`,
            axisLabel: { color: colour('--ink') },
            nameTextStyle: { color: colour('--ink') },
            splitLine: { lineStyle: { color: colour('--rule') } },
          },
          {
            type: 'value',
            name: unit('water'),
            axisLabel: { color: colour('--ink') },
            nameTextStyle: { color: colour('--ink') },
            splitLine: { show: false },
          },
        ],
        series: [
          { ...hidden, name: 'low', data: o.supply.p10.map(kg) },
          {
            ...hidden,
            name: '8 years of 10',
            itemStyle: { color: colour('--fertiliser') },
            areaStyle: { color: colour('--fertiliser'), opacity: 0.35 },
            data: o.supply.p90.map((v, i) => kg(v - (o.supply.p10[i] ?? 0))),
          },
          {
            ...line,
            name: 'middle year',
            lineStyle: { color: colour('--ink'), width: 1.5 },
            itemStyle: { color: colour('--ink') },
            data: o.supply.p50.map(kg),
          },
          {
            ...line,
            name: 'asked for',
            lineStyle: { color: colour('--demand'), width: 2.5 },
            itemStyle: { color: colour('--demand') },
            data: o.demand.map(kg),
          },
          {
            ...line,
            name: 'drained',
            yAxisIndex: 1,
            lineStyle: { color: colour('--water'), width: 1.5, type: 'dashed' },
            itemStyle: { color: colour('--water') },
            data: o.drained.map((v) => Number(show(v, 'water', system === 'us' ? 2 : 0))),
          },
        ],
      };
    },
    [o, show, unit, system],
  );
  const every = o.days.flatMap((d, i) => (i % 10 === 0 || i === o.days.length - 1 ? [i] : []));
  return (
    <Chart
      label="Nitrogen within reach of the crop and what it asks for, over weather years"
      option={option}
      fileName="weather-years"
      height={300}
      table={{
        columns: [
          'Day',
          `Asked for, ${unit('nutrient_rate')}`,
          'Within reach, low year',
          'middle year',
          'high year',
          `Drained, ${unit('water')}`,
        ],
        rows: every.map((i) => [
          dateInWords(dateAfter(o.start, o.days[i] ?? 0)),
          show(o.demand[i] ?? 0, 'nutrient_rate'),
          show(o.supply.p10[i] ?? 0, 'nutrient_rate'),
          show(o.supply.p50[i] ?? 0, 'nutrient_rate'),
          show(o.supply.p90[i] ?? 0, 'nutrient_rate'),
          show(o.drained[i] ?? 0, 'water', system === 'us' ? 1 : 0),
        ]),
      }}
    />
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

const CHANGE: Record<Exclude<WhatIf['change'], 'placement'>, string> = {
  skip: 'left out',
  halve: 'halved',
  later: 'a fortnight later',
};

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
            {changes.map((c) => (
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
        The middle year, and eight years of ten in brackets, against the plan as it stands. Paler:
        the years do not agree on which way it goes. Yield at risk is of low confidence.
      </p>
    </Scrolled>
  );
}
