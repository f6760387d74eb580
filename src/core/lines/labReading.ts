import { elementShare } from '../quantity/forms';
import {
  dryBasisPossible,
  labToKgT,
  oxideSuspect,
  ratioMedian,
  unitSuspect,
} from '../organics/laboratory';
import { refuse } from '../quantity/refusal';
import type { Material } from '../book/organicMaterials';
import type { ManureLab } from '../document/organicDocument';
import { AS_KG_T, BLANK_LAB } from '../document/organicDefaults';
import { LAB_KEYS, LAB_REPORT_UNITS } from '../document/organicKeys';

export type LabReport = NonNullable<ManureLab['report']>;
/** Nutrients of an analysis, with the element behind an oxide. */
export const LAB_FIGURES = [
  ['totalNKgT', 'Total N', null, 250],
  ['nh4NKgT', 'Ammonium-N', null, 250],
  ['no3NKgT', 'Nitrate-N', null, 250],
  ['pKgT', 'P', 'P', 200],
  ['kKgT', 'K', 'K', 500],
  ['sKgT', 'S', 'S', 250],
] as const satisfies readonly (readonly [
  (typeof LAB_KEYS)[number],
  string,
  string | null,
  number,
])[];
export type LabFigureKey = (typeof LAB_KEYS)[number];
const AMMONIUM = { n: 1, nh4: elementShare('nh4'), nh3: elementShare('nh3') } as const;
const NITRATE = { n: 1, no3: elementShare('no3') } as const;

/**
 * Kilograms of element per tonne as received that one unit of the report stands for (chapter 2,
 * 3.1): form, unit, volume, basis.
 *
 * @throws Refusal M10 for a dry basis by volume; a dry basis needs the dry matter
 * @example reportFactor('pKgT', { ...AS_KG_T, unit: 'lb_1000gal', oxides: true }, 6, 1010) //
 * 0.0518
 */
export function reportFactor(
  key: LabFigureKey,
  report: LabReport,
  dmPct: number | null,
  densityKgM3: number,
): number {
  if (report.basis === 'dry' && dmPct === null)
    refuse('missing', 'dm_pct', 'dm_pct: a report on dry basis needs the dry matter first.', {
      allowed: 'above 0 up to 100 %',
    });
  const oxideOf = report.oxides ? (LAB_FIGURES.find(([k]) => k === key)?.[2] ?? null) : null;
  const form =
    key === 'nh4NKgT' ? AMMONIUM[report.nh4As] : key === 'no3NKgT' ? NITRATE[report.no3As] : 1;
  return (
    form *
    labToKgT({
      value: 1,
      unit: report.unit,
      basis: report.basis,
      dmPct,
      densityKgM3: report.densityKgM3 ?? densityKgM3,
      oxideOf,
    })
  );
}
/**
 * N that the report's "total" leaves out: the nitrate of a Kjeldahl figure, all mineral N of an
 * organic one, kg/t.
 */
const leftOut = (lab: ManureLab, form: LabReport['totalAs']): number =>
  form === 'total' ? 0 : (lab.no3NKgT ?? 0) + (form === 'organic' ? (lab.nh4NKgT ?? 0) : 0);
const keep = (v: number): number => Number(v.toPrecision(12));

/**
 * A figure as the laboratory printed it; null where it printed none.
 *
 * @throws Refusal as `reportFactor`
 * @example printedFigure({ ...BLANK_LAB, totalNKgT: 8 }, 'totalNKgT', materialOf(PRINTED,
 * 'sheep_bedded')) // 8
 */
export function printedFigure(lab: ManureLab, key: LabFigureKey, m: Material): number | null {
  const report = lab.report ?? AS_KG_T;
  const value = lab[key];
  return value === null
    ? null
    : (value - (key === 'totalNKgT' ? leftOut(lab, report.totalAs) : 0)) /
        reportFactor(key, report, lab.dmPct ?? m.dmPct, m.densityKgM3);
}

/**
 * The analysis with one figure as it was printed. What the report calls total N keeps its printed
 * value when ammonium or nitrate changes beside it.
 *
 * @throws Refusal as `reportFactor`
 */
export function withPrinted(
  lab: ManureLab,
  key: LabFigureKey,
  printed: number | null,
  m: Material,
  below = false,
): ManureLab {
  const report = lab.report ?? AS_KG_T;
  const total = key === 'totalNKgT' ? printed : printedFigure(lab, 'totalNKgT', m);
  const factor = (k: LabFigureKey) => reportFactor(k, report, lab.dmPct ?? m.dmPct, m.densityKgM3);
  const next: ManureLab = {
    ...lab,
    report: {
      ...report,
      below: [...report.below.filter((k) => k !== key), ...(below ? [key] : [])],
    },
    [key]: printed === null ? null : keep(printed * factor(key)),
  };
  return {
    ...next,
    totalNKgT:
      total === null ? null : keep(total * factor('totalNKgT') + leftOut(next, report.totalAs)),
  };
}

/**
 * The same printed figures read in another way: units, basis or form of the report change, what the
 * laboratory printed does not.
 *
 * @throws Refusal as `reportFactor`
 */
export function reread(lab: ManureLab, next: LabReport, material: Material): ManureLab {
  const printed = LAB_KEYS.map((key) => [key, printedFigure(lab, key, material)] as const);
  // Ammonium and nitrate first: what the report calls total N may lean on them.
  const bare: ManureLab = { ...lab, report: next, totalNKgT: null, nh4NKgT: null, no3NKgT: null };
  return printed
    .toSorted(([a], [b]) => Number(a === 'totalNKgT') - Number(b === 'totalNKgT'))
    .reduce(
      (l, [key, value]) => withPrinted(l, key, value, material, next.below.includes(key)),
      bare,
    );
}

/**
 * What "less than" a limit counts (chapter 2, 3.1 step 5): half of it, and 0 where the whole limit
 * is below 5 % of the book value.
 *
 * @example belowLimit(0.05, 1.2) // 0: a limit of 0.05 is nothing beside 1.2
 */
export const belowLimit = (limit: number, book: number): number =>
  book > 0 && limit < 0.05 * book ? 0 : limit / 2;

const AGREE_WITHIN = 0.2;
const MEAN_OF = 3;
/**
 * Mean of the newest three analyses of a store, and whether they agree within 20 % in N, P and K
 * (chapter 2, 3.2): then it is better than the newest
 * alone. Null with fewer than two.
 *
 * @example runningMean([{ ...BLANK_LAB, totalNKgT: 8 }, { ...BLANK_LAB, totalNKgT: 7.6
 * }])?.lab.totalNKgT // 7.8
 */
export function runningMean(
  labs: readonly ManureLab[],
): { lab: ManureLab; n: number; spreadPct: number; agrees: boolean } | null {
  const newest = labs.slice(0, MEAN_OF);
  if (newest.length < 2) return null;
  const known = (key: LabFigureKey | 'dmPct' | 'cToN') => newest.flatMap((l) => l[key] ?? []);
  const mean = (key: LabFigureKey | 'dmPct' | 'cToN') => {
    const xs = known(key);
    return xs.length === 0 ? null : keep(xs.reduce((s, x) => s + x, 0) / xs.length);
  };
  const spread = Math.max(
    0,
    ...(['totalNKgT', 'pKgT', 'kKgT'] as const).flatMap((key) => {
      const m = mean(key);
      return m ? known(key).map((x) => Math.abs(x - m) / m) : [];
    }),
  );
  const [first] = newest;
  return {
    lab: {
      ...(first ?? BLANK_LAB),
      ...Object.fromEntries(
        [...LAB_KEYS, 'dmPct' as const, 'cToN' as const].map((key) => [key, mean(key)]),
      ),
      report: null,
      earlier: null,
    },
    n: newest.length,
    spreadPct: 100 * spread,
    agrees: spread <= AGREE_WITHIN,
  };
}

/**
 * The slip of unit or basis that explains an analysis far from the book (M07), with the ways of
 * writing that would put it right; null within
 * natural variation. Whether it may be a dry-basis report in ordinary span stands apart.
 */
export function slipOf(
  lab: ManureLab,
  m: Material,
): {
  ratio: number;
  candidates: string[] | null;
  dryPossible: boolean;
  oxide: string | null;
} | null {
  const [rn, rp, rk] = (
    [
      ['totalNKgT', m.totalNKgT],
      ['pKgT', m.pKgT],
      ['kKgT', m.kKgT],
    ] as const
  ).map(([k, book]) => {
    const v = lab[k];
    return v === null || v <= 0 || book <= 0 ? null : v / book;
  }) as [number | null, number | null, number | null];
  const ratios = [rn, rp, rk].filter((x): x is number => x !== null);
  if (ratios.length === 0) return null;
  const report = lab.report ?? AS_KG_T;
  const ratio = ratioMedian({ xs: ratios });
  const dmPct = lab.dmPct ?? m.dmPct;
  const candidates = unitSuspect({
    rMed: ratio,
    dmPct,
    unit: report.unit,
    basis: report.basis,
    form: m.physicalForm,
  });
  return {
    ratio,
    candidates,
    dryPossible:
      candidates === null &&
      ratios.length === 3 &&
      dryBasisPossible({ ratios, dmPct, basis: report.basis }),
    oxide: rn !== null && rp !== null && !report.oxides ? oxideSuspect({ rn, rp, rk }) : null,
  };
}
/**
 * How a report would be written if a candidate of M07 is right; null where the laboratory has to
 * be asked.
 */
export const asCandidate = (report: LabReport, candidate: string): LabReport | null =>
  candidate === 'sheet_was_dry_basis'
    ? { ...report, basis: 'dry' }
    : candidate === 'sheet_was_as_received'
      ? { ...report, basis: 'as_received' }
      : LAB_REPORT_UNITS.some((u) => u === candidate)
        ? { ...report, unit: candidate as LabReport['unit'] }
        : null;

/** How many times the book an analysis is, nutrient by nutrient; null where either says nothing. */
export const bookRatios = (
  lab: ManureLab,
  m: Material,
): { key: LabFigureKey; label: string; book: number; ratio: number | null }[] =>
  LAB_FIGURES.map(([key, label]) => {
    const book = m[key];
    const v = lab[key];
    return { key, label, book, ratio: v === null || book <= 0 ? null : v / book };
  });
