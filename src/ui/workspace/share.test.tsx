import { act, render, screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { terraceShortWorked } from '@/demo/terraceShortWorked';
import { bookOf } from '@/core/book/book';
import { figuresOf } from '@/core/views/figures';
import type { Plan } from '@/core/document/document';
import { useAssessed, usePlan } from './context';
import { shared } from './share';
import { WorkspaceProvider } from './WorkspaceProvider';

describe('what says the same stays the object that it was', () => {
  it('part by part', () => {
    const before = { a: { x: 1 }, list: [{ n: 1 }, { n: 2 }], gone: 1 };
    const now = { a: { x: 1 }, list: [{ n: 1 }, { n: 3 }], gone: 1 };
    const kept = shared(before, now);
    expect(kept).toEqual(now);
    expect(kept.a).toBe(before.a);
    expect(kept.list).not.toBe(before.list);
    expect(kept.list[0]).toBe(before.list[0]);
    expect(shared(before, { a: { x: 1 }, list: before.list, gone: 1 })).toBe(before);
  });
  it.each([
    [{ a: undefined }, {}],
    [{}, { a: undefined }],
    [[1, 2], [1]],
    [[1], [1, 2]],
    [null, {}],
    [{ 0: 1 }, [1]],
    [0, -0],
  ])('takes %j from %j as it is', (now, before) => {
    expect(shared<unknown>(before, now)).toStrictEqual(now);
  });
});

it('draws a part again only when what it looks at changes', () => {
  const drawn = { crop: 0, leaf: 0 };
  function Crop() {
    const { season } = usePlan('season');
    drawn.crop += 1;
    return <p>{season.yieldGoalTHa}</p>;
  }
  function Leaf() {
    useAssessed('leaf');
    drawn.leaf += 1;
    return null;
  }
  const parts = (
    <>
      <Crop />
      <Leaf />
    </>
  );
  const shown = (plan: Plan) => {
    const book = bookOf(plan.farm.library);
    const none = () => undefined;
    const value = { ...figuresOf(book, plan), plan, book, readOnly: false, edit: none };
    return <WorkspaceProvider value={{ ...value, replace: none }}>{parts}</WorkspaceProvider>;
  };
  const plan = terraceShortWorked();
  const { rerender } = render(shown(plan));
  act(() => rerender(shown({ ...plan, season: { ...plan.season, yieldGoalTHa: 61 } })));
  expect(screen.getByText('61')).toBeTruthy();
  expect(drawn).toEqual({ crop: 2, leaf: 1 });
});
