import type { z } from 'zod';
import type { orchardKRow } from './tissueRows';
import { byKey, lazily, rowsOf } from './table';
import orchardFile from './tables/orchard_k.json';

export type OrchardK = z.infer<typeof orchardKRow>;
const index = lazily(() => byKey(rowsOf<OrchardK>(orchardFile), (r) => r.crop));
/** How a fruit crop's K follows its leaf, by the crop of the leaf ranges; undefined where no row is. */
export const orchardKOf = (tissueCrop: string): OrchardK | undefined => index().get(tissueCrop);
