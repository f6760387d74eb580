import type { z } from 'zod';
import { closest } from '../quantity/range';
import { refuse } from '../quantity/refusal';
import type { materialRow, nh3MethodRow, nh3ModifierRow } from './rows';
import { bookTable, type Book, type BookRow } from './book';
import { lazily, rowsOf } from './table';
import materialFile from './tables/materials.json';
import methodFile from './tables/nh3_methods.json';
import modifierFile from './tables/nh3_modifiers.json';

export type Material = z.infer<typeof materialRow> & BookRow;
export type SpreadingMethod = z.infer<typeof nh3MethodRow>;

export const MATERIALS = bookTable<Material>('materials', 'key', () =>
  rowsOf<Omit<Material, 'bookKey'>>(materialFile),
);
export const materials = (book: Book): Material[] => [...book.rows(MATERIALS).values()];
export function materialOf(book: Book, key: string): Material {
  const rows = book.rows(MATERIALS);
  const m = rows.get(key);
  if (m) return m;
  return refuse(
    'unknown_id',
    'material',
    `Unknown material ${key}. Nearest keys: ${closest(key, [...rows.keys()]).join(', ')}.`,
    { value: key },
  );
}
const LIQUID_FORMS: readonly string[] = ['liquid', 'slurry', 'liquid_concentrate'];
export const isLiquid = (m: Pick<Material, 'physicalForm'>): boolean =>
  LIQUID_FORMS.includes(m.physicalForm);

export const spreadingMethods = lazily(() => rowsOf<SpreadingMethod>(methodFile));
export const spreadingMethodOf = (key: string): SpreadingMethod =>
  spreadingMethods().find((m) => m.methodKey === key) ??
  refuse(
    'unknown_id',
    'method',
    `Unknown spreading method ${key}: use one of ${spreadingMethods()
      .map((m) => m.methodKey)
      .join(', ')}.`,
    { value: key },
  );

const modifiers = lazily(() => rowsOf<z.infer<typeof nh3ModifierRow>>(modifierFile));
export const ammoniaModifier = (key: string, level: string | null = null) =>
  modifiers().find((m) => m.modifierKey === key && m.level === level);
export const ammoniaLevels = (key: string): string[] =>
  modifiers().flatMap((m) => (m.modifierKey === key && m.level ? [m.level] : []));
