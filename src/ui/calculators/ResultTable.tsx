'use client';

import type { FieldDescription } from '@/core/methods/describe';
import { dimensionOf, type Quantity } from '@/core/methods/dictionary/quantity';
import { words } from '../figure/fields';
import { Scrolled } from '../figure/Scrolled';
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

function useValue() {
  const told = useTold();
  return ({ quantity: q }: FieldDescription, value: unknown): string => {
    if (Array.isArray(value))
      return value.length === 0 ? 'none' : value.map((v: unknown) => told(q, v)).join(', ');
    if (value !== null && typeof value === 'object')
      return Object.entries(value)
        .map(([k, v]) => `${words(k)} ${told(q, v)}`)
        .join(', ');
    return told(q, value);
  };
}

/** Rows of a result: a table of its own, which scrolls by itself where it is wide. */
function RowsTable({ field, rows }: { field: FieldDescription; rows: Record<string, unknown>[] }) {
  const shown = useValue();
  const of = field.of ?? [];
  return (
    <div className="mt-3">
      <h2>{field.quantity.label}</h2>
      <Scrolled label={field.quantity.label}>
        <table className="ruled">
          <thead>
            <tr>
              {of.map((f) => (
                <th key={f.name}>{f.quantity.label}</th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row, k) => (
              <tr key={k}>
                {of.map((f) => (
                  <td key={f.name}>{shown(f, row[f.name])}</td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </Scrolled>
    </div>
  );
}

/** What a method gives, each figure under its name and in its unit. */
export function ResultTable({
  gives,
  result,
}: {
  gives: readonly FieldDescription[];
  result: Record<string, unknown>;
}) {
  const shown = useValue();
  const there = gives.filter((f) => result[f.name] !== undefined);
  return (
    <>
      <table className="ruled">
        <caption className="sr-only">Result</caption>
        <tbody>
          {there
            .filter((f) => !f.of)
            .map((f) => (
              <tr key={f.name}>
                <th scope="row" title={f.quantity.about}>
                  {f.quantity.label}
                </th>
                <td className="whitespace-normal">{shown(f, result[f.name])}</td>
              </tr>
            ))}
        </tbody>
      </table>
      {there
        .filter((f) => f.of && Array.isArray(result[f.name]))
        .map((f) => (
          <RowsTable key={f.name} field={f} rows={result[f.name] as Record<string, unknown>[]} />
        ))}
    </>
  );
}
