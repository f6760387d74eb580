import { inWords } from '../why/said';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Refusal } from '../quantity/refusal';
import { claimCompounds } from '../book/limes';
import { claimCheck, loadCheck, type ClaimInput } from './claim';

const refused = (work: () => unknown) => {
  try {
    work();
  } catch (e) {
    if (e instanceof Refusal) return e.detail.field;
    throw e;
  }
  return 'was not refused';
};
const claim = (part: Partial<ClaimInput>): ClaimInput => ({
  compound: 'calcium_carbonate',
  pct: 95,
  rate: 5000,
  unit: 'kg',
  lr: 5,
  gap: 0.8,
  ...part,
});

describe('a product sold for pH', () => {
  it.each<[string, Partial<ClaimInput>, string, string | undefined]>([
    ['a true lime at its full rate', {}, 'consistent', undefined],
    ['a true lime at a fifth of it', { rate: 1000 }, 'part', undefined],
    ['a true lime by the bag', { rate: 100 }, 'too_little', 'R13'],
    [
      'calcium chloride',
      { compound: 'calcium_chloride', pct: 35, rate: 20, unit: 'l', density: 1.35 },
      'ruled_out',
      'R14',
    ],
    ['gypsum', { compound: 'calcium_sulphate_dihydrate', rate: 1000 }, 'ruled_out', 'R14'],
    ['a kilogram that replaces a hundred', { claimedKgPerKg: 100 }, 'impossible', 'R15'],
    ['anything on ground that needs nothing', { lr: 0 }, 'nothing_needed', undefined],
    [
      'an unnamed compound with a little calcium',
      { compound: 'unknown_anion', rate: 20, caPct: 10 },
      'unseen',
      undefined,
    ],
    [
      'an unnamed compound with much calcium',
      { compound: 'unknown_anion', rate: 3000, caPct: 30 },
      'ask_compound',
      undefined,
    ],
  ])('%s', (_, part, verdict, rule) => {
    const r = claimCheck(claim(part));
    expect(r.verdict).toBe(verdict);
    expect(r.warnings[0]?.id).toBe(rule);
    expect(
      `${r.message}${r.warnings.map((w) => inWords(w.message) + inWords(w.action)).join('')}`,
    ).not.toMatch(/NaN|undefined/);
  });
  it('what makes acid never counts as lime, however much of it', () =>
    fc.assert(
      fc.property(fc.double({ min: 0, max: 20_000, noNaN: true }), (rate) => {
        for (const c of claimCompounds().filter(
          (x) => x.verdict === 'acidifies' || x.verdict === 'does_not_neutralise',
        ))
          expect(claimCheck(claim({ compound: c.key, rate })).verdict).toBe('ruled_out');
      }),
      { numRuns: 20 },
    ));
  it('its share grows with the rate, and nothing else', () =>
    expect(
      (claimCheck(claim({ rate: 2000 })).share ?? 0) /
        (claimCheck(claim({ rate: 1000 })).share ?? 1),
    ).toBeCloseTo(2, 9));
  it('microbes count only where they are asked to', () => {
    const organic = claimCompounds().find((c) => c.verdict === 'conditional');
    expect(claimCheck(claim({ compound: organic?.key ?? '' })).baseKg).toBe(0);
    expect(
      claimCheck(claim({ compound: organic?.key ?? '', allowOxidation: true })).baseKg,
    ).toBeGreaterThan(0);
  });
  it.each<[string, Partial<ClaimInput>]>([
    ['density', { unit: 'l' }],
    ['density', { unit: 'l', density: 0.1 }],
    ['pct', { pct: 101 }],
    ['rate', { rate: -1 }],
    ['lr', { lr: 61 }],
    ['gap', { gap: 6 }],
    ['claimed_kg_per_kg', { claimedKgPerKg: -1 }],
    ['ca_pct', { compound: 'unknown_anion' }],
    ['compound', { compound: 'moon_dust' }],
  ])('a bad %s is refused by its name', (field, part) =>
    expect(refused(() => claimCheck(claim(part)))).toBe(field),
  );
});

describe('a nutrient load against the need', () => {
  const base = {
    rate: 10,
    unit: 'l',
    analysisPct: 20,
    density: 1.3,
    reference: 20,
    oxide: 'p2o5',
  } as const;
  it('turns an oxide into the element and speaks up below a twentieth', () => {
    expect(loadCheck(base).nutrientKgHa).toBeCloseTo(1.135, 2);
    expect(loadCheck(base).warnings).toEqual([]);
    expect(loadCheck({ ...base, rate: 8 }).warnings[0]?.id).toBe('R44');
  });
  it('prices the kilogram of nutrient, not the litre', () =>
    expect(loadCheck({ ...base, oxide: null, pricePerUnit: 4 }).pricePerKg).toBeCloseTo(
      40 / 2.6,
      9,
    ));
  it('has no price for nothing', () =>
    expect(loadCheck({ ...base, analysisPct: 0, pricePerUnit: 4 }).pricePerKg).toBeNull());
  it.each([
    ['reference', { reference: 0 }],
    ['analysis_pct', { analysisPct: 120 }],
    ['price_per_unit', { pricePerUnit: -3 }],
  ] as const)('a bad %s is refused', (field, part) =>
    expect(refused(() => loadCheck({ ...base, ...part }))).toBe(field),
  );
});
