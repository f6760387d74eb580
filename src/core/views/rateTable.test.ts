import { PRINTED } from '../book/book';
import { describe, expect, it } from 'vitest';
import { assess } from '../assessment/assess';
import { terraceShortWorked } from '../../demo/terraceShortWorked';
import { rateTable } from './rateTable';

const plan = terraceShortWorked();
const table = rateTable(PRINTED, plan, assess(PRINTED, plan), 'worked-sheep');
const row = (basis: string) => table?.rows.find((r) => r.basis === basis);

describe('the rate of a manure by each basis', () => {
  it('the planned rate shows what it leaves over and short on this field', () => {
    const { sums } = assess(PRINTED, plan);
    expect(row('planned')).toMatchObject({ rate: 14 });
    expect(row('planned')?.over.n.kgHa).toBeCloseTo(-sums.n.asked, 2);
    expect(row('planned')?.over.n.colour).toBe('grey');
  });
  it('by N it meets the need of N, by P the off-take of P; the smaller binds', () => {
    expect(row('rate_n')?.over.n.kgHa).toBeCloseTo(0, 6);
    expect((row('rate_p')?.rate ?? 0) * 1.5).toBeCloseTo(65 * 0.38, 0);
    const binding = table?.rows.filter((r) => r.binds) ?? [];
    expect(binding).toHaveLength(1);
    expect(binding[0]?.rate).toBe(
      Math.min(...(table?.rows ?? []).filter((r) => r.basis !== 'planned').map((r) => r.rate)),
    );
  });
  it('P paid ahead for three years is three times the rate of one', () =>
    expect(
      rateTable(PRINTED, plan, assess(PRINTED, plan), 'worked-sheep', 3)?.rows.find(
        (r) => r.basis === 'rate_p',
      )?.rate,
    ).toBeCloseTo(3 * (row('rate_p')?.rate ?? 0), 9));
  it('a material that ties N up has no rate by N', () => {
    const straw = {
      ...plan,
      organics: plan.organics.map((o) =>
        o.id === 'worked-sheep' ? { ...o, materialKey: 'straw_cereal', lab: null } : o,
      ),
    };
    expect(rateTable(PRINTED, straw, assess(PRINTED, straw), 'worked-sheep')).toMatchObject({
      tiesUp: true,
    });
    expect(
      rateTable(PRINTED, straw, assess(PRINTED, straw), 'worked-sheep')?.rows.map((r) => r.basis),
    ).not.toContain('rate_n');
  });
  it('slurry is told in cubic metres', () => {
    const slurry = {
      ...plan,
      organics: plan.organics.map((o) =>
        o.id === 'worked-sheep'
          ? {
              ...o,
              materialKey: 'dairy_slurry_medium',
              rate: 30,
              rateUnit: 'm3_ha' as const,
              methodKey: 'trailing_hose',
              lab: null,
            }
          : o,
      ),
    };
    const t = rateTable(PRINTED, slurry, assess(PRINTED, slurry), 'worked-sheep');
    expect(t?.unit).toBe('m3_ha');
    expect(t?.rows[0]?.rate).toBeCloseTo(30, 6);
  });
  it('rich P asks for the P basis, and an unknown application has no table', () => {
    const rich = {
      ...plan,
      ground: {
        ...plan.ground,
        readings: [
          {
            nutrient: 'p' as const,
            extractant: 'olsen',
            value: 70,
            unit: 'mg_kg' as const,
            belowDetection: false,
          },
        ],
      },
    };
    expect(
      rateTable(PRINTED, rich, assess(PRINTED, rich), 'worked-sheep')?.warnings.map((w) => w.id),
    ).toEqual(['R01']);
    expect(rateTable(PRINTED, plan, assess(PRINTED, plan), 'nothing')).toBeNull();
  });
});
