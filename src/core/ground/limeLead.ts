import { dateAfter, type IsoDate } from '../quantity/calendar';
import { within } from '../quantity/range';
import { limeReacted, predictPh, type PredictInput, type Sieve } from './limeProduct';
import { ASSUMED_CLOCK_RATE, DAYS_PER_MONTH } from './wetClock';

export interface LimeLeadInput extends Omit<PredictInput, 'frac'>, Sieve {
  act: number;
  km: number;
  clockRate?: number | null;
}
const STEP_MONTHS = 0.5;
const MAX_MONTHS = 60;

/**
 * How long before planting a lime must be spread so that the pH reaches the limit below which lime
 * is advised (chapter 3, 7.5): not the
 * full target. Null months where product and rate never reach it.
 *
 * @param i.clockRate effective months in a calendar month, 0.7 where the climate is moist
 * @example limeLead({ ph: 5.6, target: 6.5, act: 6, lr: 6.01, rate: 9.5, dm: 97, cce: 94, p8: 95,
 * p20: 70, p60: 45, km: 1 }) // { tEffMonths: 3, leadDays: 131 }
 */
export function limeLead(i: LimeLeadInput): { tEffMonths: number | null; leadDays: number | null } {
  const rate = within('clock_rate', i.clockRate ?? ASSUMED_CLOCK_RATE.moist, {
    min: 0.05,
    max: 1,
    unit: '',
    label: 'Effective months in a month',
  });
  for (let t = 0; t <= MAX_MONTHS; t += STEP_MONTHS) {
    if (predictPh({ ...i, frac: limeReacted({ ...i, t }).value }).ph >= i.act - 1e-9)
      return {
        tEffMonths: t,
        leadDays: t === 0 ? 0 : Math.ceil((t * DAYS_PER_MONTH) / rate - 1e-9),
      };
  }
  return { tEffMonths: null, leadDays: null };
}

export const latestSpreadDate = (planting: IsoDate, leadDays: number): IsoDate =>
  dateAfter(planting, -leadDays);
