'use client';

import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import type { BadRow } from '@/core/laboratory/bringIn';
import type { Answer } from '@/core/quantity/refusal';
import { Part } from '../figure/fields';

export interface Waiting {
  id: string;
  laboratory: string;
  fileName: string;
  row: number;
  cells: Record<string, string>;
  problems: { column: string; value: string; reason: string }[];
}
interface Props {
  rows: Waiting[];
  importRow: (id: string, cells: Record<string, string>) => Promise<Answer<BadRow | null>>;
  discard: (id: string) => Promise<Answer<void>>;
}

function WaitingRow({ row, importRow, discard }: { row: Waiting } & Omit<Props, 'rows'>) {
  const router = useRouter();
  const [cells, setCells] = useState(row.cells);
  const [problems, setProblems] = useState(row.problems);
  const [said, setSaid] = useState<string | null>(null);
  const [pending, start] = useTransition();
  const send = () =>
    start(async () => {
      const reply = await importRow(row.id, cells);
      if (!reply.ok) return setSaid(reply.refusal.message);
      if (reply.value) return setProblems(reply.value.problems);
      router.refresh();
    });
  return (
    <form
      className="border-b border-rule py-2"
      aria-label={`Line ${row.row} of ${row.fileName}`}
      onSubmit={(e) => {
        e.preventDefault();
        send();
      }}
    >
      <p>
        <strong>
          {row.fileName}, line {row.row}
        </strong>{' '}
        <span className="note">{row.laboratory}</span>
      </p>
      <ul>
        {problems.map((p, i) => (
          <li key={i} className="problem">
            {p.column}: {p.reason}
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
        {Object.entries(cells).map(([column, value]) => (
          <label key={column} className="inline-flex items-baseline gap-1">
            <span className={problems.some((p) => p.column === column) ? 'font-bold' : 'note'}>
              {column}
            </span>
            <input
              className="box w-28"
              aria-invalid={
                problems.some((p) => p.column === column && cells[column] === p.value)
                  ? true
                  : undefined
              }
              value={value}
              onChange={(e) => setCells((c) => ({ ...c, [column]: e.target.value }))}
            />
          </label>
        ))}
      </div>
      {said && (
        <p role="alert" className="problem">
          {said}
        </p>
      )}
      <div className="mt-1 flex gap-2">
        <button type="submit" className="button" disabled={pending}>
          Bring this row in
        </button>
        <button
          type="button"
          className="plain note"
          onClick={() =>
            start(async () => {
              await discard(row.id);
              router.refresh();
            })
          }
        >
          throw it away
        </button>
      </div>
    </form>
  );
}

/** Rows that were refused, kept as they came, to be put right and brought in. */
export function WaitingRows({ rows, ...actions }: Props) {
  return (
    <Part title="Rows waiting to be put right" aside={`${rows.length}`}>
      {rows.map((r) => (
        <WaitingRow key={r.id} row={r} {...actions} />
      ))}
    </Part>
  );
}
