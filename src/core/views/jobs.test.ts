import { describe, expect, it } from 'vitest';
import { spread } from '../../demo/build';
import { terraceShortWorked } from '../../demo/terraceShortWorked';
import { plan } from '../assessment/scenario.testkit';
import { assess } from '../assessment/assess';
import { PRINTED } from '../book/book';
import type { Plan } from '../document/document';
import { blankLime } from '../lines/lime';
import { sheetOfPlan } from './figures';
import { inFigures, shownRate, shownTotal } from './shown';
import { standingWords } from './standing';

const worked = terraceShortWorked();
const total = (s: ReturnType<typeof sheetOfPlan>, kind: string) =>
  s.totals.find((t) => t.kind === kind);

describe('the jobs of a plan sheet', () => {
  it('stand in the order of their days, each with rate, total, nutrients, how and who', () => {
    const sheet = sheetOfPlan({ ...worked, jobs: [{ line: 'pass.worked-1', who: 'Gwen' }] });
    expect(sheet.jobs.map((j) => [j.kind, j.date])).toEqual(
      sheet.jobs
        .map((j) => [j.kind, j.date])
        .toSorted((a, b) => String(a[1]).localeCompare(String(b[1]))),
    );
    const first = sheet.jobs.find((j) => j.id === 'pass.worked-1');
    expect(first).toMatchObject({ kind: 'pass', who: 'Gwen', status: 'planned' });
    expect(first?.total?.value).toBe(Math.ceil((first?.rate?.value ?? 0) * worked.field.areaHa));
    const manure = sheet.jobs.find((j) => j.kind === 'manure');
    expect(manure).toMatchObject({ notIf: 'not on frozen, snow-covered or saturated ground' });
    expect(manure?.n).toBeGreaterThan(0);
    expect(manure?.k).toBeGreaterThan(0);
  });
  it('hold the lime that is chosen, pass by pass, with its money', () => {
    const acid = plan({
      season: {
        cropKey: 'sugar_beet',
        yieldGoalTHa: 65,
        plantingDate: '2027-03-28',
        harvestDate: '2027-10-20',
      },
      ground: { phWater: 5.4 },
      field: { omPct: 3, clayPct: 22 },
    });
    const blank = blankLime(acid);
    const lime: Plan['lime'] = {
      ...blank,
      spreadDate: '2027-03-01',
      chosenId: blank.candidates[0]?.id ?? null,
    };
    const limed = { ...acid, lime };
    const { chosen } = assess(PRINTED, limed).lime ?? {};
    const sheet = sheetOfPlan(limed);
    const jobs = sheet.jobs.filter((j) => j.kind === 'lime');
    expect(jobs.length).toBeGreaterThan(0);
    expect(jobs.length).toBe(chosen?.passes);
    expect(jobs[0]).toMatchObject({ date: '2027-03-01' });
    expect(jobs.reduce((t, j) => t + (j.rate?.value ?? 0), 0)).toBeCloseTo(
      chosen?.productTHa ?? NaN,
      1,
    );
    expect(sheet.cost.lime).toBeCloseTo((chosen?.costPerHa ?? NaN) * acid.field.areaHa, 6);
  });
  it('what may not go out says so and counts nothing', () => {
    const stopped = {
      ...worked,
      season: { ...worked.season, eatenRaw: true, touchesSoil: true, cropKey: 'lettuce' },
      organics: [
        spread('d', {
          date: '2027-08-01',
          materialKey: 'sheep_bedded',
          rate: 10,
          methodKey: 'solid_broadcast',
        }),
      ],
    };
    expect(sheetOfPlan(stopped).jobs.find((j) => j.id === 'organic.d')?.status).toBe(
      'may not go out',
    );
  });
  it('are in lb/ac from the stored figures, and add up there too', () => {
    const [metric, us] = [sheetOfPlan(worked), sheetOfPlan(worked, 'us')];
    expect(us.area).toEqual({ value: 12.85, unit: 'ac' });
    for (const x of ['n', 'p', 'k', 's'] as const) {
      const sum = (s: typeof us) =>
        s.rows.reduce((t, r) => t + (r.struck ? 0 : (r[x] ?? 0)), 0) +
        s.totals
          .filter((t) => t.kind === 'passes' || t.kind === 'left')
          .reduce((t, r) => t + (r[x] ?? 0), 0);
      for (const s of [metric, us])
        expect(sum(s), x).toBe(
          (total(s, 'still_to_apply')?.[x] ?? 0) - (total(s, 'over')?.[x] ?? 0),
        );
      expect(
        Math.abs(
          (total(us, 'still_to_apply')?.[x] ?? 0) * 1.12085 -
            (total(metric, 'still_to_apply')?.[x] ?? 0),
        ),
      ).toBeLessThanOrEqual(1.2);
    }
    expect(JSON.stringify(us)).not.toMatch(/\d (kg|t)( [A-Z]\w*)?\/ha/);
  });
});

describe('figures as somebody would write them', () => {
  it.each([
    [inFigures(shownRate(110, 'kg_ha', 'us')), '98 lb/ac'],
    [inFigures(shownRate(110, 'kg_ha', 'metric')), '110 kg/ha'],
    [inFigures(shownRate(14, 't_ha', 'us')), '6.2 ton/ac'],
    [inFigures(shownTotal(110, 11, 'kg_ha', 'metric')), '1210 kg'],
    [inFigures(shownTotal(30, 6.4, 'm3_ha', 'us')), '50\u202f721 gal'],
  ])('%s', (found, wanted) => expect(found).toBe(wanted));
});

describe('how a plan stands', () => {
  const agreed = {
    number: 2,
    on: '2027-02-20',
    names: ['Ines Calloway', 'Gwen Marsh'],
    plan: worked,
  };
  it('is a draft, agreed, or changed since in so many lines', () => {
    expect(standingWords(worked, { agreed: null, waiting: null })).toBe('Draft, not agreed');
    expect(standingWords(worked, { agreed, waiting: null })).toBe(
      'Agreed 20 Feb 2027 by Ines Calloway and Gwen Marsh',
    );
    const now = { ...worked, season: { ...worked.season, yieldGoalTHa: 59, use: 'sugar' } };
    expect(standingWords(now, { agreed, waiting: { number: 3, since: '2027-02-26' } })).toBe(
      'Agreed 20 Feb 2027 by Ines Calloway and Gwen Marsh, changed since: 2 lines; version 3 of 26 Feb 2027 waits for the farmer’s answer',
    );
  });
});
