// Columns that go into a plan as they stand, by table.
export const pick = <T extends object, K extends keyof T>(
  from: T,
  keys: readonly K[],
): Pick<T, K> => Object.fromEntries(keys.map((k) => [k, from[k]])) as Pick<T, K>;
export const SEASON = [
  'label',
  'startDate',
  'cropKey',
  'use',
  'yieldGoalTHa',
  'yieldHistoryTHa',
  'harvestedTHa',
  'proteinTargetPct',
  'legumeShare',
  'plantingYear',
  'plantingDate',
  'harvestDate',
  'budBurst',
  'leafFall',
  'cuts',
  'rainSinceSampleMm',
  'strawRemovedFrac',
  'cropPricePerT',
  'eatenRaw',
  'touchesSoil',
  'winterDrainageMm',
  'springDrainageMm',
  'moistureClass',
  'soilTempSeasonC',
  'releaseDays',
  'depositionNKgHa',
  'depositionSKgHa',
] as const;
export const FIELD = [
  'name',
  'areaHa',
  'soilTextureId',
  'omPct',
  'omDepthCm',
  'cecCmolKg',
  'clayPct',
  'tillage',
  'tenure',
  'certification',
  'fixes',
  'slopePct',
  'forage',
] as const;
/** What of a dressing has a column of its own; the rest is its document. */
export const DRESSING = ['id', 'date', 'materialKey', 'status', 'storeId'] as const;
export const PASS = [
  'id',
  'date',
  'productId',
  'productKgHa',
  'placementId',
  'status',
  'pricePerT',
] as const;
export const READING = ['nutrient', 'extractant', 'value', 'unit', 'belowDetection'] as const;
export const SAMPLE = [
  'laboratory',
  'depthCm',
  'nCores',
  'nPoints',
  'moisture',
  'phWater',
  'phCacl2',
  'bufferKind',
  'bufferPh',
  'alCmolKg',
] as const;
