'use client';

import type { FieldDescription } from '@/core/methods/describe';
import { dimensionOf, type Quantity } from '@/core/methods/dictionary/quantity';
import { words } from '../figure/fields';
import { useUnits } from '../frame/units';

/** Enough digits to check a figure by hand, and no more. */
const digits = (v: number): string => String(Number(v.toPrecision(6)));

/** One value of a quantity in words, with its unit as the reader wants both. */
function useTold() {
  const { show, unit } = useUnits();
  return (q: Quantity, v: unknown): string => {
    if (v === null || v === undefined) return 'none';
    if (typeof v === 'boolean') return v ? 'yes' : 'no';
    if (typeof v === 'string')
      return q.kind === 'choice' ? (q.choices[v] ?? v) : q.kind === 'key' ? words(v) : v;
    if (typeof v !== 'number') return JSON.stringify(v);
    const own = 'unit' in q ? q.unit : '';
    const dimension = dimensionOf(own);
    return dimension
      ? `${digits(Number(show(v, dimension, 4)))} ${unit(dimension)}`
      : `${digits(v)}${own ? ` ${own}` : ''}`;
  };
}

/** What a field holds in words: one value, several, those by name, or rows of others. */
export function useValue() {
  const told = useTold();
  const rowTold = (of: readonly FieldDescription[], row: Record<string, unknown>): string =>
    of
      .filter((f) => row[f.name] !== null && row[f.name] !== undefined)
      .map((f) => `${f.quantity.label} ${shown(f, row[f.name])}`)
      .join(', ');
  const shown = ({ quantity: q, of }: FieldDescription, value: unknown): string => {
    if (Array.isArray(value))
      return value.length === 0
        ? 'none'
        : value
            .map((v: unknown) => (of ? rowTold(of, v as Record<string, unknown>) : told(q, v)))
            .join(of ? '; ' : ', ');
    if (value !== null && typeof value === 'object')
      return Object.entries(value)
        .map(([k, v]) => `${words(k)} ${told(q, v)}`)
        .join(', ');
    return told(q, value);
  };
  return shown;
}
