import { describe, expect, it } from 'vitest';
import { tansyHollow } from '../../demo/tansyHollow';
import { quernOrchard } from '../../demo/quernOrchard';
import { assess } from '../assessment/assess';
import { PRINTED } from '../book/book';
import { blankLime } from '../lines/lime';
import { blankPlan } from '../document/blank';
import type { Plan } from '../document/document';
import { inWords } from '../why/said';
import { carryOver, seasonAfter, takeOver } from './carryOver';

const planOf = (key: string): Plan =>
  [...tansyHollow.fields, ...quernOrchard.fields].find((f) => f.key === key)?.seasons[0] as Plan;
const nextOf = (from: Plan): Plan => {
  const { label, startDate } = seasonAfter(from.season);
  return blankPlan({ asOf: startDate, farm: from.farm, field: from.field, label, startDate });
};
const lines = (from: Plan, to = nextOf(from)) => carryOver(PRINTED, from, to);
const line = (from: Plan, id: string, to = nextOf(from)) =>
  lines(from, to).find((l) => l.id === id);
const told = (from: Plan, id: string) => inWords(line(from, id)?.says ?? '', 'metric');
const proposed = (from: Plan): ReadonlySet<string> =>
  new Set(lines(from).flatMap((l) => (l.proposed ? [l.id] : [])));
const taken = (from: Plan, ids = proposed(from)) => takeOver(PRINTED, from, nextOf(from), ids);
const beans = (over: Partial<Plan['season']> = {}): Plan => {
  const plan = planOf('yard-piece');
  return {
    ...plan,
    season: { ...plan.season, cropKey: 'faba_bean', harvestDate: '2027-09-10', ...over },
    organics: [],
    previous: null,
  };
};
const dressing = (over: Partial<Plan['organics'][number]>): Plan['organics'][number] => ({
  ...([...tansyHollow.fields]
    .flatMap((f) => f.seasons)
    .flatMap((s) => s.organics)[0] as Plan['organics'][number]),
  ...over,
});

describe('the season after', () => {
  it.each([
    ['2026/27', '2026-10-01', '2027/28', '2027-10-01'],
    ['2026', '2026-01-01', '2027', '2027-01-01'],
    ['1999/2000', '1999-09-01', '2000/2001', '2000-09-01'],
    ['99th year', '2024-02-29', '99th year, next', '2025-02-28'],
  ])('%s from %s is %s from %s', (label, startDate, next, start) => {
    expect(seasonAfter({ ...beans().season, label, startDate })).toEqual({
      label: next,
      startDate: start,
    });
  });
});

describe('a crop as what grew before', () => {
  it('credits a grain legume once, by its table', () => {
    const next = taken(beans({ strawRemovedFrac: 0.5 }));
    expect(next.previous).toMatchObject({
      kind: 'legume',
      legumeKey: 'faba_grain',
      removedFracTops: 0.5,
      yearsSinceKill: 1,
    });
    const crop = { ...next, season: { ...next.season, cropKey: 'winter_wheat', yieldGoalTHa: 8 } };
    const credits = assess(PRINTED, crop).lines.filter((l) => /legume/u.test(l.id));
    expect(credits).toHaveLength(1);
  });
  it('asks for the stand of a ley and does not guess whether it was ploughed', () => {
    const ley = beans({ cropKey: 'grass_clover_ley' });
    expect(lines(ley).filter((l) => l.group === 'before')).toMatchObject([
      { id: 'crop', proposed: false },
      { id: 'previous', proposed: false },
    ]);
    expect(takeOver(PRINTED, ley, nextOf(ley), new Set(['previous'])).previous).toMatchObject({
      legumeKey: 'grass_clover_ley',
      standClass: null,
      killDate: null,
    });
  });
  it('a crop that is no legume gives no credit, and the legume before it counts on', () => {
    const rye = beans({ cropKey: 'winter_wheat' });
    const previous = {
      ...(taken(beans()).previous as Extract<Plan['previous'], { kind: 'legume' }>),
      legumeKey: 'grass_clover_ley',
      standClass: 'good' as const,
    };
    expect(taken(rye).previous).toMatchObject({ kind: 'other' });
    const after = taken({ ...rye, previous });
    expect(after.previous).toMatchObject({ legumeKey: 'grass_clover_ley', yearsSinceKill: 2 });
    const third = { ...rye, previous: { ...previous, yearsSinceKill: 3 } };
    expect(line(third, 'previous_legume')).toBeUndefined();
  });
  it('a tree stands on, a year older, with what it bore', () => {
    const from = planOf(quernOrchard.fields[0]?.key ?? '');
    const old = {
      ...from,
      season: { ...from.season, plantingYear: 6, yieldHistoryTHa: [2.1], harvestedTHa: 2.4 },
    };
    const next = taken(old);
    expect(next.season).toMatchObject({
      cropKey: from.season.cropKey,
      plantingYear: 7,
      yieldHistoryTHa: [2.1, 2.4],
      plantingDate: from.season.plantingDate,
      harvestDate: null,
    });
    expect(next.previous).toBeNull();
  });
  it('a yield that nobody entered is no yield', () => {
    expect(line(beans(), 'harvest')).toMatchObject({ state: 'left', proposed: false });
    expect(line(beans({ harvestedTHa: 4.2 }), 'harvest')).toMatchObject({ state: 'left' });
  });
});

describe('manure and compost', () => {
  const from = (over: Partial<Plan['organics'][number]>): Plan => ({
    ...beans(),
    organics: [dressing({ id: 'a', status: 'done', cropYear: 1, ...over })],
  });
  it('counts on as spread a crop earlier, and once', () => {
    const plan = from({});
    const next = taken(plan);
    expect(next.organics).toMatchObject([{ id: 'a', cropYear: 2, status: 'done' }]);
    expect(next.manureHistory).toBe('yes');
    // Taken again, nothing counts twice.
    const again = takeOver(PRINTED, plan, next, new Set(['organic.a']));
    expect(again).toEqual(next);
    expect(line(plan, 'organic.a', next)?.state).toBe('there');
  });
  it('leaves behind what was only planned, and what no longer gives', () => {
    expect(line(from({ status: 'planned' }), 'organic.a')?.state).toBe('left');
    expect(line(from({ cropYear: 4 }), 'organic.a')?.state).toBe('left');
    const long = from({ cropYear: 4 });
    expect(
      line({ ...long, farm: { ...long.farm, residualTailFrac: 0.02 } }, 'organic.a')?.state,
    ).toBe('offered');
  });
  it('none is said only where it was said', () => {
    expect(taken({ ...beans(), manureHistory: 'none' }).manureHistory).toBe('none');
    expect(taken({ ...beans(), manureHistory: 'unknown' }).manureHistory).toBe('unknown');
  });
});

describe('lime, tests and terms', () => {
  const limed = (): Plan => {
    const low = planOf('low-fleet');
    return {
      ...low,
      lime: {
        ...blankLime(low),
        spread: {
          date: '2027-03-03',
          materialKey: 'calcitic_ag',
          rateTHa: 4,
          soilMoist: true,
          records: [],
        },
      },
    };
  };
  it('takes lime that was spread off what the test asks for, and its clock runs on', () => {
    const from = {
      ...limed(),
      reads: { soil: { id: 's', because: 'newest' as const }, nitrate: null },
    };
    const next = taken(from);
    expect(next.lime).toMatchObject({ spread: { rateTHa: 4 }, chosenId: null, spreadDate: null });
    expect(next.ground.sampleDate).toBe(from.ground.sampleDate);
    expect(next.reads.soil).toEqual({ id: 's', because: 'newest' });
  });
  it('a lime that was only planned stays behind', () => {
    const plan = limed();
    const lime = plan.lime as NonNullable<Plan['lime']>;
    const only = {
      ...plan,
      lime: { ...lime, spread: null, chosenId: lime.candidates[0]?.id ?? null },
    };
    expect(line(only, 'lime')?.state).toBe('left');
  });
  it('an old soil test is shown with its age and not ticked', () => {
    const plan = {
      ...limed(),
      reads: { soil: { id: 's', because: 'newest' as const }, nitrate: null },
    };
    const old = { ...plan, ground: { ...plan.ground, sampleDate: '2020-09-01' } };
    expect(line(old, 'soil_sample')?.proposed).toBe(false);
    expect(told(old, 'soil_sample')).toMatch(/7\.1 years old .*sample again/u);
  });
  it('last spring’s nitrate is not this year’s; that after the harvest is', () => {
    const plan = beans();
    const at = (nitrateSampleDate: string): Plan => ({
      ...plan,
      reads: { soil: null, nitrate: { id: 'n', because: 'newest' } },
      ground: {
        ...plan.ground,
        nitrateSampleDate,
        nitrateLayers: [
          { topCm: 0, bottomCm: 30, no3nMgKg: 5, bulkDensityGCm3: null, stonesVolFrac: null },
        ],
      },
    });
    expect(line(at('2027-02-20'), 'nitrate')?.state).toBe('left');
    expect(line(at('2027-10-20'), 'nitrate')).toMatchObject({ state: 'offered', proposed: true });
  });
  it('made twice from one season it is the same plan, and no N left on paper is in it', () => {
    for (const f of [...tansyHollow.fields, ...quernOrchard.fields])
      for (const from of f.seasons) {
        const ids = proposed(from);
        const next = taken(from, ids);
        expect(taken(from, ids)).toEqual(next);
        expect(takeOver(PRINTED, from, next, ids)).toEqual(next);
        expect(next.passes).toEqual([]);
        expect(next.organics.every((o) => o.cropYear > 1 && o.status === 'done')).toBe(true);
      }
  });
});
