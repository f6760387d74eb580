import { RANGES, within } from '../quantity/range';
import { groundParameter } from '../book/sampling';
import { entered, fromTable, step, type Step } from '../why/step';

/** Depth that all lime requirement formulas of chapter 3 refer to, cm (6.1 step 3). */
export const REFERENCE_DEPTH_CM = 20;

/**
 * Mass of a layer of soil, kg/ha (chapter 3, section 3 step 1).
 *
 * @param i.bulkDensityGCm3 default 1.30; peat 0.25-0.5
 * @example soilMass({ bulkDensityGCm3: 1.3, depthCm: 20 }).kgHa // 2,600,000 kg/ha
 */
export function soilMass(i: { bulkDensityGCm3?: number | null; depthCm?: number | null } = {}): {
  kgHa: number;
  why: Step;
} {
  const density = groundParameter('bulk_density_g_cm3');
  const bd = i.bulkDensityGCm3 ?? density.default;
  const depth = i.depthCm ?? REFERENCE_DEPTH_CM;
  within('bd', bd, RANGES.bulkDensityGCm3);
  within('depth', depth, RANGES.sampleDepthCm);
  const kgHa = bd * depth * 100_000;
  return {
    kgHa,
    why: step('lime.soil_mass', 'Soil in the layer', kgHa, 'kg/ha', {
      formula: 'bulk density x depth x 100 000',
      inputs: [
        i.bulkDensityGCm3 == null
          ? fromTable('lime.bulk_density', 'Bulk density, assumed', bd, 'g/cm3', density)
          : entered('lime.bulk_density', 'Bulk density', bd, 'g/cm3'),
        entered('lime.depth', 'Depth', depth, 'cm'),
      ],
    }),
  };
}
