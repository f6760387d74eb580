import type { z } from 'zod';
import type { dilutionCurveRow } from '../book/tissueRows';
import { byKey, lazily, rowsOf } from '../book/table';
import curveFile from '../book/tables/dilution_curves.json';
import { within } from '../quantity/range';
import { refuse } from '../quantity/refusal';

// The N that a crop of so much biomass needs in it (chapter 5, section 7).

export type DilutionCurve = z.infer<typeof dilutionCurveRow>;
const curves = lazily(() => byKey(rowsOf<DilutionCurve>(curveFile), (r) => r.curveId));
/** All curves, and the one of a crop of the leaf ranges. */
export const dilutionCurves = (): DilutionCurve[] => [...curves().values()];
export const curveOfCrop = (tissueCrop: string): DilutionCurve | undefined =>
  dilutionCurves().find((c) => c.tissueCrop === tissueCrop);
const dilutionCurveOf = (id: string): DilutionCurve =>
  curves().get(id) ??
  dilutionCurves().find((c) => c.alias === id) ??
  refuse(
    'unknown_id',
    'curve',
    `curve = ${id} is not known: use one of ${dilutionCurves()
      .flatMap((c) => [...(c.alias === null ? [] : [c.alias]), c.curveId])
      .join(', ')}.`,
    { value: id },
  );

export interface NutritionIndex {
  /** N that the crop needs in it for full growth, % of dry matter. */
  criticalNPct: number;
  nni: number;
  /** N that the crop itself is short of today, kg/ha; below 0 it has more. */
  deficitKgHa: number;
  /** Whether the biomass lies where the curve was measured. */
  validity: 'inside' | 'too_little_biomass' | 'beyond_the_curve';
  cls: NutritionClass;
  /** N in the crop, and what would be in it fully fed, kg/ha. */
  uptakeKgHa: number;
  criticalUptakeKgHa: number;
}
export type NutritionClass = 'severe' | 'short' | 'near_optimal' | 'ample' | 'luxury';
const classOf = (nni: number): NutritionClass =>
  nni < 0.75
    ? 'severe'
    : nni < 0.9
      ? 'short'
      : nni <= 1.1
        ? 'near_optimal'
        : nni <= 1.3
          ? 'ample'
          : 'luxury';
/**
 * How well a crop is fed with N, by its biomass and its N (chapter 5, F7.1 to F7.4).
 *
 * @param i.biomassTHa above-ground dry matter, 0.05 to 40 t/ha
 * @param i.nPct N in it, 0.1 to 10 %
 * @throws Refusal for an unknown curve or a figure out of range
 * @example nutritionIndex({ curve: 'wheat', biomassTHa: 4, nPct: 2.4 }).nni // 0.8279
 */
export function nutritionIndex(i: {
  curve: string;
  biomassTHa: number;
  nPct: number;
}): NutritionIndex {
  const curve = dilutionCurveOf(i.curve);
  const w = within('biomass_t_ha', i.biomassTHa, {
    label: 'Biomass, dry',
    unit: 't/ha',
    min: 0.05,
    max: 40,
  });
  const n = within('n_pct', i.nPct, { label: 'N in it', unit: '%', min: 0.1, max: 10 });
  const criticalNPct =
    w <= curve.wMinTHa
      ? curve.ncPlateauPct
      : Math.min(curve.ncPlateauPct, curve.aNPct * w ** -curve.b);
  const nni = n / criticalNPct;
  return {
    criticalNPct,
    nni,
    cls: classOf(nni),
    uptakeKgHa: 10 * w * n,
    criticalUptakeKgHa: 10 * w * criticalNPct,
    deficitKgHa: (criticalNPct - n) * w * 10,
    validity:
      w < curve.wMinTHa ? 'too_little_biomass' : w > curve.wMaxTHa ? 'beyond_the_curve' : 'inside',
  };
}
