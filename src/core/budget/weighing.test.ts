import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { weighedDryMatter } from './weighing';

describe('a green manure that is weighed', () => {
  it('is frames, their ground and a dried sub-sample, with the spread of the frames', () => {
    const w = weighedDryMatter({ freshG: [700, 780, 760, 760], frameM2: 0.25, dryPct: 16 });
    expect(w.dmTHa).toBeCloseTo(4.8, 9);
    expect(w.sdTHa).toBeCloseTo(0.2213, 3);
    expect(weighedDryMatter({ freshG: [700], frameM2: 0.25, dryPct: 16 }).sdTHa).toBeNull();
  });
  it('grows with each weight', () =>
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 5000 }), { minLength: 1, maxLength: 8 }),
        fc.integer({ min: 6, max: 90 }),
        (freshG, dryPct) => {
          const of = (g: number[]) => weighedDryMatter({ freshG: g, frameM2: 0.5, dryPct }).dmTHa;
          expect(of(freshG.map((g) => g + 10))).toBeGreaterThan(of(freshG));
        },
      ),
    ));
  it.each([
    [{ freshG: [], frameM2: 0.25, dryPct: 16 }, /at least one frame/u],
    [{ freshG: [-1], frameM2: 0.25, dryPct: 16 }, /-1/u],
    [{ freshG: [700], frameM2: 0, dryPct: 16 }, /Ground of a frame/u],
    [{ freshG: [700], frameM2: 0.25, dryPct: 160 }, /160/u],
  ])('%j is refused by name', (weighing, message) =>
    expect(() => weighedDryMatter(weighing)).toThrow(message),
  );
});
