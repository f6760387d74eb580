import type { z } from 'zod';
import { bookTable, type Book, type BookRow } from './book';
import type { protocolRow, rangeRow } from './tissueRows';
import { rowsOf } from './table';
import protocolFile from './tables/sampling_protocols.json';
import rangeFile from './tables/sufficiency_ranges.json';

export type SufficiencyRow = z.infer<typeof rangeRow>;
export type SamplingProtocol = z.infer<typeof protocolRow>;
type RangeRow = SufficiencyRow & BookRow & { rowKey: string };

/** A range by its key: set and nutrient. */
export const rangeKey = (r: SufficiencyRow): string => `${r.setId}/${r.nutrient}`;
export const LEAF_RANGES = bookTable<RangeRow>('ranges', 'rowKey', () =>
  rowsOf<SufficiencyRow>(rangeFile).map((r) => ({ ...r, rowKey: rangeKey(r) })),
);

/**
 * Sufficiency ranges, with a farm's own limits, and sampling protocols, with its own counts. They are the largest
 * tables: pages reach them with the core alone.
 */
export interface LeafStandards {
  ranges: readonly SufficiencyRow[];
  protocols: readonly SamplingProtocol[];
}
export const LEAF_PROTOCOLS = bookTable<SamplingProtocol & BookRow>('protocols', 'protocolId', () =>
  rowsOf<SamplingProtocol>(protocolFile),
);
export const leafStandards = (book: Book): LeafStandards => ({
  ranges: [...book.rows(LEAF_RANGES).values()],
  protocols: [...book.rows(LEAF_PROTOCOLS).values()],
});
