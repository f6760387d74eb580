import { dateInWords } from '../quantity/calendar';
import { fromCore, shownUnit, type Dimension, type UnitSystem } from '../quantity/units';

/** A figure in a text: a number is told shortly, `exactly` keeps its digits or so many decimals. */
export type Figure = string | number | { value: number; decimals: number | null };
export type Fill = Record<string, Figure>;
/**
 * What core says, with its figures apart: a place `{name}` in the text stands for the figure of
 * that
 * name, and the unit that core works in follows it. The words and the reader's own units are put on
 * at the edge.
 */
export interface Said {
  text: string;
  fill: Fill;
}
/** A text without figures is itself. */
export type Words = string | Said;

/** A figure as it was entered, or with so many decimals. */
export const exactly = (value: number, decimals: number | null = null): Figure => ({
  value,
  decimals,
});

/**
 * Says something with its figures kept apart. Numbers are told as they are.
 *
 * @example inWords(said`Requirement, ${60} t/ha`, 'us') // 'Requirement, 26.8 ton/ac'
 */
export function said(parts: TemplateStringsArray, ...figures: Figure[]): Said {
  const fill: Fill = {};
  let text = parts[0] ?? '';
  figures.forEach((f, i) => {
    text += `{${i}}${parts[i + 1] ?? ''}`;
    fill[i] = typeof f === 'number' ? exactly(f) : f;
  });
  return { text, fill };
}

const short = (v: number): string => String(Number(v.toFixed(Math.abs(v) < 10 ? 1 : 0)));
/** What came out of another unit has no more digits than anybody would type. */
const asTyped = (v: number): string => String(Number(v.toPrecision(6)));
const DAY = /^\d{4}-\d{2}-\d{2}$/;
const told = (f: Figure): string =>
  typeof f === 'string'
    ? DAY.test(f)
      ? dateInWords(f)
      : f
    : typeof f === 'number'
      ? short(f)
      : f.decimals === null
        ? asTyped(f.value)
        : f.value.toFixed(f.decimals);
/** A converted figure is told as somebody would write it: kilograms whole from ten on. */
const brief = (v: number, dimension: Dimension | undefined): string => {
  const wholeFrom = dimension === 'nutrient_rate' ? 10 : 100;
  return String(Number(v.toFixed(Math.abs(v) < wholeFrom ? 1 : 0)));
};
const dimensionOf = (unit: string): Dimension | undefined => RATES.find(([r]) => r.test(unit))?.[1];
/** Figures that stand in the words themselves: "15-30 kg/ha". */
const WRITTEN =
  /(\d+(?:\.\d+)?)(?:(-| to )(\d+(?:\.\d+)?))? ((?:kg|t)(?: [A-Z]\w*)?\/ha|m3\/ha)(?!\w|\/(?!yr))/g;
const writtenIn = (text: string, system: UnitSystem): string =>
  text.replace(
    WRITTEN,
    (_, low: string, between: string | undefined, high: string | undefined, unit: string) => {
      const one = (v: string) => {
        const shown = figureIn(Number(v), unit, system);
        return { text: brief(shown.value, dimensionOf(unit)), unit: shown.unit };
      };
      const first = one(low);
      return `${first.text}${between && high ? `${between}${one(high).text}` : ''} ${first.unit}`;
    },
  );

const RATES: readonly [RegExp, Dimension][] = [
  [/^kg(?: [A-Z]\w*)?\/ha$/, 'nutrient_rate'],
  [/^t(?: [A-Z]\w*)?\/ha$/, 'mass_rate'],
  [/^m3\/ha$/, 'volume_rate'],
  [/^ha$/, 'area'],
];
const PLACE = /\{(\w+)\}(?: ((?:kg|t)(?: [A-Z]\w*)?\/ha|m3\/ha|ha)(?!\w|\/(?!yr)))?/g;

/**
 * The text for a reader: each figure in its place, rates and areas in the reader's units.
 *
 * @param system `metric` leaves core's units, `us` gives lb/ac, ton/ac, gal/ac and ac
 * @example inWords({ text: 'N {n} kg N/ha', fill: { n: 112.085 } }, 'us') // 'N 100 lb N/ac'
 */
export function inWords(words: Words, system: UnitSystem = 'metric'): string {
  const text = typeof words === 'string' ? words : filled(words, system);
  return system === 'metric' ? text : writtenIn(text, system);
}
function filled(words: Said, system: UnitSystem): string {
  return words.text.replace(PLACE, (whole, name: string, unit: string | undefined) => {
    const f = words.fill[name];
    if (f === undefined) return whole;
    if (unit === undefined) return told(f);
    if (system === 'metric' || typeof f === 'string') return `${told(f)} ${unit}`;
    const shown = figureIn(typeof f === 'object' ? f.value : f, unit, system);
    return `${brief(shown.value, dimensionOf(unit))} ${shown.unit}`;
  });
}

/** Several sayings in a row, each with its figures. */
export const joined = (parts: readonly Said[], between: string): Said => ({
  text: parts
    .map((p, i) => p.text.replace(/\{(\w+)\}/g, (_, k: string) => `{${i}_${k}}`))
    .join(between),
  fill: Object.fromEntries(
    parts.flatMap((p, i) => Object.entries(p.fill).map(([k, f]) => [`${i}_${k}`, f])),
  ),
});

/**
 * A figure with its unit as the reader wants both.
 *
 * @example figureIn(112.085, 'kg/ha', 'us') // { value: 100, unit: 'lb/ac' }
 */
export function figureIn(
  value: number,
  unit: string,
  system: UnitSystem,
): { value: number; unit: string } {
  const dimension = RATES.find(([r]) => r.test(unit))?.[1];
  if (!dimension) return { value, unit };
  const shown = shownUnit(dimension, system);
  // "kg N/ha" says of what: "lb N/ac".
  const of = / [A-Z]\w*(?=\/)/.exec(unit)?.[0] ?? '';
  return { value: fromCore(value, shown), unit: shown.replace('/', `${of}/`) };
}

const isSaid = (v: object): v is Said =>
  'text' in v && 'fill' in v && typeof v.text === 'string' && Object.keys(v).length === 2;
/**
 * A whole result with everything that is said in it put into words: what programs and files get.
 *
 * @example toldThroughout({ level: 'stop', message: said`${5} kg/ha` }) // { level: 'stop',
 * message: '5 kg/ha' }
 */
export function toldThroughout(value: unknown, system: UnitSystem = 'metric'): unknown {
  if (Array.isArray(value)) return value.map((v) => toldThroughout(v, system));
  if (value === null || typeof value !== 'object') return value;
  if (isSaid(value)) return inWords(value, system);
  return Object.fromEntries(Object.entries(value).map(([k, v]) => [k, toldThroughout(v, system)]));
}
