import { variabilityOfReading } from '../book/sampling';
import { daysBetween, monthOf, type IsoDate } from '../quantity/calendar';
import { precision, realChange } from './precision';

export interface AreaValue {
  value: number;
  areaHa: number;
  /** Reported as "less than": it is not averaged with others (chapter 3, 15). */
  belowDetection?: boolean;
}
export interface FieldMean {
  mean: number;
  sd: number;
  se: number;
  min: number;
  max: number;
  n: number;
}

/**
 * Mean of the points of a field, weighted by the ground that each stands for, with its spread. Null
 * where a point lies below detection: half
 * a limit averaged with real figures would be a made-up mean. pH is averaged as pH.
 *
 * @example fieldMean([{ value: 10, areaHa: 1 }, { value: 20, areaHa: 3 }])?.mean // 17.5
 */
export function fieldMean(values: readonly AreaValue[]): FieldMean | null {
  if (values.length === 0 || values.some((v) => v.belowDetection)) return null;
  const area = values.reduce((sum, v) => sum + v.areaHa, 0);
  const weight = (v: AreaValue) => (area > 0 ? v.areaHa / area : 1 / values.length);
  const mean = values.reduce((sum, v) => sum + weight(v) * v.value, 0);
  const squares = values.reduce((sum, v) => sum + weight(v) ** 2, 0);
  const sd =
    values.length > 1
      ? Math.sqrt(
          values.reduce((sum, v) => sum + weight(v) * (v.value - mean) ** 2, 0) / (1 - squares),
        )
      : 0;
  return {
    mean,
    sd,
    se: sd * Math.sqrt(squares),
    min: Math.min(...values.map((v) => v.value)),
    max: Math.max(...values.map((v) => v.value)),
    n: values.length,
  };
}

/** A walk over a field may take days; what is older belongs to an earlier survey. */
export const SURVEY_DAYS = 60;
/**
 * The bags of the newest survey: a plan may be walked again in later years, and each bag of it
 * counts once.
 */
export function newestSurvey<T>(
  bags: readonly T[],
  of: (bag: T) => { label: string; date: IsoDate },
): T[] {
  const newest = bags.reduce<IsoDate | null>(
    (d, b) => (d === null || of(b).date > d ? of(b).date : d),
    null,
  );
  if (newest === null) return [];
  const byLabel = new Map<string, T>();
  for (const b of bags) {
    const { label, date } = of(b);
    const now = byLabel.get(label);
    if (daysBetween(date, newest) <= SURVEY_DAYS && (!now || of(now).date < date))
      byLabel.set(label, b);
  }
  return [...byLabel.values()];
}

/**
 * Standard error of one reading, from the book's variation and the cores in it; null where the
 * chapter has no figure (iron). `ph` for a pH.
 */
export function readingError(
  nutrient: string,
  value: number,
  cores: number | null,
  analyses = 1,
): number | null {
  const row = variabilityOfReading(nutrient);
  if (!row) return null;
  const isSd = row.statistic === 'sd_ph_units';
  const scale = isSd ? 1 : 100;
  return precision({
    mean: value,
    cvField: row.fieldDefault / scale,
    cvLab: row.labDefault / scale,
    nCores: cores ?? 15,
    nLab: Math.min(100, analyses),
    isSd,
  }).se;
}

export interface HistoryPoint {
  date: IsoDate;
  value: number;
  /** Extractant and unit; the same for readings that may be compared. */
  scale: string;
  fromCm: number;
  toCm: number | null;
  cores: number | null;
  /** Points behind a field mean; 1 for one composite. */
  analyses: number;
  dry: boolean;
}
export interface HistoryReading extends HistoryPoint {
  se: number | null;
  /** Why it may not be compared with the newest, or null. */
  apart: string | null;
  /** Against the comparable reading before it. */
  change: { lsd: number; changed: boolean; verdict: string } | null;
}
/** Months from one time of year to another, at most six. */
const seasonApart = (a: IsoDate, b: IsoDate): number => {
  const d = Math.abs(monthOf(a) - monthOf(b));
  return Math.min(d, 12 - d);
};

/**
 * Readings of a field over the years, each with its error; only those of the same scale, depth and
 * season are compared, and a change smaller
 * than the error is called none (chapter 3, 2.2 and 17.7).
 */
export function history(nutrient: string, points: readonly HistoryPoint[]): HistoryReading[] {
  const sorted = [...points].sort((a, b) => daysBetween(b.date, a.date));
  const newest = sorted[sorted.length - 1];
  if (!newest) return [];
  const reason = (p: HistoryPoint): string | null =>
    p.scale !== newest.scale
      ? 'another extractant or unit'
      : p.fromCm !== newest.fromCm ||
          (p.toCm !== null && newest.toCm !== null && Math.abs(p.toCm - newest.toCm) > 2.5)
        ? 'another depth'
        : seasonApart(p.date, newest.date) > 2
          ? 'another season'
          : p.dry
            ? 'sampled dry'
            : null;
  let before: HistoryReading | null = null;
  return sorted.map((p) => {
    const reading: HistoryReading = {
      ...p,
      se: readingError(nutrient, p.value, p.cores === null ? null : p.cores, p.analyses),
      apart: reason(p),
      change: null,
    };
    if (reading.apart === null) {
      if (before?.se != null && reading.se !== null)
        reading.change = realChange({
          x1: before.value,
          se1: before.se,
          x2: reading.value,
          se2: reading.se,
        });
      before = reading;
    }
    return reading;
  });
}
