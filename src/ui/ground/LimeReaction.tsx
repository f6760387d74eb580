'use client';

import { useCallback } from 'react';
import { dateInWords } from '@/core/quantity/calendar';
import type { LimePlan } from '@/core/document/limeDocument';
import type { PhCurve } from '@/core/views/groundParts';
import type { LimeAssessment } from '@/core/lines/lime';
import { Chart } from '../chart/Chart';
import { Part } from '../figure/fields';
import { usePlan } from '../workspace/context';
const STROKES = ['solid', 'dashed', 'dotted'] as const;
const COLOURS = ['--demand', '--manure', '--water', '--p', '--k', '--organic-matter'] as const;

export function Reaction({
  lime,
  assessed,
  curves: series,
}: {
  lime: LimePlan;
  assessed: LimeAssessment;
  curves: PhCurve[];
}) {
  const plan = usePlan('asOf', 'field', 'season');
  const { comparison } = assessed;
  const option = useCallback(
    (colour: (name: string) => string) => {
      const axis = {
        axisLine: { lineStyle: { color: colour('--faint') } },
        axisLabel: { color: colour('--ink') },
        splitLine: { lineStyle: { color: colour('--rule') } },
        nameTextStyle: { color: colour('--ink') },
      };
      const line = (name: string, y: number) => ({
        yAxis: y,
        label: { formatter: name, position: 'insideEndTop' as const, color: colour('--ink') },
        lineStyle: { color: colour('--faint'), type: 'dashed' as const },
      });
      return {
        animation: false,
        textStyle: { fontFamily: getComputedStyle(document.body).fontFamily },
        grid: { left: 56, right: 24, top: 44, bottom: 52 },
        tooltip: { trigger: 'axis', valueFormatter: (v: unknown) => `pH ${Number(v).toFixed(1)}` },
        legend: { type: 'scroll', top: 0, textStyle: { color: colour('--ink') } },
        xAxis: {
          type: 'time',
          name: 'Date',
          nameLocation: 'middle',
          nameGap: 32,
          ...axis,
          splitLine: { show: false },
        },
        yAxis: {
          type: 'value',
          name: 'pH in water',
          nameLocation: 'middle',
          nameGap: 38,
          scale: true,
          ...axis,
        },
        series: series.map((s, i) => ({
          type: 'line',
          name: s.name,
          showSymbol: false,
          data: s.points.map((p) => [p.date, Number(p.ph.toFixed(3))]),
          lineStyle: {
            width: 2,
            color: colour(COLOURS[i % COLOURS.length] as string),
            type: STROKES[i % STROKES.length],
          },
          itemStyle: { color: colour(COLOURS[i % COLOURS.length] as string) },
          ...(i === 0
            ? {
                markLine: {
                  symbol: 'none',
                  data: [
                    line('target', assessed.target.ph),
                    line(
                      'lime advised below',
                      comparison?.actBelowPh ?? assessed.target.actBelowPh,
                    ),
                    ...(plan.season.plantingDate
                      ? [
                          {
                            xAxis: plan.season.plantingDate,
                            label: { formatter: 'planting', color: colour('--ink') },
                            lineStyle: {
                              color: colour('--ink'),
                              type: 'solid' as const,
                              width: 1.5,
                            },
                          },
                        ]
                      : []),
                  ],
                },
              }
            : {}),
        })),
      };
    },
    [series, assessed, comparison, plan.season.plantingDate],
  );
  if (series.length === 0) return null;
  const months = [0, 3, 6, 9, 12, 18, 24, 36];
  return (
    <Part
      title="pH over the months"
      aside={`spread on ${dateInWords(lime.spreadDate ?? plan.asOf)}, on the wet clock`}
    >
      <Chart
        label="pH over the months for each lime, with the planting date"
        option={option}
        fileName={`${plan.field.name}-lime`}
        table={{
          columns: ['Months since spreading', ...series.map((s) => s.name)],
          rows: months.map((m) => [
            m,
            ...series.map((s) => s.points.find((p) => p.month === m)?.ph.toFixed(1) ?? ''),
          ]),
        }}
      />
    </Part>
  );
}
