import { oneOf } from '../quantity/range';
import { creditMatrixRowOf } from '../book/budgetTables';

const N_SCHOOLS = ['yield_goal', 'economic_optimum', 'index_ceiling', 'nitrate_test'] as const;
export type NSchool = (typeof N_SCHOOLS)[number];
export type CreditState = 'allowed' | 'greyed' | 'zero' | 'delta' | 'feeds_school';

const COLUMN = {
  yield_goal: 'yieldGoal',
  economic_optimum: 'economicOptimum',
  index_ceiling: 'indexCeiling',
  nitrate_test: 'nitrateTest',
} as const;
/**
 * Never unknown: false for the book unit need; a user who enters a unit need of his own is asked.
 */
const NEVER_UNKNOWN: Record<string, boolean> = { om_in_unit_need: false };

/**
 * Whether a credit line belongs to a school, or is already inside its figure (chapter 1, 5.6, M1).
 * An unknown flag is read the
 * cautious way: no double credit.
 *
 * @example creditAllowed({ line: 'om_mineralisation', school: 'index_ceiling' }).state // 'greyed'
 */
export function creditAllowed(i: {
  line: string;
  school: string;
  flags?: Record<string, boolean> | null;
}): { cell: string; state: CreditState } {
  const school = oneOf('school', i.school, N_SCHOOLS);
  const cell = creditMatrixRowOf(i.line)[COLUMN[school]];
  const flag = (name: string, cautious: boolean) =>
    i.flags?.[name] ?? NEVER_UNKNOWN[name] ?? cautious;
  const [, verb, name = ''] =
    /^(already_in_if|subtract_unless|subtract_if|zero_if)_(.+)$/.exec(cell) ?? [];
  const state: CreditState =
    verb === 'already_in_if' || verb === 'subtract_unless'
      ? flag(name, true)
        ? 'greyed'
        : 'allowed'
      : verb === 'subtract_if'
        ? flag(name, false)
          ? 'allowed'
          : 'greyed'
        : verb === 'zero_if'
          ? flag(name, true)
            ? 'zero'
            : 'allowed'
          : cell === 'already_in'
            ? 'greyed'
            : cell === 'delta_only'
              ? 'delta'
              : cell === 'measured_replaces'
                ? 'feeds_school'
                : 'allowed';
  return { cell, state };
}
