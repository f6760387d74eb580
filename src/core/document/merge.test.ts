import { describe, expect, it } from 'vitest';
import { terraceShortWorked } from '../../demo/terraceShortWorked';
import type { Plan } from './document';
import { mergePlans, takeTheirs } from './merge';

const base = terraceShortWorked();
const season = (p: Plan, part: Partial<Plan['season']>): Plan => ({
  ...p,
  season: { ...p.season, ...part },
});

describe('two people edit one plan', () => {
  it('different figures come together', () => {
    const m = mergePlans(base, season(base, { yieldGoalTHa: 70 }), {
      ...base,
      manureHistory: 'none',
    });
    expect(m.conflicts).toEqual([]);
    expect(m.plan).toMatchObject({ manureHistory: 'none', season: { yieldGoalTHa: 70 } });
  });
  it('the same figure is listed with all three values, and mine is kept until somebody decides', () => {
    const m = mergePlans(
      base,
      season(base, { yieldGoalTHa: 70 }),
      season(base, { yieldGoalTHa: 60 }),
    );
    expect(m.conflicts).toEqual([{ path: 'season.yieldGoalTHa', base: 65, mine: 70, theirs: 60 }]);
    expect(m.plan.season.yieldGoalTHa).toBe(70);
    expect(takeTheirs(m.plan, m.conflicts[0] as never).season.yieldGoalTHa).toBe(60);
  });
  it('rows are told apart by their id: one edits a pass, the other adds one', () => {
    const mine = {
      ...base,
      passes: base.passes.map((p, i) => (i === 0 ? { ...p, productKgHa: 150 } : p)),
    };
    const theirs = {
      ...base,
      passes: [...base.passes, { ...(base.passes[0] as Plan['passes'][number]), id: 'third' }],
    };
    const m = mergePlans(base, mine, theirs);
    expect(m.conflicts).toEqual([]);
    expect(m.plan.passes.map((p) => [p.id, p.productKgHa])).toEqual([
      ['worked-1', 150],
      ['worked-2', 120],
      ['third', 140],
    ]);
  });
  it('a row that one removed and the other left alone is gone; a figure in a row can be settled', () => {
    expect(
      mergePlans(base, { ...base, passes: base.passes.slice(1) }, base).plan.passes.map(
        (p) => p.id,
      ),
    ).toEqual(['worked-2']);
    const set = (kg: number) => ({
      ...base,
      passes: base.passes.map((p, i) => (i === 0 ? { ...p, productKgHa: kg } : p)),
    });
    const m = mergePlans(base, set(150), set(160));
    expect(m.conflicts[0]?.path).toBe('passes.worked-1.productKgHa');
    expect(takeTheirs(m.plan, m.conflicts[0] as never).passes[0]?.productKgHa).toBe(160);
  });
  it('answers to different cautions come together; to the same one it is asked', () => {
    const said = (caution: string, words: string): Plan => ({
      ...base,
      answers: [
        {
          caution,
          state: 'accepted',
          words,
          by: null,
          on: base.asOf,
          until: null,
          kgHa: null,
        },
      ],
    });
    const both = mergePlans(base, said('p_surplus', 'the soil is deep'), said('s_short', 'gypsum'));
    expect(both.conflicts).toEqual([]);
    expect(both.plan.answers.map((a) => a.caution).toSorted()).toEqual(['p_surplus', 's_short']);
    const same = mergePlans(
      said('p_surplus', 'the soil is deep'),
      said('p_surplus', 'another year'),
      said('p_surplus', 'it is the last of it'),
    );
    expect(same.conflicts[0]?.path).toBe('answers.p_surplus.words');
    expect(takeTheirs(same.plan, same.conflicts[0] as never).answers[0]?.words).toBe(
      'it is the last of it',
    );
  });
});
