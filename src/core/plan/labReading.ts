import { dryBasisPossible, labToKgT, oxideSuspect, ratioMedian, unitSuspect } from '../organics/laboratory';
import { refuse } from '../quantity/refusal';
import type { Material } from '../reference/organicMaterials';
import type { ManureLab } from './organicDocument';
import { LAB_REPORT_UNITS } from './organicKeys';

export type LabReport = NonNullable<ManureLab['report']>;
export const AS_KG_T: LabReport = { unit: 'kg_t', basis: 'as_received', oxides: false, driedSample: false };
/** Nutrients of an analysis, with the element behind an oxide. */
export const LAB_FIGURES = [['totalNKgT', 'Total N', null, 250], ['nh4NKgT', 'Ammonium-N', null, 250], ['no3NKgT', 'Nitrate-N', null, 250], ['pKgT', 'P', 'P', 200], ['kKgT', 'K', 'K', 500], ['sKgT', 'S', 'S', 250]] as const;
export type LabFigureKey = (typeof LAB_FIGURES)[number][0];

/**
 * Kilograms of element per tonne as received that one unit of the report stands for.
 *
 * @throws Refusal M10 for a dry basis by volume; a dry basis needs the dry matter
 * @example reportFactor('pKgT', { unit: 'lb_1000gal', basis: 'as_received', oxides: true, driedSample: false }, 6, 1010) // 0.0518
 */
export function reportFactor(key: LabFigureKey, report: LabReport, dmPct: number | null, densityKgM3: number): number {
  if (report.basis === 'dry' && dmPct === null) refuse('missing', 'dm_pct', 'dm_pct: a report on dry basis needs the dry matter first.', { allowed: 'above 0 up to 100 %' });
  const oxideOf = report.oxides ? (LAB_FIGURES.find(([k]) => k === key)?.[2] ?? null) : null;
  return labToKgT({ value: 1, unit: report.unit, basis: report.basis, dmPct, densityKgM3, oxideOf });
}

/**
 * The same printed figures read in another way: units, basis or form of the report change, what the laboratory printed does not.
 *
 * @throws Refusal as `reportFactor`
 */
export function reread(lab: ManureLab, next: LabReport, material: Material): ManureLab {
  const dm = lab.dmPct ?? material.dmPct;
  const now = lab.report ?? AS_KG_T;
  const out: ManureLab = { ...lab, report: next };
  for (const [key] of LAB_FIGURES) {
    const value = lab[key];
    if (value !== null) out[key] = Number(((value / reportFactor(key, now, dm, material.densityKgM3)) * reportFactor(key, next, dm, material.densityKgM3)).toPrecision(12));
  }
  return out;
}

/**
 * The slip of unit or basis that explains an analysis far from the book (M07), with the ways of writing that would put it right; null within
 * natural variation. Whether it may be a dry-basis report in ordinary span stands apart.
 */
export function slipOf(lab: ManureLab, m: Material): { ratio: number; candidates: string[] | null; dryPossible: boolean; oxide: string | null } | null {
  const [rn, rp, rk] = ([['totalNKgT', m.totalNKgT], ['pKgT', m.pKgT], ['kKgT', m.kKgT]] as const).map(([k, book]) => { const v = lab[k]; return v === null || v <= 0 || book <= 0 ? null : v / book; }) as [number | null, number | null, number | null];
  const ratios = [rn, rp, rk].filter((x): x is number => x !== null);
  if (ratios.length === 0) return null;
  const report = lab.report ?? AS_KG_T;
  const ratio = ratioMedian({ xs: ratios });
  const dmPct = lab.dmPct ?? m.dmPct;
  const candidates = unitSuspect({ rMed: ratio, dmPct, unit: report.unit, basis: report.basis, form: m.physicalForm });
  return { ratio, candidates, dryPossible: candidates === null && ratios.length === 3 && dryBasisPossible({ ratios, dmPct, basis: report.basis }), oxide: rn !== null && rp !== null && !report.oxides ? oxideSuspect({ rn, rp, rk }) : null };
}
/** How a report would be written if a candidate of M07 is right; null where the laboratory has to be asked. */
export const asCandidate = (report: LabReport, candidate: string): LabReport | null =>
  candidate === 'sheet_was_dry_basis' ? { ...report, basis: 'dry' } : candidate === 'sheet_was_as_received' ? { ...report, basis: 'as_received' } : LAB_REPORT_UNITS.some((u) => u === candidate) ? { ...report, unit: candidate as LabReport['unit'] } : null;

/** How many times the book an analysis is, nutrient by nutrient; null where either says nothing. */
export const bookRatios = (lab: ManureLab, m: Material): { key: LabFigureKey; label: string; book: number; ratio: number | null }[] =>
  LAB_FIGURES.map(([key, label]) => { const book = m[key]; const v = lab[key]; return { key, label, book, ratio: v === null || book <= 0 ? null : v / book }; });
