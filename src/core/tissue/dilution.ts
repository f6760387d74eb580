import type { z } from 'zod';
import type { dilutionCurveRow } from '../book/rows';
import { byKey, lazily, rowsOf } from '../book/table';
import curveFile from '../book/tables/dilution_curves.json';
import { within } from '../quantity/range';
import { refuse } from '../quantity/refusal';

// The N that a crop of so much biomass needs in it (chapter 5, section 7).

export type DilutionCurve = z.infer<typeof dilutionCurveRow>;
const curves = lazily(() => byKey(rowsOf<DilutionCurve>(curveFile), (r) => r.curveId));
/** Short names of the crops whose curves are asked for most. */
const SHORT: Readonly<Record<string, string>> = {
  wheat: 'NC_WHEAT_W',
  maize: 'NC_MAIZE',
  oilseed_rape: 'NC_OSR',
  c3: 'NC_GENERIC_C3',
  c4: 'NC_GENERIC_C4',
};
const dilutionCurveOf = (id: string): DilutionCurve =>
  curves().get(SHORT[id] ?? id) ??
  refuse(
    'unknown_id',
    'curve',
    `curve = ${id} is not known: use one of ${[...Object.keys(SHORT), ...curves().keys()].join(', ')}.`,
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
}
/**
 * How well a crop is fed with N, by its biomass and its N (chapter 5, F7.1, F7.2, F7.4).
 *
 * @param i.biomassTHa above-ground dry matter, 0.1 to 60 t/ha
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
    min: 0.1,
    max: 60,
  });
  const n = within('n_pct', i.nPct, { label: 'N in it', unit: '%', min: 0.1, max: 10 });
  const criticalNPct =
    w <= curve.wMinTHa
      ? curve.ncPlateauPct
      : Math.min(curve.ncPlateauPct, curve.aNPct * w ** -curve.b);
  return {
    criticalNPct,
    nni: n / criticalNPct,
    deficitKgHa: (criticalNPct - n) * w * 10,
    validity:
      w < curve.wMinTHa ? 'too_little_biomass' : w > curve.wMaxTHa ? 'beyond_the_curve' : 'inside',
  };
}
