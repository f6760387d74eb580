import type { z } from 'zod';
import { closest } from '../quantity/range';
import { refuse } from '../quantity/refusal';
import type {
  alToleranceRow,
  ashRow,
  claimCompoundRow,
  limeBufferingRow,
  limeMaterialRow,
  phBandRow,
} from './rows';
import { bookTable, type Book, type BookRow } from './book';
import { byKey, lazily, rowsOf } from './table';
import alFile from './tables/al_tolerance.json';
import ashFile from './tables/ash_alkalinity.json';
import compoundFile from './tables/claim_compounds.json';
import bufferingFile from './tables/lime_buffering.json';
import materialFile from './tables/lime_materials.json';
import bandFile from './tables/ph_bands.json';

export type LimeMaterial = z.infer<typeof limeMaterialRow> & BookRow;
export type ClaimCompound = z.infer<typeof claimCompoundRow>;
export type LimeBuffering = z.infer<typeof limeBufferingRow>;

const unknown = (field: string, value: string, keys: readonly string[]): never =>
  refuse(
    'unknown_id',
    field,
    `${field} = ${value} is not in the library. Nearest: ${closest(value, keys).join(', ')}.`,
    { value, allowed: keys.join(', ') },
  );

export const LIMES = bookTable<LimeMaterial>('limes', 'key', () =>
  rowsOf<Omit<LimeMaterial, 'bookKey'>>(materialFile),
);
export const limeMaterials = (book: Book): LimeMaterial[] => [...book.rows(LIMES).values()];
export const limeMaterialOf = (book: Book, key: string): LimeMaterial =>
  book.rows(LIMES).get(key) ?? unknown('material_key', key, [...book.rows(LIMES).keys()]);

const compounds = lazily(() => byKey(rowsOf<ClaimCompound>(compoundFile), (r) => r.key));
export const claimCompounds = (): ClaimCompound[] => [...compounds().values()];
export const claimCompoundOf = (key: string): ClaimCompound =>
  compounds().get(key) ?? unknown('compound', key, [...compounds().keys()]);

const buffering = lazily(() => rowsOf<LimeBuffering>(bufferingFile));
export const limeBufferingOf = (textureClass: string, omClass: string): LimeBuffering =>
  buffering().find((r) => r.textureClass === textureClass && r.omClass === omClass) ??
  refuse(
    'unknown_id',
    'tex',
    `No buffering for texture ${textureClass} with ${omClass}: use ${[...new Set(buffering().map((r) => `${r.textureClass} with ${r.omClass}`))].join(', ')}.`,
    { value: textureClass },
  );

/**
 * The buffering table's texture class for a soil texture: it has six mineral classes and organic
 * soil.
 */
const TEXTURE: Record<string, string> = {
  sand: 'sand',
  loamy_sand: 'sand',
  sandy_loam: 'sandy_loam',
  loam: 'loam',
  silt_loam: 'silt_loam',
  silt: 'silt_loam',
  sandy_clay_loam: 'clay_loam',
  clay_loam: 'clay_loam',
  silty_clay_loam: 'clay_loam',
  sandy_clay: 'clay',
  silty_clay: 'clay',
  clay: 'clay',
  organic_peat: 'organic',
};
export function bufferingClass(
  soilTextureId: string,
  omPct: number,
): { textureClass: string; omClass: string } {
  if (omPct > 25) return { textureClass: 'organic', omClass: 'peat_om_gt_25' };
  if (omPct > 10 || soilTextureId === 'organic_peat')
    return { textureClass: 'organic', omClass: 'peaty_om_10_25' };
  return {
    textureClass:
      TEXTURE[soilTextureId] ??
      refuse('unknown_id', 'soil_texture_id', `Unknown soil texture ${soilTextureId}.`, {
        value: soilTextureId,
      }),
    omClass: omPct < 2 ? 'low_om_lt_2' : omPct < 4 ? 'medium_om_2_4' : 'high_om_4_10',
  };
}

const ash = lazily(() => byKey(rowsOf<z.infer<typeof ashRow>>(ashFile), (r) => r.product));
export const ashAlkalinityOf = (product: string) =>
  ash().get(product) ?? unknown('product', product, [...ash().keys()]);
const alTolerances = lazily(() =>
  byKey(rowsOf<z.infer<typeof alToleranceRow>>(alFile), (r) => r.cropGroup),
);
/**
 * Aluminium saturation that a crop tolerates, by the crop's key or its pH group; undefined where
 * the chapter has no entry.
 */
export const alToleranceOf = (...keys: (string | null)[]) =>
  keys.map((k) => (k ? alTolerances().get(k) : undefined)).find(Boolean);

const bands = lazily(() => rowsOf<z.infer<typeof phBandRow>>(bandFile));
/**
 * What a pH means for aluminium, P, nodules, herbicides and trace elements. A value on a limit
 * belongs to the upper band.
 */
export const phBandOf = (ph: number) =>
  bands().find((b, i) => ph < b.phWaterTo || i === bands().length - 1) as z.infer<typeof phBandRow>;
