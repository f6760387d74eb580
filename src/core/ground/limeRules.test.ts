import { describe, expect, it } from 'vitest';
import { judge } from '../rules/rule';
import { limeRules, type LimeFacts } from './limeRules';
import { herbageRules, layerRules, secondaryRules, type SecondaryFacts } from './secondaryRules';

/** A field whose lime was chosen with its certificate, a year of rain ago, and retested. */
const quiet: LimeFacts = {
  ph: 6.2,
  needTHa: 3,
  limeWanted: true,
  surface: false,
  passTHa: 3,
  maxPassTHa: 4,
  disagreement: { low: 2, high: 4 },
  tooLate: null,
  chosen: {
    name: 'lime',
    gypsum: false,
    bookValue: false,
    cceMin: 85,
    cceMax: 100,
    caustic: false,
  },
  daysToAmmonium: null,
  spread: {
    date: '2026-02-01',
    daysAgo: 400,
    started: true,
    cumMm: 60,
    startMm: 30,
    retested: true,
  },
  forCalciumOnly: false,
  ammoniumSulphateN: 0,
  ammoniumSulphateAcid: 0,
  intervalYears: 5,
};
const spread = (part: Partial<NonNullable<LimeFacts['spread']>>): Partial<LimeFacts> => ({
  spread: { ...(quiet.spread as NonNullable<LimeFacts['spread']>), ...part },
});
const chosen = (part: Partial<NonNullable<LimeFacts['chosen']>>): Partial<LimeFacts> => ({
  chosen: { ...(quiet.chosen as NonNullable<LimeFacts['chosen']>), ...part },
});
const says = (f: Partial<LimeFacts>) => judge(limeRules, { ...quiet, ...f });

describe('rules of lime', () => {
  it('say nothing about a sound plan', () => expect(says({})).toEqual([]));
  it.each<[string, Partial<LimeFacts>, Partial<LimeFacts>]>([
    ['R09', { tooLate: { product: 'fine lime', ph: 5.9, date: '2027-05-25' } }, { tooLate: null }],
    ['R10', spread({ started: false }), spread({ started: false, daysAgo: 0 })],
    ['R11', { passTHa: 4.1 }, { passTHa: 4 }],
    ['R11', { passTHa: 12, maxPassTHa: 6 }, { passTHa: 12.1, maxPassTHa: 6 }],
    ['R12', { passTHa: 12.1 }, { passTHa: 12 }],
    ['R19', { forCalciumOnly: true, ph: 6.8 }, { forCalciumOnly: true, ph: 6.7 }],
    ['R19', { forCalciumOnly: true, ph: 7.2 }, { forCalciumOnly: true, ph: 7.3 }],
    ['R20', { ph: 7.3 }, { ph: 7.2 }],
    ['R20', { ph: 7.3, limeWanted: false, forCalciumOnly: true }, { ph: 7.3, limeWanted: false }],
    ['R22', chosen({ gypsum: true }), { chosen: null }],
    ['R36', { disagreement: { low: 2, high: 4.1 } }, { disagreement: { low: 2, high: 4 } }],
    ['R37', spread({ retested: false, daysAgo: 365 }), spread({ retested: false, daysAgo: 364 })],
    ['R37', spread({ retested: false, daysAgo: 730 }), spread({ retested: false, daysAgo: 731 })],
    ['R40', { surface: true, passTHa: 2.6 }, { surface: true, passTHa: 2.5 }],
    [
      'R41',
      { ...chosen({ caustic: true }), daysToAmmonium: 13 },
      { ...chosen({ caustic: true }), daysToAmmonium: 14 },
    ],
    ['R41', { ...chosen({ caustic: true }), daysToAmmonium: 0 }, { daysToAmmonium: 0 }],
    [
      'R42',
      { ammoniumSulphateN: 151, ammoniumSulphateAcid: 820 },
      { ammoniumSulphateN: 150, ammoniumSulphateAcid: 815 },
    ],
    ['R45', chosen({ bookValue: true }), chosen({ bookValue: true, gypsum: true })],
  ])('%s fires at its bound and not beside it', (id, fires, silent) => {
    expect(says(fires).map((w) => w.id)).toContain(id);
    expect(says(silent).map((w) => w.id)).not.toContain(id);
    for (const w of says(fires))
      expect(`${w.message} ${w.action}`).not.toMatch(/[{}]|NaN|undefined/);
  });
  it('a caustic lime beside ammonium stops the plan, since the gas harms people', () =>
    expect(
      says({ ...chosen({ caustic: true }), daysToAmmonium: 3 }).find((w) => w.id === 'R41')?.level,
    ).toBe('stop'));
});

const still: SecondaryFacts = {
  cropName: 'Field pea',
  boronKgHa: 0,
  boronLimitKgHa: 1,
  boronInSeedRow: false,
  boronDefault: '1 kg',
  boronLastYearKgHa: null,
  boronSensitive: true,
  clay: true,
  elementalSMonths: null,
  autumnSulphate: false,
  winterRainMm: 400,
  sand: true,
};
const secondary = (f: Partial<SecondaryFacts>) =>
  judge(secondaryRules, { ...still, ...f }).map((w) => w.id);
describe('rules of sulphur and boron', () => {
  it('say nothing where none is planned', () => expect(secondary({})).toEqual([]));
  it.each<[string, Partial<SecondaryFacts>, Partial<SecondaryFacts>]>([
    ['R23', { elementalSMonths: 5.9 }, { elementalSMonths: 6 }],
    [
      'R24',
      { autumnSulphate: true, winterRainMm: 301 },
      { autumnSulphate: true, winterRainMm: 300 },
    ],
    ['R24', { autumnSulphate: true }, { autumnSulphate: true, sand: false }],
    ['R25', { boronKgHa: 1.1 }, { boronKgHa: 1 }],
    ['R25', { boronKgHa: 0.2, boronInSeedRow: true }, { boronInSeedRow: true }],
    ['R26', { boronLastYearKgHa: 1.6 }, { boronLastYearKgHa: 1.5 }],
    ['R26', { boronLastYearKgHa: 2 }, { boronLastYearKgHa: 2, clay: false }],
  ])('%s fires at its bound and not beside it', (id, fires, silent) => {
    expect(secondary(fires)).toContain(id);
    expect(secondary(silent)).not.toContain(id);
  });
});

describe('rules of herbage and of layers', () => {
  it('tetany above 2.2, a rich roof above three', () => {
    expect([2.2, 2.21].map((ratio) => judge(herbageRules, { ratio }).length)).toEqual([0, 1]);
    expect([3, 3.1].map((ratio) => judge(layerRules, { ratio, nutrient: 'P' }).length)).toEqual([
      0, 1,
    ]);
  });
});
