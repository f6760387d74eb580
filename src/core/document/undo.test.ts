import { describe, expect, it } from 'vitest';
import { terraceShortWorked } from '../../demo/terraceShortWorked';
import type { Plan } from './document';
import { undone } from './undo';

const start = terraceShortWorked();
const season = (plan: Plan, part: Partial<Plan['season']>): Plan => ({
  ...plan,
  season: { ...plan.season, ...part },
});

describe('taking one’s own entry back', () => {
  const entry = { before: start, after: season(start, { yieldGoalTHa: 70 }) };
  it('returns what it changed, and leaves what somebody else did', () =>
    expect(undone(entry, season(entry.after, { winterDrainageMm: 222 }))).toEqual(
      season(start, { winterDrainageMm: 222 }),
    ));
  it('leaves a figure that somebody else has changed again since', () =>
    expect(undone(entry, season(start, { yieldGoalTHa: 55 })).season.yieldGoalTHa).toBe(55));
  it('leaves the rate of a pass that somebody else has set since', () => {
    const [pass] = start.passes;
    if (!pass) throw new Error('the worked plan has a pass');
    const moved = { ...start, passes: [{ ...pass, productKgHa: 111 }, ...start.passes.slice(1)] };
    const theirs = { ...start, passes: [{ ...pass, productKgHa: 222 }, ...start.passes.slice(1)] };
    expect(undone({ before: start, after: moved }, theirs).passes[0]?.productKgHa).toBe(222);
  });
});
