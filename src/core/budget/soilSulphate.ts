import { refuse } from '../quantity/refusal';
import { RANGES, within } from '../quantity/range';
import { entered, step, type Step } from '../why/step';
import { BULK_DENSITY, checkLayers, layerKgHa, type SoilLayer } from './soilNitrate';

const TO_CM = 60;
/** Half of it: patchy, and the roots meet only some of it (chapter 1, S1). */
const COUNTED = 0.5;
const CAP_KG_HA = 25;

export interface SulphateLayer extends SoilLayer {
  so4sMgKg: number;
}
export interface SoilSulphate {
  /** What 0 to 60 cm hold, kg S/ha, before anything is taken off. */
  soilSKgHa: number;
  creditKgHa: number;
  sampledToCm: number;
  why: Step;
}

/**
 * Sulphate-S that a profile gives the crop (chapter 1, S1): half of what 0 to 60 cm hold, after what
 * drained since, 25 kg S/ha at most. Nothing is estimated below the sampled layers.
 *
 * @param i.layers from 0 cm down without gaps; sulphate-S in mg/kg (0 to 1000)
 * @param i.leachedFrac share lost to drainage since the sample (0 to 1)
 * @throws Refusal for a gap or overlap of layers, or a value out of range
 * @example creditSoilSulphate({ layers: [{ topCm: 0, bottomCm: 30, so4sMgKg: 6 }] }).creditKgHa //
 * 12.15
 */
export function creditSoilSulphate(i: {
  layers: readonly SulphateLayer[];
  texture?: keyof typeof BULK_DENSITY | null;
  leachedFrac?: number | null;
}): SoilSulphate {
  if (i.layers.length === 0)
    refuse('missing', 'layers', 'layers: give at least one layer with sulphate-S.');
  checkLayers(i.layers);
  i.layers.forEach((l, k) => within(`layers[${k}].so4s_mg_kg`, l.so4sMgKg, RANGES.so4sMgKg));
  const leached = within('leached_frac', i.leachedFrac ?? 0, {
    ...RANGES.share,
    label: 'Share drained',
  });
  const density = BULK_DENSITY[i.texture ?? 'loam'];
  const parts = i.layers.map((l) => ({
    l,
    kg:
      layerKgHa(l, l.so4sMgKg, density) *
      Math.min(1, Math.max(0, (TO_CM - l.topCm) / (l.bottomCm - l.topCm))),
  }));
  const soilSKgHa = parts.reduce((sum, p) => sum + p.kg, 0);
  const creditKgHa = Math.min(CAP_KG_HA, soilSKgHa * (1 - leached) * COUNTED);
  return {
    soilSKgHa,
    creditKgHa,
    sampledToCm: i.layers[i.layers.length - 1]?.bottomCm ?? 0,
    why: step('credit.soil_sulphate', 'Soil sulphate', creditKgHa, 'kg/ha', {
      formula: `sulphate-S of 0-${TO_CM} cm x (1 - ${leached.toFixed(2)} drained) x ${COUNTED}, at most ${CAP_KG_HA}`,
      source: 'chapter 1, S1',
      confidence: 'low',
      inputs: parts.map((p, k) =>
        step(`credit.soil_sulphate.layer${k}`, `${p.l.topCm}-${p.l.bottomCm} cm`, p.kg, 'kg/ha', {
          formula: 'sulphate-S x bulk density x thickness x 0.1 x (1 - stones)',
          inputs: [
            entered(`credit.soil_sulphate.layer${k}.so4s`, 'Sulphate-S', p.l.so4sMgKg, 'mg/kg'),
          ],
        }),
      ),
    }),
  };
}
