'use client';

import { Undo2 } from 'lucide-react';
import { useState } from 'react';
import type { Conflict } from '@/core/document/merge';
import type { SaveState } from './useSavedPlan';

const WORD = {
  saved: 'Saved',
  saving: 'Saving …',
  waiting: 'Not saved yet',
  refused: 'Not saved',
  conflict: 'Changed by somebody else',
} as const;
const asText = (v: unknown): string =>
  v === null || v === undefined ? 'nothing' : typeof v === 'object' ? JSON.stringify(v) : String(v);

function ConflictTable({
  conflicts,
  onSettle,
}: {
  conflicts: readonly Conflict[];
  onSettle: (theirs: Conflict[]) => void;
}) {
  const [theirs, setTheirs] = useState<ReadonlySet<string>>(new Set());
  const flip = (path: string) =>
    setTheirs((s) => {
      const next = new Set(s);
      if (!next.delete(path)) next.add(path);
      return next;
    });
  return (
    <div
      role="alertdialog"
      aria-label="Settle the same figures changed by two people"
      className="my-2 border-2 border-hot bg-raised p-3"
    >
      <p>
        Somebody else changed the same figures while you were working. Nothing is lost: choose for
        each one.
      </p>
      <table className="ruled">
        <thead>
          <tr>
            <th>Figure</th>
            <th>Before</th>
            <th>Yours</th>
            <th>Theirs</th>
            <th>Keep</th>
          </tr>
        </thead>
        <tbody>
          {conflicts.map((c) => (
            <tr key={c.path}>
              <th scope="row">{c.path}</th>
              <td>{asText(c.base)}</td>
              <td>{asText(c.mine)}</td>
              <td>{asText(c.theirs)}</td>
              <td>
                <button
                  type="button"
                  className="button"
                  onClick={() => flip(c.path)}
                  aria-pressed={theirs.has(c.path)}
                >
                  {theirs.has(c.path) ? 'theirs' : 'yours'}
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <button
        type="button"
        className="button button-strong mt-2"
        onClick={() => onSettle(conflicts.filter((c) => theirs.has(c.path)))}
      >
        Save like this
      </button>
    </div>
  );
}

/**
 * The state of saving in words, undo, and the figures to settle when two people changed the same
 * one.
 */
export function SaveLine({
  state,
  undo,
  undoable,
  settle,
  readOnly,
}: {
  state: SaveState;
  undo: () => void;
  undoable: number;
  settle: (theirs: readonly Conflict[]) => void;
  readOnly: boolean;
}) {
  if (readOnly) return <span className="note">You may read this plan and answer it.</span>;
  return (
    <>
      <span
        role="status"
        className={state.word === 'refused' || state.word === 'conflict' ? 'text-hot' : 'note'}
      >
        {WORD[state.word]}
        {state.word === 'refused' ? `: ${state.message}` : ''}
      </span>
      <button type="button" className="button" onClick={undo} disabled={undoable === 0}>
        <Undo2 size={14} aria-hidden /> Undo
      </button>
      {state.word === 'conflict' && (
        <div className="basis-full">
          <ConflictTable conflicts={state.conflicts} onSettle={settle} />
        </div>
      )}
    </>
  );
}

/** Edits that a closed tab left behind, offered again. */
export function LeftEdits({ take }: { take: (wanted: boolean) => void }) {
  return (
    <p role="status" className="no-print mb-2 flex flex-wrap items-center gap-2">
      Edits that were not saved when this field was last closed are still here.
      <button type="button" className="button button-strong" onClick={() => take(true)}>
        Bring them back
      </button>
      <button type="button" className="button" onClick={() => take(false)}>
        Drop them
      </button>
    </p>
  );
}
