import { toHundredths } from '../quantity/rounding';
import type { Words } from '../why/said';
import type { Step } from '../why/step';

export const NUTRIENT_KEYS = ['n', 'p', 'k', 's'] as const;
export type NutrientKey = (typeof NUTRIENT_KEYS)[number];
export type Evidence = 'measured' | 'estimated' | 'book' | 'laboratory' | 'entered' | 'by table';

/**
 * One ruled line of the sheet. Amounts are kg/ha, 0 or more; the kind says whether they are needed
 * or found.
 */
export interface LedgerLine {
  id: string;
  label: Words;
  detail: Words;
  kind: 'requirement' | 'debit' | 'credit' | 'applied';
  evidence: Evidence;
  date: string | null;
  n: number | null;
  p: number | null;
  k: number | null;
  s: number | null;
  /**
   * N that the ground gives although the school of the plan holds it already: the picture draws it,
   * the sheet does not count it.
   */
  heldN?: number;
  /** Relative standard error of its N. */
  error: number;
  /** Reason why it was struck out; it stays visible but counts nothing. */
  struck: string | null;
  why: Partial<Record<NutrientKey, Step>>;
}

type Silent = 'kind' | 'date' | 'p' | 'k' | 's';
/** A credit, unless it says another kind; what it does not speak of it does not bring. */
export const creditLine = (
  l: Omit<LedgerLine, Silent | 'heldN' | 'struck'> & Partial<Pick<LedgerLine, Silent>>,
): LedgerLine => ({
  id: l.id,
  label: l.label,
  detail: l.detail,
  kind: l.kind ?? 'credit',
  evidence: l.evidence,
  date: l.date ?? null,
  n: l.n,
  p: l.p ?? null,
  k: l.k ?? null,
  s: l.s ?? null,
  error: l.error,
  struck: null,
  why: l.why,
});

/** Hundredths of kg/ha: the whole numbers that the sheet adds up. */
export const hundredths = (line: LedgerLine, x: NutrientKey): number =>
  line.struck === null ? toHundredths(line[x] ?? 0) : 0;

/**
 * The sum of one nutrient, kg/ha, exact in hundredths. `afterPlan` is net less the fertiliser
 * passes: negative when over-supplied.
 */
export interface NutrientSum {
  requirement: number;
  debits: number;
  credits: number;
  applied: number;
  fixation: number;
  net: number;
  toBring: number;
  surplus: number;
  planned: number;
  afterPlan: number;
}
/** The sums of a plan, by nutrient. */
export type PlanSums = Record<NutrientKey, NutrientSum>;
