import type { z } from 'zod';
import { refuse } from '../quantity/refusal';
import type { protocolRow, rangeRow, tissueNutrientRow } from './rows';
import { libraryRows, withLibrary, type LibraryChange } from './library';
import { byKey, lazily, rowsOf } from './table';
import nutrientFile from './tables/tissue_nutrients.json';

export type SufficiencyRow = z.infer<typeof rangeRow>;
export type SamplingProtocol = z.infer<typeof protocolRow>;
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

/** A range by its key: set and nutrient. */
export const rangeKey = (r: SufficiencyRow): string => `${r.setId}/${r.nutrient}`;
/** The ranges with a farm's own limits laid over them. */
export function ownRanges(
  standards: LeafStandards,
  changes: readonly LibraryChange[],
): LeafStandards {
  return changes.some((c) => c.table === 'ranges')
    ? {
        ...standards,
        ranges: withLibrary(changes, () => [
          ...libraryRows('ranges', byKey(standards.ranges, rangeKey)).values(),
        ]),
      }
    : standards;
}

/** Sufficiency ranges and sampling protocols, fetched when a leaf is looked at: they are the largest tables. */
export interface LeafStandards {
  ranges: readonly SufficiencyRow[];
  protocols: readonly SamplingProtocol[];
}
let loading: Promise<LeafStandards> | undefined;
export const leafStandards = (): Promise<LeafStandards> =>
  (loading ??= Promise.all([
    import('./tables/sufficiency_ranges.json'),
    import('./tables/sampling_protocols.json'),
  ]).then(([r, p]) => ({
    ranges: rowsOf<SufficiencyRow>(r.default),
    protocols: rowsOf<SamplingProtocol>(p.default),
  })));
