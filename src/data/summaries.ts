import { and, asc, count, desc, eq, inArray, isNotNull, max, sql, type SQL } from 'drizzle-orm';
import type { FieldSummary } from '../core/farm/fieldSummary';
import type { RowSums } from '../core/farm/farmTotals';
import type { Executor } from './client';
import { farms, farmSums, fields, fieldSummaries, planVersions } from './schema';

/** What a summary has to be reckoned on and by to be shown today. */
export interface Reckoning {
  day: string;
  program: string;
}
/** Written since it was reckoned, reckoned on another day, or by another program. */
const staleNow = ({ day, program }: Reckoning): SQL =>
  sql`(${fieldSummaries.reckoned} is distinct from ${fieldSummaries.touched}
    or ${fieldSummaries.reckonedOn} is distinct from ${day}
    or ${fieldSummaries.reckonedBy} is distinct from ${program})`;

export interface SummaryRow {
  farmId: string;
  fieldId: string;
  name: string;
  areaHa: number;
  touched: number;
  stale: boolean;
  summary: FieldSummary | null;
  version: { number: number; status: string } | null;
}
export interface PageAsked {
  offset: number;
  limit: number;
  /** Part of a field's name; empty for all. */
  search: string;
}
const likeOf = (search: string): string => `%${search.replaceAll(/[\\%_]/g, (c) => `\\${c}`)}%`;
const among = (farmIds: readonly string[], search: string) =>
  and(
    inArray(fields.farmId, [...farmIds]),
    search === '' ? undefined : sql`${fields.name} ilike ${likeOf(search)}`,
  );

/**
 * So many fields of one farm from a place of its list on, with their summaries and the newest
 * version of each plan, in one query.
 */
export async function summaryPage(
  db: Executor,
  farmId: string,
  { offset, limit, search }: PageAsked,
  reckoning: Reckoning,
): Promise<SummaryRow[]> {
  const newest = db
    .select({ number: planVersions.number, status: planVersions.status })
    .from(planVersions)
    .where(eq(planVersions.seasonId, fieldSummaries.seasonId))
    .orderBy(desc(planVersions.number))
    .limit(1)
    .as('newest');
  const rows = await db
    .select({
      farmId: fields.farmId,
      fieldId: fields.id,
      name: fields.name,
      areaHa: fields.areaHa,
      touched: fieldSummaries.touched,
      stale: staleNow(reckoning).mapWith(Boolean),
      summary: fieldSummaries.document,
      number: newest.number,
      status: newest.status,
    })
    .from(fields)
    .innerJoin(fieldSummaries, eq(fieldSummaries.fieldId, fields.id))
    .leftJoinLateral(newest, sql`true`)
    .where(among([farmId], search))
    .orderBy(asc(fields.position), asc(fields.name), asc(fields.id))
    .limit(limit)
    .offset(offset);
  return rows.map(({ number, status, ...r }) => ({
    ...r,
    version: number === null || status === null ? null : { number, status },
  }));
}

/** Fields whose name or farm holds every word, in the order of their names. */
export const findFields = (
  db: Executor,
  farmIds: readonly string[],
  words: readonly string[],
  limit: number,
): Promise<{ id: string; name: string; farm: string }[]> =>
  db
    .select({ id: fields.id, name: fields.name, farm: farms.name })
    .from(fields)
    .innerJoin(farms, eq(farms.id, fields.farmId))
    .where(
      and(
        inArray(fields.farmId, [...farmIds]),
        ...words.map((w) => sql`${fields.name} || ' ' || ${farms.name} ilike ${likeOf(w)}`),
      ),
    )
    .orderBy(asc(fields.name), asc(fields.id))
    .limit(limit);

/** How many fields of each farm there are, of those that the search finds. */
export const fieldCounts = async (
  db: Executor,
  farmIds: readonly string[],
  search: string,
): Promise<Map<string, number>> =>
  new Map(
    farmIds.length === 0
      ? []
      : (
          await db
            .select({ farmId: fields.farmId, n: count() })
            .from(fields)
            .where(among(farmIds, search))
            .groupBy(fields.farmId)
        ).map((r) => [r.farmId, r.n]),
  );

/** The next fields of a farm whose summary is not of today. */
export const staleFields = (
  db: Executor,
  farmId: string,
  reckoning: Reckoning,
  limit: number,
): Promise<{ fieldId: string; touched: number }[]> =>
  db
    .select({ fieldId: fieldSummaries.fieldId, touched: fieldSummaries.touched })
    .from(fieldSummaries)
    .where(and(eq(fieldSummaries.farmId, farmId), staleNow(reckoning)))
    .limit(limit);

export interface Reckoned {
  fieldId: string;
  /** What `touched` said before the plan was read: a write in between leaves the summary stale. */
  touched: number;
  seasonId: string | null;
  document: FieldSummary | null;
}
/** Stores summaries in one statement. A newer one that somebody else has stored meanwhile stays. */
export async function putSummaries(
  db: Executor,
  rows: readonly Reckoned[],
  { day, program }: Reckoning,
): Promise<void> {
  if (rows.length === 0) return;
  await db.execute(sql`
    update ${fieldSummaries} as s
    set reckoned = r.touched, reckoned_on = ${day}, reckoned_by = ${program},
      revision = nextval('summary_revision'), season_id = r."seasonId", document = r.document
    from json_to_recordset(${JSON.stringify(rows)}::json)
      as r("fieldId" text, touched integer, "seasonId" text, document jsonb)
    where s.field_id = r."fieldId"
      and (s.reckoned is null or s.reckoned <= r.touched)`);
}

export interface Freshness {
  fields: number;
  fresh: number;
  /** Changes with every summary of the farm that is written, added or dropped. */
  stamp: string;
}
export async function freshnessOf(
  db: Executor,
  farmId: string,
  reckoning: Reckoning,
): Promise<Freshness> {
  const [row] = await db
    .select({
      fields: count(),
      fresh: sql<number>`count(*) filter (where not ${staleNow(reckoning)})`.mapWith(Number),
      newest: max(fieldSummaries.revision),
    })
    .from(fieldSummaries)
    .where(eq(fieldSummaries.farmId, farmId));
  const { fields: all, fresh, newest } = row ?? { fields: 0, fresh: 0, newest: null };
  return { fields: all, fresh, stamp: `${all} fields, revision ${newest ?? 0}` };
}

/**
 * Summaries of a farm's fields in the order of its list; a field that could not be reckoned is
 * left out.
 */
export const summariesOf = async (db: Executor, farmId: string): Promise<FieldSummary[]> =>
  (
    await db
      .select({ document: fieldSummaries.document })
      .from(fieldSummaries)
      .innerJoin(fields, eq(fields.id, fieldSummaries.fieldId))
      .where(and(eq(fieldSummaries.farmId, farmId), isNotNull(fieldSummaries.document)))
      .orderBy(asc(fields.position), asc(fields.name), asc(fields.id))
  ).flatMap((r) => r.document ?? []);

export const sumsOfFarm = async (
  db: Executor,
  farmId: string,
): Promise<{ stamp: string; document: RowSums } | undefined> =>
  (await db.select().from(farmSums).where(eq(farmSums.farmId, farmId)))[0];
export const putSumsOfFarm = async (
  db: Executor,
  row: typeof farmSums.$inferInsert,
): Promise<void> => {
  await db.insert(farmSums).values(row).onConflictDoUpdate({ target: farmSums.farmId, set: row });
};
