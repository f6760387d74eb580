import { toHundredths } from '../quantity/rounding';
import type { Words } from '../why/said';
import type { Step } from '../why/step';
import type { LeftEntry } from './leftOut';

export const NUTRIENT_KEYS = ['n', 'p', 'k', 's'] as const;
export type NutrientKey = (typeof NUTRIENT_KEYS)[number];
/**
 * How far a line can be trusted (chapter 7, W5.1): found on this field, a laboratory's certificate, a
 * table, a model's estimate, what somebody assumed, or nothing at all.
 */
export type Evidence = 'measured' | 'laboratory' | 'table' | 'model' | 'assumed' | 'not known';

/** What is usual of an unknown credit, and how it is found out. */
export interface Usual {
  nutrient: 'n' | 's';
  /** Usual range, kg/ha. */
  low: number;
  high: number;
  findOut: string;
  /** What finding out costs for a field, in prices of 1 kg N (assumed); 0: ask. */
  cost: number;
}
/**
 * One ruled line of the sheet. Amounts are kg/ha, 0 or more; the kind says whether they are needed
 * or found.
 */
export interface LedgerLine {
  id: string;
  label: Words;
  detail: Words;
  /** Manure that is spread already is applied, manure that has a day is planned. */
  kind: 'requirement' | 'debit' | 'credit' | 'applied' | 'planned';
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
  /** What is usual of a credit that nobody knows; it counts nothing. */
  usual?: Usual;
  /** Relative standard error of its N. */
  error: number;
  /** Reason why it was struck out; it stays visible but counts nothing. */
  struck: string | null;
  why: Partial<Record<NutrientKey, Step>>;
}

type Silent = 'kind' | 'date' | 'p' | 'k' | 's';
type Added = 'heldN' | 'usual' | 'struck';
/** A credit, unless it says another kind; what it does not speak of it does not bring. */
export const creditLine = (
  l: Omit<LedgerLine, Silent | Added> & Partial<Pick<LedgerLine, Silent>>,
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
 * The balance of one nutrient, kg/ha, exact in hundredths (chapter 7, W1.1): requirement + debits +
 * over = credits + applied + planned + left out + still to apply; of over and still to apply one is
 * 0.
 */
export interface NutrientSum {
  requirement: number;
  debits: number;
  credits: number;
  /** Spread already: manure and passes. */
  applied: number;
  /** Dated, not yet spread: manure and passes. What may not go out is not in it. */
  planned: number;
  /** What fertiliser passes are asked for: requirement + debits - credits - manure; may be below 0. */
  net: number;
  /** Of it, what is left once the target is lowered (chapter 7, W1.4); may be below 0. */
  asked: number;
  /** What is left out, each with its reason. */
  left: LeftEntry[];
  leftOut: number;
  /** What credits that nobody knows usually bring: still to apply is at most its figure. */
  unknown: { low: number; high: number };
  stillToApply: number;
  over: number;
}
/** The sums of a plan, by nutrient. */
export type PlanSums = Record<NutrientKey, NutrientSum>;
