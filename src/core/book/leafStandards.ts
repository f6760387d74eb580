import type { z } from 'zod';
import { refuse } from '../quantity/refusal';
import type { protocolRow, rangeRow, tissueNutrientRow } from './rows';
import { bookTable, type Book, type BookRow } from './book';
import { byKey, lazily, rowsOf } from './table';
import nutrientFile from './tables/tissue_nutrients.json';

export type SufficiencyRow = z.infer<typeof rangeRow>;
type RangeRow = SufficiencyRow & BookRow & { rowKey: string };
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
/** The ranges with a farm's own limits laid over them. A row of the farm's own belongs to the set it was made like. */
export function ownRanges(standards: LeafStandards, book: Book): LeafStandards {
  if (!book.own.some((c) => c.table === 'ranges')) return standards;
  const table = bookTable<RangeRow>('ranges', 'rowKey', () =>
    standards.ranges.map((r) => ({ ...r, rowKey: rangeKey(r) })),
  );
  return { ...standards, ranges: [...book.rows(table).values()] };
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
