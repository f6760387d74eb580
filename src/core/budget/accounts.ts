import type { Book } from '../book/book';
import { clip } from '../quantity/curve';
import { refuse } from '../quantity/refusal';
import { RANGES, within } from '../quantity/range';
import { cropOf } from '../book/crops';
import { checkYield } from './requirement';

const KG = (label: string, max = 3000) => ({ label, unit: 'kg/ha', min: 0, max });
/**
 * All N of the heaviest dressing that a plan can hold, of the richest material, is still told as
 * it is.
 */
const ALL_N_MAX = 200_000;
/**
 * N that a legume takes from the air in a season, tops and roots, kg/ha (chapter 1, C7): of a
 * mixture by its share of legume. 0 for a crop that fixes none.
 *
 * @param i.ndfaPct share of its N from the air, %; the crop's own where it is not given
 * @example fixedFromAir(PRINTED, { cropKey: 'soybean', yieldTHa: 3 }) // 194.5
 */
export function fixedFromAir(
  book: Book,
  i: {
    cropKey: string;
    yieldTHa: number;
    ndfaPct?: number | null;
    legumeShare?: number | null;
  },
): number {
  const crop = cropOf(book, i.cropKey);
  if (crop.nFixing === 'none') return 0;
  const y = checkYield(crop, i.yieldTHa, 'yield_t_ha', true);
  const share =
    crop.nFixing === 'mixed_ley'
      ? within('legume_share', i.legumeShare ?? 0, { ...RANGES.share, label: 'Legume share' })
      : 1;
  return (
    ((y *
      crop.uptakeNKgT *
      within('ndfa_pct', i.ndfaPct ?? crop.ndfaDefaultPct, {
        ...RANGES.pctOf,
        label: 'N from the air',
      })) /
      100) *
    (1 + crop.belowGroundNFrac) *
    share
  );
}

/**
 * What a grain legume fixes against what leaves with the seed (chapter 1, C7): for information; a
 * negative net means the seed took more.
 *
 * @example grainLegumeBalance(PRINTED, { cropKey: 'soybean', yieldTHa: 3.2 }).netKgHa // 34.6
 */
export function grainLegumeBalance(
  book: Book,
  i: {
    cropKey: string;
    yieldTHa: number;
    ndfaPct?: number | null;
  },
): { fixedTotalKgHa: number; grainNKgHa: number; netKgHa: number } {
  const crop = cropOf(book, i.cropKey);
  if (crop.nFixing !== 'grain_legume' && crop.nFixing !== 'weak_fixer')
    refuse('inconsistent', 'crop_key', `crop_key: ${crop.name} is no grain legume.`, {
      value: i.cropKey,
    });
  const y = checkYield(crop, i.yieldTHa, 'yield_t_ha');
  const fixedTotalKgHa = fixedFromAir(book, { cropKey: crop.key, yieldTHa: y, ndfaPct: i.ndfaPct });
  const grainNKgHa = y * crop.removalNKgT;
  return { fixedTotalKgHa, grainNKgHa, netKgHa: fixedTotalKgHa - grainNKgHa };
}

/** Nitrate-N in 0-30 cm above which sidedressing gives nothing, mg/kg (chapter 1, C11). */
const SIDEDRESS_CRITICAL = 25;
const KG_PER_MG_KG = 9;
const SIDEDRESS_MOST_KG_HA = 180;
/**
 * Sidedress N by the nitrate test of the young crop (chapter 1, C11): it holds what organic matter,
 * legumes and manure have given, so none of them is credited beside it.
 *
 * @example sidedressNitrateTest({ no3nMgKg: 14 }).sidedressKgHa // 99
 */
export function sidedressNitrateTest(i: { no3nMgKg: number; criticalMgKg?: number | null }): {
  sidedressKgHa: number;
} {
  const critical = within('critical_mg_kg', i.criticalMgKg ?? SIDEDRESS_CRITICAL, {
    label: 'Critical nitrate',
    unit: 'mg/kg',
    min: 10,
    max: 40,
  });
  return {
    sidedressKgHa: clip(
      (critical - within('no3n_mg_kg', i.no3nMgKg, RANGES.no3nMgKg)) * KG_PER_MG_KG,
      0,
      SIDEDRESS_MOST_KG_HA,
    ),
  };
}

/**
 * P and K that years of hay took away (chapter 1, X1): the class of an old test is doubted by one
 * step or two.
 *
 * @param i.yieldsTHa yield of each year, t/ha
 * @example forageMining(PRINTED, { cropKey: 'alfalfa', yieldsTHa: [8, 9, 9, 8], returnedKKgHa:
 * 100 }).netKKgHa // 546
 */
export function forageMining(
  book: Book,
  i: {
    cropKey: string;
    yieldsTHa: readonly number[];
    returnedPKgHa?: number | null;
    returnedKKgHa?: number | null;
  },
) {
  const crop = cropOf(book, i.cropKey);
  const total = i.yieldsTHa.reduce((sum, y) => sum + checkYield(crop, y, 'yields_t_ha', true), 0);
  const [exportPKgHa, exportKKgHa] = [total * crop.removalPKgT, total * crop.removalKKgT];
  const [returnedP, returnedK] = [
    within('returned_p_kg_ha', i.returnedPKgHa ?? 0, KG('P returned')),
    within('returned_k_kg_ha', i.returnedKKgHa ?? 0, KG('K returned')),
  ];
  const [netPKgHa, netKKgHa] = [exportPKgHa - returnedP, exportKKgHa - returnedK];
  const drop = (net: number, one: number, two: number) => (net > two ? 2 : net > one ? 1 : 0);
  return {
    exportPKgHa,
    netPKgHa,
    exportKKgHa,
    netKKgHa,
    dropPClasses: drop(netPKgHa, 60, 120),
    dropKClasses: drop(netKKgHa, 300, 600),
    cautionX01:
      i.yieldsTHa.length >= 3 && (returnedP < 0.5 * exportPKgHa || returnedK < 0.5 * exportKKgHa),
  };
}

/**
 * N that came in and N that left with the harvest (chapter 1, E1). Soil N is a stock, not an input.
 *
 * @param i.inputs kg N/ha by source, manure as total N
 * @example nitrogenUse({ inputs: { fertiliser: 120, manureTotalN: 60, deposition: 10 }, nOutKgHa:
 * 133 }).nuePct // 70
 */
export function nitrogenUse(i: { inputs: Record<string, number>; nOutKgHa: number }): {
  nInKgHa: number;
  nuePct: number | null;
  nSurplusKgHa: number;
  reading: 'undefined' | 'low' | 'normal' | 'mining';
} {
  const nInKgHa = Object.entries(i.inputs).reduce(
    (sum, [k, v]) => sum + within(k, v, KG(`N of ${k}`, ALL_N_MAX)),
    0,
  );
  const out = within('n_out_kg_ha', i.nOutKgHa, KG('N carried off', ALL_N_MAX));
  const nuePct = nInKgHa > 0 ? (100 * out) / nInKgHa : null;
  return {
    nInKgHa,
    nuePct,
    nSurplusKgHa: nInKgHa - out,
    reading:
      nuePct === null ? 'undefined' : nuePct < 50 ? 'low' : nuePct <= 90 ? 'normal' : 'mining',
  };
}
