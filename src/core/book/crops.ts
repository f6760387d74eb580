import type { z } from 'zod';
import { closest } from '../quantity/range';
import { refuse } from '../quantity/refusal';
import type { cropRow, crosswalkRow } from './rows';
import { bookTable, type Book, type BookRow } from './book';
import { byKey, lazily, rowsOf } from './table';
import crosswalkFile from './tables/crop_crosswalk.json';
import cropsFile from './tables/crops.json';

export type Crop = z.infer<typeof cropRow> & BookRow;
export type SoilClass = 'very_low' | 'low' | 'medium' | 'high' | 'very_high' | 'unknown';

export const CROPS = bookTable<Crop>('crops', 'key', () =>
  rowsOf<Omit<Crop, 'bookKey'>>(cropsFile),
);
export const crops = (book: Book): Crop[] => [...book.rows(CROPS).values()];

/** The crop of that key. @throws Refusal naming the three nearest keys */
export function cropOf(book: Book, key: string, field = 'crop_key'): Crop {
  const rows = book.rows(CROPS);
  const crop = rows.get(key);
  if (crop) return crop;
  return refuse(
    'unknown_id',
    field,
    `Unknown crop ${key}. Nearest keys: ${closest(key, [...rows.keys()]).join(', ')}.`,
    { value: key },
  );
}

type Crosswalk = z.infer<typeof crosswalkRow>;
const crosswalkIndex = lazily(() => byKey(rowsOf<Crosswalk>(crosswalkFile), (r) => r.cropKey));
/** The crop in the terms of the other chapters; blank where a chapter has no entry. */
export const crosswalkOf = (book: Book, cropKey: string): Crosswalk =>
  crosswalkIndex().get(book.rows(CROPS).get(cropKey)?.bookKey ?? cropKey) ?? {
    cropKey,
    seasonCropId: null,
    seasonMatch: 'none',
    tissueCrop: null,
    targetPhGroup: null,
    criticalLevelGroup: null,
    seedRowCropId: null,
    legumeKey: null,
    regrowthCropId: null,
    pitProneTissueCrop: null,
  };

/** The species of a group of cultivars that has leaf ranges of its own. */
export const tissueSpecies = (tissueCrop: string): string =>
  [...crosswalkIndex().values()].find((r) => r.pitProneTissueCrop === tissueCrop)?.tissueCrop ??
  tissueCrop;

/** Use of a season's crop that bitter pit spoils: large fruit, stored. */
export const PIT_PRONE = 'pit_prone';
/** Whose leaf ranges a crop is read by; its use decides where cultivars differ (chapter 5, F6.4). */
export function tissueCropOf(book: Book, cropKey: string, use: string | null): string | null {
  const { tissueCrop, pitProneTissueCrop } = crosswalkOf(book, cropKey);
  return (use === PIT_PRONE ? pitProneTissueCrop : null) ?? tissueCrop;
}
