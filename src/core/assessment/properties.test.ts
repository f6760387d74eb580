import { PRINTED } from '../book/book';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { base, PLAN } from './anyPlan.testkit';
import { assess } from './assess';
import { spread } from '../../demo/build';
import type { Plan } from '../document/document';
import { hundredths, NUTRIENT_KEYS } from '../lines/line';
import { wholeSheet } from '../views/wholeKilograms';

const check = (property: (plan: Plan) => void, numRuns = 120) =>
  fc.assert(fc.property(PLAN, property), { numRuns });

describe('whatever the plan', () => {
  it('the ledger sums exactly, to the hundredth, for each nutrient', () =>
    check((plan) => {
      const a = assess(PRINTED, plan);
      for (const x of NUTRIENT_KEYS) {
        const of = (kind: string) =>
          a.lines.reduce((s, l) => s + (l.kind === kind ? hundredths(l, x) : 0), 0);
        const s = a.sums[x];
        expect(of('requirement') + of('debit') - of('credit') - of('applied') - of('planned')).toBe(
          Math.round(s.net * 100),
        );
        expect(s.stillToApply * s.over).toBe(0);
      }
    }));
  it('no figure is text, endless or not a number, and no line is below nothing', () =>
    check((plan) => {
      const a = assess(PRINTED, plan);
      for (const l of a.lines)
        for (const x of NUTRIENT_KEYS)
          expect(
            l[x] === null || (Number.isFinite(l[x]) && l[x] >= 0),
            `${l.id}.${x} = ${l[x]}`,
          ).toBe(true);
      expect(JSON.stringify(a.figures)).not.toMatch(/NaN|Infinity/);
    }));
  it('shown kilograms add up to what is shown as still to apply or over', () =>
    check((plan) => {
      const a = assess(PRINTED, plan);
      const { amounts, rows } = wholeSheet(a);
      for (const x of NUTRIENT_KEYS) {
        const of = (id: string) => amounts.get(id)?.[x] ?? 0;
        const above = [...a.lines, ...rows.filter((r) => r.kind === 'passes' || r.kind === 'left')];
        const end = a.sums[x].stillToApply - a.sums[x].over;
        expect(above.reduce((s, r) => s + of(r.id), 0)).toBe(of('still_to_apply') - of('over'));
        expect(Math.abs(of('still_to_apply') - of('over') - end)).toBeLessThanOrEqual(0.5 + 1e-9);
      }
    }, 60));
  it('no line stands twice, and a legume is counted by the table or by weight, never both', () =>
    check((plan) => {
      const ids = assess(PRINTED, plan).lines.map((l) => l.id);
      expect(new Set(ids).size).toBe(ids.length);
      expect(
        ids.filter((id) => id.startsWith('legume_table') || id.startsWith('green_manure')).length,
      ).toBeLessThanOrEqual(1);
      expect(
        ids.filter((id) => id === 'residue_tie_up' || id === 'vegetable_residue_release').length,
      ).toBeLessThanOrEqual(1);
    }));
  it('what a dose holds already is not taken off it once more', () =>
    check((plan) => {
      if (plan.schools.n === 'yield_goal') return;
      const a = assess(PRINTED, plan);
      expect(a.lines.find((l) => l.id === 'om_mineralisation')?.n ?? 0).toBe(0);
      for (const l of a.lines)
        if (l.heldN !== undefined) expect(l.n ?? 0).toBeLessThanOrEqual(l.heldN);
    }));
  it('an absurd dressing is named, and the rest of the plan goes on', () => {
    const absurd = {
      ...base,
      organics: [
        spread('o', {
          date: '2027-03-05',
          materialKey: 'blood_meal',
          rate: 60,
          methodKey: 'solid_broadcast',
        }),
      ],
    };
    const a = assess(PRINTED, absurd);
    expect(a.problems.map((p) => p.message).join(' ')).toMatch(/outside 0 to 2000 kg\/ha/);
    expect(a.lines.length).toBeGreaterThan(3);
  });
  it('more nitrate in the ground never raises the need', () =>
    check((plan) => {
      const richer = {
        ...plan,
        ground: {
          ...plan.ground,
          nitrateLayers: plan.ground.nitrateLayers.map((l) => ({ ...l, no3nMgKg: l.no3nMgKg + 5 })),
        },
      };
      expect(assess(PRINTED, richer).sums.n.net).toBeLessThanOrEqual(
        assess(PRINTED, plan).sums.n.net + 0.011,
      );
    }, 60));
  it('striking a credit out never lowers the need, and the others stay as they are', () =>
    check((plan) => {
      const a = assess(PRINTED, plan);
      const credit = a.lines.find((l) => l.kind === 'credit');
      if (!credit) return;
      const b = assess(PRINTED, { ...plan, struck: [{ line: credit.id, reason: 'not believed' }] });
      expect(b.sums.n.net).toBeGreaterThanOrEqual(a.sums.n.net - 0.011);
      expect(b.lines.filter((l) => l.id !== credit.id).map((l) => [l.id, l.n])).toEqual(
        a.lines.filter((l) => l.id !== credit.id).map((l) => [l.id, l.n]),
      );
    }, 60));
});
