import type { z } from 'zod';
import { lazily, rowsOf } from './table';
import correctionFile from './tables/corrections.json';
import productFile from './tables/foliar_products.json';
import type { correctionRow, foliarProductRow } from './tissueRows';

export type Correction = z.infer<typeof correctionRow>;
export type FoliarProduct = z.infer<typeof foliarProductRow>;
/** What helps a nutrient that is short, by crop: on the leaf, in the soil, next season. */
export const corrections = lazily(() => rowsOf<Correction>(correctionFile));
/** Spray salts, a row for each element they hold. */
export const foliarProducts = lazily(() => rowsOf<FoliarProduct>(productFile));
