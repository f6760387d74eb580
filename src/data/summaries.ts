import { and, asc, count, desc, eq, inArray, isNotNull, max, sql, type SQL } from 'drizzle-orm';
import type { FieldSummary } from '../core/farm/fieldSummary';
import type { RowSums } from '../core/farm/farmTotals';
import type { Executor } from './client';
import { farms, farmSums, fields, fieldSeasons, fieldSummaries, planVersions } from './schema';

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
  version: VersionLine | null;
}
/** The newest version of a season's plan, and whether the plan was changed since. */
export interface VersionLine {
  number: number;
  status: string;
  changed: boolean;
}
export interface PageAsked {
  offset: number;
  limit: number;
  /** Part of a field's name; empty for all. */
  search: string;
}
/** What a list of fields is narrowed to. */
export const FIELD_STATES = [
  'decide',
  'stopped',
  'no_crop',
  'not_proposed',
  'to_answer',
  'change_asked',
  'changed',
  'agreed',
] as const;
export type FieldState = (typeof FIELD_STATES)[number];
export const FIELD_SORTS = ['list', 'name', 'decide', 'n'] as const;
export type FieldSort = (typeof FIELD_SORTS)[number];
export interface FieldsAsked extends PageAsked {
  state?: FieldState | null;
  sort?: FieldSort;
}
const likeOf = (search: string): string => `%${search.replaceAll(/[\\%_]/g, (c) => `\\${c}`)}%`;
/** Names with their numbers as numbers: Field 2 stands before Field 10. */
const byNumbers = sql`lower(regexp_replace(regexp_replace(${fields.name}, '([0-9]+)', '0000000000\\1', 'g'), '0*([0-9]{10})', '\\1', 'g'))`;

const newestVersion = (db: Executor) =>
  db
    .select({
      number: planVersions.number,
      status: planVersions.status,
      seasonVersion: planVersions.seasonVersion,
    })
    .from(planVersions)
    .where(eq(planVersions.seasonId, fieldSummaries.seasonId))
    .orderBy(desc(planVersions.number))
    .limit(1)
    .as('newest');
type Newest = ReturnType<typeof newestVersion>;
const changedSince = (newest: Newest): SQL =>
  sql`(${newest.status} = 'agreed' and ${newest.seasonVersion} is distinct from ${fieldSeasons.version})`;
/** A part of the summary as text; null where it says nothing. */
const part = (name: string): SQL => sql`${fieldSummaries.document} ->> ${name}`;
const count0 = (name: string): SQL => sql`coalesce((${part(name)})::int, 0)`;
function inState(state: FieldState | null | undefined, newest: Newest): SQL | undefined {
  switch (state) {
    case null:
    case undefined:
      return undefined;
    case 'decide':
      return sql`${count0('stops')} + ${count0('cautions')} > 0`;
    case 'stopped':
      return sql`${count0('stops')} > 0`;
    case 'no_crop':
      return sql`${part('cropName')} is null`;
    case 'not_proposed':
      return sql`${newest.status} is null`;
    case 'to_answer':
      return sql`${newest.status} = 'proposed'`;
    case 'change_asked':
      return sql`${newest.status} = 'change_asked'`;
    case 'changed':
      return changedSince(newest);
    case 'agreed':
      return sql`(${newest.status} = 'agreed' and not ${changedSince(newest)})`;
  }
}
/** A field is found by its name or its crop. */
const among = (
  farmIds: readonly string[],
  { search, state }: Pick<FieldsAsked, 'search' | 'state'>,
  newest: Newest,
) =>
  and(
    inArray(fields.farmId, [...farmIds]),
    search === ''
      ? undefined
      : sql`(${fields.name} ilike ${likeOf(search)} or ${part('cropName')} ilike ${likeOf(search)})`,
    inState(state, newest),
  );
const inOrder = (sort: FieldSort = 'list'): SQL[] => [
  ...{
    list: [],
    name: [sql`${byNumbers} asc`],
    decide: [sql`${count0('stops')} desc`, sql`${count0('cautions')} desc`],
    n: [sql`(${part('stillToApply')})::float desc nulls last`],
  }[sort],
  asc(fields.position),
  sql`${byNumbers} asc`,
  asc(fields.id),
];

/**
 * So many fields of one farm from a place of its list on, with their summaries and the newest
 * version of each plan, in one query.
 */
export async function summaryPage(
  db: Executor,
  farmId: string,
  asked: FieldsAsked,
  reckoning: Reckoning,
): Promise<SummaryRow[]> {
  const newest = newestVersion(db);
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
      changed: sql<boolean>`coalesce(${changedSince(newest)}, false)`.mapWith(Boolean),
    })
    .from(fields)
    .innerJoin(fieldSummaries, eq(fieldSummaries.fieldId, fields.id))
    .leftJoin(fieldSeasons, eq(fieldSeasons.id, fieldSummaries.seasonId))
    .leftJoinLateral(newest, sql`true`)
    .where(among([farmId], asked, newest))
    .orderBy(...inOrder(asked.sort))
    .limit(asked.limit)
    .offset(asked.offset);
  return rows.map(({ number, status, changed, ...r }) => ({
    ...r,
    version: number === null || status === null ? null : { number, status, changed },
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
    .orderBy(sql`${byNumbers} asc`, asc(fields.id))
    .limit(limit);

/** How many fields of each farm there are, of those that the search finds. */
export async function fieldCounts(
  db: Executor,
  farmIds: readonly string[],
  asked: Pick<FieldsAsked, 'search' | 'state'>,
): Promise<Map<string, number>> {
  if (farmIds.length === 0) return new Map();
  const newest = newestVersion(db);
  const found = await db
    .select({ farmId: fields.farmId, n: count() })
    .from(fields)
    .innerJoin(fieldSummaries, eq(fieldSummaries.fieldId, fields.id))
    .leftJoin(fieldSeasons, eq(fieldSeasons.id, fieldSummaries.seasonId))
    .leftJoinLateral(newest, sql`true`)
    .where(among(farmIds, asked, newest))
    .groupBy(fields.farmId);
  return new Map(found.map((r) => [r.farmId, r.n]));
}

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
