// @vitest-environment jsdom
import { act, cleanup, renderHook } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Plan } from '@/core/document/document';
import { terraceShortWorked } from '@/demo/terraceShortWorked';
import { mergePlans } from '@/core/document/merge';
import { useSavedPlan, type Save, type SaveAnswer } from './useSavedPlan';

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  cleanup();
  window.localStorage.clear();
  vi.useRealTimers();
});

const start = terraceShortWorked();
const goal =
  (yieldGoalTHa: number) =>
  (p: Plan): Plan => ({ ...p, season: { ...p.season, yieldGoalTHa } });
const drain =
  (winterDrainageMm: number) =>
  (p: Plan): Plan => ({ ...p, season: { ...p.season, winterDrainageMm } });
let season = 0;
/** A server with one plan, which somebody else may change in between. */
function server() {
  const held = { plan: start, version: 1, down: false, calls: 0 };
  const save: Save = async (_, base, mine): Promise<SaveAnswer> => {
    held.calls += 1;
    await Promise.resolve();
    if (held.down) throw new Error('connection refused');
    const merged = mergePlans(base as Plan, mine as Plan, held.plan);
    if (merged.conflicts.length > 0)
      return {
        ok: true,
        value: { ok: false, conflicts: merged.conflicts, theirs: held.plan, version: held.version },
      };
    held.plan = merged.plan;
    held.version += 1;
    return {
      ok: true,
      value: { ok: true, version: held.version, plan: held.plan, mergedFromOthers: true },
    };
  };
  return { held, save };
}
const open = (save: Save, id = `season-${(season += 1)}`) => ({
  id,
  hook: renderHook(() => useSavedPlan(id, start, save)),
});
const wait = (ms: number) =>
  act(async () => {
    await vi.advanceTimersByTimeAsync(ms);
  });

describe('a plan that saves itself', () => {
  it('says "saved" until something is typed, then saves a moment later, once for many keys', async () => {
    const { held, save } = server();
    const { hook } = open(save);
    expect(hook.result.current.state.word).toBe('saved');
    for (const g of [6, 60, 61])
      act(() => {
        hook.result.current.edit(goal(g));
      });
    expect(hook.result.current.state.word).toBe('waiting');
    await wait(700);
    expect(hook.result.current.state.word).toBe('saved');
    expect([held.calls, held.plan.season.yieldGoalTHa, held.version]).toEqual([1, 61, 2]);
  });
  it('undoes step by step, and saves what it went back to', async () => {
    const { held, save } = server();
    const { hook } = open(save);
    act(() => {
      hook.result.current.edit(goal(50));
    });
    act(() => {
      hook.result.current.edit(goal(51));
    });
    expect(hook.result.current.undoable).toBe(2);
    act(() => {
      hook.result.current.undo();
    });
    expect(hook.result.current.plan.season.yieldGoalTHa).toBe(50);
    act(() => {
      hook.result.current.undo();
    });
    act(() => {
      hook.result.current.undo();
    });
    expect(hook.result.current.plan.season.yieldGoalTHa).toBe(65);
    await wait(700);
    expect(held.plan.season.yieldGoalTHa).toBe(65);
  });
  it('keeps the edits while the server is away, tries again, and says so', async () => {
    const { held, save } = server();
    const { hook } = open(save);
    held.down = true;
    act(() => {
      hook.result.current.edit(goal(70));
    });
    await wait(700);
    expect(hook.result.current.state).toMatchObject({
      word: 'refused',
      message: expect.stringContaining('Your edits are kept'),
    });
    expect(hook.result.current.plan.season.yieldGoalTHa).toBe(70);
    held.down = false;
    await wait(4100);
    expect([hook.result.current.state.word, held.plan.season.yieldGoalTHa]).toEqual(['saved', 70]);
  });
  it('takes somebody else’s other figure over', async () => {
    const { held, save } = server();
    const { hook } = open(save);
    Object.assign(held, { plan: drain(222)(held.plan), version: 2 });
    act(() => {
      hook.result.current.edit(goal(70));
    });
    await wait(700);
    expect(hook.result.current.plan.season).toMatchObject({
      yieldGoalTHa: 70,
      winterDrainageMm: 222,
    });
    expect(held.plan.season).toMatchObject({ yieldGoalTHa: 70, winterDrainageMm: 222 });
  });
  it.each([
    [true, 40],
    [false, 70],
  ])('puts the same figure to the user: theirs %s', async (theirs, kept) => {
    const { held, save } = server();
    const { hook } = open(save);
    Object.assign(held, { plan: goal(40)(held.plan), version: 2 });
    act(() => {
      hook.result.current.edit(goal(70));
    });
    await wait(700);
    const state = hook.result.current.state;
    if (state.word !== 'conflict') throw new Error(`expected a conflict, not ${state.word}`);
    expect(state.conflicts.map((c) => c.path)).toEqual(['season.yieldGoalTHa']);
    act(() => {
      hook.result.current.settle(theirs ? state.conflicts : []);
    });
    await wait(700);
    expect([
      hook.result.current.state.word,
      held.plan.season.yieldGoalTHa,
      hook.result.current.plan.season.yieldGoalTHa,
    ]).toEqual(['saved', kept, kept]);
  });
  it('goes on with unsaved edits on the next station', async () => {
    const { held, save } = server();
    const { id, hook } = open(save);
    act(() => {
      hook.result.current.edit(goal(72));
    });
    hook.unmount();
    const next = open(save, id).hook;
    expect([next.result.current.plan.season.yieldGoalTHa, next.result.current.state.word]).toEqual([
      72,
      'waiting',
    ]);
    await wait(700);
    expect(held.plan.season.yieldGoalTHa).toBe(72);
  });
  it('never conflicts with its own edit that was typed while saving', async () => {
    const { held, save } = server();
    const slow: Save = async (...a) => {
      await new Promise((r) => setTimeout(r, 1000));
      return save(...a);
    };
    const { id, hook } = open(slow);
    act(() => {
      hook.result.current.edit(goal(72));
    });
    await wait(700);
    act(() => {
      hook.result.current.edit(goal(73));
    });
    await wait(1000);
    hook.unmount();
    const next = open(save, id).hook;
    await wait(700);
    expect([next.result.current.state.word, held.plan.season.yieldGoalTHa]).toEqual(['saved', 73]);
  });
  it('undo takes back one’s own entry and leaves what somebody else changed meanwhile', async () => {
    const { held, save } = server();
    const { hook } = open(save);
    act(() => hook.result.current.edit(goal(70)));
    held.plan = drain(222)(held.plan);
    await wait(700);
    expect(hook.result.current.plan.season.winterDrainageMm).toBe(222);
    act(() => hook.result.current.undo());
    await wait(700);
    expect(held.plan.season).toMatchObject({ yieldGoalTHa: 65, winterDrainageMm: 222 });
  });
  it('what is typed into one box without leaving it is one entry', () => {
    const { save } = server();
    const { hook } = open(save);
    const box = document.body.appendChild(document.createElement('input'));
    box.focus();
    for (const g of [6, 60, 61]) act(() => hook.result.current.edit(goal(g)));
    box.remove();
    act(() => hook.result.current.edit(drain(99)));
    expect(hook.result.current.undoable).toBe(2);
    act(() => hook.result.current.undo());
    act(() => hook.result.current.undo());
    expect(hook.result.current.plan.season.yieldGoalTHa).toBe(65);
  });
  it('a figure typed while a save runs, that somebody else changed too, is put to the user', async () => {
    const { held, save } = server();
    const slow: Save = async (...a) => {
      await new Promise((r) => setTimeout(r, 1000));
      return save(...a);
    };
    const { hook } = open(slow);
    act(() => hook.result.current.edit(goal(70)));
    await wait(700);
    // On its way; meanwhile they change the drainage, and so does the user.
    held.plan = drain(222)(held.plan);
    act(() => hook.result.current.edit(drain(111)));
    await wait(1000);
    const { state } = hook.result.current;
    if (state.word !== 'conflict') throw new Error(`expected a conflict, not ${state.word}`);
    expect(state.conflicts).toMatchObject([
      { path: 'season.winterDrainageMm', mine: 111, theirs: 222 },
    ]);
    act(() => hook.result.current.settle([]));
    await wait(1700);
    expect(held.plan.season).toMatchObject({ yieldGoalTHa: 70, winterDrainageMm: 111 });
  });
  it('offers what a closed tab left behind, and brings it back over what others did since', async () => {
    const { held, save } = server();
    const id = `closed-${(season += 1)}`;
    window.localStorage.setItem(
      `furrow.unsaved.${id}`,
      JSON.stringify({ base: start, plan: goal(77)(start) }),
    );
    held.plan = drain(222)(held.plan);
    const hook = renderHook(() => useSavedPlan(id, held.plan, save));
    expect(hook.result.current.left).toBe(true);
    act(() => hook.result.current.takeLeft(true));
    await wait(700);
    expect(held.plan.season).toMatchObject({ yieldGoalTHa: 77, winterDrainageMm: 222 });
    expect(window.localStorage.getItem(`furrow.unsaved.${id}`)).toBeNull();
  });
  it('takes over what the server drew anew, beside what is typed', async () => {
    const { held, save } = server();
    const id = `drawn-${(season += 1)}`;
    const hook = renderHook(({ plan }: { plan: Plan }) => useSavedPlan(id, plan, save), {
      initialProps: { plan: start },
    });
    act(() => hook.result.current.edit(goal(70)));
    held.plan = drain(222)(held.plan);
    hook.rerender({ plan: held.plan });
    expect(hook.result.current.plan.season).toMatchObject({
      yieldGoalTHa: 70,
      winterDrainageMm: 222,
    });
    await wait(700);
    expect(held.plan.season).toMatchObject({ yieldGoalTHa: 70, winterDrainageMm: 222 });
  });
});
