import { clip } from '../quantity/curve';
import { refuse } from '../quantity/refusal';
import { RANGES, within } from '../quantity/range';
import { entered, step, type Step } from '../why/step';

/** A layer of the ground, as a profile has them: from 0 cm down, each on the next. */
export interface SoilLayer {
  topCm: number;
  bottomCm: number;
  bulkDensityGCm3?: number | null;
  stonesVolFrac?: number | null;
}
export interface NitrateLayer extends SoilLayer {
  no3nMgKg: number;
}
export interface SoilNitrateInput {
  rootDepthCm: number;
  layers: readonly NitrateLayer[];
  texture?: 'sand' | 'loam' | 'clay' | 'organic' | null;
  /** Estimate the nitrate of 30-60 cm from a shallow sample; on unless switched off. */
  extrapolate?: boolean | null;
  /**
   * Share of the nitrate that the crop can use: blueberry hardly takes it, paddy loses it on
   * flooding (C1 step 5).
   */
  usableFrac?: number | null;
}
export interface SoilNitrate {
  soilNKgHa: number;
  belowRootsKgHa: number;
  extrapolated: boolean;
  sampledToCm: number;
  note: string | null;
  why: Step;
}

/** Used when the laboratory gives none (chapter 1, section 2), g/cm3. */
export const BULK_DENSITY = { sand: 1.5, loam: 1.35, clay: 1.25, organic: 0.4 } as const;
/** @throws Refusal for a gap, an overlap, a wrong order, or a density or stones out of range */
export function checkLayers(layers: readonly SoilLayer[]): void {
  layers.forEach((l, i) => {
    const at = (f: string) => `layers[${i}].${f}`;
    within(at('top_cm'), l.topCm, RANGES.layerCm);
    within(at('bottom_cm'), l.bottomCm, RANGES.layerCm);
    if (l.bulkDensityGCm3 != null)
      within(at('bulk_density_g_cm3'), l.bulkDensityGCm3, RANGES.bulkDensityGCm3);
    if (l.stonesVolFrac != null)
      within(at('stones_vol_frac'), l.stonesVolFrac, RANGES.stonesVolFrac);
    const previous = layers[i - 1];
    if (l.bottomCm <= l.topCm || (previous ? previous.bottomCm !== l.topCm : l.topCm !== 0))
      refuse(
        'inconsistent',
        'layers',
        `layers: gap, overlap or wrong order at ${l.topCm}-${l.bottomCm} cm; layers must follow each other from 0 cm down.`,
        { value: `${l.topCm}-${l.bottomCm}` },
      );
  });
}
/** What a layer holds of something that was found in it, kg/ha (chapter 1, C1 step 1). */
export const layerKgHa = (l: SoilLayer, mgKg: number, density: number): number =>
  mgKg *
  (l.bulkDensityGCm3 ?? density) *
  (l.bottomCm - l.topCm) *
  0.1 *
  (1 - (l.stonesVolFrac ?? 0));

/**
 * Nitrate-N that the roots can reach (chapter 1, C1).
 *
 * @param i.layers from 0 cm down without gaps; nitrate-N in mg/kg (0 to 200)
 * @throws Refusal for a gap or overlap of layers, or a value out of range
 * @example creditSoilNitrate({ rootDepthCm: 90, layers: [{ topCm: 0, bottomCm: 30, no3nMgKg: 8 }]
 * }).soilNKgHa // 51.84, estimated to 60 cm
 */
export function creditSoilNitrate(i: SoilNitrateInput): SoilNitrate {
  within('root_depth_cm', i.rootDepthCm, { label: 'Root depth', unit: 'cm', min: 5, max: 300 });
  if (i.layers.length === 0)
    refuse('missing', 'layers', 'layers: give at least one layer with nitrate-N.');
  checkLayers(i.layers);
  i.layers.forEach((l, k) => within(`layers[${k}].no3n_mg_kg`, l.no3nMgKg, RANGES.no3nMgKg));
  const density = BULK_DENSITY[i.texture ?? 'loam'];
  const parts = i.layers.map((l) => {
    const thickness = l.bottomCm - l.topCm;
    const kg = layerKgHa(l, l.no3nMgKg, density);
    return { l, kg, reached: clip((i.rootDepthCm - l.topCm) / thickness, 0, 1) };
  });
  const sampledToCm = i.layers[i.layers.length - 1]?.bottomCm ?? 0;
  const inRoots = parts.reduce((sum, p) => sum + p.kg * p.reached, 0);
  const belowRoots = parts.reduce((sum, p) => sum + p.kg * (1 - p.reached), 0);
  const layerSteps = parts.map((p, k) =>
    step(`credit.soil_nitrate.layer${k}`, `${p.l.topCm}-${p.l.bottomCm} cm`, p.kg, 'kg/ha', {
      formula: 'nitrate-N x bulk density x thickness x 0.1 x (1 - stones)',
      inputs: [
        entered(`credit.soil_nitrate.layer${k}.no3n`, 'Nitrate-N', p.l.no3nMgKg, 'mg/kg'),
        step(
          `credit.soil_nitrate.layer${k}.density`,
          'Bulk density',
          p.l.bulkDensityGCm3 ?? density,
          'g/cm3',
          {
            source: p.l.bulkDensityGCm3 == null ? `default for ${i.texture ?? 'loam'}` : 'entered',
          },
        ),
      ],
    }),
  );
  const done = (
    soilNKgHa: number,
    extrapolated: boolean,
    note: string | null,
    belowRootsKgHa = belowRoots,
  ): SoilNitrate => ({
    soilNKgHa,
    belowRootsKgHa,
    extrapolated,
    sampledToCm,
    note,
    why: step('credit.soil_nitrate', 'Soil nitrate', soilNKgHa, 'kg/ha', {
      formula: extrapolated
        ? 'nitrate in the sampled layers x estimate for the soil below, to 60 cm'
        : 'sum of the layers within the root depth',
      inputs: layerSteps,
      source: 'chapter 1, C1',
      confidence: extrapolated ? 'low' : 'high',
      note: note ?? undefined,
    }),
  });
  if (sampledToCm < 25) return done(0, false, 'sampled too shallow: no credit', 0);
  const deepEnough = sampledToCm >= 60 || i.rootDepthCm < 60 || i.extrapolate === false;
  const factor = deepEnough ? 1 : 1 + 0.6 * Math.min(1, (60 - sampledToCm) / 30);
  const usable = i.usableFrac ?? 1;
  return done(
    inRoots * factor * usable,
    !deepEnough,
    !deepEnough
      ? `estimated deep nitrate: sampled to ${sampledToCm} cm only`
      : usable < 1
        ? `this crop can use ${usable * 100} % of its nitrate`
        : null,
  );
}

/**
 * Autumn nitrate left in spring after winter drainage (C2, after Burns 1975, 1976).
 *
 * @param i.theta volumetric water at field capacity (sand 0.14, loam 0.27, clay 0.36)
 * @example nitrateAfterWinter({ drainageMm: 200, theta: 0.27, lossDepthCm: 90, sampledDepthCm:
 * 60, soilNAutumnKgHa: 100 }).soilNSpringKgHa // 55.3
 */
export function nitrateAfterWinter(i: {
  drainageMm: number;
  theta: number;
  lossDepthCm: number;
  sampledDepthCm: number;
  soilNAutumnKgHa: number;
}): { leachedFrac: number; soilNSpringKgHa: number } {
  within('drainage_mm', i.drainageMm, RANGES.drainageMm);
  within('theta', i.theta, { label: 'Field capacity', unit: '', min: 0.05, max: 0.7 });
  within('soil_n_autumn_kg_ha', i.soilNAutumnKgHa, {
    label: 'Autumn nitrate',
    unit: 'kg/ha',
    min: 0,
    max: 1000,
  });
  if (i.lossDepthCm < i.sampledDepthCm)
    refuse(
      'inconsistent',
      'loss_depth_cm',
      `loss_depth_cm = ${i.lossDepthCm} is above the sampled depth ${i.sampledDepthCm} cm.`,
      { value: i.lossDepthCm },
    );
  const drainageCm = i.drainageMm / 10;
  const leachedFrac =
    drainageCm === 0
      ? 0
      : (drainageCm / (drainageCm + i.theta)) ** (i.lossDepthCm - i.sampledDepthCm / 2);
  return { leachedFrac, soilNSpringKgHa: i.soilNAutumnKgHa * (1 - leachedFrac) };
}
