import { fieldMean, newestSurvey, SURVEY_DAYS } from '@/core/ground/survey';
import { daysBetween } from '@/core/quantity/calendar';
import type { Executor } from '@/data/client';
import {
  replaceMean,
  samplingPlanById,
  type NewSoilSample,
  surveyOf,
  type SampleWithResults,
  type StoredSamplingPlan,
  type SurveyedSample,
} from '@/data/sampling';
import { currentSampleDate, newestSeasonOf, planWithSample } from '@/data/seasons';
import { pointOfBag } from '@/core/ground/sampleList';

/** Layers that a class is read from: the topsoil, down to the depth of the calibrations. */
const TOPSOIL_CM = 25;

/** Value of one point over its topsoil layers, weighted by thickness (chapter 3, 12.2). */
function overLayers(layers: readonly { thickness: number; value: number }[]): number {
  const total = layers.reduce((sum, l) => sum + l.thickness, 0);
  return layers.reduce((sum, l) => sum + (l.value * l.thickness) / total, 0);
}

/**
 * The mean of a plan's points as one sample, weighted by the ground of each: what a season plans
 * with.
 */
function meanOf(
  plan: StoredSamplingPlan,
  samples: readonly SurveyedSample[],
): SampleWithResults | null {
  const areas = new Map(
    plan.document.points
      .filter((p) => p.kind !== 'problem' && p.kind !== 'good')
      .map((p) => [p.label.toLowerCase(), p.areaHa]),
  );
  const own = newestSurvey(
    samples.filter(
      (s) =>
        s.sample.label !== null &&
        areas.has(pointOfBag(s.sample.label).toLowerCase()) &&
        (s.sample.depthCm ?? 20) <= TOPSOIL_CM,
    ),
    ({ sample: s }) => ({
      label: `${s.label?.toLowerCase()}|${s.depthFromCm}`,
      date: s.date ?? '',
    }),
  );
  const newest = own.reduce<string | null>(
    (d, s) => (s.sample.date !== null && (d === null || s.sample.date > d) ? s.sample.date : d),
    null,
  );
  const first = own[0]?.sample;
  if (newest === null || !first) return null;
  const byPoint = new Map<string, SurveyedSample[]>();
  for (const s of own) {
    const k = pointOfBag(s.sample.label ?? '').toLowerCase();
    byPoint.set(k, [...(byPoint.get(k) ?? []), s]);
  }
  const mean = (
    value: (s: SurveyedSample) => { value: number; below: boolean } | null,
  ): number | null => {
    const list = [...byPoint].flatMap(([label, layers]) => {
      const found = layers.flatMap((s) => {
        const v = value(s);
        return v ? [{ ...v, thickness: (s.sample.depthCm ?? 20) - s.sample.depthFromCm }] : [];
      });
      return found.length === 0
        ? []
        : [
            {
              value: overLayers(found),
              areaHa: areas.get(label) ?? 0,
              belowDetection: found.some((f) => f.below),
            },
          ];
    });
    return fieldMean(list)?.mean ?? null;
  };
  const plain = (get: (s: SurveyedSample['sample']) => number | null) =>
    mean((s) => {
      const v = get(s.sample);
      return v === null ? null : { value: v, below: false };
    });
  const scales = new Map(
    own.flatMap((s) =>
      s.readings.map((r) => [`${r.nutrient}|${r.extractant}|${r.unit}`, r] as const),
    ),
  );
  const round = (v: number | null, digits: number) =>
    v === null ? null : Number(v.toFixed(digits));
  return {
    sample: {
      id: `mean-${plan.id}-${newest}`,
      fieldId: plan.fieldId,
      date: newest,
      label: `Mean of ${byPoint.size} points`,
      laboratory: first.laboratory,
      depthFromCm: 0,
      depthCm: Math.max(...own.map((s) => s.sample.depthCm ?? 20)),
      nCores: null,
      nPoints: byPoint.size,
      moisture: own.some((s) => s.sample.moisture === 'dry') ? 'dry' : first.moisture,
      kind: 'mean',
      samplingPlanId: plan.id,
      phWater: round(
        plain((s) => s.phWater),
        2,
      ),
      phCacl2: round(
        plain((s) => s.phCacl2),
        2,
      ),
      bufferKind: first.bufferKind,
      bufferPh: round(
        plain((s) => s.bufferPh),
        2,
      ),
      alCmolKg: round(
        plain((s) => s.alCmolKg),
        2,
      ),
      omPct: round(
        plain((s) => s.omPct),
        2,
      ),
      cecCmolKg: round(
        plain((s) => s.cecCmolKg),
        1,
      ),
    },
    // A nutrient with a point below detection has no mean: half a limit is no figure to average.
    readings: [...scales.values()].flatMap((r) => {
      const value = round(
        mean((s) => {
          const own_ = s.readings.find(
            (x) => x.nutrient === r.nutrient && x.extractant === r.extractant && x.unit === r.unit,
          );
          return own_ ? { value: own_.value, below: own_.belowDetection } : null;
        }),
        1,
      );
      return value === null
        ? []
        : [
            {
              nutrient: r.nutrient,
              extractant: r.extractant,
              value,
              unit: r.unit,
              belowDetection: false,
            },
          ];
    }),
  };
}

/**
 * Lets the newest season of each field plan with what has come in, when it is newer than what it
 * has: a composite, or the mean of points.
 */
export async function planWithNewest(tx: Executor, came: readonly NewSoilSample[]): Promise<void> {
  const newest = new Map<string, { id: string; date: string; because: 'newest' | 'mean' }>();
  const offer = (
    fieldId: string,
    id: string,
    date: string | null | undefined,
    because: 'newest' | 'mean',
  ) => {
    const now = newest.get(fieldId);
    if (date && (!now || date >= now.date)) newest.set(fieldId, { id, date, because });
  };
  for (const s of came)
    if (s.kind === 'composite' && (s.depthFromCm ?? 0) === 0)
      offer(s.fieldId, s.id, s.date, 'newest');
  for (const planId of new Set(
    came.flatMap((s) => (s.kind === 'point' && s.samplingPlanId ? [s.samplingPlanId] : [])),
  )) {
    const plan = await samplingPlanById(tx, planId);
    if (!plan) continue;
    const all = await surveyOf(tx, plan.fieldId, plan.id);
    const mean = meanOf(
      plan,
      all.filter((s) => s.sample.kind === 'point'),
    );
    if (!mean) continue;
    // The rest of the same survey replaces its mean; the mean of an earlier year stays as its
    // seasons planned with it.
    const earlier = all.find(
      (s) =>
        s.sample.kind === 'mean' &&
        s.sample.date !== null &&
        mean.sample.date != null &&
        Math.abs(daysBetween(s.sample.date, mean.sample.date)) <= SURVEY_DAYS,
    );
    const id = earlier?.sample.id ?? mean.sample.id;
    await replaceMean(tx, id, mean);
    offer(plan.fieldId, id, mean.sample.date, 'mean');
  }
  for (const [fieldId, sample] of newest) {
    const season = await newestSeasonOf(tx, fieldId);
    if (!season) continue;
    const current = await currentSampleDate(tx, season.soilSampleId);
    if (current === null || current <= sample.date)
      await planWithSample(tx, season.id, sample.id, sample.because);
  }
}

/**
 * After points of surveys went: a mean of what is left is worked out anew; one of which nothing is
 * left goes.
 *
 * @param gone the samples that were removed
 * @param before is told of means that go, while they are still there
 * @returns means without points, to be removed
 */
export async function remakeMeans(
  tx: Executor,
  gone: readonly SurveyedSample['sample'][],
  before: (means: readonly string[]) => Promise<void>,
): Promise<string[]> {
  const vanished: string[] = [];
  const points = gone.filter((s) => s.kind === 'point' && s.samplingPlanId !== null);
  for (const planId of new Set(points.map((s) => s.samplingPlanId as string))) {
    const plan = await samplingPlanById(tx, planId);
    if (!plan) continue;
    const dates = points.filter((s) => s.samplingPlanId === planId).flatMap((s) => s.date ?? []);
    const all = await surveyOf(tx, plan.fieldId, plan.id);
    const near = (a: string | null | undefined, b: string) =>
      a != null && Math.abs(daysBetween(a, b)) <= SURVEY_DAYS;
    const left = meanOf(
      plan,
      all.filter((s) => s.sample.kind === 'point'),
    );
    for (const { sample } of all)
      if (sample.kind === 'mean' && dates.some((d) => near(sample.date, d))) {
        if (left && sample.date !== null && near(left.sample.date, sample.date))
          await replaceMean(tx, sample.id, left);
        else vanished.push(sample.id);
      }
  }
  await before(vanished);
  return vanished;
}
