import { stringify } from 'csv-stringify/sync';
import { z } from 'zod';
import { bookOf } from '@/core/book/book';
import { CROPS, crops, tissueCropOf } from '@/core/book/crops';
import { leafStandards } from '@/core/book/leafStandards';
import { coreUnitOf } from '@/core/book/tissueNutrients';
import { ownLeaf, type LeafNorm, type OwnLeaf } from '@/core/document/leafDocument';
import { figuresOf, type BlockGroup } from '@/core/farm/blockFigures';
import { leafBlocks } from '@/core/farm/leafBlocks';
import { readNorms, type NormList } from '@/core/farm/normFile';
import { refuse } from '@/core/quantity/refusal';
import { normsOf, ownFigures } from '@/core/tissue/ownStandard';
import type { Db, Executor } from '@/data/client';
import { keepOwnLeaf } from '@/data/farmRecords';
import { farmById, fieldsOf, libraryOf, record, storedTermsOf, termsOf } from '@/data/farms';
import { leafFactsOf } from '@/data/samples';
import { loadPlansOf } from '@/data/seasons';
import { authorise, may, type Actor } from './authorise';
import { newId, today } from './clock';
import { parsed } from './input';

export interface LeafBlocks {
  groups: BlockGroup[];
  own: OwnLeaf;
  /** Crops of the farm's book, and those that have leaf ranges: for crops without. */
  cropNames: Record<string, string>;
  withRanges: string[];
  /** Crops grown here that have no ranges. */
  without: { key: string; name: string }[];
  mayEdit: boolean;
}
const farmOf = async (db: Executor, farmId: string) =>
  (await farmById(db, farmId)) ??
  refuse('unknown_id', 'farm', 'This farm does not exist.', { value: farmId });
const farmTerms = async (db: Executor, farmId: string) =>
  termsOf(await farmOf(db, farmId), await libraryOf(db, [farmId]));
async function groupsOf(db: Db, farmId: string): Promise<BlockGroup[]> {
  const { library } = await farmTerms(db, farmId);
  const fields = await fieldsOf(db, [farmId]);
  const facts = await leafFactsOf(
    db,
    fields.map((f) => f.id),
  );
  const plans = await loadPlansOf(db, [farmId], today());
  return leafBlocks(
    bookOf(library),
    fields.map((f) => ({
      ...f,
      leaves: facts.get(f.id) ?? [],
      seasons: plans.filter((p) => p.fieldId === f.id).map(({ plan: { season } }) => season),
    })),
  );
}

/** Leaves of a farm side by side, with the standards and norms of its own. */
export async function leafBlocksOf(db: Db, actor: Actor, farmId: string): Promise<LeafBlocks> {
  const role = await authorise(db, actor, 'read', farmId);
  const { library, ownLeaf: own } = await farmTerms(db, farmId);
  const book = bookOf(library);
  const plans = await loadPlansOf(db, [farmId], today());
  const grown = new Set(
    plans.flatMap(({ plan: { season } }) =>
      season.cropKey !== null &&
      book.rows(CROPS).has(season.cropKey) &&
      tissueCropOf(book, season.cropKey, season.use) === null
        ? [season.cropKey]
        : [],
    ),
  );
  const all = crops(book);
  return {
    groups: await groupsOf(db, farmId),
    own,
    cropNames: Object.fromEntries(all.map((c) => [c.key, c.name])),
    withRanges: [...new Set(leafStandards(book).ranges.map((r) => r.crop))].toSorted(),
    without: all.filter((c) => grown.has(c.key)).map(({ key, name }) => ({ key, name })),
    mayEdit: may(role, 'edit'),
  };
}

/** Changes what the farm has of its own; the lists are read and written in one step. */
async function change(
  db: Db,
  actor: Actor,
  farmId: string,
  what: { action: string; subject: string },
  to: (own: OwnLeaf) => OwnLeaf,
): Promise<void> {
  await db.transaction(async (tx) => {
    const farm = await farmOf(tx, farmId);
    await keepOwnLeaf(tx, farm, parsed(ownLeaf, to(storedTermsOf(farm).ownLeaf)));
    await record(tx, { personId: actor.id, farmId, ...what });
  });
}
const chosenBlocks = z.strictObject({
  group: z.string().min(1).max(120),
  leafIds: z.array(z.string().min(1).max(60)).max(400),
  why: z.string().trim().max(300),
});
/** The blocks that somebody called good, as they stand in the farm now. */
async function chosen(db: Db, farmId: string, raw: unknown) {
  const { group: key, leafIds, why } = parsed(chosenBlocks, raw);
  const group =
    (await groupsOf(db, farmId)).find((g) => g.key === key) ??
    refuse('unknown_id', 'group', 'These leaves are no longer here: look again.', { value: key });
  const blocks = group.blocks.filter((b) => leafIds.includes(b.leafId));
  if (blocks.length !== new Set(leafIds).size)
    refuse('inconsistent', 'leafIds', 'A leaf that was chosen is no longer here: look again.');
  if (why.length < 3)
    refuse('missing', 'why', 'Why are these the good blocks? 3 letters or more.', { value: why });
  return { group, blocks, why };
}
const placeOf = ({ cropKey, setId, part, bbchFrom, bbchTo }: BlockGroup) => ({
  cropKey,
  setId,
  part,
  bbchFrom,
  bbchTo,
});

/** Keeps mean and spread of good blocks as a provisional standard of the farm. */
export async function keepOwnStandard(
  db: Db,
  actor: Actor,
  farmId: string,
  raw: unknown,
): Promise<void> {
  await authorise(db, actor, 'edit', farmId);
  const { group, blocks, why } = await chosen(db, farmId, raw);
  const place = placeOf(group);
  const figures = ownFigures(figuresOf(blocks));
  await change(
    db,
    actor,
    farmId,
    { action: 'keep_own_leaf_standard', subject: `${place.cropKey} ${place.part}` },
    (own) => ({
      ...own,
      standards: [
        // One for a crop, part and stage: the new one takes the place of the old.
        ...own.standards.filter(
          (s) =>
            s.cropKey !== place.cropKey ||
            s.setId !== place.setId ||
            s.part !== place.part ||
            s.bbchFrom !== place.bbchFrom ||
            s.bbchTo !== place.bbchTo,
        ),
        {
          id: newId(),
          ...place,
          blocks: blocks.map(({ field, date }) => ({ field, date })),
          figures,
          why,
          by: actor.name,
          on: today(),
        },
      ],
    }),
  );
}
export async function dropOwnStandard(
  db: Db,
  actor: Actor,
  farmId: string,
  id: string,
): Promise<void> {
  await authorise(db, actor, 'edit', farmId);
  await change(db, actor, farmId, { action: 'drop_own_leaf_standard', subject: id }, (own) => ({
    ...own,
    standards: own.standards.filter((s) => s.id !== id),
  }));
}

/** Norms of one set come in together: an older set of the same name goes. */
const withNorms = (own: OwnLeaf, norms: readonly LeafNorm[]): OwnLeaf => ({
  ...own,
  norms: [...own.norms.filter((x) => !norms.some((n) => n.normSet === x.normSet)), ...norms],
});
/** Norms out of the farm's own good blocks: 50 or more. */
export async function keepOwnNorms(
  db: Db,
  actor: Actor,
  farmId: string,
  raw: unknown,
): Promise<void> {
  await authorise(db, actor, 'edit', farmId);
  const { group, blocks, why } = await chosen(db, farmId, raw);
  const norms = normsOf(figuresOf(blocks));
  const place = placeOf(group);
  await change(
    db,
    actor,
    farmId,
    { action: 'keep_leaf_norms', subject: `${place.cropKey} ${place.part}` },
    (own) =>
      withNorms(
        own,
        norms.map((n) => ({
          normSet: `own ${group.cropName}, ${group.partLabel}`.slice(0, 60),
          ...place,
          ...n,
          nSamples: blocks.length,
          source: `own good blocks: ${why}`.slice(0, 200),
          confidence: 'low',
          by: actor.name,
          on: today(),
        })),
      ),
  );
}
/** Norms out of a table; rows that do not fit are named, the rest comes in. */
export async function importNorms(
  db: Db,
  actor: Actor,
  farmId: string,
  groupKey: string,
  bytes: Uint8Array,
): Promise<{ norms: number; left: NormList['left'] }> {
  await authorise(db, actor, 'edit', farmId);
  const group =
    (await groupsOf(db, farmId)).find((g) => g.key === groupKey) ??
    refuse('unknown_id', 'group', 'Choose the leaves that the norms are for.', { value: groupKey });
  const { norms, left } = await readNorms(bytes, group);
  if (norms.length > 0)
    await change(
      db,
      actor,
      farmId,
      { action: 'bring_leaf_norms', subject: `${group.cropKey} ${group.part}` },
      (own) =>
        withNorms(
          own,
          norms.map((n) => ({ ...n, by: actor.name, on: today() })),
        ),
    );
  return { norms: norms.length, left };
}
export async function dropNorms(
  db: Db,
  actor: Actor,
  farmId: string,
  normSet: string,
): Promise<void> {
  await authorise(db, actor, 'edit', farmId);
  await change(db, actor, farmId, { action: 'drop_leaf_norms', subject: normSet }, (own) => ({
    ...own,
    norms: own.norms.filter((x) => x.normSet !== normSet),
  }));
}
const similarInput = z.strictObject({
  cropKey: z.string().min(1).max(60),
  like: z.string().max(60).nullable(),
});
/** Names a similar crop whose ranges stand beside leaves of one without; null: none any more. */
export async function nameSimilar(
  db: Db,
  actor: Actor,
  farmId: string,
  raw: unknown,
): Promise<void> {
  await authorise(db, actor, 'edit', farmId);
  const { cropKey, like } = parsed(similarInput, raw);
  const book = bookOf((await farmTerms(db, farmId)).library);
  if (!book.rows(CROPS).has(cropKey) || tissueCropOf(book, cropKey, null) !== null)
    refuse('inconsistent', 'cropKey', `${cropKey} has leaf ranges of its own, or is not known.`, {
      value: cropKey,
    });
  const known = [...new Set(leafStandards(book).ranges.map((r) => r.crop))];
  if (like !== null && !known.includes(like))
    refuse('unknown_id', 'like', `${like} has no leaf ranges: use one of ${known.join(', ')}.`, {
      value: like,
    });
  await change(db, actor, farmId, { action: 'name_similar_crop', subject: cropKey }, (own) => ({
    ...own,
    similar: [
      ...own.similar.filter((x) => x.cropKey !== cropKey),
      ...(like === null ? [] : [{ cropKey, like, by: actor.name, on: today() }]),
    ],
  }));
}

/** Standards and norms of the farm as tables, for keeping and for other programs. */
export async function ownLeafCsv(
  db: Db,
  actor: Actor,
  farmId: string,
  which: 'standards' | 'norms',
): Promise<string> {
  await authorise(db, actor, 'read', farmId);
  const { ownLeaf: own } = await farmTerms(db, farmId);
  const rows =
    which === 'norms'
      ? [
          [
            'norm_set',
            'ratio',
            'mean',
            'cv',
            'n',
            'units',
            'crop',
            'part',
            'stage',
            'source',
            'confidence',
            'by',
            'on',
          ],
          ...own.norms.map((x) => [
            x.normSet,
            x.ratio,
            x.normMean,
            x.cvPct,
            x.nSamples ?? '',
            x.ratio.split('/').map(coreUnitOf).join('/'),
            x.cropKey,
            x.part,
            `${x.bbchFrom}-${x.bbchTo}`,
            x.source,
            x.confidence,
            x.by,
            x.on,
          ]),
        ]
      : [
          [
            'crop',
            'part',
            'stage',
            'nutrient',
            'unit',
            'n',
            'mean',
            'sd',
            'p10',
            'p90',
            'blocks',
            'why',
            'by',
            'on',
          ],
          ...own.standards.flatMap((s) =>
            s.figures.map((f) => [
              s.cropKey,
              s.part,
              `${s.bbchFrom}-${s.bbchTo}`,
              f.nutrient,
              coreUnitOf(f.nutrient),
              f.n,
              f.mean,
              f.sd ?? '',
              f.lower ?? '',
              f.upper ?? '',
              s.blocks.map((b) => `${b.field} ${b.date}`).join('; '),
              s.why,
              s.by,
              s.on,
            ]),
          ),
        ];
  return stringify(rows, { escape_formulas: true });
}
