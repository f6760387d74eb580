'use client';

import type { Answer } from '@/core/quantity/refusal';
import { Download, RotateCcw, Upload } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useMemo, useState, useTransition } from 'react';
import type { LibraryColumn, LibraryEntry } from '@/core/book/libraryColumns';
import { hasOwnRows, type LibraryTable as TableName } from '@/core/book/book';
import { FigureBox } from '../figure/FigureBox';
import { TextBox } from '../figure/TextBox';
import { useHydrated } from '../frame/hydrated';
import { Scrolled } from '../figure/Scrolled';

interface Imported {
  changed: number;
  unchanged: number;
  problems: { row: number; column: string; value: string; reason: string }[];
}
export interface LibraryTableProps {
  farmId: string;
  table: TableName;
  columns: readonly LibraryColumn[];
  entries: LibraryEntry[];
  readOnly: boolean;
  override: (raw: {
    table: TableName;
    key: string;
    like: string;
    values: Record<string, number | string | null>;
    why: string;
  }) => Promise<Answer<void>>;
  reset: (table: TableName, key: string, replace: boolean) => Promise<Answer<void>>;
  bringIn: (form: FormData) => Promise<Answer<Imported>>;
}
const SHOWN = 60;

function Editor({
  entry,
  columns,
  table,
  readOnly,
  override,
  reset,
  close,
}: { entry: LibraryEntry; close: () => void } & Pick<
  LibraryTableProps,
  'columns' | 'table' | 'readOnly' | 'override' | 'reset'
>) {
  const router = useRouter();
  const [values, setValues] = useState(entry.values);
  const [why, setWhy] = useState(entry.own?.why ?? '');
  const [own, setOwn] = useState('');
  const [said, setSaid] = useState<string | null>(null);
  const [inUse, setInUse] = useState(false);
  const [pending, start] = useTransition();
  const changed = Object.fromEntries(
    columns
      .filter((c) => values[c.column] !== entry.values[c.column])
      .map((c) => [c.column, values[c.column] ?? null]),
  );
  const send = (key: string, like: string, part: Record<string, number | string | null>) =>
    start(async () => {
      const r = await override({ table, key, like, values: part, why });
      setSaid(r.ok ? null : r.refusal.message);
      if (r.ok) {
        router.refresh();
        close();
      }
    });
  const back = (replace: boolean) =>
    start(async () => {
      const r = await reset(table, entry.key, replace);
      setSaid(r.ok ? null : r.refusal.message);
      setInUse(!r.ok && r.refusal.code === 'conflict' && !replace);
      if (r.ok) {
        router.refresh();
        close();
      }
    });
  const slug = own
    .trim()
    .toLowerCase()
    .replaceAll(/[^a-z0-9]+/g, '_');
  return (
    <div className="border-l-2 border-ink py-2 pl-4">
      <p className="note max-w-[60rem]">
        Source: {entry.source}; confidence {entry.confidence}.
        {entry.own && (
          <>
            {' '}
            Own since {entry.own.on}, by {entry.own.by}: {entry.own.why}.
          </>
        )}
      </p>
      <div className="my-2 fields">
        {columns.map((c) => (
          <FigureBox
            key={c.column}
            label={c.label}
            optional={entry.values[c.column] === null}
            disabled={readOnly}
            value={values[c.column] ?? null}
            range={{ label: c.label, unit: c.unit || entry.unit, min: c.min, max: c.max }}
            onValue={(v) => setValues((x) => ({ ...x, [c.column]: v }))}
          />
        ))}
      </div>
      {!readOnly && (
        <>
          <div className="flex flex-wrap items-center gap-3">
            <TextBox label="Why these figures" wide value={why} max={300} onValue={setWhy} />
            <button
              type="button"
              className="button button-strong"
              disabled={pending || Object.keys(changed).length === 0}
              onClick={() =>
                send(entry.key, entry.own?.like ?? entry.key, { ...entry.own?.values, ...changed })
              }
            >
              Use for this farm
            </button>
            {entry.own && (
              <button
                type="button"
                className="button"
                disabled={pending}
                onClick={() => back(false)}
              >
                <RotateCcw size={14} aria-hidden />{' '}
                {entry.own.like === entry.key ? 'Back to the book' : 'Remove this row'}
              </button>
            )}
            {entry.own && inUse && (
              <button
                type="button"
                className="button"
                disabled={pending}
                onClick={() => back(true)}
              >
                Put {entry.own.like.replaceAll('_', ' ')} in its place
              </button>
            )}
            <button type="button" className="button" onClick={close}>
              Close
            </button>
          </div>
          {hasOwnRows(table) && (
            <div className="mt-2 flex flex-wrap items-center gap-3">
              <TextBox
                label="Or as a row of its own, named"
                value={own}
                max={80}
                onValue={setOwn}
              />
              <button
                type="button"
                className="button"
                disabled={pending || slug === ''}
                onClick={() => send(slug, entry.key, { ...changed, name: own.trim() })}
              >
                Add it
              </button>
            </div>
          )}
        </>
      )}
      {said && (
        <p role="alert" className="problem">
          {said}
        </p>
      )}
    </div>
  );
}

/**
 * One table of the library as a farm sees it: search, source and confidence, own values with who,
 * when and why, CSV out and in.
 */
export function LibraryTable({
  farmId,
  table,
  columns,
  entries,
  readOnly,
  override,
  reset,
  bringIn,
}: LibraryTableProps) {
  const router = useRouter();
  const hydrated = useHydrated();
  const [query, setQuery] = useState('');
  const [onlyOwn, setOnlyOwn] = useState(false);
  const [open, setOpen] = useState<string | null>(null);
  const [all, setAll] = useState(false);
  const [why, setWhy] = useState('');
  const [said, setSaid] = useState<{
    text: string;
    bad: boolean;
    problems: Imported['problems'];
  } | null>(null);
  const [pending, start] = useTransition();
  const found = useMemo(() => {
    const words = query.toLowerCase().split(/\s+/).filter(Boolean);
    return entries.filter(
      (e) =>
        (!onlyOwn || e.own) &&
        words.every((w) => `${e.name} ${e.key} ${e.group} ${e.source}`.toLowerCase().includes(w)),
    );
  }, [entries, query, onlyOwn]);
  const listed = all ? found : found.slice(0, SHOWN);
  const read = (file: File | undefined) =>
    start(async () => {
      if (!file) return;
      const form = new FormData();
      for (const [k, v] of [
        ['file', file],
        ['farmId', farmId],
        ['table', table],
        ['why', why],
      ] as const)
        form.set(k, v);
      const r = await bringIn(form);
      if (!r.ok) return setSaid({ text: r.refusal.message, bad: true, problems: [] });
      const { changed, unchanged, problems } = r.value;
      setSaid({
        text:
          problems.length > 0
            ? `Nothing was taken: ${problems.length} ${problems.length === 1 ? 'figure does' : 'figures do'} not fit.`
            : `${changed} ${changed === 1 ? 'row is' : 'rows are'} the farm’s own now; ${unchanged} as before.`,
        bad: problems.length > 0,
        problems,
      });
      if (changed > 0) router.refresh();
    });
  return (
    <>
      <div className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-2">
        <TextBox label="Search" wide value={query} onValue={setQuery} />
        <label className="inline-flex items-center gap-1.5">
          <input
            type="checkbox"
            className="size-4 accent-[var(--ink)]"
            checked={onlyOwn}
            onChange={(e) => setOnlyOwn(e.target.checked)}
          />{' '}
          own values only
        </label>
        <span className="note" data-testid="found">
          {found.length} of {entries.length}
        </span>
        <a
          className="button ml-auto no-underline"
          href={`/farms/${farmId}/library/${table}/table.csv`}
          download
        >
          <Download size={14} aria-hidden /> CSV
        </a>
      </div>
      {!readOnly && (
        <details className="mb-2">
          <summary className="cursor-pointer">Read a changed CSV back</summary>
          <div className="flex flex-wrap items-center gap-3 py-1">
            <TextBox
              label="Where its figures come from"
              wide
              value={why}
              max={300}
              onValue={setWhy}
            />
            <label className="button">
              <Upload size={14} aria-hidden /> Read the file
              <input
                type="file"
                accept=".csv,text/csv"
                className="sr-only"
                disabled={pending || !hydrated}
                onChange={(e) => {
                  read(e.target.files?.[0]);
                  e.target.value = '';
                }}
              />
            </label>
          </div>
        </details>
      )}
      {said && (
        <p role={said.bad ? 'alert' : 'status'} className={said.bad ? 'problem' : 'note'}>
          {said.text}
        </p>
      )}
      {said && said.problems.length > 0 && (
        <ul className="mb-2">
          {said.problems.slice(0, 20).map((p, i) => (
            <li key={i} className="problem">
              Line {p.row}, {p.column}
              {p.value ? ` = ${p.value}` : ''}: {p.reason}
            </li>
          ))}
        </ul>
      )}
      <Scrolled label="Rows of the library">
        <table className="ruled" data-testid="library-rows">
          <thead>
            <tr>
              <th>Name</th>
              {columns.map((c) => (
                <th key={c.column} className="num">
                  {c.label}
                  {c.unit && <span className="note block">{c.unit}</span>}
                </th>
              ))}
              <th className="pl-4">Source</th>
            </tr>
          </thead>
          {listed.map((e) => (
            <tbody key={e.key}>
              <tr className={e.own ? 'font-bold' : ''}>
                <th scope="row">
                  <button
                    type="button"
                    className="plain"
                    disabled={!hydrated}
                    aria-expanded={open === e.key}
                    onClick={() => setOpen(open === e.key ? null : e.key)}
                  >
                    {e.name}
                  </button>
                  <span className="note block">
                    {e.group}
                    {e.unit && `, ${e.unit}`}
                  </span>
                </th>
                {columns.map((c) => (
                  <td key={c.column} className="num">
                    {e.values[c.column] ?? '·'}
                  </td>
                ))}
                <td className="max-w-64 pl-4">
                  <span className="note">
                    {e.own
                      ? `own, ${e.own.by}, ${e.own.on}`
                      : `${e.source.slice(0, 60)}; ${e.confidence}`}
                  </span>
                </td>
              </tr>
              {open === e.key && (
                <tr>
                  <td colSpan={columns.length + 2}>
                    <Editor
                      entry={e}
                      columns={columns}
                      table={table}
                      readOnly={readOnly}
                      override={override}
                      reset={reset}
                      close={() => setOpen(null)}
                    />
                  </td>
                </tr>
              )}
            </tbody>
          ))}
          {found.length === 0 && (
            <tbody>
              <tr>
                <td colSpan={columns.length + 2} className="note">
                  Nothing by that name. Search by crop, part, product or source.
                </td>
              </tr>
            </tbody>
          )}
        </table>
      </Scrolled>
      {found.length > listed.length && (
        <button type="button" className="button mt-2" onClick={() => setAll(true)}>
          Show all {found.length}
        </button>
      )}
    </>
  );
}
