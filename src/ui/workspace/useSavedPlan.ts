'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import type { Plan } from '@/core/document/document';
import { mergePlans, takeTheirs, type Conflict } from '@/core/document/merge';
import type { RefusalDetail } from '@/core/quantity/refusal';

export type SaveAnswer =
  | {
      ok: true;
      value:
        | { ok: true; version: number; plan: Plan; mergedFromOthers: boolean }
        | { ok: false; conflicts: Conflict[]; theirs: Plan; version: number };
    }
  | { ok: false; refusal: RefusalDetail };
export type Save = (
  seasonId: string,
  expected: number,
  base: unknown,
  mine: unknown,
) => Promise<SaveAnswer>;
export type SaveState =
  | { word: 'saved' | 'saving' | 'waiting' }
  | { word: 'refused'; message: string }
  | { word: 'conflict'; conflicts: Conflict[]; theirs: Plan; version: number };

const WAIT_MS = 600;
const RETRY_MS = 4000;
const MOST_UNDO = 100;

interface Unsaved {
  plan: Plan;
  base: { plan: Plan; version: number };
}
/** Edits that a change of station overtook: the next station goes on with them. */
const unsaved = new Map<string, Unsaved>();

/**
 * A plan with undo and autosave. What is typed goes to the server a moment later; when somebody else saved first, edits of different
 * figures are brought together, and the same figure is put to the user.
 */
export function useSavedPlan(seasonId: string, initial: Plan, initialVersion: number, save: Save) {
  const [kept] = useState(() => unsaved.get(seasonId));
  const [plan, setPlan] = useState(kept?.plan ?? initial);
  const [state, setState] = useState<SaveState>({ word: kept ? 'waiting' : 'saved' });
  const base = useRef(kept?.base ?? { plan: initial, version: initialVersion });
  const past = useRef<Plan[]>([]);
  const [undoable, setUndoable] = useState(0);
  const latest = useRef(kept?.plan ?? initial);
  const busy = useRef(false);

  const put = useCallback(
    (next: Plan) => {
      latest.current = next;
      unsaved.set(seasonId, { plan: next, base: base.current });
      setPlan(next);
    },
    [seasonId],
  );
  const edit = useCallback(
    (change: (p: Plan) => Plan) => {
      past.current = [...past.current.slice(-MOST_UNDO + 1), latest.current];
      setUndoable(past.current.length);
      put(change(latest.current));
      setState((s) => (s.word === 'conflict' ? s : { word: 'waiting' }));
    },
    [put],
  );
  const undo = useCallback(() => {
    const before = past.current.pop();
    setUndoable(past.current.length);
    if (!before) return;
    put(before);
    setState((s) => (s.word === 'conflict' ? s : { word: 'waiting' }));
  }, [put]);

  const send = useCallback(async () => {
    if (busy.current) return;
    busy.current = true;
    const sent = latest.current;
    setState({ word: 'saving' });
    const reply = await save(seasonId, base.current.version, base.current.plan, sent).catch(
      (): SaveAnswer => ({
        ok: false,
        refusal: {
          code: 'infeasible',
          field: 'server',
          message: 'The server does not answer. Your edits are kept here and tried again.',
        },
      }),
    );
    busy.current = false;
    if (!reply.ok) return setState({ word: 'refused', message: reply.refusal.message });
    const result = reply.value;
    if (!result.ok) {
      const merged = mergePlans(base.current.plan, latest.current, result.theirs);
      put(merged.plan);
      return setState({
        word: 'conflict',
        conflicts: result.conflicts,
        theirs: result.theirs,
        version: result.version,
      });
    }
    const typedMeanwhile = latest.current !== sent;
    if (result.mergedFromOthers)
      put(typedMeanwhile ? mergePlans(sent, latest.current, result.plan).plan : result.plan);
    base.current = { plan: result.plan, version: result.version };
    if (typedMeanwhile) unsaved.set(seasonId, { plan: latest.current, base: base.current });
    else unsaved.delete(seasonId);
    setState({ word: typedMeanwhile ? 'waiting' : 'saved' });
  }, [save, seasonId, put]);

  useEffect(() => {
    if (state.word !== 'waiting' && state.word !== 'refused') return;
    const timer = setTimeout(() => void send(), state.word === 'waiting' ? WAIT_MS : RETRY_MS);
    return () => clearTimeout(timer);
  }, [plan, state.word, send]);
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (
        (e.ctrlKey || e.metaKey) &&
        e.key.toLowerCase() === 'z' &&
        !e.shiftKey &&
        !(e.target instanceof HTMLElement && e.target.closest('input, textarea'))
      ) {
        e.preventDefault();
        undo();
      }
    };
    // Nothing acknowledged is lost, and what is not saved yet is asked about before the page goes.
    const onLeave = (e: BeforeUnloadEvent) => {
      if (state.word !== 'saved') e.preventDefault();
    };
    window.addEventListener('keydown', onKey);
    window.addEventListener('beforeunload', onLeave);
    return () => {
      window.removeEventListener('keydown', onKey);
      window.removeEventListener('beforeunload', onLeave);
    };
  }, [undo, state.word]);

  const settle = useCallback(
    (theirs: readonly Conflict[]) => {
      if (state.word !== 'conflict') return;
      put(theirs.reduce((p, c) => takeTheirs(p, c), latest.current));
      base.current = { plan: state.theirs, version: state.version };
      setState({ word: 'waiting' });
    },
    [state, put],
  );
  const replace = useCallback(
    (next: Plan, version: number) => {
      past.current = [];
      setUndoable(0);
      base.current = { plan: next, version };
      put(next);
      unsaved.delete(seasonId);
      setState({ word: 'saved' });
    },
    [put, seasonId],
  );
  return { plan, state, edit, undo, undoable, settle, replace };
}
