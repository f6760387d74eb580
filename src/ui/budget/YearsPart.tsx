'use client';

import { useUnits } from '../frame/units';
import { useCallback, useMemo, useState } from 'react';
import { PK_STRATEGIES, type PkOutlook, type PkStrategy } from '@/core/ground/pkSimulation';
import type { PkNutrient } from '@/core/ground/pkSchools';
import { pkSimulationOf, RUNS } from '@/core/views/pkYears';
import { Chart, type ChartProps } from '../chart/Chart';
import { Running } from '../farm/Running';
import { useReckoner } from '../farm/useReckoner';
import { ChoiceBox, Part } from '../figure/fields';
import { Scrolled } from '../figure/Scrolled';
import { useBook, useWholeAssessment, useWholePlan } from '../workspace/context';

const NAMES: Record<PkStrategy, string> = {
  none: 'none',
  sufficiency: 'sufficiency',
  build_maintain: 'build and maintain',
  replacement: 'replacement at an index',
};
const LINES: Record<PkStrategy, { type: 'solid' | 'dashed' | 'dotted'; colour: string }> = {
  none: { type: 'dotted', colour: '--faint' },
  sufficiency: { type: 'solid', colour: '--demand' },
  build_maintain: { type: 'dashed', colour: '--k' },
  replacement: { type: 'solid', colour: '--water' },
};
const money = (v: number): string => Math.round(v).toLocaleString('en-GB');

function Paths({ outlook, nutrient }: { outlook: PkOutlook; nutrient: PkNutrient }) {
  const years = outlook.calm.sufficiency.tests.length;
  const option = useCallback<ChartProps['option']>(
    (colour) => ({
      grid: { left: 64, right: 20, top: 40, bottom: 46 },
      legend: { top: 4, itemGap: 22, textStyle: { color: colour('--ink'), fontSize: 13 } },
      tooltip: { trigger: 'axis' },
      textStyle: { fontFamily: 'inherit' },
      xAxis: {
        type: 'category',
        name: 'year',
        nameLocation: 'middle',
        nameGap: 28,
        data: Array.from({ length: years }, (_, i) => String(i + 1)),
        axisLabel: { color: colour('--ink') },
        nameTextStyle: { color: colour('--ink') },
      },
      yAxis: {
        type: 'value',
        name: `soil test of ${nutrient.toUpperCase()}, mg/kg`,
        nameLocation: 'middle',
        nameGap: 44,
        axisLabel: { color: colour('--ink') },
        nameTextStyle: { color: colour('--ink') },
        splitLine: { lineStyle: { color: colour('--rule') } },
      },
      series: PK_STRATEGIES.map((s) => ({
        type: 'line',
        name: NAMES[s],
        showSymbol: false,
        lineStyle: { type: LINES[s].type, color: colour(LINES[s].colour), width: 2 },
        itemStyle: { color: colour(LINES[s].colour) },
        data: outlook.calm[s].tests.map((t) => Number(t.toFixed(1))),
      })),
    }),
    [outlook, nutrient, years],
  );
  return (
    <Chart
      label={`Soil test of ${nutrient.toUpperCase()} over the years under each system, in calm years`}
      option={option}
      fileName={`${nutrient}-over-years`}
      height={300}
      table={{
        columns: ['Year', ...PK_STRATEGIES.map((s) => NAMES[s])],
        rows: Array.from({ length: years }, (_, i) => [
          i + 1,
          ...PK_STRATEGIES.map((s) => Number((outlook.calm[s].tests[i] ?? 0).toFixed(1))),
        ]),
      }}
    />
  );
}

/**
 * P or K over the years under each system, from the field's own figures: one season hides most of
 * it.
 */
export function YearsPart() {
  const { words } = useUnits();
  const plan = useWholePlan();
  const a = useWholeAssessment();
  const book = useBook();
  const [nutrient, setNutrient] = useState<PkNutrient>('p');
  const input = useMemo(() => pkSimulationOf(book, plan, a, nutrient), [book, plan, a, nutrient]);
  const { value, running, failed, start, cancel } = useReckoner<{
    outlook: PkOutlook;
    nutrient: PkNutrient;
  }>();
  const run = () => {
    if (typeof input !== 'string')
      start(async (r, done) => ({ outlook: await r.outlook(input, done), nutrient }));
  };
  return (
    <>
      <div className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2">
        <ChoiceBox
          label="Over the years"
          value={nutrient}
          options={[
            { value: 'p', label: 'phosphorus' },
            { value: 'k', label: 'potassium' },
          ]}
          onValue={(v) => v && setNutrient(v as PkNutrient)}
        />
        <button
          type="button"
          className="button button-strong"
          disabled={typeof input === 'string' || running !== null}
          onClick={run}
        >
          Reckon {RUNS} runs of these years
        </button>
        <span role="status" className="note" data-testid="outlook-progress">
          <Running running={running} of={RUNS} what="runs" failed={failed} cancel={cancel} />
        </span>
      </div>
      {typeof input === 'string' ? (
        <p className="problem">{input}</p>
      ) : (
        <p className="note mb-3 max-w-[56rem]">
          From this field: test {input.start} mg/kg, critical level {input.crit95.toFixed(0)},{' '}
          {words(`${input.build.toFixed(0)} kg/ha`)} to lift it by one mg/kg, off-take{' '}
          {words(`${(input.conc * input.yieldPot).toFixed(0)} kg/ha`)}, {input.cost} a kilogram,{' '}
          {input.horizon} years by its tenure. Prices and yields vary from year to year as they do;
          the response curve, not the price, is the main doubt.
        </p>
      )}
      {value && (
        <div className="grid gap-x-8 xl:grid-cols-2">
          <Part title="The soil test" aside="in calm years">
            <Paths outlook={value.outlook} nutrient={value.nutrient} />
          </Part>
          <Part title="What it brings" aside="money a hectare over the years, discounted">
            <Scrolled label="Money under each system">
              <table className="ruled" data-testid="outlook">
                <thead>
                  <tr>
                    <th>System</th>
                    <th className="num">calm years</th>
                    <th className="num">
                      1 in 10
                      <br />
                      below
                    </th>
                    <th className="num">middle</th>
                    <th className="num">
                      1 in 10
                      <br />
                      above
                    </th>
                  </tr>
                </thead>
                <tbody>
                  {PK_STRATEGIES.map((s) => {
                    const d = value.outlook.spread?.[s];
                    return (
                      <tr key={s}>
                        <th scope="row">{NAMES[s]}</th>
                        <td className="num">{money(value.outlook.calm[s].total)}</td>
                        <td className="num">{d ? money(d.p10) : '·'}</td>
                        <td className="num">{d ? money(d.p50) : '·'}</td>
                        <td className="num">{d ? money(d.p90) : '·'}</td>
                      </tr>
                    );
                  })}
                </tbody>
              </table>
            </Scrolled>
            <p className="mt-2">
              {value.outlook.buildBeatsSufficiency !== null && (
                <>
                  Building up beats sufficiency in{' '}
                  <strong>{Math.round(100 * value.outlook.buildBeatsSufficiency)} of 100</strong>{' '}
                  runs.{' '}
                </>
              )}
              {value.outlook.passesInYear === null
                ? 'Within these years it does not catch up.'
                : `It has caught up in year ${value.outlook.passesInYear}.`}{' '}
              <span className="note">
                What is left in the ground at the end is counted by the share that this tenure lets
                you keep.
              </span>
            </p>
          </Part>
        </div>
      )}
    </>
  );
}
