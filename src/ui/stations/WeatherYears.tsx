'use client';

import { useCallback, useEffect } from 'react';
import { dateAfter, dateInWords, dayOfMonth, monthName } from '@/core/quantity/calendar';
import { OUTLOOK_YEARS, type Outlook } from '@/core/season/outlook';
import type { Spread } from '@/core/season/years';
import { Chart, type ChartProps } from '../chart/Chart';
import { Part } from '../figure/fields';
import { Scrolled } from '../figure/Scrolled';
import { useReckoner } from '../farm/useReckoner';
import { useUnits } from '../frame/units';
import { useWholePlan } from '../workspace/context';

/** Typing goes on: the years are run once it has paused, ms. */
const PAUSE_MS = 500;

/** The plan over weather years, run in a worker after each change; the sheet stays as it is. */
export function WeatherYears() {
  const plan = useWholePlan();
  const { words } = useUnits();
  const { value, running, failed, start, cancel } = useReckoner<Outlook | string>();
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
        {running !== null ? (
          <>
            {running} of {OUTLOOK_YEARS} years{' '}
            <progress
              className="mx-2 align-middle"
              value={running}
              max={OUTLOOK_YEARS}
              aria-label="Weather years run"
            />
            <button type="button" className="plain" onClick={cancel}>
              stop
            </button>
          </>
        ) : (
          (failed ?? '')
        )}
      </p>
      {typeof value === 'string' && <p className="note">{value}</p>}
      {value !== null && typeof value !== 'string' && (
        <div data-testid="weather-years">
          <p className="max-w-[52rem]">{words(value.sentence)}</p>
          {value.differs !== null && <p className="mt-1 max-w-[52rem]">{words(value.differs)}</p>}
          <div className="mt-2 grid gap-x-8 xl:grid-cols-[3fr_2fr]">
            <Bands outlook={value} />
            <Figures outlook={value} />
          </div>
          <p className="note mt-1 max-w-[52rem]">
            {value.years} weather years made from the climate of the farm (seed {value.seed}), from{' '}
            {dateInWords(value.start)}. Within reach: what is in the crop and what its roots reach,
            from emergence on. Assumed: {value.assumed.join('; ')}. Grade: model.
          </p>
        </div>
      )}
    </Part>
  );
}

/** What the crop has and can reach, in nine years of ten, beside what it asks for. */
function Bands({ outlook: o }: { outlook: Outlook }) {
  const { show, unit, system } = useUnits();
  const option = useCallback<ChartProps['option']>(
    (colour) => {
      const kg = (v: number) => Number(show(v, 'nutrient_rate', 1));
      const dates = o.days.map((d) => dateAfter(o.start, d));
      const line = { type: 'line' as const, showSymbol: false };
      const hidden = { ...line, stack: 'band', lineStyle: { opacity: 0 }, silent: true };
      return {
        grid: { left: 56, right: 56, top: 48, bottom: 32 },
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
            lineStyle: { color: colour('--manure'), width: 2 },
            itemStyle: { color: colour('--manure') },
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
