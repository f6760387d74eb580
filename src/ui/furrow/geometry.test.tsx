import { PRINTED } from '@/core/book/book';
import { describe, expect, it } from 'vitest';
import { assess } from '@/core/assessment/assess';
import { terraceShortWorked } from '@/demo/terraceShortWorked';
import { furrowSection, type FurrowSection } from '@/core/views/furrow';
import { beside, LABEL_STEP, layOut } from './geometry';

const plan = terraceShortWorked();
const section = furrowSection(PRINTED, plan, assess(PRINTED, plan)) as FurrowSection;
const g = layOut(section, { width: 1000, left: 10, right: 10, up: 100, down: 120 });

describe('the furrow in pixels', () => {
  it('runs from edge to edge', () => {
    expect(g.x(0)).toBe(10);
    expect(g.x(section.calendar.days)).toBe(990);
  });
  it('draws demand and supply on one scale that fits both', () => {
    expect(section.demandTotal * g.k).toBeLessThanOrEqual(100 + 1e-9);
    expect((section.supply.at(-1) ?? 0) * g.k).toBeLessThanOrEqual(120 + 1e-9);
  });
  it('stacks the strata without gaps', () =>
    expect(g.strata.reduce((s, b) => s + b.thickness, 0)).toBeCloseTo(
      (section.supply.at(-1) ?? 0) * g.k,
      6,
    ));
  it('names no stratum over another, and none below the picture', () => {
    for (const bottom of [132, 84]) {
      const named = beside(g.strata, bottom);
      expect(named).toHaveLength(g.strata.length);
      named.forEach((n, i) => {
        expect(n.y).toBeLessThanOrEqual(bottom);
        const before = named[i - 1];
        if (before) expect(n.y - before.y).toBeGreaterThanOrEqual(LABEL_STEP - 1e-9);
      });
    }
  });
});
