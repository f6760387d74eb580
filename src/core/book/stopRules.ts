import type { z } from 'zod';
import type { stopRuleRow } from './rows';
import { lazily, rowsOf } from './table';
import stopFile from './tables/stop_rules.json';

const stops = lazily(() => rowsOf<z.infer<typeof stopRuleRow>>(stopFile));
export const stopRulesFor = (cropId: string) => stops().filter((r) => r.cropId === cropId);
