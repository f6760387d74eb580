import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { PRINTED } from '../book/book';
import { cropOf } from '../book/crops';
import { climateOf } from '../book/stages';
import type { Plan } from '../document/document';
import { blankLime } from '../lines/lime';
import { NUTRIENT_KEYS } from '../lines/line';
import { dateAfter } from '../quantity/calendar';
import { balanceGap, num } from './anyPlan.testkit';
import { assess, type Assessment } from './assess';
import { isPlaced } from './placed';
import { leaf, plan as orchard } from './scenario.testkit';
import { DEMO_PLANS, WILD } from './wildPlan.testkit';

// Properties of whole plans (chapter 7, section 9) on plans far from the demo.

const look = (plan: Plan): Assessment => assess(PRINTED, plan);
const check = (property: (plan: Plan, a: Assessment, x: number) => void, numRuns = 80) =>
  fc.assert(
    fc.property(WILD, num(0.05, 1), (plan, x) => property(plan, look(plan), x)),
    { numRuns },
  );
const SLACK = 0.011;
const atMost = (after: number, before: number, what: string) =>
  expect(after, what).toBeLessThanOrEqual(before + SLACK);
const credit = (a: Assessment, id: string): number =>
  a.lines.reduce((s, l) => s + (l.id === id && l.struck === null ? (l.n ?? 0) : 0), 0);
const withSeason = (plan: Plan, more: Partial<Plan['season']>): Plan => ({
  ...plan,
  season: { ...plan.season, ...more },
});
const withField = (plan: Plan, more: Partial<Plan['field']>): Plan => ({
  ...plan,
  field: { ...plan.field, ...more },
});
const withGround = (plan: Plan, more: Partial<Plan['ground']>): Plan => ({
  ...plan,
  ground: { ...plan.ground, ...more },
});
/** Amounts that a reader sees: what is asked, brought and left, of each nutrient. */
const amounts = (a: Assessment) =>
  NUTRIENT_KEYS.map((x) => {
    const { requirement, credits, applied, planned, stillToApply, over, leftOut } = a.sums[x];
    return { requirement, credits, applied, planned, stillToApply, over, leftOut };
  });

describe('whatever was entered', () => {
  it('W9-1: the balance closes and no term is below 0', () =>
    check((_, a) => {
      for (const x of NUTRIENT_KEYS) {
        const s = a.sums[x];
        expect(balanceGap(s), x).toBe(0);
        for (const v of [s.requirement, s.debits, s.credits, s.applied, s.planned, s.leftOut])
          expect(v).toBeGreaterThanOrEqual(0);
      }
      expect(JSON.stringify([a.figures, a.lines, a.cautions])).not.toMatch(/NaN|Infinity/u);
    }, 300));
  it('W9-8, 9: more nitrate or organic matter asks for no more N', () =>
    check((plan, a, x) => {
      const richer = look(
        withGround(plan, {
          nitrateLayers: plan.ground.nitrateLayers.map((l) => ({
            ...l,
            no3nMgKg: Math.min(200, l.no3nMgKg * (1 + x)),
          })),
        }),
      );
      atMost(richer.sums.n.net, a.sums.n.net, 'nitrate');
      const { omPct } = plan.field;
      if (omPct === null || omPct > 14) return;
      const more = look(withField(plan, { omPct: omPct + x }));
      if (more.problems.length === a.problems.length)
        atMost(more.sums.n.net, a.sums.n.net, 'organic matter');
    }));
  it('W9-10: a richer test asks for no more P or K, and its bar is not lower', () =>
    check((plan, a, x) => {
      const richer = look(
        withGround(plan, {
          readings: plan.ground.readings.map((r) => ({ ...r, value: r.value * (1 + 2 * x) })),
        }),
      );
      for (const y of ['p', 'k'] as const)
        atMost(richer.sums[y].requirement, a.sums[y].requirement, y);
    }));
  it('W9-11: more acid ground needs no less lime; at its target it needs none', () =>
    check((plan, _, x) => {
      if (plan.ground.phWater === null || plan.season.cropKey === null) return;
      const of = (phWater: number) =>
        look({
          ...withGround(plan, { phWater, phCacl2: null }),
          lime: { ...blankLime(plan), school: 'texture' },
        }).lime;
      const [here, lower] = [of(5.6), of(5.6 - x)];
      if (here && lower && here.requirement.valueTHa !== null)
        expect(lower.requirement.valueTHa ?? Infinity).toBeGreaterThanOrEqual(
          here.requirement.valueTHa - 1e-9,
        );
      const limed = here ? of(here.target.ph + 0.01) : null;
      if (limed) expect(limed.requirement).toMatchObject({ word: 'none' });
    }));
  it('W9-12: more aluminium needs no less lime, and weathered ground is never limed above 5.8', () =>
    check((plan, _, x) => {
      const of = (alCmolKg: number) =>
        look({
          ...withGround(plan, {
            phWater: 4.9,
            phCacl2: null,
            alCmolKg,
            readings: [
              ...plan.ground.readings,
              ...(['ca', 'mg'] as const).map((nutrient) => ({
                nutrient,
                extractant: 'ammonium_acetate',
                value: nutrient === 'ca' ? 260 : 60,
                unit: 'mg_kg' as const,
                belowDetection: false,
              })),
            ],
          }),
          lime: { ...blankLime(plan), weathered: true, school: 'aluminium' },
        }).lime;
      const [little, much] = [of(1), of(1 + 3 * x)];
      if (!little || !much) return;
      expect(much.requirement.valueTHa ?? 0).toBeGreaterThanOrEqual(
        little.requirement.valueTHa ?? 0,
      );
      expect(much.target.ph).toBeLessThanOrEqual(5.8);
    }));
  it('W9-13: a poorer stand or tops that are carried off earn no more', () =>
    check((plan, _, x) => {
      const { previous } = plan;
      if (previous?.kind !== 'legume') return;
      const of = (more: Partial<typeof previous>) =>
        credit(look({ ...plan, previous: { ...previous, ...more } }), 'legume_table_year1');
      atMost(of({ standClass: 'poor' }), of({ standClass: 'good' }), 'stand');
      atMost(of({ removedFracTops: x }), of({ removedFracTops: 0 }), 'tops');
    }));
  it('W9-14: covered later, warmer or in more wind, a dressing keeps no more ammonium', () =>
    check((plan, _, x) => {
      const of = (hours: number, tempC: number, windMS: number) =>
        look({
          ...plan,
          organics: plan.organics.map((o) => ({
            ...o,
            coverings: [{ kind: 'plough_inversion', hours }],
            tempC,
            windMS,
          })),
        }).organics.map((o) => o.loss.lossFrac);
      const base = of(4, 10, 3);
      for (const [what, worse] of [
        ['hours', of(4 + 60 * x, 10, 3)],
        ['warmth', of(4, 10 + 15 * x, 3)],
        ['wind', of(4, 10, 3 + 5 * x)],
      ] as const)
        worse.forEach((loss, i) => atMost(base[i] ?? 1, loss, what));
    }, 40));
  it('W9-15: more drainage after the sample credits no more nitrate', () =>
    check((plan, a, x) => {
      const wetter = look(
        withSeason(plan, { winterDrainageMm: plan.season.winterDrainageMm * (1 + x) }),
      );
      atMost(credit(wetter, 'soil_nitrate'), credit(a, 'soil_nitrate'), 'nitrate');
    }));
  it('W9-18: what nobody knows any more is not credited', () =>
    check((plan, a) => {
      const unknown = {
        nitrate: withGround(plan, { nitrateLayers: [], nitrateSampleDate: null }),
        om: withField(plan, { omPct: null }),
        previous: { ...plan, previous: null },
        water: { ...plan, irrigation: null },
      };
      // Without nitrate a dressing is no longer counted in the test: its own N comes back.
      for (const [what, less] of Object.entries(unknown))
        if (what !== 'nitrate') atMost(look(less).sums.n.credits, a.sums.n.credits, what);
      expect(credit(look(unknown.nitrate), 'soil_nitrate')).toBe(0);
    }));
  it('W9-19: where late N spoils, the target is no more than the middle, and none after run-down', () =>
    check((plan, a) => {
      if (!plan.season.cropKey || a.sums.n.requirement === 0) return;
      if (cropOf(PRINTED, plan.season.cropKey).lateNSensitivity < 2) return;
      atMost(a.sums.n.asked, a.sums.n.net, 'target');
      if (a.runDownDate !== null && a.runDownDate < plan.asOf)
        expect(isPlaced('n', a.sums.n)).toBe(true);
    }));
  it('W9-27: twice the ground gives the same figures by hectare', () =>
    check((plan, a) => {
      const twice = look(withField(plan, { areaHa: Math.min(500, plan.field.areaHa * 2) }));
      expect(amounts(twice)).toEqual(amounts(a));
    }));
  it('W9-32: a key that nobody knows costs its own line only', () =>
    check((plan, a) => {
      const [first, ...rest] = plan.passes;
      if (!first) return;
      const bad = look({ ...plan, passes: [{ ...first, productId: 'no_such_product' }, ...rest] });
      const without = look({ ...plan, passes: rest });
      expect(bad.problems.map((p) => p.field)).toContain('passes[0].product_id');
      expect(amounts(bad)).toEqual(amounts(without));
      expect(a.lines.length).toBe(bad.lines.length);
    }));
  it('W9-33, 34: prices change no amount; dearer N never raises the best dose', () =>
    check((plan, a, x) => {
      const priced = (k: number): Plan => ({
        ...plan,
        farm: { ...plan.farm, nPricePerKg: plan.farm.nPricePerKg * k },
        season: {
          ...plan.season,
          cropPricePerT: plan.season.cropPricePerT && plan.season.cropPricePerT * k,
        },
      });
      expect(amounts(look(priced(2)))).toEqual(amounts(a));
      const dearer = look({
        ...plan,
        farm: { ...plan.farm, nPricePerKg: plan.farm.nPricePerKg * (1 + x) },
      });
      atMost(dearer.sums.n.requirement, a.sums.n.requirement, 'dose');
    }));
  it('W9-35: without a goal there are no amounts, no limit and no money', () =>
    check((plan) => {
      const a = look(withSeason({ ...plan, passes: [], organics: [] }, { yieldGoalTHa: null }));
      for (const x of NUTRIENT_KEYS)
        expect(a.sums[x]).toMatchObject({ requirement: 0, stillToApply: 0, over: 0 });
      expect(a.limiting).toBeNull();
      expect(a.supply.cost).toBe(0);
    }));
});

describe('leaves of a perennial', () => {
  const ORCHARDS: [string, Plan][] = (['apple', 'pear'] as const).map((cropKey) => [
    cropKey,
    orchard({
      season: {
        cropKey,
        yieldGoalTHa: 40,
        plantingYear: 12,
        startDate: '2026-11-01',
        harvestDate: '2027-09-20',
      },
      more: {
        leaves: [
          leaf(cropKey, 'leaf_midshoot', 77, '2026-07-28', { N: 2.1, K: 1.45, Ca: 1.25, Mg: 0.3 }),
        ],
      },
    }),
  ]);
  const scaled = (plan: Plan, nutrient: string, k: number): Plan => ({
    ...plan,
    leaves: plan.leaves.map((l) => ({
      ...l,
      values: l.values.map((v) =>
        v.nutrient === nutrient
          ? { ...v, reported: String(Number((Number(v.reported) * k).toPrecision(4))) }
          : v,
      ),
    })),
  });
  const rising = (of: (a: Assessment) => number, nutrient: string) =>
    fc.assert(
      fc.property(
        fc.constantFrom(...ORCHARDS),
        num(0.5, 1.5),
        num(1, 1.6),
        ([, plan], from, by) => {
          const [low, high] = [
            look(scaled(plan, nutrient, from)),
            look(scaled(plan, nutrient, from * by)),
          ];
          if (low.leafSays && high.leafSays) atMost(of(high), of(low), nutrient);
        },
      ),
      { numRuns: 60 },
    );
  it('W9-21: leaf N rising asks for no more N', () => rising((a) => a.sums.n.stillToApply, 'N'));
  it('W9-22: leaf K rising asks for no more K', () =>
    rising((a) => a.sums.k.requirement - a.sums.k.leftOut, 'K'));
  it('W9-20: leaf N above its range leaves nothing to apply', () =>
    fc.assert(
      fc.property(fc.constantFrom(...ORCHARDS), num(1, 90), ([, plan], goal) => {
        const a = look(withSeason(scaled(plan, 'N', 1.8), { yieldGoalTHa: goal }));
        if (a.leafSays?.n === 'above') expect(a.sums.n.stillToApply).toBe(0);
      }),
    ));
  it('W9-23: a leaf that cannot be read changes nothing but one message', () =>
    fc.assert(
      fc.property(fc.constantFrom(...ORCHARDS), ([, plan]) => {
        const wrong = { ...plan, leaves: plan.leaves.map((l) => ({ ...l, part: 'root' })) };
        expect(amounts(look(wrong))).toEqual(amounts(look({ ...plan, leaves: [] })));
      }),
    ));
});

describe('days and places', () => {
  it('W9-25: an earlier harvest never clears a stop of the interval, a later one makes none', () =>
    check((plan, a, x) => {
      const { harvestDate } = plan.season;
      if (harvestDate === null) return;
      const stops = (of: Assessment) =>
        of.warnings
          .filter(
            (w) => w.level === 'stop' && ['F01', 'F03', 'F04', 'O04'].includes(w.id) && w.about,
          )
          .map((w) => w.about)
          .toSorted();
      const days = Math.round(20 * x);
      const earlier = look(withSeason(plan, { harvestDate: dateAfter(harvestDate, -days) }));
      if (earlier.problems.length > a.problems.length) return;
      for (const about of stops(a)) expect(stops(earlier)).toContain(about);
    }, 150));
  it('W9-29: the same year in the other hemisphere gives the same figures', () => {
    const mirrored = (plan: Plan): Plan => {
      const shift = (d: string | null) => d && dateAfter(d, 182);
      const months = climateOf(plan.field.climateId);
      const turned = [...months.slice(6), ...months.slice(0, 6)];
      return {
        ...plan,
        asOf: dateAfter(plan.asOf, 182),
        farm: {
          ...plan.farm,
          closedPeriods: [],
          climate: {
            name: 'mirrored',
            months: turned.map((m) => ({
              tMeanC: m.tMeanC,
              tRangeC: m.tRangeC,
              rainMm: m.rainMm,
              et0Mm: null,
            })),
          },
        },
        field: { ...plan.field, latitudeDeg: -plan.field.latitudeDeg },
        season: {
          ...plan.season,
          startDate: dateAfter(plan.season.startDate, 182),
          plantingDate: shift(plan.season.plantingDate),
          harvestDate: shift(plan.season.harvestDate),
          budBurst: shift(plan.season.budBurst),
          leafFall: shift(plan.season.leafFall),
          cuts: plan.season.cuts.map((c) => ({ ...c, date: dateAfter(c.date, 182) })),
        },
        ground: {
          ...plan.ground,
          sampleDate: shift(plan.ground.sampleDate),
          nitrateSampleDate: shift(plan.ground.nitrateSampleDate),
        },
        previous:
          plan.previous && plan.previous.kind !== 'other'
            ? { ...plan.previous, killDate: shift(plan.previous.killDate) }
            : plan.previous,
        passes: plan.passes.map((p) => ({ ...p, date: dateAfter(p.date, 182) })),
        organics: plan.organics.map((o) => ({ ...o, date: dateAfter(o.date, 182) })),
        leaves: plan.leaves.map((l) => ({ ...l, date: dateAfter(l.date, 182) })),
      };
    };
    for (const [name, plan] of DEMO_PLANS) {
      if (plan.farm.climate !== null || plan.season.cropKey === null) continue;
      const open = { ...plan, farm: { ...plan.farm, closedPeriods: [] } };
      const [here, there] = [look(open), look(mirrored(open))];
      for (const x of NUTRIENT_KEYS)
        for (const key of ['requirement', 'credits', 'stillToApply', 'over', 'leftOut'] as const)
          expect(
            Math.abs(there.sums[x][key] - here.sums[x][key]),
            `${name} ${x} ${key}: ${here.sums[x][key]} and ${there.sums[x][key]}`,
          ).toBeLessThanOrEqual(1);
    }
  });
});
