import {
  corrections,
  foliarProducts,
  type Correction,
  type FoliarProduct,
} from '../book/corrections';
import { tissueNutrientOf } from '../book/tissueNutrients';
import { dateAfter, type IsoDate } from '../quantity/calendar';
import { oneOf, within } from '../quantity/range';
import { refuse } from '../quantity/refusal';

// What helps a shortage: on the leaf this season, in the soil, or next year (chapter 5, section 13).

const KG = (label: string, max = 1000, above = false) => ({
  label,
  unit: 'kg/ha',
  min: 0,
  max,
  above,
});

/**
 * A nutrient in a crop of so much biomass (F13.1).
 *
 * @param i.conc % for N P K S Ca Mg Cl Na, mg/kg for the rest
 * @param i.biomassTHa 0.05 to 40 t DM/ha
 * @example nutrientLoad({ nutrient: 'K', conc: 1.9, biomassTHa: 7 }) // 133 kg/ha
 */
export function nutrientLoad(i: { nutrient: string; conc: number; biomassTHa: number }): number {
  const { coreUnit, refuseAbove } = tissueNutrientOf(i.nutrient);
  const conc = within('conc', i.conc, {
    label: 'Concentration',
    unit: coreUnit,
    min: 0,
    max: refuseAbove,
  });
  const biomass = within('biomass_t_ha', i.biomassTHa, {
    label: 'Biomass, dry',
    unit: 't/ha',
    min: 0.05,
    max: 40,
  });
  return coreUnit === '%' ? 10 * conc * biomass : (conc * biomass) / 1000;
}

/** The row of a spray salt for the element it is bought for, or for another that it holds. */
export function foliarProductOf(id: string, element?: string): FoliarProduct {
  const rows = foliarProducts().filter((r) => r.productId === id);
  return (
    rows.find((r) =>
      element === undefined ? r.isPrimaryElement === 'yes' : r.element === element,
    ) ??
    refuse(
      'unknown_id',
      'product_id',
      rows.length > 0
        ? `${id} holds no ${element ?? ''}.`
        : `product_id = ${id} is not known: use one of ${[...new Set(foliarProducts().map((r) => r.productId))].join(', ')}.`,
      { value: id },
    )
  );
}
/**
 * Product and strength of a spray (F13.2).
 *
 * @param i.maxConcentrationPct of the crop's own row; left out: the product's general one
 * @throws Refusal for an unknown product or a figure out of range
 * @example foliarMix({ rateKgHa: 0.8, productId: 'mnso4_1', waterLHa: 200, maxConcentrationPct: 1.5
 * }).concentrationPct // 1.2304
 */
export function foliarMix(i: {
  rateKgHa: number;
  productId: string;
  waterLHa: number;
  maxConcentrationPct?: number | null;
}): { productKgHa: number; concentrationPct: number; ok: boolean; minWaterLHa: number | null } {
  const product = foliarProductOf(i.productId);
  const water = within('water_l_ha', i.waterLHa, {
    label: 'Water',
    unit: 'L/ha',
    min: 10,
    max: 5000,
  });
  const productKgHa =
    within('rate_kg_ha', i.rateKgHa, KG('Rate of the element', 100, true)) /
    product.elementFraction;
  const max =
    i.maxConcentrationPct == null
      ? product.maxConcentrationPctWVGeneral
      : within('max_concentration_pct', i.maxConcentrationPct, {
          label: 'Strongest spray',
          unit: '%',
          min: 0,
          max: 60,
          above: true,
        });
  const concentrationPct = (100 * productKgHa) / water;
  return {
    productKgHa,
    concentrationPct,
    ok: max === null || concentrationPct <= max,
    minWaterLHa: max === null ? null : (100 * productKgHa) / max,
  };
}

const DEFAULT_EFFICIENCY = 0.6;
/**
 * Share of a crop's need that sprays on the leaf bring, % (F13.3).
 *
 * @example foliarShare({ rateKgHa: 2, nSprays: 2, efficiency: 0.6, cropNeedKgHa: 90 }) // 2.667
 */
export const foliarShare = (i: {
  rateKgHa: number;
  nSprays: number;
  efficiency?: number | null;
  cropNeedKgHa: number;
}): number =>
  (100 *
    within('rate_kg_ha', i.rateKgHa, KG('Rate of the element', 100)) *
    within('n_sprays', i.nSprays, { label: 'Sprays', unit: '', min: 1, max: 20 }) *
    within('efficiency', i.efficiency ?? DEFAULT_EFFICIENCY, {
      label: 'Taken up',
      unit: '',
      min: 0.05,
      max: 1,
    })) /
  within('crop_need_kg_ha', i.cropNeedKgHa, KG('Need of the crop', 1000, true));

/**
 * N that a crop short of it may still be given (F7.5); subject to window, law and water.
 *
 * @example nutritionDose({ gap: 30, expectedCriticalUptake: 55, expectedSupply: 35, recovery: 0.6 })
 * // 83.33 kg/ha
 */
export const nutritionDose = (i: {
  gap: number;
  expectedCriticalUptake: number;
  expectedSupply: number;
  recovery?: number | null;
}): number =>
  Math.max(
    0,
    within('gap', i.gap, { ...KG('N the crop is short of', 400), min: -400 }) +
      within(
        'expected_critical_uptake',
        i.expectedCriticalUptake,
        KG('Uptake still to come', 400),
      ) -
      within('expected_supply', i.expectedSupply, KG('Supply of the soil', 400)),
  ) /
  within('recovery', i.recovery ?? DEFAULT_EFFICIENCY, {
    label: 'Recovery',
    unit: '',
    min: 0.4,
    max: 0.8,
  });

const WAYS = ['foliar', 'fertigation', 'top_dress', 'sap', 'soil'] as const;
export type CorrectionWay = (typeof WAYS)[number];
const QUICK_ON_LEAF = new Set(['Mn', 'Fe']);
/**
 * When to sample again, and where (F13.5): leaves that grew after the spray. A correction of the
 * soil is seen in the same window of the next year.
 *
 * @example retest({ nutrient: 'Mn', method: 'foliar', sprayDate: '2024-05-10' }).retestDate
 * // '2024-05-20'
 */
export function retest(i: { nutrient: string; method: string; sprayDate: IsoDate }): {
  days: number | null;
  retestDate: IsoDate | null;
} {
  tissueNutrientOf(i.nutrient);
  const way = oneOf('method', i.method, WAYS);
  const days = {
    foliar: QUICK_ON_LEAF.has(i.nutrient) ? 10 : 14,
    fertigation: 10,
    top_dress: 14,
    sap: 7,
    soil: null,
  }[way];
  return { days, retestDate: days === null ? null : dateAfter(i.sprayDate, days) };
}

const named = (r: Correction): string[] => r.crops.split(',').map((x) => x.trim());
/** Rows for a nutrient in a crop: those that name it, else those of its kind, else of any crop. */
export function correctionsOf(nutrient: string, crop: string, perennial: boolean): Correction[] {
  const rows = corrections().filter((r) => r.nutrient === nutrient);
  const own = rows.filter((r) => r.serves === 'named' && named(r).includes(crop));
  if (own.length > 0) return own;
  const kind = rows.filter((r) => r.serves === (perennial ? 'perennial' : 'annual'));
  return kind.length > 0 ? kind : rows.filter((r) => r.serves === 'any');
}
export interface FoundCorrection {
  row: Correction;
  /** Of the leaf: open now, still to come, past for this season, or no use at all. */
  window: 'open' | 'to_come' | 'past' | 'no_use';
}
/**
 * The row that holds at a stage: the open one, else the next to open, else the last that was.
 * Undefined where no row serves the crop.
 *
 * @example correctionAt({ nutrient: 'B', crop: 'apple', perennial: true, bbch: 60 })?.row.correctionId
 * // 'C_B_POME_BLOOM'
 */
export function correctionAt(i: {
  nutrient: string;
  crop: string;
  perennial: boolean;
  bbch: number;
}): FoundCorrection | undefined {
  const rows = correctionsOf(i.nutrient, i.crop, i.perennial);
  const windowed = rows
    .filter((r) => r.foliarWorks !== 'no' && r.windowBbchFrom !== null)
    .toSorted((a, b) => (a.windowBbchFrom ?? 0) - (b.windowBbchFrom ?? 0));
  const first = rows[0];
  if (!first) return undefined;
  if (windowed.length === 0) return { row: first, window: 'no_use' };
  const open = windowed.find(
    (r) => i.bbch >= (r.windowBbchFrom ?? 0) && i.bbch <= (r.windowBbchTo ?? 99),
  );
  if (open) return { row: open, window: 'open' };
  const next = windowed.find((r) => (r.windowBbchFrom ?? 0) > i.bbch);
  return next
    ? { row: next, window: 'to_come' }
    : { row: windowed.at(-1) as Correction, window: 'past' };
}
