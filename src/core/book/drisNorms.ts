import type { z } from 'zod';
import { groupedBy, lazily, rowsOf } from './table';
import normFile from './tables/dris_norms.json';
import type { drisNormRow } from './tissueRows';

export type DrisNorm = z.infer<typeof drisNormRow>;
/** Norms by their set. None is in force by itself (chapter 5, F8.5). */
export const drisNorms = lazily(() => groupedBy(rowsOf<DrisNorm>(normFile), (r) => r.normSet));
