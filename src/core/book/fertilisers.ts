import type { z } from 'zod';
import { closest } from '../quantity/range';
import { refuse } from '../quantity/refusal';
import type { doseLimitRow, fertiliserRow, placementRow } from './rows';
import { bookTable, type Book, type BookRow } from './book';
import { lazily, rowsOf } from './table';
import doseFile from './tables/dose_limits.json';
import fertiliserFile from './tables/fertilisers.json';
import placementFile from './tables/placement.json';

export type Fertiliser = z.infer<typeof fertiliserRow> & BookRow;
/** What the label of a product holds of each element, %; sulphur in whatever form. */
export const LABEL_PCT = {
  n: (f: Fertiliser) => f.nTotalPct,
  p: (f: Fertiliser) => f.pPct,
  k: (f: Fertiliser) => f.kPct,
  s: (f: Fertiliser) => f.sSulphatePct + f.sThiosulphatePct + f.sElementalPct,
  ca: (f: Fertiliser) => f.caPct,
  mg: (f: Fertiliser) => f.mgPct,
  b: (f: Fertiliser) => f.bPct,
  cu: (f: Fertiliser) => f.cuPct,
  fe: (f: Fertiliser) => f.fePct,
  mn: (f: Fertiliser) => f.mnPct,
  mo: (f: Fertiliser) => f.moPct,
  zn: (f: Fertiliser) => f.znPct,
} as const;
export type LabelNutrient = keyof typeof LABEL_PCT;
export const LABEL_NUTRIENTS = Object.keys(LABEL_PCT) as LabelNutrient[];

export type SplitClass = 'light' | 'medium' | 'heavy';

export const FERTILISERS = bookTable<Fertiliser>('fertilisers', 'productId', () =>
  rowsOf<Omit<Fertiliser, 'bookKey'>>(fertiliserFile),
);
export const fertilisers = (book: Book): Fertiliser[] => [...book.rows(FERTILISERS).values()];
export function fertiliserOf(book: Book, id: string, field = 'product_id'): Fertiliser {
  const rows = book.rows(FERTILISERS);
  const f = rows.get(id);
  if (f) return f;
  return refuse(
    'unknown_id',
    field,
    `${field} "${id}" is not in the library. Nearest: ${closest(id, [...rows.keys()]).join(', ')}.`,
    { value: id },
  );
}

export const placements = lazily(() => rowsOf<z.infer<typeof placementRow>>(placementFile));
export const placementOf = (id: string) =>
  placements().find((p) => p.placementId === id) ??
  refuse(
    'unknown_id',
    'placement_id',
    `Unknown placement ${id}: use one of ${placements()
      .map((p) => p.placementId)
      .join(', ')}.`,
    { value: id },
  );

const doses = lazily(() => rowsOf<z.infer<typeof doseLimitRow>>(doseFile));
export const doseLimit = (doseClass: string, splitClass: SplitClass) =>
  doses().find((d) => d.doseClass === doseClass && d.splitClass === splitClass);
