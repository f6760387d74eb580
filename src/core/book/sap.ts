import type { z } from 'zod';
import { lazily, rowsOf } from './table';
import sapFile from './tables/sap_thresholds.json';
import type { sapThresholdRow } from './tissueRows';

export type SapThreshold = z.infer<typeof sapThresholdRow>;
/** Nitrate and K in fresh sap by crop and stage (chapter 5, F11.2). */
export const sapThresholds = lazily(() => rowsOf<SapThreshold>(sapFile));
