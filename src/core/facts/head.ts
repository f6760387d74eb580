import { z } from 'zod';

// A fact is what was found or done on a field: it has an identity and a history of its own, and
// plans refer to it. It is never copied into one.

/** What every fact has beside what it says. */
export const factHead = {
  id: z.string({ error: 'an id' }).min(1).max(60),
  /** Counts its changes: who saves on an older one brings the two together. */
  version: z.int({ error: 'a whole number' }).min(1).max(1_000_000),
  /** Who wrote it down; null where nobody knows any more. */
  author: z.string().max(120).nullable(),
  recordedOn: z.iso.date({ error: 'a calendar date, YYYY-MM-DD' }).nullable(),
};
export interface FactHead {
  id: string;
  version: number;
  author: string | null;
  recordedOn: string | null;
}

/** Why a plan reads this fact and no other. */
export const READ_BECAUSE = ['newest', 'mean', 'chosen', 'entered'] as const;
export type ReadBecause = (typeof READ_BECAUSE)[number];
/** Which fact of a kind a season's plan reads, and why; null where it reads none. */
export const factRead = z
  .strictObject({ id: factHead.id, because: z.enum(READ_BECAUSE) })
  .nullable();
export type FactRead = z.infer<typeof factRead>;
