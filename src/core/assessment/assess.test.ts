import { inWords } from '../why/said';
import { PRINTED } from '../book/book';
import fc from 'fast-check';
import fs from 'node:fs';
import { describe, expect, it } from 'vitest';
import { findStep } from '../why/step';
import { balanceGap } from './anyPlan.testkit';
import { assess } from './assess';
import { DEMO_FARMS } from '../../demo/scenario';
import { terraceShortWorked } from '../../demo/terraceShortWorked';
import { type Plan } from '../document/document';
import { readPlanFile } from '../document/seasonFile';
import { NUTRIENT_KEYS, type NutrientKey } from '../lines/line';
import { buildSheet } from '../views/sheet';

const demo = (farm: string, field: string): Plan =>
  DEMO_FARMS.find((f) => f.key === farm)?.fields.find((d) => d.key === field)?.seasons[0] as Plan;
const allPlans = DEMO_FARMS.flatMap((f) => f.fields.flatMap((d) => d.seasons));
const finite = (v: unknown): boolean =>
  typeof v === 'number'
    ? Number.isFinite(v)
    : v === null || typeof v !== 'object'
      ? true
      : Object.values(v).every(finite);

describe('the hand-worked example of docs/worked-example.md', () => {
  const a = assess(PRINTED, terraceShortWorked());
  it.each([
    ['requirement', 260, 24.7, 123.5, 39],
    ['soil_nitrate', 54.15, null, null, null],
    ['om_mineralisation', 31.85, null, null, 3.98],
    ['legume_table_year1', 12.88, null, null, null],
    ['organic.worked-sheep', 38.89, 21, 126, 3.64],
    ['manure_earlier_years', 14.3, null, null, 1.3],
  ])('%s', (id, n, p, k, s) => {
    const line = a.lines.find((l) => l.id === id);
    const at = (v: number | null | undefined) =>
      v === null || v === undefined ? null : Math.round(v * 100) / 100;
    expect([at(line?.n), at(line?.p), at(line?.k), at(line?.s)]).toEqual([n, p, k, s]);
  });
  it('leaves 107.93 kg N, 3.70 P, a K surplus of 2.50 and 30.08 S to bring', () => {
    expect(NUTRIENT_KEYS.map((x) => a.sums[x].net)).toEqual([107.93, 3.7, -2.5, 30.08]);
    expect(a.sums.n).toMatchObject({ leftOut: 37.11, stillToApply: 0.62, over: 0 });
    expect(a.sums.p).toMatchObject({ leftOut: 3.7, stillToApply: 0 });
    expect(a.sums.k).toMatchObject({ stillToApply: 0, over: 2.5 });
  });
  it('is the file examples/terrace-short.plan.json', () =>
    expect(
      readPlanFile(JSON.parse(fs.readFileSync('examples/terrace-short.plan.json', 'utf8'))),
    ).toEqual(terraceShortWorked()));
  it('prints whole kilograms that add up to the total', () => {
    const sheet = buildSheet(PRINTED, terraceShortWorked(), a);
    const end = (kind: string, x: NutrientKey) =>
      sheet.totals.filter((t) => t.kind === kind).reduce((s, t) => s + (t[x] ?? 0), 0);
    for (const x of NUTRIENT_KEYS)
      expect(
        sheet.rows.reduce((s, r) => s + (r[x] ?? 0), 0) + end('passes', x) + end('left', x),
      ).toBe(end('still_to_apply', x) - end('over', x));
    expect(sheet.totals.find((t) => t.kind === 'still_to_apply')).toMatchObject({
      n: 1,
      p: 0,
      s: 30,
    });
  });
});

describe('judgement on the demo farms', () => {
  const fires = (farm: string, field: string, id: string) =>
    assess(PRINTED, demo(farm, field)).warnings.some((w) => `${w.module} ${w.id}` === id);
  it.each([
    ['tansy-hollow', 'low-fleet', 'ground R02'],
    ['tansy-hollow', 'low-fleet', 'budget N-14'],
    ['tansy-hollow', 'low-fleet', 'budget L-01'],
    ['tansy-hollow', 'yard-piece', 'ground R17'],
    ['tansy-hollow', 'yard-piece', 'organics R01'],
    ['tansy-hollow', 'yard-piece', 'budget N-25b'],
    ['tansy-hollow', 'terrace-long', 'budget S-02'],
    ['tansy-hollow', 'rookery', 'budget N-30'],
    ['tansy-hollow', 'rookery', 'budget K-01'],
    ['tansy-hollow', 'sheepwalk', 'ground R31'],
    ['tansy-hollow', 'brook-meadow', 'ground R08'],
    ['tansy-hollow', 'brook-meadow', 'budget P-01'],
    ['tansy-hollow', 'kiln-field', 'organics N01'],
    ['tansy-hollow', 'kiln-field', 'organics N02'],
    ['tansy-hollow', 'kiln-field', 'budget Y-01'],
    ['tansy-hollow', 'kiln-field', 'organics N04'],
    ['kestrel-terrace', 'bay-three', 'ground R05'],
    ['kestrel-terrace', 'bay-four', 'organics F01'],
    ['kestrel-terrace', 'upper-strip', 'organics N05'],
    ['quern-orchard', 'currant-rows', 'organics O03'],
    ['quern-orchard', 'hazel-bank', 'organics M01'],
  ])('%s / %s: %s', (farm, field, id) => expect(fires(farm, field, id)).toBe(true));

  it('does not call an old test a class, nor plan on it', () =>
    expect(assess(PRINTED, demo('tansy-hollow', 'brook-meadow')).ground.classes).toEqual({}));
  it('stops the budget station of a farm breaking the harvest interval, and Ground where pH forbids the crop', () => {
    expect(assess(PRINTED, demo('kestrel-terrace', 'bay-four')).stations.budget.state).toBe(
      'stopped',
    );
    expect(assess(PRINTED, demo('tansy-hollow', 'low-fleet')).stations.ground.state).toBe(
      'stopped',
    );
  });
  it('puts late incorporation in kilograms and money', () => {
    const [o] = assess(PRINTED, demo('tansy-hollow', 'kiln-field')).organics;
    expect(o?.lostKgHa).toBeCloseTo(
      ((o?.loss.lossFrac ?? 0) - (o?.lossPlannedFrac ?? 0)) * (o?.tanKgHa ?? 0),
      9,
    );
    expect(o?.lostMoney).toBeCloseTo((o?.lostKgHa ?? 0) * 1.2, 9);
  });
  it('counts a faba bean before rye in the nitrate sample, not twice', () => {
    const line = assess(PRINTED, demo('tansy-hollow', 'terrace-long')).lines.find((l) =>
      inWords(l.label).startsWith('Faba'),
    );
    expect(line).toMatchObject({ n: 0, detail: 'counted by the nitrate sample' });
  });
  it('every figure of every demo plan is finite and the sums are exact', () => {
    for (const plan of allPlans) {
      const a = assess(PRINTED, plan);
      expect(finite(a), plan.field.name).toBe(true);
      for (const x of NUTRIENT_KEYS) {
        expect(balanceGap(a.sums[x]), `${plan.field.name} ${x}`).toBe(0);
      }
    }
  });
});

describe('an unfinished or wrong plan', () => {
  const base = demo('tansy-hollow', 'terrace-long');
  it('without a crop: every station says what is missing', () => {
    const { stations, lines } = assess(PRINTED, {
      ...base,
      season: { ...base.season, cropKey: null },
    });
    expect(lines).toEqual([]);
    expect(stations.crop.note).toMatch(/crop/);
    expect(stations.supply.note).toBe('crop first');
  });
  it.each([
    [
      'a yield in bushels',
      { ...base, season: { ...base.season, yieldGoalTHa: 80 } },
      'crop',
      /yield_goal_t_ha\) = 80 t\/ha is outside the allowed range, above 0 up to 13 t\/ha/,
    ],
    [
      'a pass before the season',
      { ...base, passes: base.passes.map((p) => ({ ...p, date: '2026-05-01' })) },
      'supply',
      /date = 2026-05-01 lies before the season/,
    ],
    [
      'a pass after harvest',
      { ...base, passes: base.passes.map((p) => ({ ...p, date: '2027-09-09' })) },
      'supply',
      /after the harvest/,
    ],
    [
      'harvest before planting',
      { ...base, season: { ...base.season, harvestDate: '2026-10-02' } },
      'crop',
      /not after planting/,
    ],
    [
      'ammonium above total N',
      {
        ...base,
        organics: [
          {
            ...(demo('tansy-hollow', 'kiln-field').organics[0] as Plan['organics'][number]),
            lab: {
              date: null,
              totalNKgT: 2,
              nh4NKgT: 3,
              no3NKgT: null,
              pKgT: null,
              kKgT: null,
              sKgT: null,
              dmPct: null,
              cToN: null,
            },
          },
        ],
      },
      'budget',
      /M03/,
    ],
    [
      'nitrate layers with a gap',
      {
        ...base,
        ground: {
          ...base.ground,
          nitrateLayers: base.ground.nitrateLayers.map((l, i) =>
            i === 1 ? { ...l, topCm: 45 } : l,
          ),
        },
      },
      'ground',
      /gap, overlap or wrong order/,
    ],
    [
      'a protein target on rye',
      { ...base, season: { ...base.season, proteinTargetPct: 12 } },
      'crop',
      /only for wheat, durum and barley/,
    ],
  ] as [string, Plan, string, RegExp][])(
    '%s is named, and the rest goes on',
    (_, plan, station, message) => {
      const { problems } = assess(PRINTED, plan);
      expect(problems.find((p) => p.station === station)?.message).toMatch(message);
    },
  );
  it('a struck credit stays visible, counts nothing, and raises the need by itself', () => {
    const struck = assess(PRINTED, {
      ...base,
      struck: [{ line: 'soil_nitrate', reason: 'dung pat' }],
    });
    const before = assess(PRINTED, base);
    const line = struck.lines.find((l) => l.id === 'soil_nitrate');
    expect(line?.struck).toBe('dung pat');
    expect(struck.sums.n.net).toBeCloseTo(before.sums.n.net + (line?.n ?? 0), 2);
  });
});

describe('properties of the ledger', () => {
  const plan = terraceShortWorked();
  const some = fc.record({
    yieldGoalTHa: fc.double({ min: 1, max: 150, noNaN: true }),
    om: fc.double({ min: 0, max: 15, noNaN: true }),
    upper: fc.double({ min: 0, max: 200, noNaN: true }),
    lower: fc.double({ min: 0, max: 200, noNaN: true }),
    rate: fc.double({ min: 0.1, max: 80, noNaN: true }),
    kg: fc.double({ min: 0, max: 900, noNaN: true }),
    straw: fc.double({ min: 0, max: 1, noNaN: true }),
  });
  const build = (v: {
    yieldGoalTHa: number;
    om: number;
    upper: number;
    lower: number;
    rate: number;
    kg: number;
    straw: number;
  }): Plan => ({
    ...plan,
    field: { ...plan.field, omPct: v.om },
    season: { ...plan.season, yieldGoalTHa: v.yieldGoalTHa, strawRemovedFrac: v.straw },
    ground: {
      ...plan.ground,
      nitrateLayers: plan.ground.nitrateLayers.map((l, i) => ({
        ...l,
        no3nMgKg: i === 0 ? v.upper : v.lower,
      })),
    },
    organics: plan.organics.map((o) => ({ ...o, rate: v.rate })),
    passes: plan.passes.map((p) => ({ ...p, productKgHa: v.kg })),
  });
  it('adds up exactly and holds no NaN for any plan', () =>
    fc.assert(
      fc.property(some, (v) => {
        const a = assess(PRINTED, build(v));
        if (!finite(a)) return false;
        return NUTRIENT_KEYS.every((x) => {
          const s = a.sums[x];
          return (
            balanceGap(s) === 0 &&
            s.stillToApply * s.over === 0 &&
            [s.requirement, s.debits, s.credits, s.applied, s.planned, s.leftOut].every(
              (y) => y >= 0,
            )
          );
        });
      }),
      { numRuns: 150 },
    ));
  it('more nitrate, more organic matter or more manure never raises the N to bring', () =>
    fc.assert(
      fc.property(some, fc.double({ min: 0, max: 5, noNaN: true }), (v, more) => {
        const toBring = (w: typeof v) => assess(PRINTED, build(w)).sums.n.net;
        const now = toBring(v);
        return (
          toBring({ ...v, upper: Math.min(200, v.upper + more) }) <= now &&
          toBring({ ...v, om: Math.min(15, v.om + more) }) <= now &&
          toBring({ ...v, rate: v.rate + more }) <= now
        );
      }),
      { numRuns: 80 },
    ));
});

describe('why', () => {
  it('answers for each line of the sheet down to entered values and table rows', () => {
    const a = assess(PRINTED, terraceShortWorked());
    expect(findStep(a.figures, 'credit.organic_matter')?.inputs.map((s) => s.label)).toContain(
      'Yearly release at 15 °C',
    );
    expect(findStep(a.figures, 'organics.ammonia')?.value).toBeCloseTo(0.144, 6);
    const leaves = (s: { inputs: unknown[]; source?: string; formula?: string }): boolean =>
      s.inputs.length === 0
        ? Boolean(s.source ?? s.formula)
        : (s.inputs as (typeof s)[]).every(leaves);
    expect(a.figures.filter((f) => !leaves(f)).map((f) => f.id)).toEqual([]);
  });
});
