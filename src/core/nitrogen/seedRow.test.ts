import { describe, expect, it } from 'vitest';
import { PRINTED } from '../book/book';
import { seedRowLimit, type SeedRowInput } from './seedRow';

const maize = (more: Partial<SeedRowInput> = {}) =>
  seedRowLimit(PRINTED, {
    seedRowCropId: 'maize',
    texture: 'medium',
    moisture: 'moist',
    products: [{ productId: 'map_11_52', productKgHa: 50 }],
    ...more,
  });

describe('fertiliser beside the seed', () => {
  it('narrow rows, heavy and moist ground bear more', () => {
    const base = maize().allowedKgHa;
    expect(maize({ rowCm: 38 }).allowedKgHa).toBeGreaterThan(base);
    expect(maize({ texture: 'heavy' }).allowedKgHa).toBeCloseTo(1.2 * base, 9);
    expect(maize({ moisture: 'dry' }).allowedKgHa).toBeCloseTo(base / 2, 9);
    expect(maize({ openerId: 'sweep_narrow' }).allowedKgHa).toBeGreaterThan(3 * base);
  });
  it('free ammonia never lies beside seed, and urea not on dry sand', () => {
    expect(
      maize({ products: [{ productId: 'anhydrous_ammonia_82', productKgHa: 1 }] }),
    ).toMatchObject({ level: 'stop', forbidden: ['anhydrous_ammonia_82'] });
    const little = [{ productId: 'urea_46', productKgHa: 1 }];
    expect(maize({ products: little }).level).toBe('ok');
    expect(maize({ products: little, texture: 'light', moisture: 'dry' }).level).toBe('stop');
  });
  it('phosphate alone weighs nothing; nothing at all is fine', () => {
    expect(maize({ products: [{ productId: 'tsp_0_46', productKgHa: 100 }] }).loadKgHa).toBe(0);
    expect(maize({ products: [] })).toMatchObject({ ratio: 0, level: 'ok' });
  });
  it('unknown crops and openers are named with what there is', () => {
    expect(() => maize({ seedRowCropId: 'moss' })).toThrow(/seed_row_crop_id = moss/u);
    expect(() => maize({ openerId: 'spoon' })).toThrow(/opener_id = spoon.*double_disc/u);
  });
});
