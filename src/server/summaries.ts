import { bookOf } from '@/core/book/book';
import { farmTotals, sumRows, type FarmTotals, type RowSums } from '@/core/farm/farmTotals';
import { fieldSummary } from '@/core/farm/fieldSummary';
import type { FarmFieldRow } from '@/core/farm/wholeFarm';
import type { Db } from '@/data/client';
import { farmsById, membersOf } from '@/data/farms';
import { loadNewestPlans } from '@/data/seasons';
import {
  fieldCounts,
  findFields,
  freshnessOf,
  putSummaries,
  putSumsOfFarm,
  staleFields,
  summariesOf,
  summaryPage,
  sumsOfFarm,
  type Freshness,
  type FieldsAsked,
  type Reckoned,
  type Reckoning,
  type SummaryRow,
} from '@/data/summaries';
import { farmsAllowed, may, type Action, type Actor } from './authorise';
import { today } from './clock';
import { failureLine } from './failure';
import { farmDesk, storesNamed, type FarmDesk } from './farm';

// Lists read what is stored; what is not of today is reckoned again before it is shown, never
// after.

/** Which program reckoned: another one may come to other figures from the same plan. */
const reckoningNow = (): Reckoning => ({
  day: today(),
  program: process.env.FURROW_PROGRAM ?? 'source',
});

/**
 * Reckons some fields anew and stores what lists show of them. A plan that can't be reckoned costs
 * the list only its own line.
 */
async function reckon(
  db: Db,
  stale: readonly { fieldId: string; touched: number }[],
  reckoning: Reckoning,
): Promise<Reckoned[]> {
  const plans = await loadNewestPlans(
    db,
    stale.map((s) => s.fieldId),
    reckoning.day,
  );
  const of = new Map(plans.map((p) => [p.fieldId, p]));
  const rows = stale.map(({ fieldId, touched }): Reckoned => {
    const found = of.get(fieldId);
    if (!found) return { fieldId, touched, seasonId: null, document: null };
    const { seasonId, plan } = found;
    try {
      const document = fieldSummary(bookOf(plan.farm.library), { fieldId, plan });
      return { fieldId, touched, seasonId, document };
    } catch (e) {
      console.error(`Summary of field ${fieldId}: ${failureLine(e)}`);
      return { fieldId, touched, seasonId, document: null };
    }
  });
  await putSummaries(db, rows, reckoning);
  return rows;
}

export interface FieldList {
  farms: {
    id: string;
    name: string;
    /** Fields that are found here. */
    fields: number;
    /** Who answers a proposed plan, and who an asked change. */
    answers: { farmers: string[]; advisors: string[] };
  }[];
  rows: SummaryRow[];
  /** Fields that the search finds, over all pages. */
  found: number;
}

/** Which rows of which farm a page shows: farms follow each other in one long list. */
function slices(
  counts: readonly { id: string; fields: number }[],
  { offset, limit, ...rest }: FieldsAsked,
): { id: string; asked: FieldsAsked }[] {
  let before = 0;
  return counts.flatMap(({ id, fields }) => {
    const from = Math.max(0, offset - before);
    const to = Math.min(fields, offset + limit - before);
    before += fields;
    return from < to ? [{ id, asked: { ...rest, offset: from, limit: to - from } }] : [];
  });
}

/** One page of the actor's fields, each as it stands now. */
export async function fieldList(
  db: Db,
  actor: Actor,
  asked: FieldsAsked,
  farmId: string | null = null,
): Promise<FieldList> {
  const allowed = await farmsAllowed(db, actor, 'read');
  const ids = farmId === null ? allowed : allowed.filter((id) => id === farmId);
  const reckoning = reckoningNow();
  const counts = await fieldCounts(db, ids, asked);
  const farms = [];
  for (const { id, name } of await farmsById(db, ids)) {
    const people = await membersOf(db, id);
    const named = (action: Action) => people.filter((p) => may(p.role, action)).map((p) => p.name);
    farms.push({
      id,
      name,
      fields: counts.get(id) ?? 0,
      answers: { farmers: named('decide'), advisors: named('propose') },
    });
  }
  const rows = [];
  for (const slice of slices(farms, asked)) {
    const page = await summaryPage(db, slice.id, slice.asked, reckoning);
    const stale = page.filter((r) => r.stale);
    if (stale.length > 0) await reckon(db, stale, reckoning);
    rows.push(
      ...(stale.length > 0 ? await summaryPage(db, slice.id, slice.asked, reckoning) : page),
    );
  }
  return { farms, rows, found: farms.reduce((s, f) => s + f.fields, 0) };
}

const MOST_FOUND = 20;
/** Fields and farms by words of their names, for those who look for one by typing. */
export async function foundFields(
  db: Db,
  actor: Actor,
  text: string,
): Promise<{
  fields: { id: string; name: string; farm: string }[];
  farms: { id: string; name: string }[];
}> {
  const allowed = await farmsAllowed(db, actor, 'read');
  const words = text.slice(0, 80).split(/\s+/u).filter(Boolean);
  return {
    fields: await findFields(db, allowed, words, MOST_FOUND),
    farms: (await farmsById(db, allowed)).map(({ id, name }) => ({ id, name })),
  };
}

const CHUNK = 100;
/** Renews what is not of today, chunk by chunk; other requests get their turn in between. */
async function renewAll(db: Db, farmId: string, reckoning: Reckoning): Promise<void> {
  for (;;) {
    const stale = await staleFields(db, farmId, reckoning, CHUNK);
    if (stale.length === 0) return;
    await reckon(db, stale, reckoning);
    await new Promise((next) => setImmediate(next));
  }
}
const renewals = new Map<string, Promise<void>>();
/** Begins to renew a farm's summaries in the background, or joins what runs already. */
export function renewFarm(db: Db, farmId: string): Promise<void> {
  const running = renewals.get(farmId);
  if (running) return running;
  const work = renewAll(db, farmId, reckoningNow())
    .catch((e: unknown) => console.error(`Summaries of farm ${farmId}: ${failureLine(e)}`))
    .finally(() => renewals.delete(farmId));
  renewals.set(farmId, work);
  return work;
}

/**
 * How far the farm's summaries are; what is left is begun. Null where the farm is not the person's
 * to see.
 */
export async function farmFreshness(
  db: Db,
  actor: Actor,
  farmId: string,
): Promise<Freshness | null> {
  if (!(await farmsAllowed(db, actor, 'read')).includes(farmId)) return null;
  const found = await freshnessOf(db, farmId, reckoningNow());
  if (found.fresh < found.fields) void renewFarm(db, farmId);
  return found;
}

async function rowSums(db: Db, farmId: string, stamp: string): Promise<RowSums> {
  const stored = await sumsOfFarm(db, farmId);
  if (stored?.stamp === stamp) return stored.document;
  const document = sumRows(await summariesOf(db, farmId));
  await putSumsOfFarm(db, { farmId, stamp, document });
  return document;
}

export interface FarmList {
  desk: FarmDesk;
  list: FieldList;
  freshness: Freshness;
  /**
   * Null while summaries are still renewed: sums of yesterday and today together would be
   * nobody's.
   */
  sums: RowSums | null;
}
/** One page of a farm's fields with the sums over all of them. */
export async function farmList(
  db: Db,
  actor: Actor,
  farmId: string,
  asked: FieldsAsked,
): Promise<FarmList | null> {
  const desk = await farmDesk(db, actor, farmId);
  if (!desk) return null;
  const list = await fieldList(db, actor, asked, farmId);
  const reckoning = reckoningNow();
  let freshness = await freshnessOf(db, farmId, reckoning);
  const behind = freshness.fields - freshness.fresh;
  if (behind > 0 && behind <= CHUNK) {
    await renewFarm(db, farmId);
    freshness = await freshnessOf(db, farmId, reckoning);
  }
  const ready = freshness.fresh === freshness.fields;
  if (!ready) void renewFarm(db, farmId);
  return { desk, list, freshness, sums: ready ? await rowSums(db, farmId, freshness.stamp) : null };
}

/** Every field of a farm with the sums, for files: waits until all are of today. */
export async function wholeFarm(
  db: Db,
  actor: Actor,
  farmId: string,
): Promise<{ name: string; rows: FarmFieldRow[]; totals: FarmTotals } | null> {
  if (!(await farmsAllowed(db, actor, 'read')).includes(farmId)) return null;
  const desk = await farmDesk(db, actor, farmId);
  if (!desk) return null;
  await renewFarm(db, farmId);
  const rows = await summariesOf(db, farmId);
  return {
    name: desk.terms.name,
    rows,
    totals: farmTotals(sumRows(rows), storesNamed(desk), desk.terms),
  };
}
