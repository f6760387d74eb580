import type { z } from 'zod';
import type { additiveClaimRow } from './rows';
import { lazily, rowsOf } from './table';
import claimFile from './tables/additive_claims.json';

export type AdditiveClaim = z.infer<typeof additiveClaimRow>;
/** What is said of additives, by how well it is shown (chapter 4, 9.1). */
export const additiveClaims = lazily(() => rowsOf<AdditiveClaim>(claimFile));
