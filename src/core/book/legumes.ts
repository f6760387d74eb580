import type { z } from 'zod';
import { closest } from '../quantity/range';
import { refuse } from '../quantity/refusal';
import type { legumeModifierRow, legumeRow, residueReleaseRow } from './rows';
import { groupedBy, lazily, rowsOf } from './table';
import legumeFile from './tables/legume_credits.json';
import modifierFile from './tables/legume_modifiers.json';
import releaseFile from './tables/residue_release.json';

export type Legume = z.infer<typeof legumeRow>;
export type LegumeModifier = z.infer<typeof legumeModifierRow>;

export const legumes = lazily(() => rowsOf<Legume>(legumeFile));
const index = lazily(() => groupedBy(legumes(), (r) => r.legumeKey));

/** All stand classes of one legume. @throws Refusal naming the nearest keys */
export function legumeOf(key: string): readonly Legume[] {
  const rows = index().get(key);
  if (rows) return rows;
  return refuse(
    'unknown_id',
    'legume_key',
    `legume_key: unknown legume ${key}. Nearest keys: ${closest(key, [...index().keys()]).join(', ')}.`,
    { value: key },
  );
}

const modifiers = lazily(() => rowsOf<LegumeModifier>(modifierFile));
export const modifierLevels = (modifier: string): string[] =>
  modifiers()
    .filter((m) => m.modifier === modifier)
    .map((m) => m.level);
export const modifierOf = (modifier: string, level: string): LegumeModifier =>
  modifiers().find((m) => m.modifier === modifier && m.level === level) ??
  refuse(
    'unknown_id',
    modifier,
    `${modifier} = ${level} is not known: use one of ${modifierLevels(modifier).join(', ')}.`,
    { value: level },
  );

/** Net N release of residues by C:N and week (chapter 1 C6 step 7). */
export const residueRelease = lazily(() => rowsOf<z.infer<typeof residueReleaseRow>>(releaseFile));
