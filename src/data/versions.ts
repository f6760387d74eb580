import { alias } from 'drizzle-orm/pg-core';
import { and, desc, eq, inArray } from 'drizzle-orm';
import type { Db, Executor } from './client';
import { people, planVersions } from './schema';

export type PlanVersion = typeof planVersions.$inferSelect;
export interface ListedVersion extends Omit<PlanVersion, 'plan' | 'sheet'> {
  proposer: string;
  decider: string | null;
}

const deciders = alias(people, 'deciders');
const LISTED = {
  id: planVersions.id,
  seasonId: planVersions.seasonId,
  number: planVersions.number,
  status: planVersions.status,
  seasonVersion: planVersions.seasonVersion,
  proposedBy: planVersions.proposedBy,
  proposedAt: planVersions.proposedAt,
  decidedBy: planVersions.decidedBy,
  decidedAt: planVersions.decidedAt,
  comment: planVersions.comment,
  proposer: people.name,
  decider: deciders.name,
};

export const versionsOf = async (
  db: Executor,
  seasonIds: readonly string[],
): Promise<ListedVersion[]> =>
  seasonIds.length === 0
    ? []
    : db
        .select(LISTED)
        .from(planVersions)
        .innerJoin(people, eq(planVersions.proposedBy, people.id))
        .leftJoin(deciders, eq(planVersions.decidedBy, deciders.id))
        .where(inArray(planVersions.seasonId, [...seasonIds]))
        .orderBy(desc(planVersions.number));
export const versionById = async (db: Executor, id: string): Promise<PlanVersion | undefined> =>
  (await db.select().from(planVersions).where(eq(planVersions.id, id)))[0];
export const addVersion = async (
  db: Executor,
  version: typeof planVersions.$inferInsert,
): Promise<void> => {
  await db.insert(planVersions).values(version);
};

/** Decides a version that is still open; false when it has been decided already. */
export const decideVersion = async (
  db: Db | Executor,
  id: string,
  decision: Pick<PlanVersion, 'status' | 'decidedBy' | 'decidedAt' | 'comment'>,
): Promise<boolean> =>
  (
    await db
      .update(planVersions)
      .set(decision)
      .where(and(eq(planVersions.id, id), eq(planVersions.status, 'proposed')))
      .returning({ id: planVersions.id })
  ).length === 1;
