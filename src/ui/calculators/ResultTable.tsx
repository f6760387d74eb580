'use client';

import type { FieldDescription } from '@/core/methods/describe';
import { Scrolled } from '../figure/Scrolled';
import { useValue } from './told';

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
