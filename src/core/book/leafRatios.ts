import type { z } from 'zod';
import { lazily, rowsOf, byKey } from './table';
import ratioFile from './tables/ratios.json';
import type { ratioRow } from './tissueRows';

export type RatioRow = z.infer<typeof ratioRow>;
/** Ratios of two nutrients, with where they alert (chapter 5, F8.1). */
export const ratios = lazily(() => rowsOf<RatioRow>(ratioFile));
const index = lazily(() => byKey(ratios(), (r) => r.ratioId));
export const ratioOf = (id: string): RatioRow | undefined => index().get(id);
