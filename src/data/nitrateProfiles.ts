import { desc, eq } from 'drizzle-orm';
import type { Executor } from './client';
import { nitrateProfiles } from './schema';

export const nitrateProfilesOf = (db: Executor, fieldId: string) =>
  db
    .select()
    .from(nitrateProfiles)
    .where(eq(nitrateProfiles.fieldId, fieldId))
    .orderBy(desc(nitrateProfiles.date));
export const addNitrateProfile = async (
  db: Executor,
  profile: typeof nitrateProfiles.$inferInsert,
): Promise<void> => {
  await db.insert(nitrateProfiles).values(profile);
};
