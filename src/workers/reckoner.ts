import { expose } from 'comlink';
import { assessSeason } from '@/core/assessment/assess';
import { bookOf } from '@/core/book/book';
import { pkOutlook, type PkOutlook, type PkSimulation } from '@/core/ground/pkSimulation';
import type { Plan } from '@/core/document/document';
import { outlookOf, type Outlook } from '@/core/season/outlook';
import { whatIfsOf, type PassWhatIfs } from '@/core/season/whatIf';
import { farmFieldRow, type FarmField, type FarmFieldRow } from '@/core/farm/wholeFarm';

// Long sums off the page's thread: typing goes on while they run, and ending the worker cancels
// them.
export interface SeasonYears {
  outlook: Outlook;
  whatIfs: PassWhatIfs[];
}
const EVERY = 20;
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
    return { outlook, whatIfs: typeof whatIfs === 'string' ? [] : whatIfs };
  },
};
export type Reckoner = typeof reckoner;
expose(reckoner);
