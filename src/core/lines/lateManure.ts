import type { Crop } from '../book/crops';
import type { Book } from '../book/book';
import { stageDate } from '../nitrogen/stageClock';
import { analysisOf, firstYearFraction, nitrogenPools, releasedBetween } from '../organics/release';
import { lateReleaseLimitOf } from '../book/organicTables';
import { materialOf } from '../book/organicMaterials';
import { thermalTime, type SeasonCalendar } from './calendar';
import { dayOf } from './days';
import type { OrganicApplication, Plan } from '../document/document';
import { rateOnField } from './organicLines';
import { attempt } from './problem';

/** Residual organic N of earlier years warms up with the ground again (chapter 2, 9.3). */
const springOf = (calendar: SeasonCalendar, southern: boolean): number =>
  dayOf(
    calendar,
    `${Number(calendar.end.slice(0, 4)) - (southern && calendar.end.slice(5, 7) < '09' ? 1 : 0)}-${southern ? '09' : '03'}-01`,
  );

function oneReleases(
  book: Book,
  plan: Plan,
  app: OrganicApplication,
  calendar: SeasonCalendar,
  from: number,
  to: number,
): number {
  const material = materialOf(book, app.materialKey);
  const a = analysisOf(material, app.lab);
  const klass = material.mineralisationClass;
  const { org } = nitrogenPools({ totalN: a.totalNKgT, nh4: a.nh4NKgT, no3: a.no3NKgT, klass });
  const start = Math.max(
    0,
    app.cropYear < 2 ? dayOf(calendar, app.date) : springOf(calendar, plan.field.latitudeDeg < 0),
  );
  const tt = (day: number) => thermalTime(calendar, start, Math.max(start, day));
  return (
    org *
    rateOnField(app, material) *
    releasedBetween({
      klass,
      yearK: app.cropYear,
      y1Adj: firstYearFraction({ klass, cnBook: material.cToN, cnLab: app.lab?.cToN }),
      ttFrom: tt(from),
      ttTo: tt(to),
    })
  );
}

/**
 * N that the manure and compost of this season and of earlier years still release between two days
 * of the season, kg/ha (chapter 2, 4.4 step 3
 * and 9.3). What a material tied up and gives back by then counts; while it ties up it takes
 * nothing off the others.
 * A dressing that is refused is named where it is assessed, and counts nothing here.
 */
export const manureReleases = (
  book: Book,
  plan: Plan,
  calendar: SeasonCalendar,
  from: number,
  to: number,
): number =>
  plan.organics.reduce(
    (sum, app) =>
      sum +
      Math.max(
        0,
        attempt([], 'budget', () => oneReleases(book, plan, app, calendar, from, to)) ?? 0,
      ),
    0,
  );

export interface LateManure {
  kgHa: number;
  limit: number;
  from: string;
  why: string;
}
/**
 * What is released after the crop should run short of N, beside what the crop bears of it; null
 * where nothing is known of the crop or its season (rule N08).
 */
export function lateManure(
  book: Book,
  plan: Plan,
  crop: Crop,
  calendar: SeasonCalendar | null,
  runDown: string | null,
): LateManure | null {
  const row = lateReleaseLimitOf(crop);
  if (!row || !calendar) return null;
  // The table's own stage where the crop has a clock of its own; else the day on which it should
  // have run down.
  const own =
    calendar.seasonCropId && !calendar.proxy
      ? stageDate(calendar.clock, calendar.seasonCropId, String(row.bbchFrom))
      : null;
  const date = own ?? runDown;
  return date === null
    ? null
    : {
        kgHa: manureReleases(book, plan, calendar, dayOf(calendar, date), calendar.harvest),
        limit: row.maxLateReleaseNKgHa,
        from: row.shouldBeShortOfNFrom,
        why: row.why,
      };
}
