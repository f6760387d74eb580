'use client';

import { useState } from 'react';
import type { BadRow, FileLook } from '@/core/laboratory/bringIn';
import { columnKey, type Choice } from '@/core/laboratory/questions';
import type { CellRead } from '@/core/laboratory/samples';
import { ChoiceBox } from '../figure/fields';
import { Scrolled } from '../figure/Scrolled';
import { Questions } from './Questions';

function BadRows({ bad }: { bad: readonly BadRow[] }) {
  return (
    <Scrolled label="Rows that wait">
      <table className="ruled max-w-[52rem]" data-testid="bad-rows">
        <thead>
          <tr>
            <th>Line</th>
            <th>Column</th>
            <th>Stands there</th>
            <th>Reason</th>
          </tr>
        </thead>
        <tbody>
          {bad.flatMap((b) =>
            b.problems.map((p, i) => (
              <tr key={`${b.row}-${i}`}>
                <td>{b.row}</td>
                <td>{p.column}</td>
                <td>{p.value || 'nothing'}</td>
                <td className="text-hot">{p.reason}</td>
              </tr>
            )),
          )}
        </tbody>
      </table>
    </Scrolled>
  );
}

const A_PAGE = 40;
/** Every cell as it stands in the file, in its order, with what it becomes. */
function Cells({ cells, more }: { cells: readonly CellRead[]; more: number }) {
  const [page, setPage] = useState(0);
  const pages = Math.max(1, Math.ceil(cells.length / A_PAGE));
  return (
    <>
      <Scrolled label="Cells of the file">
        <table className="ruled max-w-[52rem]" data-testid="cells">
          <thead>
            <tr>
              <th>Line, sample</th>
              <th>Column</th>
              <th>Stands there</th>
              <th>Becomes</th>
              <th>Class</th>
            </tr>
          </thead>
          <tbody>
            {cells.slice(page * A_PAGE, (page + 1) * A_PAGE).map((c, i, shown) => (
              <tr key={`${page}-${i}`}>
                <td>
                  {c.row}
                  {shown[i - 1]?.of !== c.of && <strong> {c.of}</strong>}
                </td>
                <td>{c.column}</td>
                <td>{c.text}</td>
                <td>{c.says}</td>
                <td>{c.means ?? ''}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Scrolled>
      {pages > 1 && (
        <p className="mt-1 flex items-baseline gap-3">
          <button
            type="button"
            className="button"
            disabled={page === 0}
            onClick={() => setPage(page - 1)}
          >
            Before
          </button>
          <span>
            page {page + 1} of {pages}
          </span>
          <button
            type="button"
            className="button"
            disabled={page === pages - 1}
            onClick={() => setPage(page + 1)}
          >
            Next
          </button>
        </p>
      )}
      {more > 0 && <p className="note">{more} more cells are read the same way.</p>}
    </>
  );
}

/** Columns that stay out, with the reason; somebody who knows better says what they are. */
function LeftOut({
  look,
  headings,
  pending,
  onAnswer,
}: {
  look: FileLook;
  headings: readonly Choice[];
  pending: boolean;
  onAnswer: (key: string, answer: string) => void;
}) {
  const read = [...new Set(look.cells.map((c) => c.column))].filter(
    (c) => look.answers[columnKey(c)] !== undefined,
  );
  const rows = [
    ...look.leftOut,
    ...read.map((column) => ({ column, reason: 'brought in as you said' })),
  ];
  if (rows.length === 0) return null;
  return (
    <details className="mt-3" open={look.cells.length === 0}>
      <summary>Left out: {look.leftOut.length}</summary>
      <Scrolled label="Left out">
        <table className="ruled max-w-[52rem]" data-testid="left-out">
          <thead>
            <tr>
              <th>Column</th>
              <th>Why</th>
              <th>It is</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((l) => (
              <tr key={`${l.column}-${l.reason}`}>
                <th scope="row">{l.column}</th>
                <td>{l.reason}</td>
                <td>
                  <ChoiceBox
                    label={`${l.column} is`}
                    hideLabel
                    disabled={pending}
                    value={look.answers[columnKey(l.column)] ?? null}
                    empty="as read"
                    options={headings.map((h) => ({ value: h.answer, label: h.means }))}
                    onValue={(v) => onAnswer(columnKey(l.column), v ?? '')}
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </Scrolled>
    </details>
  );
}

/** What was answered, by this person or for an earlier file, to be taken back. */
function Answered({
  look,
  laboratory,
  pending,
  onForget,
}: {
  look: FileLook;
  laboratory: string;
  pending: boolean;
  onForget: () => void;
}) {
  const given = Object.entries(look.answers);
  if (given.length === 0) return null;
  return (
    <p className="note mt-2">
      {look.remembered ? `Read as files of ${laboratory} were before: ` : 'Read as you said: '}
      {given.map(([key, answer]) => `${key} = ${answer}`).join('; ')}.{' '}
      <button type="button" className="plain" disabled={pending} onClick={onForget}>
        Ask me anew
      </button>
    </p>
  );
}

/** The step before anything comes in: questions, every cell, what waits, what stays out. */
export function Report({
  look,
  laboratory,
  headings,
  pending,
  progress,
  onAnswer,
  onForget,
  onImport,
}: {
  look: FileLook;
  laboratory: string;
  headings: readonly Choice[];
  pending: boolean;
  progress: { done: number; of: number } | null;
  onAnswer: (key: string, answer: string) => void;
  onForget: () => void;
  onImport: () => void;
}) {
  const open = look.questions.length;
  return (
    <div className="mt-3">
      <p role="status">
        <strong>
          {look.samples} {look.samples === 1 ? 'sample' : 'samples'}
        </strong>
        , {look.shape}; {look.readAs}.{' '}
        {open > 0
          ? `${open} ${open === 1 ? 'question is' : 'questions are'} open.`
          : `${look.good} can come in; ${look.bad.length} ${look.bad.length === 1 ? 'has' : 'have'} a fault.`}
      </p>
      <Answered look={look} laboratory={laboratory} pending={pending} onForget={onForget} />
      {open > 0 && <Questions questions={look.questions} pending={pending} onAnswer={onAnswer} />}
      {look.cells.length > 0 && <Cells cells={look.cells} more={look.moreCells} />}
      {open === 0 && look.bad.length > 0 && <BadRows bad={look.bad} />}
      <LeftOut look={look} headings={headings} pending={pending} onAnswer={onAnswer} />
      <button
        type="button"
        className="button button-strong mt-2"
        disabled={pending || open > 0 || look.good + look.bad.length === 0}
        onClick={onImport}
      >
        Bring in {look.good} {look.good === 1 ? 'row' : 'rows'}
        {look.bad.length > 0 ? `, keep ${look.bad.length} for later` : ''}
      </button>
      {progress && (
        <p className="mt-2">
          <progress
            max={progress.of}
            value={progress.done}
            aria-label="Rows stored"
            className="mr-2 align-middle"
          />
          {progress.done} of {progress.of}
        </p>
      )}
    </div>
  );
}
