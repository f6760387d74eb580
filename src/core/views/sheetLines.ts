import { NUTRIENT_KEYS, type NutrientKey } from '../lines/line';
import { dateInWords } from '../quantity/calendar';
import { shownUnit } from '../quantity/units';
import type { SheetJob } from './jobs';
import type { SheetDocument } from './sheet';

const SIGN = { requirement: 1, debit: 1, credit: -1, applied: -1, planned: -1 } as const;
/** Unit of the sheet's amounts. */
export const sheetUnit = ({ units }: Pick<SheetDocument, 'units'>): string =>
  shownUnit('nutrient_rate', units);
/** Heading of the sheet's lines in a table file. */
export const lineHead = (sheet: Pick<SheetDocument, 'units'>): string[] => [
  'Line',
  'Detail',
  'Kind',
  ...NUTRIENT_KEYS.map((x) => `${x.toUpperCase()}, ${sheetUnit(sheet)}`),
];
/** Heading of the jobs in a table file. */
export const jobHead = (sheet: Pick<SheetDocument, 'units'>): string[] => [
  'On',
  'Stage',
  'Job',
  'What',
  'Analysis',
  'Rate',
  'Unit',
  'For the field',
  'Unit',
  'Loads',
  ...NUTRIENT_KEYS.map((x) => `${x.toUpperCase()}, ${sheetUnit(sheet)}`),
  'How',
  'Not if',
  `Cost per ${shownUnit('area', sheet.units)}`,
  'Who',
  'State',
];
const KIND_WORDS: Record<SheetJob['kind'], string> = {
  lime: 'lime',
  manure: 'manure or compost',
  kill: 'green manure',
  pass: 'fertiliser',
  spray: 'spray',
};
/** A job as the cells under that heading; the day stays a day. */
export const jobCells = (j: SheetJob): (string | number | null)[] => [
  j.stage,
  KIND_WORDS[j.kind],
  j.what,
  j.analysis,
  j.rate?.value ?? null,
  j.rate?.unit ?? '',
  j.total?.value ?? null,
  j.total?.unit ?? '',
  j.loads,
  ...NUTRIENT_KEYS.map((x) => j[x]),
  j.how,
  j.notIf,
  j.cost === null ? null : Number(j.cost.toFixed(2)),
  j.who ?? '',
  j.status,
];

/**
 * The sheet's lines for a table file: amounts with their signs, so that a column adds up; a struck
 * line says why and counts nothing.
 *
 * @example sheetLines(sheet)[0]?.[2] // 'requirement'
 */
export const sheetLines = (sheet: SheetDocument): (string | number | null)[][] =>
  sheet.rows.map((r) => [
    r.label,
    r.struck ? `struck out: ${r.struck}` : r.detail,
    r.kind,
    ...NUTRIENT_KEYS.map((x) =>
      r[x] === null || r.struck !== null ? null : Math.abs(r[x]) * SIGN[r.kind],
    ),
  ]);

/** The area as a sheet tells it: "11 ha". */
export const areaOfSheet = ({ area }: Pick<SheetDocument, 'area'>): string =>
  `${area.value} ${area.unit}`;

/** What a sheet says where nothing is known: never 0. */
export const NOT_KNOWN = 'not known';
/** Whether a total hangs on a requirement that nobody knows; what is merely empty is no unknown. */
export const isUnknown = (
  sheet: Pick<SheetDocument, 'rows'>,
  total: SheetDocument['totals'][number],
  x: NutrientKey,
): boolean =>
  ['still_to_apply', 'over', 'to_bring', 'balance'].includes(total.kind) &&
  !sheet.rows.some((r) => r.kind === 'requirement' && r[x] !== null);
/** What a file says of a total: its figure, that it is not known, or nothing. */
export const toldTotal = (
  sheet: Pick<SheetDocument, 'rows'>,
  total: SheetDocument['totals'][number],
  x: NutrientKey,
): number | string => totalOf(sheet, total, x) ?? (isUnknown(sheet, total, x) ? NOT_KNOWN : '');
/**
 * A total of the sheet; null where it hangs on a requirement that nobody knows yet, as without crop
 * or yield goal. What is planned is known by itself.
 */
export function totalOf(
  sheet: Pick<SheetDocument, 'rows'>,
  total: SheetDocument['totals'][number],
  x: NutrientKey,
): number | null {
  return isUnknown(sheet, total, x) ? null : total[x];
}

/** What became of a caution that somebody answered. */
export const answerWords = (a: SheetDocument['answered'][number]): string =>
  `${a.state === 'accepted' ? `Accepted ${dateInWords(a.on)}` : `Put off until ${dateInWords(a.until ?? a.on)}`}${a.by ? ` by ${a.by}` : ''}${a.words ? `: ${a.words}` : ''}.`;
