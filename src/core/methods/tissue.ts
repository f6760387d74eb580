import type { Book } from '../book/book';
import { z } from 'zod';
import { leafStandards } from '../book/leafStandards';
import { classConfidence, classifyLeaf, mostLimiting } from '../tissue/classify';
import { limitsOf, rowOfSet, type LeafLimits } from '../tissue/limits';
import { contamination, decimalCheck, lessThan, toCoreUnit, unitCheck } from '../tissue/reading';
import { findStandard, interpolateRange } from '../tissue/standard';
import { method, type Method } from './method';

const n = z.number();
const maybe = n.nullish();
const text = z.string();
/** The open edge names limits by the chapter's letters. */
const letters = (l: LeafLimits) => ({ D: l.d, L: l.l, SL: l.sl, SH: l.sh, Hh: l.hh, T: l.t });
const inSet = (book: Book, setId: string, nutrient: string) =>
  limitsOf(rowOfSet(leafStandards(book).ranges, setId, nutrient));

export const tissueMethods: readonly Method[] = [
  method({
    id: 'tissue.to_core_unit',
    title: 'Leaf figure in its range’s unit',
    group: 'Leaf reading',
    chapter: '5, F4.1',
    input: z.strictObject({ nutrient: text, value: n, unit: text, form: text.nullish() }),
    output: { value: n, unit: text },
    run: toCoreUnit,
  }),
  method({
    id: 'tissue.unit_check',
    title: 'Does this look like another unit',
    group: 'Leaf reading',
    chapter: '5, F4.2',
    input: z.strictObject({ set_id: text, nutrient: text, value: n, unit: text }),
    output: { value_core: n, result: text },
    run: (i, book) => unitCheck({ ...i, limits: inSet(book, i.setId, i.nutrient) }),
  }),
  method({
    id: 'tissue.decimal_check',
    title: 'A slipped decimal point',
    group: 'Leaf reading',
    chapter: '5, F4.2b',
    input: z.strictObject({ set_id: text, nutrient: text, value: n, unit: text }),
    output: { suggested: n.nullable() },
    run: (i, book) =>
      decimalCheck({
        nutrient: i.nutrient,
        value: toCoreUnit(i).value,
        limits: inSet(book, i.setId, i.nutrient),
      }),
  }),
  method({
    id: 'tissue.less_than',
    title: 'A result under the method’s limit',
    group: 'Leaf reading',
    chapter: '5, F4.3',
    input: z.strictObject({ set_id: text, nutrient: text, reported: text, unit: text }),
    output: { cls: text },
    run: (i, book) => lessThan({ ...i, limits: inSet(book, i.setId, i.nutrient) }),
  }),
  method({
    id: 'tissue.contamination',
    title: 'Dust, spray residue, tap water',
    group: 'Leaf reading',
    chapter: '5, F3.1',
    output: { flags: z.array(z.array(text)) },
    input: z.strictObject({
      set_id: text,
      Al: maybe,
      Ti: maybe,
      Fe: maybe,
      Ca: maybe,
      Mn: maybe,
      Zn: maybe,
      Cu: maybe,
      washed: text.nullish(),
      spray_elements: z.array(text).nullish(),
    }),
    run: (i, book) => {
      const { ranges } = leafStandards(book);
      const upper = Object.fromEntries(
        (['Fe', 'Mn', 'Zn', 'Cu'] as const).flatMap((x) => {
          const row = ranges.find((r) => r.setId === i.setId && r.nutrient === x);
          return row ? [[x, row.sufficientHigh]] : [];
        }),
      );
      return { flags: contamination({ ...i, upper }) };
    },
  }),
  method({
    id: 'tissue.find_standard',
    title: 'The standard for a crop, part and stage',
    group: 'Leaf class',
    chapter: '5, F6.0',
    input: z.strictObject({
      crop: text,
      part: text,
      bbch: n,
      nutrient: text,
      system: text.nullish(),
      value: maybe,
    }),
    output: { how: text, set_id: text },
    run: (i, book) => {
      const s = findStandard(leafStandards(book).ranges, i);
      return {
        how: s.how,
        setId: s.setId,
        limits: letters(s.limits),
        confidence: s.confidence,
        source: s.row.source,
        ...(i.value == null ? {} : { cls: classifyLeaf(i.value, s.limits).cls }),
      };
    },
  }),
  method({
    id: 'tissue.interpolate_range',
    title: 'Limits between two stages',
    group: 'Leaf class',
    chapter: '5, F6.1',
    input: z.strictObject({ set_a: text, set_b: text, nutrient: text, bbch: n }),
    output: { f: n },
    run: (i, book) => {
      const { ranges } = leafStandards(book);
      const r = interpolateRange(
        rowOfSet(ranges, i.setA, i.nutrient),
        rowOfSet(ranges, i.setB, i.nutrient),
        i.bbch,
      );
      return { limits: letters(r.limits), f: r.f, confidence: r.confidence };
    },
  }),
  method({
    id: 'tissue.classify',
    title: 'Class of a leaf value',
    group: 'Leaf class',
    chapter: '5, F5.1',
    input: z.strictObject({ set_id: text, nutrient: text, value: n, unit: text.nullish() }),
    output: { cls: text, score: n.nullable(), dop_pct: n.nullable() },
    run: (i, book) =>
      classifyLeaf(
        i.unit ? toCoreUnit({ nutrient: i.nutrient, value: i.value, unit: i.unit }).value : i.value,
        inSet(book, i.setId, i.nutrient),
      ),
  }),
  method({
    id: 'tissue.class_confidence',
    title: 'How sure the class is',
    group: 'Leaf class',
    chapter: '5, F5.5',
    input: z.strictObject({ value: n, limit: n, combined_cv_pct: n, n_samples: maybe }),
    output: { z: n, p_below_limit: n },
    run: classConfidence,
  }),
  method({
    id: 'tissue.most_limiting',
    title: 'Nutrients in order of shortage',
    group: 'Leaf class',
    chapter: '5, F5.6',
    input: z.strictObject({ set_id: text, values: z.record(z.string(), n) }),
    output: { order: z.array(text) },
    run: (i, book) => mostLimiting({ ...i, ranges: leafStandards(book).ranges }),
  }),
];
