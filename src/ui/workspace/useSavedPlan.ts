'use client';

import { deepEqual } from 'fast-equals';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { Plan } from '@/core/document/document';
import { mergePlans, takeTheirs, type Conflict } from '@/core/document/merge';
import { undone, type Entry } from '@/core/document/undo';
import type { RefusalDetail } from '@/core/quantity/refusal';
import { forgetUnsaved, keepUnsaved, unsavedHere, unsavedLeft, type Unsaved } from './unsavedEdits';

export type SaveAnswer =
  | {
      ok: true;
      value:
        | { ok: true; version: number; plan: Plan; mergedFromOthers: boolean }
        | { ok: false; conflicts: Conflict[]; theirs: Plan; version: number };
    }
  | { ok: false; refusal: RefusalDetail };
export type Save = (seasonId: string, base: unknown, mine: unknown) => Promise<SaveAnswer>;
export type SaveState =
  | { word: 'saved' | 'saving' | 'waiting' }
  | { word: 'refused'; message: string }
  | { word: 'conflict'; conflicts: Conflict[]; theirs: Plan };

const WAIT_MS = 600;
const RETRY_MS = 4000;
const MOST_UNDO = 100;
const NO_ANSWER: SaveAnswer = {
  ok: false,
  refusal: {
    code: 'server',
    field: 'server',
    message: 'The server does not answer. Your edits are kept here and tried again.',
  },
};
/**
 * The box in which somebody types, or the handle that is dragged, if any: what is done there without
 * leaving it is one entry.
 */
const boxInUse = (): Element | null => {
  const el = document.activeElement;
  const held =
    el instanceof HTMLInputElement ||
    el instanceof HTMLTextAreaElement ||
    el?.getAttribute('role') === 'slider';
  return held ? el : null;
};

/** Own entries, to be taken back one by one: what is typed into one box is one of them. */
function useEntries() {
  const past = useRef<Entry[]>([]);
  const box = useRef<Element | null>(null);
  const [undoable, setUndoable] = useState(0);
  const add = useCallback((before: Plan, after: Plan) => {
    const typing = boxInUse();
    const last = past.current.at(-1);
    if (last && typing !== null && typing === box.current && last.after === before)
      past.current[past.current.length - 1] = { before: last.before, after };
    else past.current = [...past.current.slice(-MOST_UNDO + 1), { before, after }];
    box.current = typing;
    setUndoable(past.current.length);
  }, []);
  const takeBack = useCallback((): Entry | undefined => {
    const entry = past.current.pop();
    box.current = null;
    setUndoable(past.current.length);
    return entry;
  }, []);
  const clear = useCallback(() => {
    past.current = [];
    setUndoable(0);
  }, []);
  return { add, takeBack, clear, undoable };
}

/**
 * A plan with undo and autosave. What is typed goes to the server a moment later; when somebody
 * else saved first, edits of different
 * figures are brought together, and the same figure is put to the user, wherever it comes to light.
 * What is not saved yet outlives the tab
 * and is offered again.
 */
export function useSavedPlan(seasonId: string, initial: Plan, save: Save) {
  const [kept] = useState(() => unsavedHere(seasonId));
  const [plan, setPlan] = useState(kept?.plan ?? initial);
  const [state, setState] = useState<SaveState>({ word: kept ? 'waiting' : 'saved' });
  const [left, setLeft] = useState<Unsaved | null>(null);
  const base = useRef(kept?.base ?? initial);
  const latest = useRef(kept?.plan ?? initial);
  const busy = useRef(false);
  const { add, takeBack, clear, undoable } = useEntries();

  const put = useCallback(
    (next: Plan) => {
      latest.current = next;
      keepUnsaved(seasonId, { plan: next, base: base.current });
      setPlan(next);
    },
    [seasonId],
  );
  const waiting = useCallback(
    () => setState((s) => (s.word === 'conflict' ? s : { word: 'waiting' })),
    [],
  );
  const edit = useCallback(
    (change: (p: Plan) => Plan) => {
      const [before, after] = [latest.current, change(latest.current)];
      if (after === before) return;
      add(before, after);
      put(after);
      waiting();
    },
    [add, put, waiting],
  );
  const undo = useCallback(() => {
    const entry = takeBack();
    if (!entry) return;
    put(undone(entry, latest.current));
    waiting();
  }, [put, takeBack, waiting]);

  /**
   * Brings what the server holds now together with what is typed here since `from`; the same figure
   * changed in both is put to the user.
   */
  const join = useCallback(
    (from: Plan, theirs: Plan): boolean => {
      const { plan: both, conflicts } = mergePlans(from, latest.current, theirs);
      base.current = from;
      if (conflicts.length > 0) {
        put(both);
        setState({ word: 'conflict', conflicts, theirs });
        return false;
      }
      base.current = theirs;
      put(both);
      return true;
    },
    [put],
  );

  const send = useCallback(async () => {
    if (busy.current) return;
    busy.current = true;
    const sent = latest.current;
    setState({ word: 'saving' });
    const reply = await save(seasonId, base.current, sent).catch((): SaveAnswer => NO_ANSWER);
    busy.current = false;
    if (!reply.ok) return setState({ word: 'refused', message: reply.refusal.message });
    const result = reply.value;
    if (!result.ok) {
      if (join(base.current, result.theirs)) setState({ word: 'waiting' });
      return;
    }
    const typedMeanwhile = latest.current !== sent;
    // What was typed while the save ran began from what was sent.
    if (!join(sent, result.plan)) return;
    if (!typedMeanwhile) forgetUnsaved(seasonId);
    setState({ word: typedMeanwhile ? 'waiting' : 'saved' });
  }, [save, seasonId, join]);

  useEffect(() => {
    if (state.word !== 'waiting' && state.word !== 'refused') return;
    const timer = setTimeout(() => void send(), state.word === 'waiting' ? WAIT_MS : RETRY_MS);
    return () => clearTimeout(timer);
  }, [plan, state.word, send]);

  // A page that the server drew anew brings what others did meanwhile, or what another door wrote:
  // a leaf, a laboratory's file.
  const drawn = useRef(initial);
  useEffect(() => {
    if (drawn.current === initial) return;
    drawn.current = initial;
    if (busy.current || deepEqual(base.current, initial)) return;
    const unsaved = latest.current !== base.current;
    if (join(base.current, initial) && !unsaved) forgetUnsaved(seasonId);
  }, [initial, join, seasonId]);

  // What a closed tab left behind is offered once, when the desk opens; what is on the server
  // already is not spoken of.
  const { version } = initial;
  useEffect(() => {
    const found = unsavedLeft(seasonId, version);
    if (!found) return;
    const { plan: both } = mergePlans(found.base, found.plan, base.current);
    if (deepEqual(both, base.current)) forgetUnsaved(seasonId);
    else setLeft(found);
  }, [seasonId, version]);
  const takeLeft = useCallback(
    (wanted: boolean) => {
      setLeft(null);
      if (!left) return;
      if (!wanted) return forgetUnsaved(seasonId);
      const stored = base.current;
      const { plan: back, conflicts } = mergePlans(left.base, left.plan, stored);
      const before = latest.current;
      const after = mergePlans(stored, before, back).plan;
      add(before, after);
      put(after);
      setState(
        conflicts.length > 0
          ? { word: 'conflict', conflicts, theirs: stored }
          : { word: 'waiting' },
      );
    },
    [add, left, put, seasonId],
  );

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
      base.current = state.theirs;
      put(theirs.reduce((p, c) => takeTheirs(p, c), latest.current));
      setState({ word: 'waiting' });
    },
    [state, put],
  );
  const replace = useCallback(
    (next: Plan) => {
      clear();
      base.current = next;
      put(next);
      forgetUnsaved(seasonId);
      setState({ word: 'saved' });
    },
    [clear, put, seasonId],
  );
  return { plan, state, edit, undo, undoable, settle, replace, left: left !== null, takeLeft };
}
