import type { Crop } from '../book/crops';
import type { Normals } from '../book/stages';
import { dateAfter, type IsoDate } from '../quantity/calendar';

/** When a crop that stands over winter takes up N: dates in words of the season's own year. */
export interface GrowthWindow {
  from: IsoDate;
  to: IsoDate;
  /** True where the climate's months gave the dates, false where somebody said them. */
  byNormals: { from: boolean; to: boolean };
}

const MONTH_D = 365.25 / 12;
/**
 * Days from the middle of the coldest month to the day on which the mean first passes a
 * temperature, and to the day on which it falls below again; straight between the middles of
 * months. Null where the year never crosses it.
 */
export function warmSpell(
  climate: readonly Normals[],
  aboveC: number,
  midwinter: number,
): { begins: number; ends: number } | null {
  const mean = (i: number) =>
    climate.find((m) => m.month === ((midwinter + i - 1) % 12) + 1)?.tMeanC ?? aboveC;
  const crossings = Array.from({ length: 12 }, (_, i) => {
    const [a, b] = [mean(i), mean(i + 1)];
    return {
      up: a < aboveC && b >= aboveC,
      down: a >= aboveC && b < aboveC,
      day: Math.round((i + (b === a ? 0 : (aboveC - a) / (b - a))) * MONTH_D),
    };
  });
  const begins = crossings.find((c) => c.up)?.day;
  const ends = crossings.findLast((c) => c.down)?.day;
  return begins === undefined || ends === undefined || ends <= begins ? null : { begins, ends };
}

/** The middle of the last winter before a day. */
export function midwinterBefore(day: IsoDate, southern: boolean): IsoDate {
  const middle = `${day.slice(0, 4)}-${southern ? '07' : '01'}-15`;
  return middle <= day ? middle : `${Number(day.slice(0, 4)) - 1}-${southern ? '07' : '01'}-15`;
}

/**
 * From bud burst, or spring growth of grass, to leaf fall (agronomy corrections, b): what somebody
 * said, else where the climate's months pass the crop's temperature after the winter before its
 * harvest. A crop that is green all year, and forage, end with their harvest; where it never gets
 * too cold, the season is the window.
 *
 * @example growthWindow({ crop: cropOf(PRINTED, 'apple'), climate: climateOf('maritime_cool_52n'),
 * southern: false, start: '2026-11-01', harvest: '2027-09-20', budBurst: null, leafFall: null })
 * // { from: '2027-04-04', to: '2027-11-10' }
 */
export function growthWindow(i: {
  crop: Pick<Crop, 'growsAboveC' | 'evergreen' | 'cut'>;
  climate: readonly Normals[];
  southern: boolean;
  start: IsoDate;
  harvest: IsoDate;
  budBurst: IsoDate | null;
  leafFall: IsoDate | null;
}): GrowthWindow | null {
  if (i.crop.growsAboveC === null) return null;
  const winter = midwinterBefore(i.harvest, i.southern);
  const spell = warmSpell(i.climate, i.crop.growsAboveC, i.southern ? 7 : 1);
  const endsAtHarvest = i.crop.evergreen || i.crop.cut;
  const first =
    i.budBurst ?? (spell && !i.crop.evergreen ? dateAfter(winter, spell.begins) : i.start);
  const last = i.leafFall ?? (endsAtHarvest || !spell ? i.harvest : dateAfter(winter, spell.ends));
  const from = first < i.start || first >= i.harvest ? i.start : first;
  return {
    from,
    to: last > from && !endsAtHarvest ? last : i.harvest,
    byNormals: { from: i.budBurst === null, to: i.leafFall === null },
  };
}
