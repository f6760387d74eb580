import { and, asc, eq, inArray, sql } from 'drizzle-orm';
import type { Executor } from './client';
import { storedTermsOf } from './farms';
import { farms, libraryChanges, machines, stores, type StoredTerms } from './schema';

export type StoreRow = typeof stores.$inferSelect;
export type MachineRow = typeof machines.$inferSelect;
export type LibraryRow = typeof libraryChanges.$inferSelect;

export const storesOf = async (db: Executor, farmIds: readonly string[]): Promise<StoreRow[]> =>
  farmIds.length === 0
    ? []
    : db
        .select()
        .from(stores)
        .where(inArray(stores.farmId, [...farmIds]))
        .orderBy(asc(stores.position), asc(stores.name));
export const putStore = async (db: Executor, row: StoreRow): Promise<void> => {
  const { id: _, farmId: __, ...set } = row;
  await db
    .insert(stores)
    .values(row)
    .onConflictDoUpdate({ target: stores.id, set, setWhere: eq(stores.farmId, row.farmId) });
};
export const machinesOf = async (
  db: Executor,
  farmIds: readonly string[],
): Promise<MachineRow[]> =>
  farmIds.length === 0
    ? []
    : db
        .select()
        .from(machines)
        .where(inArray(machines.farmId, [...farmIds]))
        .orderBy(asc(machines.position), asc(machines.name));
export const putMachine = async (db: Executor, row: MachineRow): Promise<void> => {
  const { id: _, farmId: __, ...set } = row;
  await db
    .insert(machines)
    .values(row)
    .onConflictDoUpdate({ target: machines.id, set, setWhere: eq(machines.farmId, row.farmId) });
};
export const putLibraryChange = async (db: Executor, row: LibraryRow): Promise<void> => {
  await db
    .insert(libraryChanges)
    .values(row)
    .onConflictDoUpdate({
      target: [libraryChanges.farmId, libraryChanges.table, libraryChanges.key],
      set: { like: row.like, values: row.values, by: row.by, on: row.on, why: row.why },
    });
};
export const dropLibraryChange = async (
  db: Executor,
  farmId: string,
  table: LibraryRow['table'],
  key: string,
): Promise<void> => {
  await db
    .delete(libraryChanges)
    .where(
      and(
        eq(libraryChanges.farmId, farmId),
        eq(libraryChanges.table, table),
        eq(libraryChanges.key, key),
      ),
    );
};

/**
 * Leaf standards of a farm's own, and no other of its terms. The farm keeps its version: who is at its
 * money and rules meanwhile loses nothing, and neither does this.
 */
export const keepOwnLeaf = async (
  db: Executor,
  farm: typeof farms.$inferSelect,
  ownLeaf: StoredTerms['ownLeaf'],
): Promise<void> => {
  await db
    .update(farms)
    .set({ terms: { ...storedTermsOf(farm), ownLeaf } })
    .where(eq(farms.id, farm.id));
};
/** Saves a farm's money and rules if nobody else has since `expected`. @returns whether it did */
export async function saveTerms(
  db: Executor,
  farmId: string,
  expected: number,
  set: Pick<
    typeof farms.$inferInsert,
    'name' | 'closedPeriods' | 'legalNCapKgHa' | 'nPricePerKg' | 'terms'
  >,
): Promise<boolean> {
  return (
    (
      await db
        .update(farms)
        .set({ ...set, version: sql`${farms.version} + 1` })
        .where(and(eq(farms.id, farmId), eq(farms.version, expected)))
        .returning({ version: farms.version })
    ).length > 0
  );
}
