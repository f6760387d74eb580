import { nitrateAfterWinter, type SoilNitrate } from '../budget/soilNitrate';
import type { Crop } from '../book/crops';
import { textureGroup } from '../book/soils';
import type { Plan } from '../document/document';
import { normalDrainage, normalEvaporation } from '../nitrogen/evaporation';
import { dateAfter, type IsoDate } from '../quantity/calendar';
import { entered, step, type Step } from '../why/step';
import { normalsOf } from './calendar';
import { midwinterBefore, warmSpell } from './growth';

/** Volumetric water at field capacity (chapter 1, C2). */
const FIELD_CAPACITY = { sand: 0.14, loam: 0.27, clay: 0.36, organic: 0.36 } as const;
/** Less drainage than this since the sample changes nothing (agronomy corrections, d). */
const COUNTS_ABOVE_MM = 50;
const AWAKE_C = 5;
const AUTUMN_BEFORE_D = 137;
const SEASON_D = 330;

/** What has drained since the nitrate sample, and the share of the nitrate that it takes. */
export interface Drained {
  mm: number;
  frac: number;
  /** Reckoned from the farm's rain gauge; else by the winter's drainage and the normals. */
  byGauge: boolean;
  why: Step;
}
export interface SampledNitrate {
  nitrate: SoilNitrate;
  drained: (Drained & { sampledKgHa: number }) | null;
}

/** The end of winter before a harvest: spring growth, or planting where that comes later. */
function springOf({ season, field, farm }: Plan): { autumn: IsoDate; spring: IsoDate } {
  const { plantingDate } = season;
  // Without a harvest the season is taken as a year's: its winter leaches all the same.
  const harvestDate = season.harvestDate ?? dateAfter(season.startDate, SEASON_D);
  const southern = field.latitudeDeg < 0;
  const winter = midwinterBefore(harvestDate, southern);
  const spell = warmSpell(normalsOf({ farm, field }), AWAKE_C, southern ? 7 : 1);
  const growth = dateAfter(winter, spell?.begins ?? 0);
  return {
    autumn: dateAfter(winter, -AUTUMN_BEFORE_D),
    spring: plantingDate && plantingDate > growth ? plantingDate : growth,
  };
}

/** Drainage from the sample to spring: by the gauge up to today, then as the winter usually has it. */
function drainageMm(plan: Plan, on: IsoDate): { mm: number; byGauge: boolean } {
  const around = springOf(plan);
  const { latitudeDeg } = plan.field;
  const { rainSinceSampleMm: rain, winterDrainageMm } = plan.season;
  const climate = normalsOf(plan);
  const normal = (from: IsoDate, to: IsoDate) => normalDrainage(climate, latitudeDeg, from, to);
  const whole = normal(around.autumn, around.spring);
  // A winter whose normals drain nothing is taken as typed, for a sample that came before it.
  const share = (from: IsoDate) =>
    from >= around.spring
      ? 0
      : whole > 0
        ? Math.min(1, normal(from, around.spring) / whole)
        : from < midwinterBefore(around.spring, latitudeDeg < 0)
          ? 1
          : 0;
  if (rain === null) return { mm: winterDrainageMm * share(on), byGauge: false };
  const seen = plan.asOf > on ? plan.asOf : on;
  return {
    mm:
      Math.max(0, rain - normalEvaporation(climate, latitudeDeg, on, seen)) +
      winterDrainageMm * share(seen),
    byGauge: true,
  };
}

/**
 * The share of a profile that has drained since it was sampled, whatever its date: nothing up to
 * 50 mm, above that all of it counts (chapter 7, W3.2.30; Burns 1976). Null where it stays as it is.
 */
export function drainedSince(plan: Plan, crop: Crop, sampledToCm: number): Drained | null {
  const { nitrateSampleDate: on } = plan.ground;
  const { harvestDate } = plan.season;
  if (on === null || (harvestDate ?? '9999') <= on) return null;
  const found = drainageMm(plan, on);
  if (found.mm <= COUNTS_ABOVE_MM) return null;
  const sampledDepthCm = Math.min(sampledToCm, crop.rootDepthCm);
  // The share that leaches does not hang on how much there is.
  const { leachedFrac: frac } = nitrateAfterWinter({
    drainageMm: found.mm,
    theta: FIELD_CAPACITY[textureGroup(plan.field.soilTextureId)],
    lossDepthCm: Math.max(crop.rootDepthCm, sampledDepthCm),
    sampledDepthCm,
    soilNAutumnKgHa: 0,
  });
  const { rainSinceSampleMm, winterDrainageMm } = plan.season;
  return {
    ...found,
    frac,
    why: step('credit.soil_nitrate.drainage', 'Drained since the sample', found.mm, 'mm', {
      formula: found.byGauge
        ? 'rain since the sample - evaporation of a normal year, and what the winter still brings'
        : 'winter drainage x the share of it that a normal year has after the sample',
      source: 'climate of the farm (Hargreaves & Samani 1985)',
      confidence: 'low',
      inputs: [
        ...(rainSinceSampleMm === null
          ? []
          : [
              entered('credit.soil_nitrate.rain', 'Rain since the sample', rainSinceSampleMm, 'mm'),
            ]),
        entered('credit.soil_nitrate.winter_drainage', 'Winter drainage', winterDrainageMm, 'mm'),
      ],
    }),
  };
}

/** Sampled nitrate less what has drained since. */
export function afterDrainage(plan: Plan, crop: Crop, nitrate: SoilNitrate): SampledNitrate {
  const drained = drainedSince(plan, crop, nitrate.sampledToCm);
  if (!drained) return { nitrate, drained: null };
  const left = nitrate.soilNKgHa * (1 - drained.frac);
  return {
    drained: { ...drained, sampledKgHa: nitrate.soilNKgHa },
    nitrate: {
      ...nitrate,
      soilNKgHa: left,
      extrapolated: true,
      why: step('credit.soil_nitrate.winter', 'Soil nitrate after drainage', left, 'kg/ha', {
        formula: `sampled nitrate x (1 - ${drained.frac.toFixed(2)} leached): (D / (D + field capacity)) to the power of root depth less half the sampled depth`,
        source: 'chapter 1, C2 (after Burns 1976)',
        confidence: 'low',
        inputs: [nitrate.why, drained.why],
      }),
    },
  };
}
