import { z } from 'zod';
import { readLeaf, sumProblem, type LeafAssessment } from '@/core/lines/leaf';
import { MOST_OF_FIELD } from '@/core/farm/leafBringIn';
import { leafSampleSchema, type LeafSampleFact } from '@/core/facts/leafSample';
import { crosswalkOf } from '@/core/book/crops';
import { bookOf, type Book, type LibraryChange } from '@/core/book/book';
import { leafStandards } from '@/core/book/leafStandards';
import { tissueNutrients } from '@/core/book/tissueNutrients';
import { partsOfPlants, standardsFor } from '@/core/tissue/standard';
import { refusalOf } from '@/core/quantity/input';
import { Refusal, refuse } from '@/core/quantity/refusal';
import type { Db } from '@/data/client';
import { fieldById, libraryOf, record } from '@/data/farms';
import { addLeafSample, leafFactsOf, removeLeafSample } from '@/data/samples';
import { authorise, type Actor } from './authorise';
import { today } from './clock';

const bookOfFarm = async (db: Db, farmId: string): Promise<Book> =>
  bookOf((await libraryOf(db, [farmId])).map(({ farmId: _, ...c }): LibraryChange => c));

/** What may be sampled of the crop of now, and the nutrients that a report may name. */
export async function leafChoicesOf(
  db: Db,
  farmId: string,
  cropKey: string | null,
): Promise<{
  choices: ReturnType<typeof standardsFor>;
  parts: ReturnType<typeof partsOfPlants>;
  nutrients: string[];
}> {
  const book = await bookOfFarm(db, farmId);
  const tissueCrop = cropKey ? crosswalkOf(book, cropKey).tissueCrop : null;
  const { ranges } = leafStandards(book);
  return {
    choices: tissueCrop ? standardsFor(ranges, tissueCrop) : [],
    parts: partsOfPlants(ranges),
    nutrients: tissueNutrients(),
  };
}

const confirmedList = z.array(z.string().max(8)).max(25).catch([]);
/**
 * A sample of a wrong part or stage is refused, with the right choices; a figure that can be meant
 * otherwise is asked, until somebody has confirmed it. Until then nothing is stored. A sample that
 * waits for its laboratory has no values yet: they come under its own id.
 */
export async function addLeaf(
  db: Db,
  actor: Actor,
  fieldId: string,
  cropKey: string,
  raw: unknown,
  meantAsWritten: unknown = [],
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
  const twice = parsed.data.values.find(
    (v, k) => parsed.data.values.findIndex((x) => x.nutrient === v.nutrient) !== k,
  );
  if (twice)
    refuse(
      'inconsistent',
      twice.nutrient,
      `${twice.nutrient} stands twice: ${twice.reported} too.`,
      {
        value: twice.reported,
      },
    );
  const here = (await leafFactsOf(db, [fieldId])).get(fieldId) ?? [];
  const waiting = here.find((l) => l.id === parsed.data.id);
  if (!waiting && here.length >= MOST_OF_FIELD)
    refuse(
      'out_of_range',
      'leaf',
      `This field holds ${MOST_OF_FIELD} leaf samples already: take old ones away first.`,
      { value: here.length, allowed: `up to ${MOST_OF_FIELD}` },
    );
  if (waiting && waiting.values.length > 0)
    refuse('inconsistent', 'id', 'This sample has its values already.', { value: parsed.data.id });
  const leaf: LeafSampleFact = {
    ...parsed.data,
    cropKey,
    version: (waiting?.version ?? 0) + 1,
    author: actor.name,
    recordedOn: today(),
  };
  const assessment = readLeaf(await bookOfFarm(db, field.farmId), field.areaHa, leaf);
  if (assessment.refused) return assessment;
  const bad = assessment.results.find((r) => r.refused !== null);
  if (bad?.refused) refuse('inconsistent', bad.nutrient, bad.refused, { value: bad.reported });
  const confirmed = confirmedList.parse(meantAsWritten);
  if (assessment.results.some((r) => r.meant !== null && !confirmed.includes(r.nutrient)))
    return assessment;
  const sum = sumProblem(assessment);
  if (sum !== null) refuse('inconsistent', 'values', sum);
  await db.transaction(async (tx) => {
    // Somebody else may have given its values, or taken it away, since it was looked up.
    const still = (await leafFactsOf(tx, [fieldId])).get(fieldId)?.find((l) => l.id === leaf.id);
    if (still?.version !== waiting?.version)
      refuse(
        'conflict',
        'leaf',
        'Somebody else changed this sample at the same moment: look again.',
        {
          value: leaf.id,
        },
      );
    if (waiting) await removeLeafSample(tx, fieldId, leaf.id);
    await addLeafSample(tx, fieldId, leaf);
    await record(tx, {
      personId: actor.id,
      farmId: field.farmId,
      action: leaf.values.length === 0 ? 'take_leaf' : 'add_leaf',
      subject: `field ${fieldId}`,
      detail: { id: leaf.id },
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
