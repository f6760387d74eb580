import type { z } from 'zod';
import { refuse } from '../quantity/refusal';
import type { soilRow } from './rows';
import { lazily, rowsOf } from './table';
import soilFile from './tables/soils.json';

export type Soil = z.infer<typeof soilRow>;

export const soils = lazily(() => rowsOf<Soil>(soilFile));
export const soilOf = (id: string): Soil =>
  soils().find((s) => s.textureId === id) ??
  refuse(
    'unknown_id',
    'soil_texture_id',
    `Unknown soil texture ${id}: use one of ${soils()
      .map((s) => s.textureId)
      .join(', ')}.`,
    { value: id },
  );

/** The coarse texture word of the budget chapters for a texture class. */
export const textureGroup = (id: string): Soil['textureGroup'] => soilOf(id).textureGroup;
