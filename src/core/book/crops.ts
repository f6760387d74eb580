import type { z } from 'zod';
import { closest } from '../quantity/range';
import { refuse } from '../quantity/refusal';
import type { cropRow, crosswalkRow } from './rows';
import { changeable } from './library';
import { byKey, lazily, rowsOf } from './table';
import crosswalkFile from './tables/crop_crosswalk.json';
import cropsFile from './tables/crops.json';

export type Crop = z.infer<typeof cropRow>;
export type SoilClass = 'very_low' | 'low' | 'medium' | 'high' | 'very_high' | 'unknown';

const cropIndex = changeable(
  'crops',
  lazily(() => rowsOf<Crop>(cropsFile)),
  (c) => c.key,
);
export const crops = (): Crop[] => [...cropIndex().values()];

/** The crop of that key. @throws Refusal naming the three nearest keys */
export function cropOf(key: string, field = 'crop_key'): Crop {
  const crop = cropIndex().get(key);
  if (crop) return crop;
  return refuse(
    'unknown_id',
    field,
    `Unknown crop ${key}. Nearest keys: ${closest(key, [...cropIndex().keys()]).join(', ')}.`,
    { value: key },
  );
}

type Crosswalk = z.infer<typeof crosswalkRow>;
const crosswalkIndex = lazily(() => byKey(rowsOf<Crosswalk>(crosswalkFile), (r) => r.cropKey));
/** The crop in the terms of the other chapters; blank where a chapter has no entry. */
export const crosswalkOf = (cropKey: string): Crosswalk =>
  crosswalkIndex().get(cropKey) ?? {
    cropKey,
    seasonCropId: null,
    seasonMatch: 'none',
    tissueCrop: null,
    targetPhGroup: null,
    criticalLevelGroup: null,
    seedRowCropId: null,
  };
