import type { z } from 'zod';
import type { foliarLimitRow, tankMixRow } from './rows';
import { lazily, rowsOf } from './table';
import foliarFile from './tables/foliar_limits.json';
import tankFile from './tables/tank_mix.json';

const tanks = lazily(() => rowsOf<z.infer<typeof tankMixRow>>(tankFile));
export const tankMixStatus = (a: string, b: string) =>
  tanks().find(
    (t) => (t.mixClassA === a && t.mixClassB === b) || (t.mixClassA === b && t.mixClassB === a),
  );

const foliar = lazily(() => rowsOf<z.infer<typeof foliarLimitRow>>(foliarFile));
export const foliarLimit = ({ bookKey: productId }: { bookKey: string }, cropGroup: string) =>
  foliar().find((r) => r.productId === productId && r.cropGroup === cropGroup);
/** What leaves the table of burn limits knows. */
export const foliarGroups = (): string[] => [...new Set(foliar().map((r) => r.cropGroup))];
