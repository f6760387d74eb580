// Days as laboratories and people write them.

export type DayOrder = 'dmy' | 'mdy' | 'ymd';
const MONTHS: readonly RegExp[] = [
  /^(jan|ene|genn)/u,
  /^(feb|fev|fév)/u,
  /^(mar(?!.*[ij]o$)|mär|mrz|maa|mar[sz]|marzo|março)/u,
  /^(apr|avr|abr)/u,
  /^(may|mai|maj|mei|mag)/u,
  /^(jun|juin|giu)/u,
  /^(jul|juil|lug)/u,
  /^(aug|aou|aoû|ago)/u,
  /^(sep|set)/u,
  /^(o[ck]t|ott|out)/u,
  /^nov/u,
  /^(de[cz]|dic|déc)/u,
];
const monthNamed = (word: string): number =>
  MONTHS.findIndex((m) => m.test(word.toLowerCase())) + 1;
const toIso = (date: Date): string => date.toISOString().slice(0, 10);
const fullYear = (y: number, digits: string): number => (digits.length > 2 ? y : 2000 + y);

/** The day, or null where the calendar has none such. */
const dayOf = (y: number, m: number, d: number): string | null => {
  const date = new Date(Date.UTC(y, m - 1, d));
  return y >= 1950 && y < 2200 && date.getUTCMonth() === m - 1 && date.getUTCDate() === d
    ? toIso(date)
    : null;
};

interface Written {
  /** Numbers in the order in which they stand. */
  parts: [string, string, string];
  dotted: boolean;
}
const WRITTEN = /^(\d{1,4})\s?([-/.])\s?(\d{1,2})\s?[-/.]\s?(\d{1,4})(?:[ T]\d{1,2}:\d.*)?$/u;
const written = (text: string): Written | null => {
  const m = WRITTEN.exec(text);
  return m
    ? { parts: [m[1] as string, m[3] as string, m[4] as string], dotted: m[2] === '.' }
    : null;
};
const named = (text: string): string | null => {
  const m =
    /^(\d{1,2})[. -]+(\p{L}{3,10})\.?[ ,-]+(\d{2,4})/u.exec(text) ??
    /^(\p{L}{3,10})\.? (\d{1,2}),? (\d{2,4})/u.exec(text);
  if (!m) return null;
  const [a = '', b = '', y = ''] = m.slice(1);
  const [d, word] = /^\d/u.test(a) ? [a, b] : [b, a];
  const month = monthNamed(word);
  return month > 0 ? dayOf(fullYear(Number(y), y), month, Number(d)) : null;
};
/** Days since 1900 as workbooks count, written out as a number. */
const serial = (text: string): string | null => {
  const n = /^\d{5}(\.\d+)?$/u.test(text) ? Math.floor(Number(text)) : Number.NaN;
  return n > 20_000 && n < 80_000 ? toIso(new Date(Date.UTC(1899, 11, 30) + n * 86_400_000)) : null;
};
const inOrder = ({ parts: [a, b, c] }: Written, order: DayOrder): string | null =>
  order === 'ymd'
    ? dayOf(fullYear(Number(a), a), Number(b), Number(c))
    : order === 'dmy'
      ? dayOf(fullYear(Number(c), c), Number(b), Number(a))
      : dayOf(fullYear(Number(c), c), Number(a), Number(b));

/** How many days an order can read. A year of four digits in front, or dots, leave one only. */
function readBy(all: readonly Written[], order: DayOrder): number {
  return all.filter((w) => {
    const [a, , c] = w.parts;
    if (a.length > 2) return order === 'ymd' && inOrder(w, order) !== null;
    if (order === 'ymd') return c.length <= 2 && !w.dotted && inOrder(w, order) !== null;
    return inOrder(w, order) !== null;
  }).length;
}
/**
 * Orders that read most days of a column: one that is in no calendar does not spoil the others.
 * With dots the day comes first wherever both would do.
 */
export function dayOrders(cells: readonly string[]): DayOrder[] {
  const all = cells.map(written).filter((w) => w !== null);
  if (all.length === 0) return ['ymd'];
  const counted = (['dmy', 'mdy', 'ymd'] as const).map((order) => ({
    order,
    n: readBy(all, order),
  }));
  const most = Math.max(...counted.map((c) => c.n));
  const orders = counted.filter((c) => c.n === most && most > 0).map((c) => c.order);
  return all.every((w) => w.dotted) && orders.includes('dmy') ? ['dmy'] : orders;
}

/** One day in an order; null where it is none. */
export function readDay(text: string, order: DayOrder): string | null {
  const w = written(text);
  return w
    ? inOrder(w, (w.parts[0] ?? '').length > 2 ? 'ymd' : order)
    : (named(text) ?? serial(text));
}

/** A day as a person typed it: one day, two that it may be, or none. */
export type TypedDay = { day: string } | { either: [string, string] } | null;
/**
 * Reads a day in the ways in which people write one: 2027-03-28, 28 Mar 2027, March 28 2027,
 * 28.3.2027. Where day and month could change places, both are given: nobody but the writer knows.
 *
 * @example typedDay('28.3.2027') // { day: '2027-03-28' }
 * @example typedDay('3/4/2027') // { either: ['2027-04-03', '2027-03-04'] }
 * @example typedDay('31 Apr 2027') // null
 */
export function typedDay(text: string): TypedDay {
  const w = written(text.trim());
  if (!w || (w.parts[0] ?? '').length > 2) {
    const day = readDay(text.trim(), 'ymd');
    return day && !/^\d{5}/u.test(text.trim()) ? { day } : null;
  }
  const [first, second] = [inOrder(w, 'dmy'), w.dotted ? null : inOrder(w, 'mdy')];
  if (first && second && first !== second) return { either: [first, second] };
  const day = first ?? second;
  return day ? { day } : null;
}
