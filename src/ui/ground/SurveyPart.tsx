'use client';

import { useCallback, useMemo, useState } from 'react';
import { pointOfBag } from '@/core/ground/labReport';
import type { Outline } from '@/core/ground/outline';
import { stratification } from '@/core/ground/secondary';
import { layerRules } from '@/core/ground/secondaryRules';
import {
  history,
  newestSurvey,
  type HistoryPoint,
  type HistoryReading,
} from '@/core/ground/survey';
import {
  PH_STEP_ENDS,
  readSurvey,
  type SurveyReading,
  type SurveyScale,
} from '@/core/ground/surveyReading';
import { dateInWords } from '@/core/quantity/calendar';
import { crosswalkOf } from '@/core/book/crops';
import { judge } from '@/core/rules/rule';
import { extractantName, nutrientSymbol } from '@/core/book/soilTests';
import { Chart } from '../chart/Chart';
import { ChoiceBox, Part, words } from '../figure/fields';
import { useUnits } from '../frame/units';
import { FieldMap } from '../map/FieldMap';
import { Warnings } from '../Warnings';
import { useBook, usePlan, useWholePlan } from '../workspace/context';
import { samplingModel } from './samplingModel';
import type { StoredPlan } from './SamplingPart';

export interface SurveySample {
  sample: {
    id: string;
    date: string;
    label: string | null;
    kind: 'composite' | 'point' | 'mean';
    samplingPlanId: string | null;
    depthFromCm: number;
    depthCm: number | null;
    nCores: number | null;
    nPoints: number | null;
    moisture: string | null;
    phWater: number | null;
  };
  readings: {
    nutrient: string;
    extractant: string;
    value: number;
    unit: string;
    belowDetection: boolean;
  }[];
}
const PH_STEPS = [
  `under ${PH_STEP_ENDS[0].toFixed(1)}`,
  ...PH_STEP_ENDS.slice(1).map(
    (end, i) => `${PH_STEP_ENDS[i as 0 | 1 | 2].toFixed(1)} to ${end.toFixed(1)}`,
  ),
  `${PH_STEP_ENDS[3]} and above`,
];
const CLASSES = ['very_low', 'low', 'medium', 'high', 'very_high'] as const;
const PH_WORDS: Record<string, string> = {
  very_low: 'too acid for the crop',
  low: 'lime advised',
  medium: 'below the target',
  high: 'at the target',
  very_high: 'above the range',
};

const keyOf = (s: SurveyScale) => `${s.nutrient}|${s.extractant}|${s.unit}`;
const nameOf = (s: SurveyScale) =>
  s.nutrient === 'ph'
    ? 'pH in water'
    : `${nutrientSymbol(s.nutrient)}, ${extractantName(s.extractant)}, ${words(s.unit).replace(' ', '/')}`;
const PH: SurveyScale = { nutrient: 'ph', extractant: 'water', unit: '' };
const valueIn = (s: SurveySample, scale: SurveyScale): { value: number; below: boolean } | null => {
  if (scale.nutrient === 'ph')
    return s.sample.phWater === null ? null : { value: s.sample.phWater, below: false };
  const r = s.readings.find((x) => keyOf(x) === keyOf(scale));
  return r ? { value: r.value, below: r.belowDetection } : null;
};
function scalesOf(samples: readonly SurveySample[]): SurveyScale[] {
  const found = new Map<string, SurveyScale>();
  if (samples.some((s) => s.sample.phWater !== null)) found.set(keyOf(PH), PH);
  for (const s of samples)
    for (const r of s.readings)
      if (!found.has(keyOf(r)))
        found.set(keyOf(r), { nutrient: r.nutrient, extractant: r.extractant, unit: r.unit });
  return [...found.values()];
}

const stratified = (scale: SurveyScale, top: number, below: number) => {
  const s = stratification({ top, below });
  return {
    scale,
    ...s,
    warnings: judge(layerRules, { nutrient: nutrientSymbol(scale.nutrient), ratio: s.ratio }),
  };
};

function Legend({ reading, ph }: { reading: SurveyReading; ph: boolean }) {
  const { show, unit } = useUnits();
  return (
    <ul className="mt-1 flex flex-wrap gap-x-4 gap-y-1" aria-label="Steps on the map">
      {CLASSES.map(
        (c, i) =>
          reading.areaByStep.has(i + 1) && (
            <li key={c} className="inline-flex items-center gap-1.5">
              <span
                aria-hidden
                className="inline-block h-4 w-4 border border-rule"
                style={{ background: `var(--map-${i + 1})` }}
              />
              {ph ? PH_STEPS[i] : words(c)}, {show(reading.areaByStep.get(i + 1) ?? 0, 'area', 1)}{' '}
              {unit('area')}
            </li>
          ),
      )}
    </ul>
  );
}

function SurveyMap({
  outline,
  plan,
  samples,
}: {
  outline: Outline;
  plan: StoredPlan;
  samples: readonly SurveySample[];
}) {
  const field = useWholePlan();
  const book = useBook();
  const { show, unit } = useUnits();
  const points = useMemo(
    () =>
      newestSurvey(
        samples.filter((s) => s.sample.samplingPlanId === plan.id && s.sample.kind === 'point'),
        ({ sample: s }) => ({ label: `${s.label?.toLowerCase()}|${s.depthFromCm}`, date: s.date }),
      ),
    [samples, plan.id],
  );
  const layers = useMemo(
    () =>
      [...new Set(points.map((s) => `${s.sample.depthFromCm}-${s.sample.depthCm ?? 20}`))].sort(
        (a, b) => Number(a.split('-')[0]) - Number(b.split('-')[0]),
      ),
    [points],
  );
  const scales = useMemo(() => scalesOf(points), [points]);
  const [chosen, setChosen] = useState(keyOf(PH));
  const [layer, setLayer] = useState(layers[0] ?? '');
  const scale = scales.find((s) => keyOf(s) === chosen) ?? scales[0] ?? PH;
  const inLayer = useMemo(
    () =>
      points.filter(
        (s) =>
          `${s.sample.depthFromCm}-${s.sample.depthCm ?? 20}` ===
          (layers.includes(layer) ? layer : layers[0]),
      ),
    [points, layer, layers],
  );
  const reading = useMemo(() => {
    const areas = new Map(plan.document.points.map((p) => [p.label.toLowerCase(), p]));
    const crosswalk = field.season.cropKey ? crosswalkOf(book, field.season.cropKey) : null;
    const labelled = inLayer.flatMap((s) => {
      const point = areas.get(pointOfBag(s.sample.label ?? '').toLowerCase());
      return point ? [{ s, point }] : [];
    });
    const own = labelled.filter(({ point }) => point.kind !== 'problem' && point.kind !== 'good');
    return readSurvey(
      scale,
      own.flatMap(({ s, point }) => {
        const v = valueIn(s, scale);
        return v
          ? [{ label: point.label, areaHa: point.areaHa, value: v.value, belowDetection: v.below }]
          : [];
      }),
      {
        cropGroup: crosswalk?.criticalLevelGroup ?? null,
        targetGroup: crosswalk?.targetPhGroup ?? null,
        omPct: field.field.omPct,
        cecCmolKg: field.field.cecCmolKg,
        coresPerSample: plan.document.coresPerSample,
        ph: new Map(
          labelled.flatMap(({ s, point }) =>
            s.sample.phWater === null ? [] : [[point.label, s.sample.phWater] as const],
          ),
        ),
      },
    );
  }, [book, inLayer, plan, scale, field]);
  const byLabel = useMemo(() => new Map(reading.points.map((p) => [p.label, p])), [reading]);
  const isPh = scale.nutrient === 'ph';
  const model = useMemo(
    () =>
      samplingModel(outline, plan.document, {
        walk: false,
        look: (label) => {
          const p = byLabel.get(label);
          return p
            ? {
                fill: `--map-${p.mapStep ?? 0}`,
                text: `${p.belowDetection ? 'under ' : ''}${isPh ? p.value.toFixed(1) : p.value}`,
              }
            : {};
        },
      }),
    [outline, plan, byLabel, isPh],
  );
  const strata = useMemo(() => {
    if (layers.length < 2 || !layers[0]?.startsWith('0-5')) return [];
    const of = (l: string, s: SurveyScale) => {
      const list = points
        .filter((p) => `${p.sample.depthFromCm}-${p.sample.depthCm ?? 20}` === l)
        .flatMap((p) => valueIn(p, s)?.value ?? []);
      return list.length > 0 ? list.reduce((a, b) => a + b, 0) / list.length : null;
    };
    return scales
      .filter((s) => s.nutrient === 'p' || s.nutrient === 'k')
      .flatMap((s) => {
        const [top, below] = [of(layers[0] as string, s), of(layers[1] as string, s)];
        return top !== null && below !== null && below > 0 ? [stratified(s, top, below)] : [];
      });
  }, [layers, points, scales]);
  if (points.length === 0)
    return (
      <p className="note mb-4">
        No results have come back for {plan.name} yet: import the laboratory’s file under Samples;
        the labels find their points.
      </p>
    );
  const mean = reading.mean;
  const digits = isPh ? 1 : 0;
  return (
    <Part
      title="Map"
      aside={`${plan.name}, ${reading.points.length} points${inLayer[0] ? `, ${dateInWords(inLayer[0].sample.date)}` : ''}; each reading stands for its block, no contours are drawn`}
    >
      <div className="mb-2 flex flex-wrap items-baseline gap-x-5 gap-y-2">
        <ChoiceBox
          label="Reading"
          value={keyOf(scale)}
          options={scales.map((s) => ({ value: keyOf(s), label: nameOf(s) }))}
          onValue={(v) => v && setChosen(v)}
        />
        {layers.length > 1 && (
          <ChoiceBox
            label="Layer, cm"
            value={layers.includes(layer) ? layer : (layers[0] ?? '')}
            options={layers.map((l) => ({ value: l, label: l }))}
            onValue={(v) => v && setLayer(v)}
          />
        )}
      </div>
      <div className="grid gap-x-8 xl:grid-cols-[3fr_2fr]">
        <div>
          <FieldMap
            model={model}
            label={`${nameOf(scale)} over the field: ${reading.points
              .map((p) => `${p.label} ${p.value}`)
              .slice(0, 40)
              .join(', ')}`}
            height={380}
            fitKey={plan.id}
          />
          <Legend reading={reading} ph={isPh} />
        </div>
        <div>
          <p data-testid="field-mean">
            {mean ? (
              <>
                <strong>Mean {mean.mean.toFixed(isPh ? 2 : 1)}</strong> by area
                {reading.meanClass
                  ? ` (${isPh ? PH_WORDS[reading.meanClass] : words(reading.meanClass)})`
                  : ''}
                , from {mean.min.toFixed(digits)} to {mean.max.toFixed(digits)}; spread{' '}
                {mean.sd.toFixed(isPh ? 2 : 1)}, error of the mean {mean.se.toFixed(isPh ? 2 : 1)}.
              </>
            ) : (
              'No mean: a point lies below what the laboratory can detect, and half a limit is no figure to average.'
            )}
          </p>
          {mean && reading.meanClass && Object.keys(reading.areaByClass).length > 1 && (
            <p className="note">
              One mean hides {Object.keys(reading.areaByClass).length} classes of ground here.
            </p>
          )}
          {strata.map((s) => (
            <div key={s.scale.nutrient}>
              <p className="note">
                {nutrientSymbol(s.scale.nutrient)}: top 5 cm holds {s.ratio.toFixed(1)} times the 10
                cm below; mean of 0-15 cm {s.mean_0_15.toFixed(0)}.
              </p>
              {s.warnings.length > 0 && <Warnings list={s.warnings} empty="" />}
            </div>
          ))}
          <div
            className="mt-2 max-h-[20rem] overflow-y-auto"
            tabIndex={0}
            role="region"
            aria-label="Readings of the points"
          >
            <table className="ruled" data-testid="survey-points">
              <thead>
                <tr>
                  <th>Point</th>
                  <th className="num">Reading</th>
                  <th className="pl-4">Class, and its chance</th>
                </tr>
              </thead>
              <tbody>
                {reading.points.slice(0, 300).map((p) => (
                  <tr key={p.label}>
                    <th scope="row">{p.label}</th>
                    <td className="num">
                      {p.belowDetection ? 'under ' : ''}
                      {isPh ? p.value.toFixed(1) : p.value}
                      {p.se !== null && (
                        <span className="note"> +/- {(1.645 * p.se).toFixed(digits)}</span>
                      )}
                    </td>
                    <td className="pl-4">
                      {p.cls ? (
                        isPh ? (
                          PH_WORDS[p.cls]
                        ) : (
                          words(p.cls)
                        )
                      ) : (
                        <span className="problem">{p.refused ?? 'not classed'}</span>
                      )}
                      {p.cls && p.chance && (
                        <span className="note">
                          {' '}
                          {CLASSES.filter((c) => (p.chance?.[c] ?? 0) >= 0.1)
                            .map((c) => `${words(c)} ${(100 * (p.chance?.[c] ?? 0)).toFixed(0)} %`)
                            .join(', ')}
                        </span>
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
          <p className="note mt-1">
            {show(
              plan.document.points.reduce((sum, p) => sum + p.areaHa, 0),
              'area',
              1,
            )}{' '}
            {unit('area')} sampled.
          </p>
        </div>
      </div>
    </Part>
  );
}

function History({
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

/**
 * What the samples of a field say: each reading over its blocks, the mean with its spread, and the
 * years with their error.
 */
export function SurveyPart({
  outline,
  plans,
  samples,
}: {
  outline: Outline | null;
  plans: StoredPlan[];
  samples: SurveySample[];
}) {
  const withResults = plans.filter((p) => samples.some((s) => s.sample.samplingPlanId === p.id));
  const [planId, setPlanId] = useState(withResults[0]?.id ?? plans[0]?.id ?? null);
  const plan = plans.find((p) => p.id === planId) ?? null;
  return (
    <>
      {plans.length > 1 && (
        <p className="mb-2">
          <ChoiceBox
            label="Sampling plan"
            value={planId}
            options={plans.map((p) => ({
              value: p.id,
              label: `${p.name}, ${dateInWords(p.createdOn)}`,
            }))}
            onValue={(v) => v && setPlanId(v)}
          />
        </p>
      )}
      {outline && plan ? (
        <SurveyMap key={plan.id} outline={outline} plan={plan} samples={samples} />
      ) : (
        <p className="note mb-4">
          No sampling plan yet: make one under Sampling plan, and its results come back to its
          points.
        </p>
      )}
      <History samples={samples} plans={plans} />
    </>
  );
}
