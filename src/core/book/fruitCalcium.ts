import type { z } from 'zod';
import { lazily, rowsOf } from './table';
import standardFile from './tables/fruit_ca_standards.json';
import targetFile from './tables/fruit_ca_targets.json';
import type { fruitCaStandardRow, fruitCaTargetRow } from './tissueRows';

export type FruitCaTarget = z.infer<typeof fruitCaTargetRow>;
export type FruitCaStandard = z.infer<typeof fruitCaStandardRow>;
/** Ca that a season of sprays is to bring, by crop and risk (chapter 5, section 14). */
export const fruitCaTargets = lazily(() => rowsOf<FruitCaTarget>(targetFile));
/** What fruit itself should hold. */
export const fruitCaStandards = lazily(() => rowsOf<FruitCaStandard>(standardFile));
