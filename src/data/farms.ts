import { and, asc, desc, eq, inArray, sql, type SQL } from 'drizzle-orm';
import type { Executor } from './client';
import { DEFAULT_TERMS, type FarmTerms } from '../core/document/farmTerms';
import {
  audit,
  farms,
  fields,
  libraryChanges,
  memberships,
  people,
  type StoredTerms,
} from './schema';

export type Person = typeof people.$inferSelect;
export type Farm = typeof farms.$inferSelect;
export type Field = typeof fields.$inferSelect;
export type Role = (typeof memberships.$inferSelect)['role'];

export const listPeople = (db: Executor): Promise<Person[]> =>
  db.select().from(people).orderBy(asc(people.name));
export const rolesOf = (db: Executor, personId: string) =>
  db
    .select({ farmId: memberships.farmId, role: memberships.role })
    .from(memberships)
    .where(eq(memberships.personId, personId));
export const farmsById = async (db: Executor, ids: readonly string[]): Promise<Farm[]> =>
  ids.length === 0
    ? []
    : db
        .select()
        .from(farms)
        .where(inArray(farms.id, [...ids]))
        .orderBy(asc(farms.name));
export const fieldsOf = async (db: Executor, farmIds: readonly string[]): Promise<Field[]> =>
  farmIds.length === 0
    ? []
    : db
        .select()
        .from(fields)
        .where(inArray(fields.farmId, [...farmIds]))
        .orderBy(asc(fields.farmId), asc(fields.position), asc(fields.name));
const NEIGHBOURS = 100;
/**
 * A field's neighbours in the order of its farm's list, the nearest hundred on each side, and
 * itself.
 */
export async function neighboursOf(db: Executor, field: Field): Promise<Field[]> {
  const own = sql`(${field.position}, ${field.name}, ${field.id})`;
  const place = sql`(${fields.position}, ${fields.name}, ${fields.id})`;
  const order = [fields.position, fields.name, fields.id];
  const side = (here: SQL, by: typeof asc) =>
    db
      .select()
      .from(fields)
      .where(and(eq(fields.farmId, field.farmId), here))
      .orderBy(...order.map((c) => by(c)))
      .limit(NEIGHBOURS);
  return [
    ...(await side(sql`${place} < ${own}`, desc)).toReversed(),
    field,
    ...(await side(sql`${place} > ${own}`, asc)),
  ];
}
export const fieldById = async (db: Executor, id: string): Promise<Field | undefined> =>
  (await db.select().from(fields).where(eq(fields.id, id)))[0];
export const farmById = async (db: Executor, id: string): Promise<Farm | undefined> =>
  (await db.select().from(farms).where(eq(farms.id, id)))[0];
export const libraryOf = async (db: Executor, farmIds: readonly string[]) =>
  farmIds.length === 0
    ? []
    : db
        .select()
        .from(libraryChanges)
        .where(inArray(libraryChanges.farmId, [...farmIds]))
        .orderBy(asc(libraryChanges.table), asc(libraryChanges.key));
/** Terms of a farm without columns of their own, whole: what an older program did not store has its default. */
export function storedTermsOf({ terms }: Pick<Farm, 'terms'>): StoredTerms {
  const { library: _, ...defaults } = DEFAULT_TERMS;
  return { ...defaults, ...terms, ownLeaf: { ...defaults.ownLeaf, ...terms?.ownLeaf } };
}
/**
 * What plans of a farm reckon with: its own money and rules, the shown defaults where it has none,
 * and its own library values.
 */
export function termsOf(farm: Farm, library: Awaited<ReturnType<typeof libraryOf>>): FarmTerms {
  const { name, closedPeriods, legalNCapKgHa, nPricePerKg } = farm;
  return {
    ...storedTermsOf(farm),
    name,
    closedPeriods,
    legalNCapKgHa,
    nPricePerKg,
    library: library
      .filter((c) => c.farmId === farm.id)
      .map(({ table, key, like, values, by, on, why }) => ({
        table,
        key,
        like,
        values,
        by,
        on,
        why,
      })),
  };
}
export const addField = async (db: Executor, field: typeof fields.$inferInsert): Promise<void> => {
  await db.insert(fields).values(field);
};
/** Every write leaves who, when and what. */
export const record = async (
  db: Executor,
  entry: { personId: string; farmId: string; action: string; subject: string; detail?: unknown },
): Promise<void> => {
  await db.insert(audit).values(entry);
};

export const addPerson = async (db: Executor, person: Person): Promise<void> => {
  await db.insert(people).values(person);
};
export const renamePerson = async (db: Executor, id: string, name: string): Promise<void> => {
  await db.update(people).set({ name }).where(eq(people.id, id));
};
/** Who works with a farm, by name. */
export const membersOf = (db: Executor, farmId: string) =>
  db
    .select({ id: people.id, name: people.name, role: memberships.role })
    .from(memberships)
    .innerJoin(people, eq(memberships.personId, people.id))
    .where(eq(memberships.farmId, farmId))
    .orderBy(asc(people.name));
export const putMember = async (
  db: Executor,
  farmId: string,
  personId: string,
  role: Role,
): Promise<void> => {
  await db
    .insert(memberships)
    .values({ personId, farmId, role })
    .onConflictDoUpdate({ target: [memberships.personId, memberships.farmId], set: { role } });
};
export const dropMember = async (db: Executor, farmId: string, personId: string): Promise<void> => {
  await db
    .delete(memberships)
    .where(and(eq(memberships.farmId, farmId), eq(memberships.personId, personId)));
};
export const addFarm = async (db: Executor, farm: typeof farms.$inferInsert): Promise<void> => {
  await db.insert(farms).values(farm);
};
/** Changes a farm if nobody else has since `expected`. @returns whether it did */
export const changeFarm = async (
  db: Executor,
  farmId: string,
  expected: number,
  set: Partial<typeof farms.$inferInsert>,
): Promise<boolean> =>
  (
    await db
      .update(farms)
      .set({ ...set, version: sql`${farms.version} + 1` })
      .where(and(eq(farms.id, farmId), eq(farms.version, expected)))
      .returning({ id: farms.id })
  ).length > 0;
export const changeField = async (
  db: Executor,
  fieldId: string,
  set: Partial<typeof fields.$inferInsert>,
): Promise<void> => {
  await db
    .update(fields)
    .set({ ...set, version: sql`${fields.version} + 1` })
    .where(eq(fields.id, fieldId));
};
