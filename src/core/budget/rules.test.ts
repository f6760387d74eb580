import { inWords } from '../why/said';
import { PRINTED } from '../book/book';
import { describe, expect, it } from 'vitest';
import { cropOf } from '../book/crops';
import { judge } from '../rules/rule';
import { budgetRules, type BudgetFacts } from './rules';

/** Winter wheat on a well-tested loam with nothing wrong. */
const quiet: BudgetFacts = {
  crop: cropOf(PRINTED, 'winter_wheat'),
  yieldGoal: 8,
  realistic: null,
  nitrateSampled: true,
  nitrateSampledToCm: 90,
  nitrateAgeDays: 20,
  nitrateAutumn: false,
  nitrateMaxMgKg: 12,
  manuredBeforeSampleDays: null,
  drainageMm: 140,
  texture: 'loam',
  omPct: 2.6,
  omUsed: true,
  omCredit: 30,
  omDepthCm: 20,
  legume: null,
  requirementN: 200,
  toBringN: 100,
  surplusN: 0,
  supplyN: 200,
  passesN: 0,
  plannedN: 100,
  plannedP: 0,
  plannedK: 0,
  sToBring: 0,
  nSupplyTotal: 200,
  sSupplyTotal: 25,
  classes: { P: 'medium', K: 'medium' },
  offtakeK: 40,
  ryP: 0.97,
  limiting: null,
  ph: 6.8,
  cap: { binding: null, allowed: 250, shortfall: 0 },
  fixing: false,
  otherLimitRy: null,
  greenManure: null,
  twice: null,
  companionThisSeason: false,
  legumeInStand: false,
  trials: null,
  waterEarlyShare: null,
  waterNitrateMgL: null,
  firstTimeHere: false,
  nodulesFailed: false,
  fungiLost: null,
  mined: null,
  late: null,
  nBalance: 20,
  pBalance: 0,
  stressed: false,
};
const greenManure = {
  cn: 26,
  tieUpKgHa: 14,
  turnWeek: 12,
  weeksBeforePlanting: 3,
  killedAfterSample: false,
};
const late = (share: number) => ({ kgHa: 40, share, stage: '2027-07-20', harm: 'split roots' });
const legume = {
  claimed: 'good',
  derived: null,
  used: 'good',
  plants: null,
  coverPct: null,
  removedFrac: 0,
  credit: 60,
  uncut: 60,
  killTiming: 'spring',
  yearsSinceKill: 1,
  grain: false,
  greenManure: false,
};
const fired = (facts: Partial<BudgetFacts>) => judge(budgetRules, { ...quiet, ...facts });
const ids = (facts: Partial<BudgetFacts>) => fired(facts).map((w) => w.id);

describe('budget rules', () => {
  it('say nothing where nothing is wrong', () => expect(ids({})).toEqual([]));
  it.each<[string, Partial<BudgetFacts>, Partial<BudgetFacts>]>([
    ['Y-03', { otherLimitRy: 0.79 }, { otherLimitRy: 0.8 }],
    ['N-10', { twice: ['slurry', 'slurry of last year'] }, {}],
    ['N-12', { greenManure: { ...greenManure, killedAfterSample: true } }, { greenManure }],
    ['N-16', { greenManure }, { greenManure: { ...greenManure, weeksBeforePlanting: 4 } }],
    ['N-16', { greenManure }, { greenManure: { ...greenManure, cn: 25 } }],
    ['N-18', { companionThisSeason: true }, {}],
    ['N-18b', { legumeInStand: true }, { legumeInStand: true, plannedN: 0 }],
    [
      'N-22',
      { trials: { atTop: true, priceRatio: 5 } },
      { trials: { atTop: false, priceRatio: 1.5 } },
    ],
    [
      'N-22',
      { trials: { atTop: false, priceRatio: 15.1 } },
      { trials: { atTop: false, priceRatio: 15 } },
    ],
    ['N-24', { waterEarlyShare: 0.49 }, { waterEarlyShare: 0.5 }],
    ['W-01', { waterNitrateMgL: 11.4 }, { waterNitrateMgL: 11.3 }],
    ['N-31', { fixing: true, firstTimeHere: true, plannedN: 0 }, { firstTimeHere: true }],
    ['N-31', { fixing: true, ph: 5.4, plannedN: 0 }, { fixing: true, ph: 5.5, plannedN: 0 }],
    ['N-30', { fixing: true, passesN: 26 }, { fixing: true, passesN: 26, nodulesFailed: true }],
    [
      'M-01',
      { fungiLost: 'bare fallow' },
      { fungiLost: 'bare fallow', classes: { P: 'high', K: 'medium' } },
    ],
    [
      'M-02',
      { crop: cropOf(PRINTED, 'sugar_beet'), classes: { P: 'low', K: 'medium' } },
      { crop: cropOf(PRINTED, 'sugar_beet') },
    ],
    ['M-03', { classes: { P: 'very_high', K: 'medium' } }, { classes: { P: 'high', K: 'medium' } }],
    ['X-01', { mined: { p: 70, k: 480, dropP: 1, dropK: 1 } }, {}],
    ['C-02', { late: late(0.11) }, { late: late(0.1) }],
    [
      'C-02b',
      { late: late(0.26), crop: cropOf(PRINTED, 'spring_barley_malting') },
      { late: late(0.25), crop: cropOf(PRINTED, 'spring_barley_malting') },
    ],
    ['E-02', { nBalance: 81 }, { nBalance: 80 }],
    ['E-02b', { nBalance: 151 }, { nBalance: 150 }],
    [
      'E-03',
      { classes: { P: 'very_high', K: 'medium' }, pBalance: 11 },
      { classes: { P: 'very_high', K: 'medium' }, pBalance: 10 },
    ],
    [
      'F-01',
      { crop: cropOf(PRINTED, 'maize_silage'), stressed: true, supplyN: 241 },
      { crop: cropOf(PRINTED, 'maize_silage'), stressed: true, supplyN: 240 },
    ],
    [
      'Y-01',
      { realistic: { mean: 6, tooHigh: true, realistic: 6.3 } },
      { realistic: { mean: 8, tooHigh: false, realistic: 8.4 } },
    ],
    [
      'N-01',
      { nitrateSampled: false, drainageMm: 99, omUsed: false },
      { nitrateSampled: false, drainageMm: 100 },
    ],
    ['N-02', { nitrateSampledToCm: 59 }, { nitrateSampledToCm: 60 }],
    ['N-03', { nitrateAgeDays: 61 }, { nitrateAgeDays: 60 }],
    ['N-03', { nitrateAgeDays: 31, texture: 'sand' }, { nitrateAgeDays: 30, texture: 'sand' }],
    ['N-04', { nitrateAutumn: true, drainageMm: 151 }, { nitrateAutumn: true, drainageMm: 150 }],
    ['N-05', { nitrateMaxMgKg: 60.1 }, { nitrateMaxMgKg: 60 }],
    ['N-06', { manuredBeforeSampleDays: 42 }, { manuredBeforeSampleDays: 43 }],
    ['OM-02', { omDepthCm: 10 }, { omDepthCm: 25 }],
    ['OM-03', { omPct: 15.1, omUsed: false }, { omPct: 15, omUsed: false }],
    ['OM-04', { omPct: 5.1 }, { omPct: 5 }],
    ['OM-05', { drainageMm: 60 }, { drainageMm: 60, crop: cropOf(PRINTED, 'sugar_beet') }],
    [
      'N-13',
      { legume: { ...legume, greenManure: true, removedFrac: 0.5 } },
      { legume: { ...legume, greenManure: true, removedFrac: 0.49 } },
    ],
    [
      'N-14',
      { legume: { ...legume, derived: 'poor', used: 'poor', coverPct: 25 } },
      { legume: { ...legume, derived: 'good' } },
    ],
    [
      'N-15',
      { legume: { ...legume, killTiming: 'autumn_early' }, texture: 'sand' },
      { legume: { ...legume, killTiming: 'autumn_early' } },
    ],
    [
      'N-15',
      { legume: { ...legume, killTiming: 'autumn_early' }, drainageMm: 251 },
      { legume: { ...legume, killTiming: 'autumn_late' }, drainageMm: 251 },
    ],
    [
      'N-19',
      { legume: { ...legume, grain: true } },
      { legume: { ...legume, grain: true }, nitrateSampled: false, drainageMm: 150 },
    ],
    [
      'N-23',
      { legume: { ...legume, yearsSinceKill: 4 } },
      { legume: { ...legume, yearsSinceKill: 3 } },
    ],
    [
      'N-25',
      { surplusN: 41, crop: cropOf(PRINTED, 'maize_grain') },
      { surplusN: 40, crop: cropOf(PRINTED, 'maize_grain') },
    ],
    [
      'N-25b',
      { surplusN: 41, crop: cropOf(PRINTED, 'sugar_beet') },
      { surplusN: 40, crop: cropOf(PRINTED, 'sugar_beet') },
    ],
    ['N-26', { supplyN: 251 }, { supplyN: 250 }],
    ['N-30', { fixing: true, passesN: 26 }, { fixing: true, passesN: 25 }],
    ['P-01', { classes: { P: 'unknown', K: 'medium' } }, {}],
    ['P-02', { ryP: 0.8 }, { ryP: 0.81 }],
    [
      'P-03',
      { classes: { P: 'very_high', K: 'medium' }, plannedP: 5.1 },
      { classes: { P: 'very_high', K: 'medium' }, plannedP: 5 },
    ],
    [
      'K-01',
      { classes: { P: 'medium', K: 'low' }, crop: cropOf(PRINTED, 'sugar_beet') },
      { classes: { P: 'medium', K: 'low' }, crop: cropOf(PRINTED, 'sugar_beet'), plannedK: 1 },
    ],
    ['S-01', { sToBring: 11, texture: 'sand' }, { sToBring: 10, texture: 'sand' }],
    ['S-02', { nSupplyTotal: 200, sSupplyTotal: 16 }, { nSupplyTotal: 200, sSupplyTotal: 17 }],
    [
      'L-01',
      { limiting: { factor: 'pH', coLimiting: ['pH'], ry: 0.94, liebig: 7 } },
      { limiting: { factor: 'N', coLimiting: ['N'], ry: 0.94, liebig: 7 } },
    ],
    ['L-02', { ph: 4.4 }, { ph: 5.1 }],
    [
      'L-03',
      { limiting: { factor: 'N', coLimiting: ['N', 'K'], ry: 0.9, liebig: 7 } },
      { limiting: { factor: 'N', coLimiting: ['N'], ry: 0.9, liebig: 7 } },
    ],
    [
      'C-01',
      { cap: { binding: 'legal_cap', allowed: 170, shortfall: 21 } },
      { cap: { binding: 'legal_cap', allowed: 170, shortfall: 20 } },
    ],
  ])('%s fires at its bound and not before it', (id, at, before) => {
    expect(ids(at)).toContain(id);
    expect(ids(before)).not.toContain(id);
  });
  it('leave no gap in a message and name what to do', () => {
    const all = fired({
      realistic: { mean: 6, tooHigh: true, realistic: 6.3 },
      nitrateMaxMgKg: 80,
      omPct: 6,
      legume: {
        ...legume,
        derived: 'poor',
        used: 'poor',
        plants: 12,
        greenManure: true,
        removedFrac: 0.8,
      },
      surplusN: 60,
      classes: {},
      sToBring: 20,
      limiting: { factor: 'pH', coLimiting: ['pH', 'P'], ry: 0.5, liebig: 4 },
      ph: 4.2,
      cap: { binding: 'crop_cap', allowed: 170, shortfall: 40 },
    });
    expect(all.length).toBeGreaterThan(9);
    for (const w of all) {
      expect(`${inWords(w.message)} ${inWords(w.action)}`).not.toMatch(/[{}]|undefined|NaN|null/);
      expect(inWords(w.action).length).toBeGreaterThan(5);
    }
    expect(all[0]?.level).toBe('stop');
  });
  it('name the plants where plants were counted, else the per cent of cover', () => {
    expect(
      inWords(
        fired({ legume: { ...legume, derived: 'poor', used: 'poor', plants: 12 } })[0]?.message ??
          '',
      ),
    ).toBe('Thin stand: 12 plants per m2 supports class poor, not good.');
    expect(
      inWords(
        fired({ legume: { ...legume, derived: 'poor', used: 'poor', coverPct: 25 } })[0]?.message ??
          '',
      ),
    ).toBe('Thin stand: 25 % legume supports class poor, not good.');
  });
});
