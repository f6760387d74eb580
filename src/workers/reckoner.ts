import { expose } from 'comlink';
import { assessSeason } from '@/core/assessment/assess';
import { bookOf } from '@/core/book/book';
import { pkOutlook, type PkOutlook, type PkSimulation } from '@/core/ground/pkSimulation';
import type { Plan } from '@/core/document/document';
import { outlookOf, type Outlook } from '@/core/season/outlook';
import { whatIfsOf, type PassWhatIfs } from '@/core/season/whatIf';
import { lateReleasesOf, type LateRelease } from '@/core/season/lateRelease';
import { comparePlans, type Comparison } from '@/core/season/compare';
import { withOther, type OtherPlan } from '@/core/document/others';
import { adviseSplit, type SplitAdvised } from '@/core/views/splitAdvice';
import { Refusal } from '@/core/quantity/refusal';
import { farmFieldRow, type FarmField, type FarmFieldRow } from '@/core/farm/wholeFarm';

// Long sums off the page's thread: typing goes on while they run, and ending the worker cancels
// them.
export interface SeasonYears {
  outlook: Outlook;
  whatIfs: PassWhatIfs[];
  lateReleases: LateRelease[];
}
const EVERY = 20;
/** Years of a first look, while somebody drags a pass. */
const FIRST_YEARS = 8;

/** What cannot be reckoned says why: an error would lose its words on the way to the page. */
function orWhy<T>(reckon: () => T): T | string {
  try {
    return reckon();
  } catch (e) {
    if (e instanceof Refusal) return e.message;
    throw e;
  }
}
const reckoner = {
  /** Rows of the whole farm; `done` hears how many fields are through. */
  farm(fields: readonly FarmField[], done: (count: number) => void): FarmFieldRow[] {
    return fields.map((f, i) => {
      const row = farmFieldRow(bookOf(f.plan.farm.library), f);
      if ((i + 1) % EVERY === 0 || i + 1 === fields.length) done(i + 1);
      return row;
    });
  },
  /** P or K over the years under each strategy; `done` hears how many runs are through. */
  outlook(input: PkSimulation, done: (run: number) => void): PkOutlook {
    return pkOutlook(input, (run) => {
      if (run % EVERY === 0) done(run);
    });
  },
  /** A first look at a plan, over few years: settled by `seasons`. */
  firstLook(given: Plan): Outlook | string {
    const book = bookOf(given.farm.library);
    const { plan, calendar, assessment } = assessSeason(book, given);
    return outlookOf(book, plan, assessment, calendar, { years: FIRST_YEARS });
  },
  /** A split of what is still to apply, searched over weather years; `done` hears what was tried. */
  split(
    plan: Plan,
    i: { productId: string; risk: number; id: string },
    done: (tried: number) => void,
  ): SplitAdvised | string {
    return orWhy(() =>
      adviseSplit(bookOf(plan.farm.library), plan, {
        productId: i.productId,
        risk: i.risk,
        newId: (k) => `${i.id}-${k + 1}`,
        onTried: done,
      }),
    );
  },
  /** The plan and others for the same season, in the same weather years. */
  compare(plan: Plan, others: readonly OtherPlan[]): Comparison | string {
    const book = bookOf(plan.farm.library);
    const named = (id: string, name: string, given: Plan) => {
      const { plan: known, calendar, assessment } = assessSeason(book, given);
      return { id, name, plan: known, a: assessment, calendar };
    };
    return comparePlans(book, [
      named('plan', 'the plan', plan),
      ...others.map((o) => named(o.id, o.name, withOther(plan, o))),
    ]);
  },
  /** A plan over weather years; `done` hears how many are through. */
  seasons(given: Plan, done: (year: number) => void): SeasonYears | string {
    const book = bookOf(given.farm.library);
    const { plan, calendar, assessment } = assessSeason(book, given);
    const outlook = outlookOf(book, plan, assessment, calendar, {
      onYear: (year) => {
        if (year % 5 === 0) done(year);
      },
    });
    if (typeof outlook === 'string') return outlook;
    const whatIfs = whatIfsOf(book, plan, assessment, calendar);
    const late = lateReleasesOf(book, plan, assessment, calendar);
    return {
      outlook,
      whatIfs: typeof whatIfs === 'string' ? [] : whatIfs,
      lateReleases: typeof late === 'string' ? [] : late,
    };
  },
};
export type Reckoner = typeof reckoner;
expose(reckoner);
