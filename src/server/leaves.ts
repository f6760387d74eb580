import {
  assessLeaf,
  leafSampleSchema,
  type LeafAssessment,
  type LeafSample,
} from '@/core/lines/leaf';
import { cropOf, crosswalkOf } from '@/core/book/crops';
import { bookOf, type Book, type LibraryChange } from '@/core/book/book';
import { leafStandards, ownRanges, tissueNutrients } from '@/core/book/leafStandards';
import { standardsFor } from '@/core/tissue/standard';
import { refusalOf } from '@/core/quantity/input';
import { Refusal, refuse } from '@/core/quantity/refusal';
import type { Db } from '@/data/client';
import { fieldById, libraryOf, record, type Field } from '@/data/farms';
import { addLeafSample, leafSamplesOf, removeLeafSample } from '@/data/samples';
import { authorise, type Actor } from './authorise';
import { today } from './clock';
import { readCsv } from './csvFile';

const contextOf = (book: Book, field: Field, cropKey: string) => {
  const crop = cropOf(book, cropKey);
  return {
    cropKey,
    areaHa: field.areaHa,
    perennial: crop.nBaseKgHa > 0,
    legume: crop.nFixing === 'grain_legume' || crop.nFixing === 'forage_legume',
    herbage: crop.group.startsWith('forage'),
  };
};
/** The farm's book, and the ranges with its own limits laid over them. */
const ownBook = async (db: Db, farmId: string) => {
  const library = (await libraryOf(db, [farmId])).map(({ farmId: _, ...c }): LibraryChange => c);
  const book = bookOf(library);
  return { book, standards: ownRanges(await leafStandards(), book) };
};
export interface ReadLeaf {
  sample: LeafSample;
  cropKey: string;
  assessment: LeafAssessment;
}

/** Leaf samples of a field, newest first, each read against its own crop, part and stage; and what may be sampled for the crop of now. */
export async function leavesOf(
  db: Db,
  actor: Actor,
  fieldId: string,
  cropKey: string | null,
): Promise<{ samples: ReadLeaf[]; choices: ReturnType<typeof standardsFor>; nutrients: string[] }> {
  const field = await fieldById(db, fieldId);
  if (!field) refuse('unknown_id', 'field', 'This field does not exist.');
  await authorise(db, actor, 'read', field.farmId);
  const { standards, book } = await ownBook(db, field.farmId);
  const stored = await leafSamplesOf(db, fieldId);
  const tissueCrop = cropKey ? crosswalkOf(book, cropKey).tissueCrop : null;
  return {
    samples: stored.map((s) => ({
      sample: s.sample,
      cropKey: s.cropKey,
      assessment: assessLeaf(book, standards, s.sample, contextOf(book, field, s.cropKey)),
    })),
    choices: tissueCrop ? standardsFor(standards.ranges, tissueCrop) : [],
    nutrients: tissueNutrients(),
  };
}

/** A sample of a wrong part or stage is refused, with the right choices; nothing is stored. */
export async function addLeaf(
  db: Db,
  actor: Actor,
  fieldId: string,
  cropKey: string,
  raw: unknown,
): Promise<LeafAssessment> {
  const field = await fieldById(db, fieldId);
  if (!field) refuse('unknown_id', 'field', 'This field does not exist.');
  await authorise(db, actor, 'sample', field.farmId);
  const parsed = leafSampleSchema.safeParse(raw);
  if (!parsed.success) throw new Refusal(refusalOf(parsed.error, raw));
  if (parsed.data.date > today())
    refuse('inconsistent', 'date', `date = ${parsed.data.date} lies in the future.`, {
      value: parsed.data.date,
      allowed: `up to ${today()}`,
    });
  if (parsed.data.values.length === 0)
    refuse('missing', 'values', 'Give at least one nutrient value.');
  const { standards, book } = await ownBook(db, field.farmId);
  const assessment = assessLeaf(book, standards, parsed.data, contextOf(book, field, cropKey));
  if (assessment.refused) return assessment;
  const bad = assessment.results.find((r) => r.refused !== null);
  if (bad?.refused) refuse('inconsistent', bad.nutrient, bad.refused, { value: bad.reported });
  await db.transaction(async (tx) => {
    await addLeafSample(tx, { fieldId, cropKey, sample: parsed.data });
    await record(tx, {
      personId: actor.id,
      farmId: field.farmId,
      action: 'add_leaf',
      subject: `field ${fieldId}`,
      detail: { id: parsed.data.id },
    });
  });
  return assessment;
}

export async function dropLeaf(db: Db, actor: Actor, fieldId: string, id: string): Promise<void> {
  const field = await fieldById(db, fieldId);
  if (!field) return;
  await authorise(db, actor, 'edit', field.farmId);
  await db.transaction(async (tx) => {
    await removeLeafSample(tx, fieldId, id);
    await record(tx, {
      personId: actor.id,
      farmId: field.farmId,
      action: 'remove_leaf',
      subject: `leaf ${id}`,
    });
  });
}

/** Nutrient values out of a laboratory's leaf report: columns nutrient, value and unit. */
export function readLeafFile(bytes: Uint8Array): LeafSample['values'] {
  const file = readCsv(bytes);
  const column = (word: RegExp, what: string) =>
    file.headers.find((h) => word.test(h.toLowerCase())) ??
    refuse(
      'missing',
      'file',
      `No column for the ${what}: headings nutrient, value and unit are wanted.`,
    );
  const [nutrient, value, unit] = [
    column(/nutrient|element/, 'nutrient'),
    column(/value|result/, 'value'),
    column(/unit/, 'unit'),
  ];
  const known = tissueNutrients();
  return file.rows.map((r) => {
    const symbol = known.find(
      (k) =>
        k.toLowerCase() ===
        (r.cells[nutrient] ?? '').trim().toLowerCase().replace('no3-n', 'no3_n'),
    );
    if (!symbol)
      refuse(
        'unknown_id',
        'nutrient',
        `Line ${r.row}, column ${nutrient}: ${r.cells[nutrient]} is not a nutrient: use ${known.join(', ')}.`,
        { value: r.cells[nutrient] },
      );
    return {
      nutrient: symbol,
      reported: (r.cells[value] ?? '').trim(),
      unit: (r.cells[unit] ?? '').trim().replace(/^ppm$/i, 'mg/kg'),
    };
  });
}
