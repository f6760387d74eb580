'use client';

import { useMemo, useState } from 'react';
import { pointOfBag } from '@/core/ground/sampleList';
import type { Outline } from '@/core/ground/outline';
import { newestSurvey } from '@/core/ground/survey';
import {
  PH_STEP_ENDS,
  readSurvey,
  type SurveyReading,
  type SurveyScale,
} from '@/core/ground/surveyReading';
import { dateInWords } from '@/core/quantity/calendar';
import { crosswalkOf } from '@/core/book/crops';
import { nutrientSymbol } from '@/core/book/soilTests';
import { ChoiceBox, Part, words } from '../figure/fields';
import { useUnits } from '../frame/units';
import { FieldMap } from '../map/FieldMap';
import { Warnings } from '../Warnings';
import { useBook, useWholePlan } from '../workspace/context';
import { samplingModel } from './samplingModel';
import type { StoredPlan } from './SamplingPart';
import { type SurveySample, keyOf, nameOf, scalesOf, stratified, PH, valueIn } from './surveyScale';
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

export function SurveyMap({
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
      <div className="mb-2 fields">
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
