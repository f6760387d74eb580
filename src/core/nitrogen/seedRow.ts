import type { z } from 'zod';
import type { Book } from '../book/book';
import { fertiliserOf } from '../book/fertilisers';
import type { seedRowCropRow, seedRowOpenerRow } from '../book/rows';
import { byKey, lazily, rowsOf } from '../book/table';
import cropFile from '../book/tables/seed_row_crops.json';
import openerFile from '../book/tables/seed_row_openers.json';
import { KG_HA_PER_LB_AC } from '../quantity/units';
import { RANGES, within, type Range } from '../quantity/range';
import { refuse } from '../quantity/refusal';

// Fertiliser beside the seed (chapter 4, F3.2): salt and ammonia that a seedling bears.

const crops = lazily(() =>
  byKey(rowsOf<z.infer<typeof seedRowCropRow>>(cropFile), (r) => r.seedRowCropId),
);
const openers = lazily(() =>
  byKey(rowsOf<z.infer<typeof seedRowOpenerRow>>(openerFile), (r) => r.openerId),
);
export const seedRowOpeners = () => [...openers().values()];
const known = <T>(map: ReadonlyMap<string, T>, field: string, id: string): T =>
  map.get(id) ??
  refuse(
    'unknown_id',
    field,
    `${field} = ${id} is not known: use one of ${[...map.keys()].join(', ')}.`,
    { value: id, allowed: [...map.keys()].join(', ') },
  );
const CM: Range = { label: 'Row spacing', unit: 'cm', min: 10, max: 150 };

const MOST_KG_HA = 360;
const TEXTURE = { light: 0.5, medium: 1, heavy: 1.2 } as const;
const MOISTURE = { dry: 0.5, moist: 1, wet: 1.1 } as const;
const K2O_PER_K = 1.2046;
const CAUTION_ABOVE = 0.8;

export interface SeedRowInput {
  seedRowCropId: string;
  rowCm?: number | null;
  /** Width that the opener spreads seed and fertiliser over. */
  openerId?: string | null;
  texture: keyof typeof TEXTURE;
  moisture: keyof typeof MOISTURE;
  products: readonly { productId: string; productKgHa: number }[];
}
export interface SeedRowLimit {
  /** Share of the ground that the seed row takes. */
  sbuFrac: number;
  /** N + K2O that may lie beside the seed. */
  allowedKgHa: number;
  allowedLbAc: number;
  /** What the products bring, each weighted by how much it harms. */
  loadKgHa: number;
  ratio: number;
  /** Products that may never lie beside the seed. */
  forbidden: string[];
  level: 'ok' | 'caution' | 'stop';
}
/**
 * Whether products may lie beside the seed, and how near they come to what the crop bears. The
 * table's most sensitive case is a dry, light soil: urea there is a stop whatever the rate.
 *
 * @throws Refusal for an unknown crop, opener or product, or a row spacing outside 10 to 150 cm
 * @example seedRowLimit(PRINTED, { seedRowCropId: 'maize', rowCm: 76.2, texture: 'medium', moisture:
 * 'moist', products: [{ productId: 'app_10_34_0', productKgHa: 65 }] }).allowedKgHa // 11.436
 */
export function seedRowLimit(book: Book, i: SeedRowInput): SeedRowLimit {
  const crop = known(crops(), 'seed_row_crop_id', i.seedRowCropId);
  const row = within('row_cm', i.rowCm ?? crop.typicalRowCm, CM);
  const opener = known(openers(), 'opener_id', i.openerId ?? crop.typicalOpener);
  const sbuFrac = Math.min(1, opener.spreadWidthCm / row);
  const allowedKgHa =
    ((MOST_KG_HA * sbuFrac) / (1 + sbuFrac)) *
    crop.cropFactor *
    TEXTURE[i.texture] *
    MOISTURE[i.moisture];
  const products = i.products.map((p, k) => ({
    kg: within(`products[${k}].product_kg_ha`, p.productKgHa, RANGES.productKgHa),
    f: fertiliserOf(book, p.productId, `products[${k}].product_id`),
  }));
  const loadKgHa = products.reduce(
    (s, { kg, f }) =>
      s + (kg * (f.seedRowWeightN * f.nTotalPct + f.seedRowWeightK2o * f.kPct * K2O_PER_K)) / 100,
    0,
  );
  const forbidden = products
    .filter(({ kg, f }) => kg > 0 && f.seedRowClass === 'forbidden')
    .map(({ f }) => f.productId);
  const ureaOnDrySand =
    i.texture === 'light' &&
    i.moisture === 'dry' &&
    products.some(({ kg, f }) => kg > 0 && f.nUreaPct > 0);
  const ratio = loadKgHa / allowedKgHa;
  return {
    sbuFrac,
    allowedKgHa,
    allowedLbAc: allowedKgHa / KG_HA_PER_LB_AC,
    loadKgHa,
    ratio,
    forbidden,
    level:
      forbidden.length > 0 || ureaOnDrySand || ratio > 1
        ? 'stop'
        : ratio > CAUTION_ABOVE
          ? 'caution'
          : 'ok',
  };
}
