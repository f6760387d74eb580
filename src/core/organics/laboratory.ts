import { elementShare, type NamedForm } from '../quantity/forms';
import { refuse } from '../quantity/refusal';
import { within } from '../quantity/range';
import { isLiquid } from '../book/organicMaterials';
import { dmLimitOf, organicsParameter } from '../book/organicTables';

/** Factors to kg/t or kg/m3 (chapter 2, 3.1). */
const UNIT = {
  kg_t: { factor: 1, perVolume: false },
  g_kg: { factor: 1, perVolume: false },
  pct: { factor: 10, perVolume: false },
  mg_kg: { factor: 0.001, perVolume: false },
  lb_ton: { factor: 0.5, perVolume: false },
  kg_m3: { factor: 1, perVolume: true },
  g_l: { factor: 1, perVolume: true },
  mg_l: { factor: 0.001, perVolume: true },
  lb_1000gal: { factor: 0.1198264, perVolume: true },
  lb_1000impgal: { factor: 0.0997764, perVolume: true },
  lb_acin: { factor: 0.0044128, perVolume: true },
} as const;
export type LabUnit = keyof typeof UNIT;
const LAB_UNITS = Object.keys(UNIT) as LabUnit[];
const OXIDE = {
  P: 'p2o5',
  K: 'k2o',
  S: 'so3',
  Mg: 'mgo',
  Ca: 'cao',
  SO4: 'so4',
  NH4: 'nh4',
  NH3: 'nh3',
  NO3: 'no3',
} as const satisfies Record<string, NamedForm>;

const unitOf = (unit: string): LabUnit =>
  LAB_UNITS.find((u) => u === unit) ??
  refuse(
    'unknown_id',
    'unit',
    `unit ${unit} is not known on a manure report: use one of ${LAB_UNITS.join(', ')}.`,
    { value: unit, allowed: LAB_UNITS.join(', ') },
  );
const positive = (field: string, label: string, unit: string, max: number) => (v: unknown) =>
  within(field, v, { label, unit, min: 0, max, above: true });

export interface LabFigure {
  value: number;
  unit: string;
  basis?: string | null;
  dmPct?: number | null;
  densityKgM3?: number | null;
  oxideOf?: string | null;
}

/**
 * A laboratory figure as kg of element per tonne as received (chapter 2, 3.1): form, unit, volume,
 * basis, in that order.
 *
 * @throws Refusal M10 for a dry basis with a per-volume unit; unknown unit; negative value; a
 * volume without density
 * @example labToKgT({ value: 48, unit: 'lb_1000gal', densityKgM3: 1015 }) // 5.667 kg/t
 */
export function labToKgT(i: LabFigure): number {
  const value = within('value', i.value, { label: 'Laboratory value', unit: '', min: 0, max: 1e6 });
  const { factor, perVolume } = UNIT[unitOf(i.unit)];
  const dry = i.basis === 'dry';
  if (i.basis && !['dry', 'as_received'].includes(i.basis))
    refuse('unknown_id', 'basis', `basis = ${i.basis} is not known: use as_received or dry.`, {
      value: i.basis,
    });
  if (dry && perVolume)
    refuse(
      'inconsistent',
      'basis',
      'M10: values per volume are always as received. Choose as-received, or a mass unit.',
      { value: i.basis, rule: 'M10' },
    );
  const form = i.oxideOf
    ? (OXIDE[i.oxideOf as keyof typeof OXIDE] ??
      refuse(
        'unknown_id',
        'oxide_of',
        `oxide_of = ${i.oxideOf} is not known: use one of ${Object.keys(OXIDE).join(', ')}.`,
        { value: i.oxideOf },
      ))
    : null;
  const perTonne =
    (value * (form === null ? 1 : elementShare(form)) * factor) /
    (perVolume ? positive('density_kg_m3', 'Density', 'kg/m3', 1500)(i.densityKgM3) / 1000 : 1);
  return dry ? (perTonne * positive('dm_pct', 'Dry matter', '%', 100)(i.dmPct)) / 100 : perTonne;
}

export interface LabSheet {
  totalN: number;
  nh4?: number | null;
  no3?: number | null;
  p?: number | null;
  k?: number | null;
  s?: number | null;
  ca?: number | null;
  mg?: number | null;
  dmPct: number;
  form: string;
}

/**
 * Ids of the sanity rules that a report breaks (chapter 2, 3.2): M03 ammonium above total N, M04
 * mineral N above total N, M05 and M06 dry
 * matter, M09 more nutrients than dry matter.
 *
 * @example labCheck({ totalN: 2.6, nh4: 3.1, no3: 0, dmPct: 6, form: 'slurry' }) // ['M03']
 */
export function labCheck(i: LabSheet): string[] {
  const nh4 = i.nh4 ?? 0;
  const limit = dmLimitOf(i.form);
  const ids: string[] = [];
  if (nh4 > i.totalN * 1.02) ids.push('M03');
  else if (nh4 + (i.no3 ?? 0) > i.totalN * 1.02) ids.push('M04');
  if (i.dmPct < limit.refuseBelowDmPct || i.dmPct > limit.refuseAboveDmPct) ids.push('M05');
  else if (i.dmPct < limit.warnBelowDmPct || i.dmPct > limit.warnAboveDmPct) ids.push('M06');
  const mineral = i.form === 'granule' || i.form === 'powder';
  if (
    !mineral &&
    i.totalN + (i.p ?? 0) + (i.k ?? 0) + (i.s ?? 0) + (i.ca ?? 0) + (i.mg ?? 0) > 0.9 * i.dmPct * 10
  )
    ids.push('M09');
  return ids;
}

/**
 * Geometric median of the ratios laboratory : book.
 *
 * @example ratioMedian({ xs: [8.1, 8.4, 8.9] }) // 8.4
 */
export function ratioMedian({ xs }: { xs: readonly number[] }): number {
  if (xs.length === 0) refuse('missing', 'xs', 'xs: give at least one ratio.');
  const logs = xs
    .map((x, k) => Math.log(positive(`xs[${k}]`, 'Ratio', '', 1e6)(x)))
    .sort((a, b) => a - b);
  const mid = Math.floor(logs.length / 2);
  return Math.exp(
    logs.length % 2
      ? (logs[mid] as number)
      : ((logs[mid - 1] as number) + (logs[mid] as number)) / 2,
  );
}

const FITS_WITHIN = Math.log(1.35);
const TIED_WITHIN = 0.05;

/**
 * The single slip of unit or basis that best explains why a report is so far from the book (rule
 * M07), or null within natural variation.
 *
 * @example unitSuspect({ rMed: 8.4, dmPct: 6, unit: 'kg_m3', basis: 'as_received', form: 'slurry'
 * }) // ['lb_1000gal']
 */
export function unitSuspect(i: {
  rMed: number;
  dmPct: number;
  unit: string;
  basis: string;
  form: string;
}): string[] | null {
  if (i.rMed >= 0.4 && i.rMed <= 2.5) return null;
  const entered = UNIT[unitOf(i.unit)];
  const possible = LAB_UNITS.filter(
    (u) => isLiquid({ physicalForm: i.form }) || !UNIT[u].perVolume,
  );
  const distinct = possible.filter(
    (u, k) =>
      UNIT[u].factor !== entered.factor &&
      possible.findIndex((v) => UNIT[v].factor === UNIT[u].factor) === k,
  );
  const slips = distinct.map((u) => ({
    name: u as string,
    factor: entered.factor / UNIT[u].factor,
  }));
  if (i.basis === 'as_received' && 100 / i.dmPct > 1.5)
    slips.push({ name: 'sheet_was_dry_basis', factor: 100 / i.dmPct });
  if (i.basis === 'dry') slips.push({ name: 'sheet_was_as_received', factor: i.dmPct / 100 });
  const ranked = slips
    .map((s) => ({ ...s, off: Math.abs(Math.log(i.rMed / s.factor)) }))
    .sort((a, b) => a.off - b.off);
  const [best, next] = ranked;
  if (!best || best.off >= FITS_WITHIN) return ['unexplained'];
  return next && next.off < FITS_WITHIN && next.off - best.off <= TIED_WITHIN
    ? [best.name, next.name]
    : [best.name];
}

/**
 * Whether P (and K) look like oxides read as elements (M08), or the reverse.
 *
 * @example oxideSuspect({ rn: 1, rp: 2.25, rk: 1.22 }) // 'P2O5_and_K2O'
 */
export function oxideSuspect(i: { rn: number; rp: number; rk?: number | null }): string | null {
  const p = i.rp / positive('rn', 'N ratio', '', 1e6)(i.rn);
  const k = i.rk == null ? null : i.rk / i.rn;
  if (p > 1.8 && p < 2.9)
    return k !== null && k >= 1 && k <= 1.45 ? 'P2O5_and_K2O' : 'P2O5_perhaps';
  return p >= 0.34 && p <= 0.55 ? 'P_was_elemental_already' : null;
}

/**
 * Whether an as-received report may really be dry basis (3.2 step 4).
 *
 * @example dryBasisPossible({ ratios: [1.6, 1.75, 1.55], dmPct: 60, basis: 'as_received' }) // true
 */
export function dryBasisPossible(i: {
  ratios: readonly number[];
  dmPct: number;
  basis: string;
}): boolean {
  if (
    i.basis !== 'as_received' ||
    i.dmPct <= 40 ||
    i.dmPct >= 75 ||
    ratioMedian({ xs: i.ratios }) <= 1.3
  )
    return false;
  return i.ratios.every((r) => Math.abs(Math.log(r / (100 / i.dmPct))) <= Math.log(1.15));
}

/**
 * A parameter against its limits: `refuse` outside, `caution` in the warn range.
 *
 * @example rangeCheck({ name: 'rate_m3_ha', value: 70 }) // 'caution'
 */
export function rangeCheck(i: { name: string; value: number }): 'ok' | 'caution' | 'refuse' {
  const p = organicsParameter(i.name);
  if (!Number.isFinite(i.value) || i.value < p.min || i.value > p.max) return 'refuse';
  const below = Number(p.warnBelow ?? 'none');
  const above = Number(p.warnAbove ?? 'none');
  return (Number.isFinite(below) && i.value < below) || (Number.isFinite(above) && i.value > above)
    ? 'caution'
    : 'ok';
}
