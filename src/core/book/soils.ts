import type { z } from 'zod';
import { refuse } from '../quantity/refusal';
import type { drainageClassRow, soilRow } from './rows';
import { lazily, rowsOf } from './table';
import drainageFile from './tables/drainage_classes.json';
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

const drainage = lazily(() => rowsOf<z.infer<typeof drainageClassRow>>(drainageFile));
/** How fast water leaves a profile, class by class, with what is seen in the field. */
export const drainageClasses = () => drainage();
/** The most that leaves the profile in a day, mm. */
export const bottomLimitOf = (drainageClass: string): number =>
  drainage().find((d) => d.drainageClass === drainageClass)?.bottomLimitMmD ??
  refuse(
    'unknown_id',
    'soil.drainage_class',
    `soil.drainage_class = ${drainageClass} is not known: use one of ${drainage()
      .map((d) => d.drainageClass)
      .join(', ')}.`,
    { value: drainageClass },
  );
