'use client';

import { useCallback, useMemo, useState } from 'react';
import { history, type HistoryPoint, type HistoryReading } from '@/core/ground/survey';
import { dateInWords } from '@/core/quantity/calendar';
import { Chart } from '../chart/Chart';
import { ChoiceBox, Part } from '../figure/fields';
import { usePlan } from '../workspace/context';
import type { StoredPlan } from './SamplingPart';
import { type SurveySample, keyOf, nameOf, scalesOf, PH, valueIn } from './surveyScale';

export function History({
  samples,
  plans,
}: {
  samples: readonly SurveySample[];
  plans: readonly StoredPlan[];
}) {
  const field = usePlan('field');
  const whole = useMemo(
    () => samples.filter((s) => s.sample.kind !== 'point' && s.sample.depthFromCm === 0),
    [samples],
  );
  const scales = useMemo(() => scalesOf(whole), [whole]);
  const [chosen, setChosen] = useState(keyOf(PH));
  const scale = scales.find((s) => keyOf(s) === chosen) ?? scales[0] ?? PH;
  const list = useMemo<HistoryReading[]>(() => {
    const points = whole.flatMap((s): HistoryPoint[] => {
      // Only the same scale is compared; another extractant is shown apart, at its own figure.
      const v =
        scale.nutrient === 'ph'
          ? valueIn(s, scale)
          : (() => {
              const r = s.readings.find((x) => x.nutrient === scale.nutrient);
              return r ? { value: r.value, below: r.belowDetection } : null;
            })();
      const r = s.readings.find((x) => x.nutrient === scale.nutrient);
      const cores =
        s.sample.nPoints !== null
          ? s.sample.nPoints *
            (plans.find((p) => p.id === s.sample.samplingPlanId)?.document.coresPerSample ?? 10)
          : s.sample.nCores;
      return v && !v.below
        ? [
            {
              date: s.sample.date,
              value: v.value,
              scale: scale.nutrient === 'ph' ? 'pH' : `${r?.extractant}|${r?.unit}`,
              fromCm: s.sample.depthFromCm,
              toCm: s.sample.depthCm,
              cores,
              analyses: s.sample.nPoints ?? 1,
              dry: s.sample.moisture === 'dry',
            },
          ]
        : [];
    });
    return history(scale.nutrient, points);
  }, [whole, scale, plans]);
  const newest = list[list.length - 1];
  const option = useCallback(
    (colour: (name: string) => string) => {
      const axis = {
        axisLine: { lineStyle: { color: colour('--faint') } },
        axisLabel: { color: colour('--ink') },
        splitLine: { lineStyle: { color: colour('--rule') } },
        nameTextStyle: { color: colour('--ink') },
      };
      const half = newest?.se == null ? null : 1.645 * newest.se * Math.SQRT2;
      const fair = list.filter((p) => p.apart === null);
      return {
        animation: false,
        textStyle: { fontFamily: getComputedStyle(document.body).fontFamily },
        grid: { left: 56, right: 24, top: 20, bottom: 52 },
        tooltip: { trigger: 'item' },
        xAxis: {
          type: 'time',
          name: 'Sampled on',
          nameLocation: 'middle',
          nameGap: 32,
          ...axis,
          splitLine: { show: false },
        },
        yAxis: {
          type: 'value',
          name: nameOf(scale),
          nameLocation: 'middle',
          nameGap: 40,
          scale: true,
          ...axis,
        },
        series: [
          {
            type: 'line',
            data: fair.map((p) => [p.date, p.value]),
            symbolSize: 9,
            lineStyle: { color: colour('--faint'), width: 1.5 },
            itemStyle: { color: colour('--ink') },
            ...(newest && half !== null
              ? {
                  markArea: {
                    silent: true,
                    itemStyle: { color: colour('--faint'), opacity: 0.18 },
                    data: [[{ yAxis: newest.value - half }, { yAxis: newest.value + half }]],
                  },
                }
              : {}),
          },
          {
            type: 'scatter',
            data: list.filter((p) => p.apart !== null).map((p) => [p.date, p.value]),
            symbolSize: 9,
            itemStyle: { color: colour('--paper'), borderColor: colour('--ink'), borderWidth: 1.5 },
          },
          // Error bars as short vertical lines.
          ...fair
            .filter((p) => p.se !== null)
            .map((p) => ({
              type: 'line',
              data: [
                [p.date, p.value - 1.645 * (p.se ?? 0)],
                [p.date, p.value + 1.645 * (p.se ?? 0)],
              ],
              symbol: 'none',
              silent: true,
              lineStyle: { color: colour('--ink'), width: 1.2 },
            })),
        ],
      };
    },
    [list, newest, scale],
  );
  if (list.length === 0)
    return (
      <Part title="History">
        <p className="note">No readings of the whole field yet.</p>
      </Part>
    );
  return (
    <Part
      title="History"
      aside="the grey band is what sampling cannot tell from the newest reading; hollow points are not comparable"
    >
      <ChoiceBox
        label="Reading over the years"
        value={keyOf(scale)}
        options={scales.map((s) => ({ value: keyOf(s), label: nameOf(s) }))}
        onValue={(v) => v && setChosen(v)}
      />
      <Chart
        label={`History of ${nameOf(scale)} on ${field.field.name}`}
        option={option}
        fileName={`${field.field.name}-history`}
        height={260}
        table={{
          columns: ['Sampled on', nameOf(scale), '+/- (90 %)', 'Against the one before'],
          rows: list.map((p) => [
            p.date,
            p.value,
            p.se === null ? 'not known' : (1.645 * p.se).toFixed(scale.nutrient === 'ph' ? 2 : 1),
            p.apart ?? p.change?.verdict ?? 'the first',
          ]),
        }}
      />
      <ul className="note mt-2" data-testid="history">
        {list.map((p) => (
          <li key={`${p.date}-${p.value}`}>
            {dateInWords(p.date)}: {scale.nutrient === 'ph' ? p.value.toFixed(1) : p.value}
            {p.apart ? `, not compared: ${p.apart}` : p.change ? `, ${p.change.verdict}` : ''}
          </li>
        ))}
      </ul>
    </Part>
  );
}
