import { describe, expect, it } from 'vitest';
import { tested } from '../../demo/build';
import { assess } from '../assessment/assess';
import { plan, type Given } from '../assessment/scenario.testkit';
import { PRINTED } from '../book/book';
import { barrel } from '../views/barrel';
import { figuresOf } from '../views/figures';
import { aluminiumOf } from './aluminium';
import { blankLime } from './lime';

const maize = (ground: Given['ground'], more: Given['more'] = {}, cropKey = 'maize_grain') =>
  plan({
    field: { omPct: 3, clayPct: 25 },
    season: {
      cropKey,
      yieldGoalTHa: 8,
      startDate: '2026-11-01',
      plantingDate: '2027-04-28',
      harvestDate: '2027-10-10',
      cropPricePerT: 190,
    },
    ground,
    more,
  });
/** Al 2.4, Ca 1.3 and Mg 0.5 cmol/kg. */
const ALUMINIUM = {
  phWater: 5.6,
  alCmolKg: 2.4,
  readings: [
    tested('ca', 'ammonium_acetate', 260.5),
    tested('mg', 'ammonium_acetate', 60.8),
    tested('p', 'mehlich_3_icp', 12),
    tested('k', 'ammonium_acetate', 90),
  ],
};
const rules = (p: ReturnType<typeof plan>) =>
  assess(PRINTED, p).warnings.map((w) => `${w.module} ${w.id}`);

describe('ground before fertiliser (chapter 7, W2.3 d and h)', () => {
  it('a stop by pH makes the crop wait, and its amounts say so on the sheet', () => {
    const acid = maize({ phWater: 4.3 });
    const { a, sheet } = figuresOf(PRINTED, acid);
    expect(a.soilFirst).toMatchObject({ cause: 'acid' });
    expect(a.stations.supply).toEqual({ state: 'waits', note: 'lime first, for this crop' });
    expect(sheet.totals.find((t) => t.kind === 'still_to_apply')?.label).toMatch(
      /only after lime$/u,
    );
  });
  it('no money is told of N, P or K until then', () => {
    const acid = maize({ ...ALUMINIUM, phWater: 4.3 });
    const b = barrel(PRINTED, acid, assess(PRINTED, acid));
    const of = (factor: string) => b?.repairs.find((r) => r.factor === factor);
    expect(of('P')).toMatchObject({ waits: true, valueLiebigHa: null });
    expect(of('pH')).toMatchObject({ waits: false });
    expect(of('pH')?.valueLiebigHa).toBeGreaterThan(0);
  });
  it('lime that brings the pH to its limit by planting ends the stop', () => {
    const acid = maize({ phWater: 4.4 });
    const lime = blankLime(acid);
    const fine = {
      ...acid,
      asOf: '2025-09-01',
      lime: {
        ...lime,
        spreadDate: '2025-09-05',
        chosenId: 'lime-1',
        candidates: lime.candidates.map((c) =>
          c.id === 'lime-1' ? { ...c, materialKey: 'calcitic_fine' } : c,
        ),
      },
    };
    const a = assess(PRINTED, fine);
    expect(a.lime?.chosen?.inTime).toBe(true);
    expect(a.soilFirst).toBeNull();
    expect(rules(fine)).not.toContain('ground R01');
    expect(rules({ ...fine, lime: { ...fine.lime, chosenId: null } })).toContain('ground R01');
  });
  it('aluminium above twice what the crop bears stops it, until lime is chosen', () => {
    const sour = maize(ALUMINIUM);
    const al = aluminiumOf(PRINTED, sour);
    expect(al?.satPct).toBeCloseTo((100 * 2.4) / (2.4 + 1.3 + 0.5), 0);
    expect((al?.bearsPct ?? 100) * 2).toBeLessThan(al?.satPct ?? 0);
    expect(rules(sour)).toContain('ground R46');
    expect(assess(PRINTED, sour).stations.supply.state).toBe('waits');
    const limed = { ...sour, lime: { ...blankLime(sour), weathered: true, chosenId: 'lime-1' } };
    expect(rules(limed)).not.toContain('ground R46');
    expect(rules(maize({ ...ALUMINIUM, alCmolKg: 0.4 }))).not.toContain('ground R46');
    expect(rules(maize({ ...ALUMINIUM, readings: [] }))).not.toContain('ground R46');
  });
  it('lime is not the word where the ground is too limy', () => {
    expect(assess(PRINTED, maize({ phWater: 8.7 })).stations.supply.note).toBe(
      'find out why the pH is above 8.5 first',
    );
    expect(assess(PRINTED, maize({ phWater: 6.4 }, {}, 'blueberry')).stations.supply.note).toMatch(
      /lower the pH/u,
    );
  });
  it('a sample that is too old holds nothing back', () =>
    expect(
      assess(PRINTED, maize({ phWater: 4.3, sampleDate: '2012-10-01' })).soilFirst,
    ).toBeNull());
  it('a crop that loves acid gets no lime within its range, and below it by the laboratory alone', () => {
    const berries = (phWater: number, labRateTHa: number | null = null) => {
      const p = maize({ phWater }, {}, 'blueberry');
      return assess(PRINTED, { ...p, lime: { ...blankLime(p), labRateTHa } }).lime?.requirement;
    };
    expect(berries(4.4)).toMatchObject({ word: 'none' });
    expect(berries(4.0)).toMatchObject({ word: 'unknown', valueTHa: null });
    expect(berries(4.0, 1.5)?.valueTHa).toBeGreaterThan(0);
  });
});
