import type { z } from 'zod';
import { refuse } from '../quantity/refusal';
import type { nIndexBandRow, nIndexPreviousRow, nIndexRateRow } from './rows';
import { groupedBy, lazily, rowsOf } from './table';
import bandFile from './tables/n_index_bands.json';
import previousFile from './tables/n_index_previous_crop.json';
import rateFile from './tables/n_index_rates.json';

const bands = lazily(() => rowsOf<z.infer<typeof nIndexBandRow>>(bandFile));
/** Index of a soil N supply in whole kg/ha. */
export const nIndexBandOf = (supplyKgHa: number) =>
  bands().find(
    (b) => supplyKgHa >= b.soilNSupplyMinKgHa && supplyKgHa <= (b.soilNSupplyMaxKgHa ?? Infinity),
  ) as z.infer<typeof nIndexBandRow>;

const previous = lazily(() => rowsOf<z.infer<typeof nIndexPreviousRow>>(previousFile));
export const nIndexLevels = (
  key: 'previousCropGroup' | 'soilGroup' | 'winterDrainageMmClass',
): string[] => [...new Set(previous().map((r) => r[key]))];
/**
 * Index by what grew before, the soil and the winter's drainage. @throws Refusal naming the field
 * and its levels
 */
export function nIndexAfter(i: {
  previousCropGroup: string;
  soilGroup: string;
  winterDrainageMmClass: string;
}) {
  const row = previous().find(
    (r) =>
      r.previousCropGroup === i.previousCropGroup &&
      r.soilGroup === i.soilGroup &&
      r.winterDrainageMmClass === i.winterDrainageMmClass,
  );
  if (row) return row;
  const names = {
    previousCropGroup: 'previous_crop_group',
    soilGroup: 'soil_group',
    winterDrainageMmClass: 'winter_drainage_mm_class',
  } as const;
  const wrong =
    (Object.keys(names) as (keyof typeof names)[]).find((k) => !nIndexLevels(k).includes(i[k])) ??
    'previousCropGroup';
  return refuse(
    'unknown_id',
    names[wrong],
    `${names[wrong]} = ${i[wrong]} is not known: use one of ${nIndexLevels(wrong).join(', ')}.`,
    { value: i[wrong] },
  );
}

const rates = lazily(() =>
  groupedBy(rowsOf<z.infer<typeof nIndexRateRow>>(rateFile), (r) => r.cropKey),
);
/** Rows of a crop in the index tables; undefined where the school does not hold it. */
export const nIndexRatesOf = (crop: { bookKey: string }) => rates().get(crop.bookKey);
