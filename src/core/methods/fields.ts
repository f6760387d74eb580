import { z } from 'zod';
import { num } from '../quantity/input';
import { snakeKeys, toCamel, toSnake, type Camel } from '../quantity/names';
import { DICTIONARY } from './dictionary/dictionary';
import { Refusal } from '../quantity/refusal';
import { readFigure, shownUnit } from '../quantity/units';
import {
  dimensionOf,
  ucum,
  type ChoiceQuantity,
  type NumberQuantity,
  type Quantity,
} from './dictionary/quantity';

/** Stands for the chapter's name where the whole result is one table by key. */
const WHOLE = '*';

/** A name of the dictionary. */
export type QuantityName = keyof typeof DICTIONARY;

/**
 * One field of a method, by its name in the dictionary. `chapter` is what the chapters call it, and
 * what the calculation behind the method takes it by; empty where both agree.
 */
export interface Field<
  Chapter extends string = string,
  Optional extends boolean = boolean,
  Many extends boolean = boolean,
  Of extends Fields | null = Fields | null,
> {
  chapter: Chapter;
  optional: Optional;
  many: Many;
  of: Of;
}
export type Fields = { readonly [K in QuantityName]?: Field };

const fieldOf = <O extends boolean, M extends boolean>(chapter: string, optional: O, many: M) => ({
  chapter,
  optional,
  many,
  of: null,
});
/** A field that a method cannot do without. */
export function need(): Field<'', false, false, null>;
export function need<const C extends string>(chapter: C): Field<C, false, false, null>;
export function need(chapter = ''): Field<string, false, false, null> {
  return fieldOf(chapter, false, false);
}
/** A field that may be left out. */
export function may(): Field<'', true, false, null>;
export function may<const C extends string>(chapter: C): Field<C, true, false, null>;
export function may(chapter = ''): Field<string, true, false, null> {
  return fieldOf(chapter, true, false);
}
/** Several figures of one quantity. */
export function list(): Field<'', false, true, null>;
export function list<const C extends string>(chapter: C): Field<C, false, true, null>;
export function list(chapter = ''): Field<string, false, true, null> {
  return fieldOf(chapter, false, true);
}
export function mayList(): Field<'', true, true, null>;
export function mayList<const C extends string>(chapter: C): Field<C, true, true, null>;
export function mayList(chapter = ''): Field<string, true, true, null> {
  return fieldOf(chapter, true, true);
}
/** Rows of other quantities. */
export function rowsOf<F extends Fields>(of: F): Field<'', false, true, F>;
export function rowsOf<F extends Fields, const C extends string>(
  of: F,
  chapter: C,
): Field<C, false, true, F>;
export function rowsOf<F extends Fields>(of: F, chapter = ''): Field<string, false, true, F> {
  return { chapter, optional: false, many: true, of };
}

export function mayRowsOf<F extends Fields>(of: F): Field<'', true, true, F>;
export function mayRowsOf<F extends Fields, const C extends string>(
  of: F,
  chapter: C,
): Field<C, true, true, F>;
export function mayRowsOf<F extends Fields>(of: F, chapter = ''): Field<string, true, true, F> {
  return { chapter, optional: true, many: true, of };
}
/** One group of other quantities. */
export const group = <F extends Fields, const C extends string>(
  of: F,
  chapter: C,
): Field<C, false, false, F> => ({ chapter, optional: false, many: false, of });
export const mayGroupOf = <F extends Fields, const C extends string>(
  of: F,
  chapter: C,
): Field<C, true, false, F> => ({ chapter, optional: true, many: false, of });
export const mayGroup = <F extends Fields>(of: F): Field<'', true, false, F> => ({
  chapter: '',
  optional: true,
  many: false,
  of,
});

type Dictionary = typeof DICTIONARY;
type One<Q extends Quantity> =
  Q extends ChoiceQuantity<infer V>
    ? V
    : Q['kind'] extends 'number'
      ? number
      : Q['kind'] extends 'yes'
        ? boolean
        : Q['kind'] extends 'figures'
          ? Record<string, number>
          : Q['kind'] extends 'flags'
            ? Record<string, boolean>
            : Q['kind'] extends 'texts'
              ? Record<string, string>
              : string;
type Value<K extends QuantityName, F> =
  F extends Field<string, boolean, infer Many, infer Of>
    ? Many extends true
      ? (Of extends Fields ? Taken<Of> : One<Dictionary[K]>)[]
      : Of extends Fields
        ? Taken<Of>
        : One<Dictionary[K]>
    : never;
type InnerName<K extends string, F> =
  F extends Field<infer C> ? (C extends '' ? Camel<K> : Camel<C>) : never;
/** What the calculation gets: the chapters' names in camelCase. */
export type Taken<F extends Fields> = {
  [K in keyof F & QuantityName as InnerName<K, F[K]>]: F[K] extends Field<string, true>
    ? Value<K, F[K]> | null | undefined
    : Value<K, F[K]>;
};

const entriesOf = (fields: Fields): [QuantityName, Field][] =>
  Object.entries(fields) as [QuantityName, Field][];
/** The name by which the calculation knows a field. */
const innerName = (name: string, field: Field): string =>
  toCamel(field.chapter === '' || field.chapter === WHOLE ? name : field.chapter);

/**
 * A figure that was given as text with its unit, in the unit of the quantity; what can't be read is
 * left for the schema to refuse.
 */
const unitRead =
  (q: NumberQuantity) =>
  (given: unknown): unknown => {
    const dimension = dimensionOf(q.unit);
    if (typeof given !== 'string' || !dimension || !/[a-z]/iu.test(given)) return given;
    try {
      return readFigure(q.label, given, dimension, shownUnit(dimension, 'metric')).core;
    } catch (e) {
      if (e instanceof Refusal) return given;
      throw e;
    }
  };

function plainSchema(q: Quantity): z.ZodType {
  switch (q.kind) {
    case 'number': {
      const n = num(q);
      return z.preprocess(unitRead(q), q.whole ? n.int() : n);
    }
    case 'figures':
      return z.record(z.string().max(80), q.gaps ? num(q).nullable() : num(q));
    case 'flags':
      return z.record(z.string().max(80), z.boolean());
    case 'texts':
      return z.record(z.string().max(80), z.string().max(200));
    case 'choice':
      return z.enum(Object.keys(q.choices));
    case 'yes':
      return z.boolean();
    case 'key':
    case 'text':
    case 'date':
      return z.string().max(200);
    case 'rows':
      return z.never();
  }
}
const titled = (schema: z.ZodType, q: Quantity): z.ZodType =>
  schema.meta({
    title: q.label,
    description: q.about,
    ...('unit' in q ? { unit: ucum(q.unit) } : {}),
  });

/** Most rows or figures of one list. */
const MOST = 2000;
/** The schema of some fields: each as the dictionary has it, and no others. */
export function schemaOf(fields: Fields): z.ZodObject {
  return z.strictObject(
    Object.fromEntries(
      entriesOf(fields).map(([name, f]) => {
        const q: Quantity = DICTIONARY[name];
        const one = f.of ? schemaOf(f.of) : plainSchema(q);
        const all = titled(f.many ? z.array(one).max(MOST) : one, q);
        return [name, f.optional ? all.nullish() : all];
      }),
    ),
  );
}

/** A result put into the names of the dictionary; what the fields do not speak of keeps its own. */
export function toOuter(fields: Fields, result: Record<string, unknown>): Record<string, unknown> {
  // A calculation may give a table by key, whose keys are written as the chapters write them.
  const outer = new Map(
    entriesOf(fields).flatMap(([name, f]) =>
      [innerName(name, f), f.chapter].map((inner) => [inner, [name, f] as const] as const),
    ),
  );
  const one = (f: Field, v: unknown): unknown =>
    f.of && v !== null && typeof v === 'object' ? toOuter(f.of, v as Record<string, unknown>) : v;
  return Object.fromEntries(
    Object.entries(result).map(([k, v]) => {
      const known = outer.get(k);
      if (!known) return [toSnake(k), snakeKeys(v)];
      const [name, f] = known;
      return [name, f.many && Array.isArray(v) ? v.map((x: unknown) => one(f, x)) : one(f, v)];
    }),
  );
}

/**
 * An input or a result as the chapters write it, in the names of the dictionary: what they write as
 * a row without names, or by the key of its first column, gets its names too.
 */
export function fromChapter(
  fields: Fields,
  given: Record<string, unknown>,
): Record<string, unknown> {
  const byChapter = new Map(
    entriesOf(fields).map(([name, f]) => [f.chapter === '' ? name : f.chapter, [name, f] as const]),
  );
  const row = (of: Fields, v: unknown): unknown => {
    // A list within a list: the inner one is the row's only field.
    const [only, ...more] = entriesOf(of);
    if (Array.isArray(v) && only?.[1].many && only[1].of && more.length === 0)
      return { [only[0]]: rows(only[1].of, v) };
    if (Array.isArray(v))
      return Object.fromEntries(entriesOf(of).map(([name], i) => [name, v[i] as unknown]));
    return v !== null && typeof v === 'object' ? fromChapter(of, v as Record<string, unknown>) : v;
  };
  const rows = (of: Fields, v: unknown): unknown => {
    if (Array.isArray(v)) return v.map((x: unknown) => row(of, x));
    const first = entriesOf(of)[0]?.[0] ?? '';
    return v !== null && typeof v === 'object'
      ? Object.entries(v).map(([k, x]) => ({ [first]: k, ...(row(of, x) as object) }))
      : v;
  };
  const whole = byChapter.get(WHOLE);
  if (whole?.[1].of) return { [whole[0]]: rows(whole[1].of, given) };
  return Object.fromEntries(
    Object.entries(given).map(([k, v]) => {
      const known = byChapter.get(k);
      if (!known) return [k, v];
      const [name, f] = known;
      return [name, f.of ? (f.many ? rows(f.of, v) : row(f.of, v)) : v];
    }),
  );
}

/** Each name of the chapters beside its own, rows within rows too. */
export const namesOf = (fields: Fields): { old: string; name: string }[] =>
  entriesOf(fields).flatMap(([name, f]) => [
    ...(f.chapter === WHOLE ? [] : [{ old: f.chapter === '' ? name : f.chapter, name }]),
    ...(f.of ? namesOf(f.of) : []),
  ]);

/**
 * A sentence that speaks of fields by the chapters' names, by ours. A name of one word may be a word
 * of the sentence too: it counts only where it is followed like a name.
 */
export const inOurNames = (fields: Fields, text: string): string =>
  namesOf(fields)
    .filter((n) => n.old !== n.name)
    .reduce((t, { old, name }) => {
      const after = old.includes('_') ? String.raw`(?!\w)` : String.raw`(?=$|[.[)']| =|:)`;
      return t.replace(new RegExp(String.raw`(?<!\w|(?<!\])\.)${old}${after}`, 'g'), name);
    }, text);

/** Names of the dictionary put into the calculation's own, as the fields say; figures by name stay. */
export function toInner(fields: Fields, given: Record<string, unknown>): Record<string, unknown> {
  const one = (f: Field, v: unknown): unknown =>
    f.of && v !== null && typeof v === 'object' ? toInner(f.of, v as Record<string, unknown>) : v;
  return Object.fromEntries(
    entriesOf(fields).flatMap(([name, f]) =>
      Object.hasOwn(given, name)
        ? [
            [
              innerName(name, f),
              f.many && Array.isArray(given[name])
                ? given[name].map((v) => one(f, v))
                : one(f, given[name]),
            ],
          ]
        : [],
    ),
  );
}
