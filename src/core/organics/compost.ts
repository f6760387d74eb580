import type { Book } from '../book/book';
import { refuse } from '../quantity/refusal';
import { RANGES, within } from '../quantity/range';
import { decompositionOf, mineralisationOf } from '../book/organicTables';
import { materialOf, type Material } from '../book/organicMaterials';

const span = (label: string, unit: string, min: number, max: number, above = false) => ({
  label,
  unit,
  min,
  max,
  above,
});

/**
 * What a compost will do to N (chapter 2, 9.1).
 *
 * @example compostRole({ cn: 10.5, nPctDm: 1.54, y1Adj: 0.14 }) // 'slow_feed'
 */
export function compostRole(i: {
  cn: number;
  nPctDm: number;
  y1Adj?: number | null;
}): 'tie_up' | 'neutral' | 'feed' | 'slow_feed' {
  const cn = within('cn', i.cn, span('C:N', '', 1, 500));
  const n = within('n_pct_dm', i.nPctDm, span('N of dry matter', '%', 0, 20));
  if (cn > 28) return 'tie_up';
  if (cn > 20) return 'neutral';
  return (cn <= 12 || (cn <= 15 && n >= 2.5)) && (i.y1Adj ?? 1) >= 0.2 ? 'feed' : 'slow_feed';
}

/**
 * Row of the decomposition table under which a material rots; a compost that its tests call
 * immature has one of its own.
 *
 * @example decompositionKind(materialOf(PRINTED, 'wood_chips')) // 'wood_chips_or_shavings'
 */
export const decompositionKind = (
  m: Pick<Material, 'decompositionKind'>,
  immature = false,
): string =>
  immature && m.decompositionKind === 'mature_compost' ? 'immature_compost' : m.decompositionKind;

/**
 * N that a carbon-rich material releases or ties up while it rots, kg/t (chapter 2, 9.1):
 * break-even at C:N 20. As a mulch only its contact layer takes N.
 *
 * @example releaseByCToN({ totalN: 5.5, cToN: 68, kind: 'cereal_straw' }) // -4.62
 */
export function releaseByCToN(i: {
  totalN: number;
  cToN: number;
  kind: string;
  nh4N?: number | null;
  no3N?: number | null;
  placement?: 'mixed' | 'surface' | null;
}): number {
  const d = decompositionOf(i.kind);
  const total = within('total_n', i.totalN, span('Total N', 'kg/t', 0, 250));
  const organic =
    total -
    within('nh4_n', i.nh4N ?? 0, span('Ammonium-N', 'kg/t', 0, 250)) -
    within('no3_n', i.no3N ?? 0, span('Nitrate-N', 'kg/t', 0, 250));
  const carbon = within('c_to_n', i.cToN, span('C:N', '', 1, 500)) * total;
  return (
    d.decomposedFirstSeasonFrac *
    (organic - (carbon * d.eFrac) / d.cnMicrobe) *
    (i.placement === 'surface' ? d.surfaceMulchFactor : d.mixedInSoilFactor)
  );
}

/**
 * Soluble N that goes on with a material so that it does not starve the crop, kg/ha; above 60
 * another way is better (9.1).
 */
export const preAmendKgHa = (netNKgT: number, rateTHa: number): number =>
  Math.max(0, -netNKgT) * rateTHa;

/**
 * Tonnes and nutrients of a layer (chapter 2, 9.2): two inches of compost a year is the commonest P
 * mistake of small farms.
 *
 * @example layerRate(PRINTED, { mm: 25, mat: 'compost_green_waste', pOfftake: 25
 * }).yearsOfPOfftake // 7.15
 */
export function layerRate(
  book: Book,
  i: {
    mm: number;
    mat: string;
    frac?: number | null;
    pOfftake?: number | null;
  },
): {
  rateTHa: number;
  nKgHa: number;
  pKgHa: number;
  kKgHa: number;
  yearsOfPOfftake: number | null;
} {
  const m = materialOf(book, i.mat);
  const rateTHa =
    ((within('mm', i.mm, span('Layer', 'mm', 0, 500, true)) * m.densityKgM3) / 100) *
    within('frac', i.frac ?? 1, { ...RANGES.share, label: 'Share of the field', above: true });
  const pKgHa = rateTHa * m.pKgT;
  return {
    rateTHa,
    nKgHa: rateTHa * m.totalNKgT,
    pKgHa,
    kKgHa: rateTHa * m.kKgT,
    yearsOfPOfftake:
      i.pOfftake == null || i.pOfftake === 0
        ? null
        : pKgHa / within('p_offtake', i.pOfftake, span('P off-take', 'kg/ha', 0, 120)),
  };
}

/**
 * Largest share of compost in the root zone that keeps its salt under a limit (chapter 2, 9.2).
 *
 * @example saltLimit({ limit: 2, ecSoil: 0.8, ecC: 9 }) // 0.146
 */
export function saltLimit(i: { limit: number; ecSoil: number; ecC: number }): number {
  const ec = (label: string) => span(label, 'dS/m', 0, 60);
  const [limit, soil, compost] = [
    within('limit', i.limit, ec('Salt limit')),
    within('ec_soil', i.ecSoil, ec('Salt of the soil')),
    within('ec_c', i.ecC, ec('Salt of the compost')),
  ];
  if (soil >= limit) return 0;
  return compost <= limit ? 1 : (limit - soil) / (compost - soil);
}

export interface RingInput {
  canopy: number;
  beyond: number;
  clear: number;
  /** N of one plant, g; available N of the material, kg/t. */
  nG: number;
  pan: number;
  density: number;
  treesHa: number;
  maxCm: number;
}
/**
 * Material for the ring of a tree or bush (chapter 2, section 10): from the clear ring round the
 * trunk to just beyond the drip line.
 *
 * @throws Refusal where the ring has no width, or the material gives no N (then it is a mulch)
 * @example ringRate({ canopy: 2.5, beyond: 0.5, clear: 0.6, nG: 180, pan: 1.8, density: 600,
 * treesHa: 400, maxCm: 5 }).materialKg // 100
 */
export function ringRate(i: RingInput): {
  areaM2: number;
  materialKg: number;
  layerCm: number;
  ok: boolean;
  tHa: number;
} {
  const metres = (label: string) => span(label, 'm', 0, 15);
  const outer =
    within('canopy', i.canopy, metres('Canopy radius')) +
    within('beyond', i.beyond, metres('Beyond the canopy'));
  const inner = within('clear', i.clear, metres('Clear of the trunk'));
  if (outer <= inner)
    refuse(
      'inconsistent',
      'ring',
      `ring: its outer edge, ${outer} m, does not lie beyond the clear ${inner} m.`,
      { value: outer, allowed: `more than ${inner} m` },
    );
  const pan = within('pan', i.pan, span('Available N', 'kg/t', -50, 250));
  if (pan <= 0)
    refuse(
      'inconsistent',
      'pan',
      'pan: this material gives no N this year; it is a mulch, not dosed by N.',
      { value: pan, allowed: 'above 0' },
    );
  const areaM2 = Math.PI * (outer ** 2 - inner ** 2);
  const materialKg = within('n_g', i.nG, span('N of a plant', 'g', 0, 5000)) / pan;
  const layerCm =
    (materialKg / (areaM2 * within('density', i.density, span('Density', 'kg/m3', 60, 1500)))) *
    100;
  return {
    areaM2,
    materialKg,
    layerCm,
    ok: layerCm <= within('max_cm', i.maxCm, span('Largest layer', 'cm', 0.5, 30)),
    tHa: (materialKg * within('trees_ha', i.treesHa, span('Plants', 'per ha', 1, 50_000))) / 1000,
  };
}

/**
 * Days from raw manure to the first harvest (chapter 2, 11.1; 7 CFR 205.203(c)): calendar days,
 * equal is enough.
 *
 * @example harvestInterval({ days: 119, contact: true }) // { needD: 120, ok: false }
 */
export function harvestInterval(i: { days: number; contact: boolean }): {
  needD: number;
  ok: boolean;
} {
  const days = within('days', i.days, span('Days to harvest', 'd', -400, 1000));
  const needD = i.contact ? 120 : 90;
  return { needD, ok: days >= needD };
}

/**
 * Metal that a rate brings, kg/ha (chapter 2, 11.3).
 *
 * @example metalLoad({ rate: 40, dmPct: 7, mgKgDm: 550 }) // 1.54
 */
export const metalLoad = (i: { rate: number; dmPct: number; mgKgDm: number }): number =>
  within('rate', i.rate, span('Rate', 't/ha', 0, 400)) *
  (within('dm_pct', i.dmPct, RANGES.dmPct) / 100) *
  within('mg_kg_dm', i.mgKgDm, span('Metal', 'mg/kg DM', 0, 100_000)) *
  0.001;

/**
 * N that equal yearly dressings release in a year, and the P that stays (chapter 2, 9.3).
 *
 * @example compostAccumulation({ rate: 30, orgN: 7.3, klass: 'compost_green', years: 6, pT: 1.3,
 * pOfftake: 22 }) // { nReleaseKgHa: 32.85, pStockKgHa: 102 }
 */
export function compostAccumulation(i: {
  rate: number;
  orgN: number;
  klass: string;
  years: number;
  pT: number;
  pOfftake: number;
}): { nReleaseKgHa: number; pStockKgHa: number } {
  const m = mineralisationOf(i.klass);
  const years = within('years', i.years, span('Years', 'years', 1, 50));
  const rate = within('rate', i.rate, span('Rate', 't/ha', 0, 400));
  const share = [m.y1Frac, m.y2Frac, m.y3Frac, m.y4Frac]
    .slice(0, Math.min(4, Math.floor(years)))
    .reduce((a, b) => a + b, 0);
  return {
    nReleaseKgHa: rate * within('org_n', i.orgN, span('Organic N', 'kg/t', 0, 250)) * share,
    pStockKgHa:
      years *
      (rate * within('p_t', i.pT, span('P', 'kg/t', 0, 200)) -
        within('p_offtake', i.pOfftake, span('P off-take', 'kg/ha', 0, 120))),
  };
}
