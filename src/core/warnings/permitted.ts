import type { Book } from '../book/book';
import { fertilisers, type Fertiliser } from '../book/fertilisers';
import type { Plan } from '../document/document';
import type { Warning } from '../rules/rule';

// On certified land an advice that asks for a nutrient names what may bring it (chapter 7, W2.3 x).

type Nutrient = 'N' | 'P' | 'K' | 'S';
/** Rules whose action asks for a nutrient. */
const ASKS: Readonly<Record<string, Nutrient>> = {
  'budget P-02': 'P',
  'budget M-01': 'P',
  'budget K-01': 'K',
  'budget S-01': 'S',
  'budget S-02': 'S',
  'budget N-16': 'N',
  'organics K01': 'N',
};
const ALLOWED = new Set(['commonly_allowed', 'mined_grade_commonly_allowed']);
const MOST_NAMED = 3;
const share = (f: Fertiliser, x: Nutrient): number =>
  ({
    N: f.nTotalPct,
    P: f.pPct,
    K: f.kPct,
    S: f.sSulphatePct + f.sElementalPct,
  })[x];

/** Products that certified land usually may get for a nutrient, the richest first. */
export const permittedSources = (book: Book, x: Nutrient): Fertiliser[] =>
  fertilisers(book)
    .filter((f) => ALLOWED.has(f.organicStatus) && share(f, x) >= 2)
    .toSorted((a, b) => share(b, x) - share(a, x))
    .slice(0, MOST_NAMED);

/** The warnings of a plan; on certified land those that ask for a nutrient name its sources. */
export function namingSources(book: Book, plan: Plan, warnings: Warning[]): Warning[] {
  if (plan.field.certification === 'none') return warnings;
  return warnings.map((w) => {
    const nutrient = ASKS[`${w.module} ${w.id}`];
    if (!nutrient) return w;
    const names = permittedSources(book, nutrient).map((f) => f.name);
    const sources =
      names.length > 0
        ? `On certified land: ${names.join(', ')}, manure or compost, as the certifier allows.`
        : `On certified land: ask the certifier for a source of ${nutrient}.`;
    const { action } = w;
    return {
      ...w,
      action:
        typeof action === 'string'
          ? `${action} ${sources}`
          : { ...action, text: `${action.text} ${sources}` },
    };
  });
}
