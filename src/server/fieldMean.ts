import { fieldMean, newestSurvey, SURVEY_DAYS } from '@/core/ground/survey';
import { groupedBy } from '@/core/book/table';
import { daysBetween } from '@/core/quantity/calendar';
import type { Executor } from '@/data/client';
import {
  addSoilSamples,
  idsAmong,
  replaceMean,
  samplingPlanById,
  type NewSoilSample,
  surveyOf,
  type SampleWithResults,
  type StoredSamplingPlan,
  type SurveyedSample,
} from '@/data/sampling';
import { sampleById } from '@/data/sampleHistory';
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

/** Composites of one field, day and depth are one reading of it: their mean, never the last row. */
const sameTaking = (s: Pick<NewSoilSample, 'fieldId' | 'date' | 'depthCm'>): string =>
  `mean-${s.fieldId}-${s.date}-${s.depthCm ?? 0}`;

function meanOfComposites(same: readonly SurveyedSample[]): SampleWithResults {
  const first = (same[0] as SurveyedSample).sample;
  const plain = (get: (s: SurveyedSample['sample']) => number | null, digits: number) => {
    const known = same.flatMap((s) => get(s.sample) ?? []);
    const found = fieldMean(known.map((value) => ({ value, areaHa: 0 })));
    return found ? Number(found.mean.toFixed(digits)) : null;
  };
  const scales = new Map(
    same.flatMap((s) =>
      s.readings.map((r) => [`${r.nutrient}|${r.extractant}|${r.unit}`, r] as const),
    ),
  );
  return {
    sample: {
      id: sameTaking(first),
      fieldId: first.fieldId,
      date: first.date,
      label: `Mean of ${same.length} samples`,
      laboratory: first.laboratory,
      depthFromCm: 0,
      depthCm: first.depthCm,
      nCores: null,
      nPoints: same.length,
      moisture: same.some((s) => s.sample.moisture === 'dry') ? 'dry' : first.moisture,
      kind: 'mean',
      phWater: plain((s) => s.phWater, 2),
      phCacl2: plain((s) => s.phCacl2, 2),
      bufferKind: first.bufferKind,
      bufferPh: plain((s) => (s.bufferKind === first.bufferKind ? s.bufferPh : null), 2),
      alCmolKg: plain((s) => s.alCmolKg, 2),
      omPct: plain((s) => s.omPct, 2),
      ocPct: plain((s) => s.ocPct, 2),
      cecCmolKg: plain((s) => s.cecCmolKg, 1),
      clayPct: plain((s) => s.clayPct, 0),
      stonesPct: plain((s) => s.stonesPct, 0),
    },
    // A nutrient with a sample below detection has no mean: half a limit is no figure to average.
    readings: [...scales.values()].flatMap((r) => {
      const values = same.flatMap(
        (s) =>
          s.readings.find(
            (x) => x.nutrient === r.nutrient && x.extractant === r.extractant && x.unit === r.unit,
          ) ?? [],
      );
      const found = fieldMean(
        values.map((x) => ({ value: x.value, areaHa: 0, belowDetection: x.belowDetection })),
      );
      return found
        ? [
            {
              nutrient: r.nutrient,
              extractant: r.extractant,
              value: Number(found.mean.toFixed(1)),
              unit: r.unit,
              belowDetection: false,
            },
          ]
        : [];
    }),
  };
}
/**
 * Means of the takings that some composites belong to, made anew; a taking of one sample has none.
 */
async function remadeComposites(
  tx: Executor,
  of: readonly Pick<NewSoilSample, 'fieldId' | 'date' | 'depthCm'>[],
): Promise<{ id: string; fieldId: string; date: string }[]> {
  const takings = new Map(of.flatMap((s) => (s.date ? [[sameTaking(s), s] as const] : [])));
  const made: SampleWithResults[] = [];
  // A field is read once, however many days of it came in.
  for (const fieldId of new Set([...takings.values()].map((s) => s.fieldId))) {
    const composites = (await surveyOf(tx, fieldId)).filter(
      ({ sample: s }) => s.kind === 'composite' && s.depthFromCm === 0,
    );
    for (const [id, same] of groupedBy(composites, (s) => sameTaking(s.sample)))
      if (takings.has(id) && same.length > 1) made.push(meanOfComposites(same));
  }
  const standing = await idsAmong(
    tx,
    made.map((m) => m.sample.id),
  );
  for (const m of made) if (standing.has(m.sample.id)) await replaceMean(tx, m.sample.id, m);
  await addSoilSamples(
    tx,
    made.filter((m) => !standing.has(m.sample.id)),
    async () => {},
  );
  return made.map(({ sample: { id, fieldId, date } }) => ({ id, fieldId, date: date ?? '' }));
}
/** The mean that a composite is part of, where its taking has one. */
export const meanOfTaking = sameTaking;

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
  const composites = came.filter((s) => s.kind === 'composite' && (s.depthFromCm ?? 0) === 0);
  for (const s of composites) offer(s.fieldId, s.id, s.date, 'newest');
  for (const same of await remadeComposites(tx, composites))
    offer(same.fieldId, same.id, same.date, 'mean');
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
  const composites = gone.filter((s) => s.kind === 'composite' && s.depthFromCm === 0);
  const left = new Set((await remadeComposites(tx, composites)).map((m) => m.id));
  const means = new Set(composites.map(sameTaking));
  for (const id of means) if (!left.has(id) && (await sampleById(tx, id))) vanished.push(id);
  const points = gone.filter((s) => s.kind === 'point' && s.samplingPlanId !== null);
  for (const planId of new Set(points.map((s) => s.samplingPlanId as string))) {
    const plan = await samplingPlanById(tx, planId);
    if (!plan) continue;
    const dates = points.filter((s) => s.samplingPlanId === planId).flatMap((s) => s.date ?? []);
    const all = await surveyOf(tx, plan.fieldId, plan.id);
    const near = (a: string | null | undefined, b: string) =>
      a != null && Math.abs(daysBetween(a, b)) <= SURVEY_DAYS;
    const still = meanOf(
      plan,
      all.filter((s) => s.sample.kind === 'point'),
    );
    for (const { sample } of all)
      if (sample.kind === 'mean' && dates.some((d) => near(sample.date, d))) {
        if (still && sample.date !== null && near(still.sample.date, sample.date))
          await replaceMean(tx, sample.id, still);
        else vanished.push(sample.id);
      }
  }
  await before(vanished);
  return vanished;
}
