import { inWords } from '../why/said';
import { describe, expect, it } from 'vitest';
import { terraceShortWorked } from '../../demo/terraceShortWorked';
import { assess } from '../assessment/assess';
import { PRINTED } from '../book/book';
import type { Plan } from '../document/document';
import { BLANK_RECORDS } from '../document/organicDefaults';
import { furrowSection } from './furrow';

const whole: Plan = {
  ...terraceShortWorked(),
  organics: terraceShortWorked().organics.slice(0, 1),
  passes: [],
};
const part = (areaFrac: number, plan = whole): Plan => ({
  ...plan,
  organics: plan.organics.map((o) => ({ ...o, areaFrac })),
});
const drawn = (plan: Plan) => {
  const section = furrowSection(PRINTED, plan, assess(PRINTED, plan));
  const stratum = section?.strata.find((s) => s.id.startsWith('organic.'));
  return { total: stratum?.total ?? 0, mark: section?.marks.find((m) => m.kind === 'manure')?.kgN };
};

describe('a dressing of part of the field', () => {
  it('is drawn in the section as the sheet counts it: by its share of the field', () => {
    expect(drawn(part(0.25)).total).toBeCloseTo(drawn(whole).total / 4, 6);
    expect(drawn(part(0.25)).mark).toBeCloseTo((drawn(whole).mark ?? 0) / 4, 6);
    const line = (p: Plan) =>
      assess(PRINTED, p).lines.find((l) => l.id.startsWith('applied.organic'))?.n ?? 0;
    expect(line(part(0.25))).toBeCloseTo(line(whole) / 4, 6);
  });
  it('counts by its share against the yearly limit of manure N', () => {
    const heavy = (areaFrac: number): Plan => ({
      ...part(areaFrac),
      farm: { ...whole.farm, manureNLimitKgHa: 170 },
      organics: part(areaFrac).organics.map((o) => ({ ...o, rate: 40, rateUnit: 't_ha' })),
    });
    const warned = (p: Plan) =>
      assess(PRINTED, p).warnings.some((w) => inWords(w.message).includes('170'));
    expect(warned(heavy(1))).toBe(true);
    expect(warned(heavy(0.2))).toBe(false);
  });
  it('and so do its metals', () => {
    const metals = (areaFrac: number) =>
      assess(PRINTED, {
        ...whole,
        organics: whole.organics.map((o) => ({
          ...o,
          materialKey: 'finishing_pig_slurry',
          rateUnit: 'm3_ha',
          methodKey: 'trailing_hose',
          rate: 200,
          lab: null,
          records: { ...BLANK_RECORDS, znMgKgDm: 9000 },
          areaFrac,
        })),
      }).warnings.filter((w) => /Copper|Zinc/.test(inWords(w.message)));
    expect(metals(1).length).toBeGreaterThan(0);
    expect(metals(0.05)).toEqual([]);
  });
  it('keeps its own rate where it lies', () => {
    const [own] = assess(PRINTED, part(0.25)).organics;
    const [all] = assess(PRINTED, whole).organics;
    expect(own?.nKgHa).toBe(all?.nKgHa);
    expect(own?.onField.nKgHa).toBeCloseTo((all?.nKgHa ?? 0) / 4, 9);
  });
});
