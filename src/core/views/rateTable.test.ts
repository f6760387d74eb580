import { PRINTED } from '../book/book';
import { describe, expect, it } from 'vitest';
import { assess } from '../assessment/assess';
import { terraceShortWorked } from '../../demo/terraceShortWorked';
import { rateTable } from './rateTable';

const plan = terraceShortWorked();
const table = rateTable(PRINTED, plan, assess(PRINTED, plan), 'worked-sheep');
const row = (basis: string) => table?.rows.find((r) => r.basis === basis);

describe('the rate of a manure by each basis', () => {
  it('the planned rate reads as the sheet does (chapter 7, W1.11)', () => {
    const { sums } = assess(PRINTED, plan);
    expect(row('planned')).toMatchObject({ rate: 14, take: 14, cap: null });
    for (const x of ['n', 'p', 'k'] as const)
      expect(row('planned')?.over[x].kgHa).toBe(sums[x].over - sums[x].stillToApply);
  });
  it('by N it meets the need of N beside no pass, by P the off-take of P; the smaller binds', () => {
    const { supply } = assess(PRINTED, plan);
    expect(row('rate_n')?.over.n.kgHa).toBeCloseTo(supply.planned.n, 6);
    expect((row('rate_p')?.rate ?? 0) * 1.5).toBeCloseTo(65 * 0.38, 0);
    const binding = table?.rows.filter((r) => r.binds) ?? [];
    expect(binding).toHaveLength(1);
    expect(binding[0]?.rate).toBe(
      Math.min(...(table?.rows ?? []).filter((r) => r.basis !== 'planned').map((r) => r.rate)),
    );
  });
  it('what is taken stays below law, technique and machine, and the lowest is named', () => {
    const machine = {
      id: 'm',
      name: 'Spreader',
      kind: 'solid_spreader',
      minRate: 2,
      maxRate: 9,
      capacity: 8,
      calibration: null,
    };
    const small = { ...plan, organics: plan.organics.map((o) => ({ ...o, machine })) };
    const rows = rateTable(PRINTED, small, assess(PRINTED, small), 'worked-sheep')?.rows ?? [];
    const byN = rows.find((r) => r.basis === 'rate_n');
    expect(byN?.rate).toBeGreaterThan(9);
    expect(byN).toMatchObject({ take: 9, cap: 'machine' });
    expect(rows.find((r) => r.basis === 'rate_p')?.cap).toBe(
      (rows.find((r) => r.basis === 'rate_p')?.rate ?? 0) > 9 ? 'machine' : null,
    );
  });
  it('P paid ahead for three years is three times the rate of one, up to the rate by N', () => {
    const three = rateTable(PRINTED, plan, assess(PRINTED, plan), 'worked-sheep', 3);
    expect(three?.rows.find((r) => r.basis === 'rate_p')?.rate).toBeCloseTo(
      Math.min(row('rate_n')?.rate ?? 0, 3 * (row('rate_p')?.rate ?? 0)),
      9,
    );
  });
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
