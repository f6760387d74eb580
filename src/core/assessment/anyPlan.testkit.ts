import fc from 'fast-check';
import { spread } from '../../demo/build';
import { terraceShortWorked } from '../../demo/terraceShortWorked';
import { PRINTED } from '../book/book';
import { materials } from '../book/organicMaterials';
import { newWater } from '../document/defaults';
import type { Plan } from '../document/document';
import type { NutrientSum } from '../lines/line';

// Random plans for the properties that hold for any plan.

/** The one balance (chapter 7, W1.1), in hundredths: 0 where it closes. */
export const balanceGap = (s: NutrientSum): number =>
  [
    s.requirement,
    s.debits,
    s.over,
    -s.credits,
    -s.applied,
    -s.planned,
    -s.leftOut,
    -s.stillToApply,
  ].reduce((t, v) => t + Math.round(v * 100), 0);

export const base = terraceShortWorked();
export const num = (min: number, max: number) =>
  fc.double({ min, max, noNaN: true, noDefaultInfinity: true });
const solids = materials(PRINTED)
  .filter((m) => !['liquid', 'slurry', 'liquid_concentrate'].includes(m.physicalForm))
  .map((m) => m.key);
const TRIALS = [
  [0, 40],
  [60, 55],
  [120, 63],
  [180, 66],
  [240, 66],
].map(([nKgHa, yieldTHa]) => ({ nKgHa: nKgHa as number, yieldTHa: yieldTHa as number }));
const ORGANICS = fc
  .array(
    fc.record({
      materialKey: fc.constantFrom(...solids),
      rate: num(0, 60),
      hours: num(0, 200),
      cropYear: fc.integer({ min: 1, max: 4 }),
    }),
    { maxLength: 4 },
  )
  .map((list) =>
    list.map((o, i) =>
      spread(`o${i}`, {
        date: o.cropYear === 1 ? '2027-03-05' : `${2027 - o.cropYear + 1}-03-10`,
        materialKey: o.materialKey,
        rate: o.rate,
        methodKey: 'solid_broadcast',
        cropYear: o.cropYear,
        coverings: [{ kind: 'plough_inversion', hours: o.hours }],
      }),
    ),
  );
const PREVIOUS: fc.Arbitrary<Plan['previous']> = fc.oneof(
  fc.constant(null),
  fc.constant(base.previous),
  fc.constant({ kind: 'other' as const, cropName: 'Rye' }),
  fc
    .record({ dmTHa: num(0, 12), vetch: num(0, 1), removed: num(0, 1) })
    .map(({ dmTHa, vetch, removed }) => ({
      kind: 'green_manure' as const,
      weighed: null,
      dmTHa,
      species: [
        { speciesKey: 'hairy_vetch', share: vetch, stage: 'full_flower' as const, nPct: null },
        { speciesKey: 'cereal_rye', share: 1 - vetch, stage: 'full_flower' as const, nPct: null },
      ],
      removedFracTops: removed,
      placement: 'ploughed_in',
      killDate: null,
      killTiming: null,
      weeksTo80pctUptake: null,
    })),
);
/** A beet field with whatever nitrate, manure, school, legume, residue and soil test. */
export const PLAN: fc.Arbitrary<Plan> = fc
  .record({
    goal: num(1, 90),
    no3: num(0, 60),
    om: num(0, 12),
    deposition: fc.option(num(0, 60)),
    organics: ORGANICS,
    previous: PREVIOUS,
    residue: fc.option(fc.record({ leftTDmHa: num(0, 15), nKgTDm: num(1, 50) })),
    water: fc.option(num(0, 100)),
    n: fc.constantFrom(
      'yield_goal' as const,
      'economic_optimum' as const,
      'index_ceiling' as const,
    ),
    pk: fc.constantFrom(
      'replacement' as const,
      'sufficiency' as const,
      'build_maintain' as const,
      'replacement_index' as const,
    ),
    p: num(0, 200),
    k: num(0, 600),
    afterLegume: fc.option(fc.boolean()),
  })
  .map((x): Plan => ({
    ...base,
    season: {
      ...base.season,
      yieldGoalTHa: x.goal,
      depositionNKgHa: x.deposition,
      cropPricePerT: 38,
    },
    field: { ...base.field, omPct: x.om },
    organics: x.organics,
    previous: x.previous,
    residue: x.residue && { ...x.residue, placement: 'ploughed_in', leadWeeks: 0 },
    irrigation:
      x.water === null
        ? null
        : { ...newWater(), mm: 200, no3nMgL: x.water, shareBeforeRunDown: 0.8 },
    schools: {
      ...base.schools,
      n: x.n,
      pk: x.pk,
      trials: TRIALS,
      trialsAfterLegume: x.afterLegume,
    },
    ground: {
      ...base.ground,
      nitrateLayers: base.ground.nitrateLayers.map((l) => ({ ...l, no3nMgKg: x.no3 })),
      readings: [
        { nutrient: 'p', extractant: 'olsen', value: x.p, unit: 'mg_kg', belowDetection: false },
        {
          nutrient: 'k',
          extractant: 'ammonium_acetate',
          value: x.k,
          unit: 'mg_kg',
          belowDetection: false,
        },
      ],
    },
  }));
