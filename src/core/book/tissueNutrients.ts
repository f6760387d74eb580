import type { z } from 'zod';
import { refuse } from '../quantity/refusal';
import type { tissueNutrientRow } from './tissueRows';
import { byKey, lazily, rowsOf } from './table';
import nutrientFile from './tables/tissue_nutrients.json';

export type TissueNutrient = z.infer<typeof tissueNutrientRow>;

const nutrients = lazily(() => byKey(rowsOf<TissueNutrient>(nutrientFile), (r) => r.nutrient));
export const tissueNutrients = (): string[] => [...nutrients().keys()];
export const tissueNutrientOf = (nutrient: string): TissueNutrient =>
  nutrients().get(nutrient) ??
  refuse(
    'unknown_id',
    'nutrient',
    `Unknown nutrient ${nutrient}: use one of ${tissueNutrients().join(', ')}.`,
    { value: nutrient },
  );
/** Unit in which a nutrient stands in the ranges; empty where no table knows it. */
export const coreUnitOf = (nutrient: string): string => nutrients().get(nutrient)?.coreUnit ?? '';
