import type { Book } from '../book/book';
import { refuse } from '../quantity/refusal';
import { RANGES, within } from '../quantity/range';
import { cropOf, type SoilClass } from '../book/crops';
import { pkFactorOf } from '../book/budgetTables';
import { entered, fromTable, step, type Step } from '../why/step';
import { checkYield } from './requirement';

/** Share of the above-ground residue that a baler or chopper lifts. */
const LIFTED = 0.85;
/** What rain on lying straw leaves of its K. */
const K_LEFT_AFTER_RAIN = 0.6;

export interface OfftakeInput {
  cropKey: string;
  yieldTHa: number;
  strawRemovedFrac?: number | null;
  rainOver25mm?: boolean | null;
  pruningsTDmHa?: number | null;
}
export interface Offtake {
  offtakeNKgHa: number;
  offtakePKgHa: number;
  offtakeKKgHa: number;
  offtakeSKgHa: number;
}

/**
 * Nutrients that leave with the harvest, and with straw or prunings where they are carried off
 * (chapter 1, U5), kg/ha elemental.
 *
 * @throws Refusal for straw on a crop without a residue figure, or prunings on an annual
 * @example offtake(PRINTED, { cropKey: 'winter_wheat', yieldTHa: 7, strawRemovedFrac: 1
 * }).offtakeKKgHa // 86.04 kg K/ha
 */
export function offtake(book: Book, i: OfftakeInput): Offtake {
  const crop = cropOf(book, i.cropKey);
  checkYield(crop, i.yieldTHa, 'yield_t_ha', true);
  const straw = within('straw_removed_frac', i.strawRemovedFrac ?? 0, {
    ...RANGES.share,
    label: 'Straw removed',
  });
  const prunings = within('prunings_t_dm_ha', i.pruningsTDmHa ?? 0, {
    label: 'Prunings',
    unit: 't DM/ha',
    min: 0,
    max: 25,
  });
  if (straw > 0 && crop.residueDmTPerT === null)
    refuse(
      'inconsistent',
      'straw_removed_frac',
      `straw_removed_frac: ${crop.name} has no straw figure; give prunings_t_dm_ha that leave the field.`,
      { value: straw },
    );
  if (prunings > 0 && crop.residueDmTPerT !== null)
    refuse(
      'inconsistent',
      'prunings_t_dm_ha',
      `prunings_t_dm_ha: ${crop.name} is not pruned; give straw_removed_frac.`,
      { value: prunings },
    );
  const lifted = i.yieldTHa * (crop.residueDmTPerT ?? 0) * LIFTED * straw + prunings;
  const off = (removal: number, residue: number, left = 1): number =>
    i.yieldTHa * removal + lifted * residue * left;
  return {
    offtakeNKgHa: off(crop.removalNKgT, crop.residueNKgTDm),
    offtakePKgHa: off(crop.removalPKgT, crop.residuePKgTDm),
    // Rain washes K out of straw that lies; prunings are carried off as wood.
    offtakeKKgHa: off(
      crop.removalKKgT,
      crop.residueKKgTDm,
      i.rainOver25mm && crop.residueDmTPerT !== null ? K_LEFT_AFTER_RAIN : 1,
    ),
    offtakeSKgHa: off(crop.removalSKgT, crop.residueSKgTDm),
  };
}

/**
 * Ca and Mg that leave with the product, kg/ha: information only, their dose is decided by the soil
 * (chapter 1, section 7).
 *
 * @example secondaryOfftake(PRINTED, { cropKey: 'winter_wheat', yieldTHa: 8 }).mgKgHa // 8.8
 */
export function secondaryOfftake(
  book: Book,
  i: { cropKey: string; yieldTHa: number },
): {
  caKgHa: number;
  mgKgHa: number;
} {
  const crop = cropOf(book, i.cropKey);
  const y = checkYield(crop, i.yieldTHa, 'yield_t_ha', true);
  return { caKgHa: y * crop.removalCaKgT, mgKgHa: y * crop.removalMgKgT };
}

export interface Replacement {
  offtakeKgHa: number;
  reqKgHa: number;
  why: Step;
}

/**
 * P or K that replaces the off-take, more on a poor soil and nothing on a very rich one (chapter
 * 1, R8).
 *
 * @param i.soilClass class by the soil test; `unknown` replaces the off-take once, provisionally
 * @example pkReplacement(PRINTED, { cropKey: 'potato', yieldTHa: 45, nutrient: 'p', soilClass:
 * 'very_low' }).reqKgHa // 33.75 kg P/ha
 */
export function pkReplacement(
  book: Book,
  i: OfftakeInput & { nutrient: 'p' | 'k'; soilClass: SoilClass },
): Replacement {
  const crop = cropOf(book, i.cropKey);
  const all = offtake(book, i);
  const row = pkFactorOf(i.soilClass);
  const taken = i.nutrient === 'p' ? all.offtakePKgHa : all.offtakeKKgHa;
  const [factor, buildMax, perT] =
    i.nutrient === 'p'
      ? [row.pFactor, row.pBuildMaxKgHa, crop.removalPKgT]
      : [row.kFactor, row.kBuildMaxKgHa, crop.removalKKgT];
  const reqKgHa = Math.min(taken * factor, taken + buildMax);
  const symbol = i.nutrient.toUpperCase();
  const id = `requirement.${i.nutrient}`;
  return {
    offtakeKgHa: taken,
    reqKgHa,
    why: step(id, `${symbol} requirement`, reqKgHa, 'kg/ha', {
      school: 'replacement of off-take',
      source: row.source,
      confidence: i.soilClass === 'unknown' ? 'low' : row.confidence,
      formula: `off-take x factor of the class, at most off-take + ${buildMax} kg/ha`,
      note: `${row.meaning}. Build-and-maintain and sufficiency systems may differ.`,
      inputs: [
        step(`${id}.offtake`, 'Off-take', taken, 'kg/ha', {
          formula: `${symbol} per tonne x yield${(i.strawRemovedFrac ?? 0) > 0 ? ' + straw carried off' : ''}`,
          inputs: [
            fromTable(`${id}.per_t`, `${symbol} per tonne`, perT, 'kg/t', crop),
            entered(`${id}.yield`, 'Yield', i.yieldTHa, 't/ha'),
          ],
        }),
        fromTable(
          `${id}.factor`,
          `Factor at class ${i.soilClass.replace('_', ' ')}`,
          factor,
          '',
          row,
        ),
      ],
    }),
  };
}
