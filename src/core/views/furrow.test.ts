import { PRINTED } from '../book/book';
import { describe, expect, it } from 'vitest';
import { assess } from '../assessment/assess';
import { DEMO_FARMS } from '../../demo/scenario';
import { terraceShortWorked } from '../../demo/terraceShortWorked';
import type { Plan } from '../document/document';
import { furrowSection, supplyBetween } from './furrow';
import { proposeSplit } from './splitProposal';
import { Refusal } from '../quantity/refusal';

const plan = terraceShortWorked();
const section = furrowSection(PRINTED, plan, assess(PRINTED, plan));
const id = (k: number) => `p${k}`;

describe('furrow section', () => {
  it('ends where the sheet ends, for every demo field', () => {
    for (const farm of DEMO_FARMS)
      for (const f of farm.fields)
        for (const p of f.seasons) {
          const a = assess(PRINTED, p);
          const s = furrowSection(PRINTED, p, a);
          if (!s) continue;
          const { over, stillToApply, leftOut } = a.sums.n;
          expect((s.supply.at(-1) ?? 0) - s.demandTotal, f.key).toBeCloseTo(
            over - stillToApply - leftOut,
            1,
          );
        }
  });
  it('demand is the requirement of the sheet, rising all season; the crop holds less at harvest', () => {
    expect(section?.demandTotal).toBeCloseTo(260, 6);
    expect(section?.uptakeTotal).toBeCloseTo(3.85 * 65, 6);
    expect(section?.demand.every((d, i, all) => i === 0 || d >= (all[i - 1] ?? 0) - 1e-9)).toBe(
      true,
    );
  });
  it('no source takes back what it gave, and each ends at its total', () => {
    for (const s of section?.strata ?? []) {
      expect(
        s.given.every((g, i) => i === 0 || g >= (s.given[i - 1] ?? 0) - 1e-6),
        s.id,
      ).toBe(true);
      expect(s.given.at(-1), s.id).toBeCloseTo(s.total, 6);
    }
  });
  it('a pass gives nothing before its date', () => {
    const pass = section?.strata.find((s) => s.id === 'pass.worked-2');
    const before = section?.days.findIndex((d) => d >= 221) ?? 0;
    expect(pass?.given[before - 2]).toBe(0);
  });
  it('soil supply between dates adds up to all sources but fertiliser', () => {
    const between = supplyBetween(section as NonNullable<typeof section>, [
      '2027-03-25',
      '2027-05-10',
    ]);
    expect(between).toHaveLength(3);
    expect(between.reduce((x, y) => x + y, 0)).toBeCloseTo(
      section?.strata.filter((s) => s.kind !== 'fertiliser').reduce((t, s) => t + s.total, 0) ?? 0,
      6,
    );
  });
  it('draws a closed period that the season touches twice as two stretches', () => {
    const low = DEMO_FARMS[0].fields[0]?.seasons[0] as Plan;
    expect(furrowSection(PRINTED, low, assess(PRINTED, low))?.closed).toHaveLength(2);
  });
  it('shows a nodulated bean fed from the air', () => {
    const bean = DEMO_FARMS[0].fields.find((f) => f.key === 'rookery')?.seasons[0] as Plan;
    const s = furrowSection(PRINTED, bean, assess(PRINTED, bean));
    expect(s?.strata.map((x) => x.id)).toContain('from_the_air');
    expect(s?.end).toMatchObject({ stillToApply: 0, over: 0, leftOut: 0 });
    expect(s?.supply.at(-1)).toBeCloseTo(s?.demandTotal ?? 0, 2);
  });
  it('what is placed late is told as time, not as an amount', () => {
    const rye = DEMO_FARMS[0].fields.find((f) => f.key === 'terrace-long')?.seasons[0] as Plan;
    const late = { ...rye, passes: rye.passes.map((p) => ({ ...p, date: '2027-05-25' })) };
    const of = (p: Plan) => furrowSection(PRINTED, p, assess(PRINTED, p));
    expect(of(late)?.late).toMatchObject({ date: '2027-04-11', passDate: '2027-05-25' });
    expect(of(late)?.late?.daysForward).toBe(44);
    expect(of(late)?.end).toEqual(of(rye)?.end);
    expect(of(rye)?.late).toBeNull();
  });
  it('is absent until crop and dates are known', () => {
    const open = { ...plan, season: { ...plan.season, harvestDate: null } };
    expect(furrowSection(PRINTED, open, assess(PRINTED, open))).toBeNull();
  });
});

describe('split proposal', () => {
  it('places the N that is left in 5 kg steps, with dates by stage', () => {
    const split = proposeSplit(PRINTED, { ...plan, passes: [] }, 'can_27', id);
    expect(split.passes.map((p) => p.placementId)).toEqual([
      'broadcast_incorporated',
      'broadcast_surface',
    ]);
    const n = split.passes.reduce((s, p) => s + p.productKgHa * 0.27, 0);
    // Beet is planned at its low figure: what is held back is no pass.
    expect(Math.abs(n - 70.82)).toBeLessThan(4);
    expect(split.passes[0]?.date).toBe('2027-03-25');
    expect(split.unplacedKgHa).toBe(0);
  });
  it('keeps what is done already and splits the rest', () => {
    const done = {
      ...plan,
      passes: plan.passes.slice(0, 1).map((p) => ({ ...p, status: 'done' as const })),
    };
    const n = proposeSplit(PRINTED, done, 'can_27', id).passes.reduce(
      (s, p) => s + p.productKgHa * 0.27,
      0,
    );
    expect(Math.abs(n - (70.82 - 37.8))).toBeLessThan(4);
  });
  it('refuses when nothing worth a pass is left, and for a crop without stages', () => {
    expect(() =>
      proposeSplit(
        PRINTED,
        { ...plan, season: { ...plan.season, yieldGoalTHa: 30 }, passes: [] },
        'can_27',
        id,
      ),
    ).toThrow(Refusal);
    const currant = DEMO_FARMS[2].fields.find((f) => f.key === 'currant-rows')?.seasons[0] as Plan;
    expect(() => proposeSplit(PRINTED, currant, 'can_27', id)).toThrow(/no stage table/);
  });
});
