import { referenceEvaporation } from '../nitrogen/evaporation';
import { dateAfter, dayOfMonth, monthOf, type IsoDate } from '../quantity/calendar';
import { within, type Range } from '../quantity/range';
import { refuse } from '../quantity/refusal';
import { dayOf365, newWeather, type Weather } from './weather';

// Weather that was measured, or that somebody gives day by day.

export interface DayOfWeather {
  tMin: number;
  tMax: number;
  rainMm: number;
  /** Reference evaporation, mm; reckoned from latitude, day and warmth where it is not measured. */
  et0Mm?: number | null;
}
const TEMPERATURE: Range = { label: 'Temperature', unit: '°C', min: -60, max: 60 };
const RAIN: Range = { label: 'Rain of a day', unit: 'mm', min: 0, max: 500 };
const EVAPORATION: Range = { label: 'Evaporation of a day', unit: 'mm', min: 0, max: 30 };

const doyOf = (date: IsoDate): number => dayOf365(monthOf(date), dayOfMonth(date));

/**
 * Days of weather as a run needs them.
 *
 * @throws Refusal that names the day, the value and the range
 * @example dailyWeather('2025-05-10', [{ tMin: 8, tMax: 18, rainMm: 0, et0Mm: 3 }], 42).days // 1
 */
export function dailyWeather(
  start: IsoDate,
  days: readonly DayOfWeather[],
  latitudeDeg: number,
): Weather {
  if (days.length === 0) refuse('missing', 'weather', 'weather: give at least one day.');
  const out = newWeather(start, days.length);
  days.forEach((day, d) => {
    const at = `weather[${d}]`;
    const [low, high] = [
      within(`${at}.t_min`, day.tMin, TEMPERATURE),
      within(`${at}.t_max`, day.tMax, TEMPERATURE),
    ];
    if (low > high)
      refuse('inconsistent', `${at}.t_min`, `${at}: the minimum is above the maximum.`, {
        value: `${low}, ${high}`,
      });
    out.tMinC[d] = low;
    out.tMaxC[d] = high;
    out.rainMm[d] = within(`${at}.rain_mm`, day.rainMm, RAIN);
    out.et0Mm[d] =
      day.et0Mm == null
        ? referenceEvaporation({
            latitudeDeg,
            dayOfYear: doyOf(dateAfter(start, d)),
            tMinC: low,
            tMaxC: high,
          })
        : within(`${at}.et0_mm`, day.et0Mm, EVAPORATION);
  });
  return out;
}
