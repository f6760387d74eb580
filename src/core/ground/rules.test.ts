import { inWords, toldThroughout } from '../why/said';
import { describe, expect, it } from 'vitest';
import { judge } from '../rules/rule';
import { classify } from './classify';
import { phGate, planningPh } from './ph';
import { readingRules, sampleRules, type ReadingFacts, type SampleFacts } from './rules';

const at = (phWater: number, crop = 'sugar_beet', more: Parameters<typeof planningPh>[0] = {}) => {
  const planning = planningPh({ phWater, ...more });
  return { planning, gate: phGate({ ph: planning.ph, crop }) };
};
/** A fresh, moist sample of 20 cores from 6 ha at pH 6.8. */
const quiet: SampleFacts = {
  cropName: 'Sugar beet',
  ...at(6.9),
  acidLoving: false,
  alSensitivity: 'high',
  ageYears: 1,
  sampleDate: '2026-02-26',
  nCores: 20,
  areaHa: 6,
  depthCm: 20,
  grass: false,
  moisture: 'moist',
  tillage: 'ploughed',
  daysSinceSpread: null,
  kMg: 0.4,
  dairyGrass: false,
  aluminium: null,
};
const ids = (facts: Partial<SampleFacts>) =>
  judge(sampleRules, { ...quiet, ...facts }).map((w) => w.id);

describe('rules of a soil sample', () => {
  it('say nothing about a good sample', () => expect(ids({})).toEqual([]));
  it.each<[string, Partial<SampleFacts>, Partial<SampleFacts>]>([
    ['R01', at(4.4), at(4.5)],
    ['R01', at(4.4), { ...at(4.4), acidLoving: true }],
    ['R02', at(5.1), at(6.6)],
    ['R46', { ...at(6.6), aluminium: { satPct: 70, bearsPct: 30 } }, at(6.6)],
    ['R03', at(6.3), at(6.9)],
    ['R05', { moisture: 'dry' }, { moisture: null }],
    ['R06', { ageYears: 4.1 }, { ageYears: 4 }],
    ['R06', { ageYears: 10 }, { ageYears: 10.1 }],
    ['R07', { ageYears: 3.1 }, { ageYears: 3 }],
    ['R08', { ageYears: 10.1 }, { ageYears: null }],
    ['R21', at(8.6), at(8.5)],
    ['R29', { depthCm: 10 }, { depthCm: 10, grass: true }],
    ['R29', { depthCm: 23 }, { depthCm: 22.5 }],
    ['R29', { depthCm: 7, grass: true }, { depthCm: 7.5, grass: true }],
    ['R30', { nCores: 7 }, { nCores: 8 }],
    ['R31', { areaHa: 8.1 }, { areaHa: 8 }],
    ['R27', { tillage: 'no_till' }, { tillage: 'no_till', depthCm: 5 }],
    ['R35', { kMg: 1.01 }, { kMg: 1 }],
    ['R35', { kMg: 0.51, dairyGrass: true }, { kMg: 0.5, dairyGrass: true }],
    ['R43', { daysSinceSpread: 59 }, { daysSinceSpread: 60 }],
    ['R43', { daysSinceSpread: 89, grass: true }, { daysSinceSpread: 90, grass: true }],
  ])('%s fires at its bound and not before it', (id, fires, silent) => {
    expect(ids(fires)).toContain(id);
    expect(ids(silent)).not.toContain(id);
  });
  it('name the gap to the target of the crop', () =>
    expect(toldThroughout(judge(sampleRules, { ...quiet, ...at(5.1) })[0])).toMatchObject({
      level: 'stop',
      message: expect.stringMatching(/^pH 5\.1 is \d\.\d below the target of Sugar beet\.$/),
    }));
  it('say what few cores do to the error of P', () =>
    expect(inWords(judge(sampleRules, { ...quiet, nCores: 4 })[0]?.message ?? '')).toBe(
      '4 cores: error on P about +/- 39 %.',
    ));
});

describe('rules of a P reading', () => {
  const reading = (value: number, extractant = 'olsen', plannedKgHa = 0): ReadingFacts => ({
    nutrient: 'p',
    extractant,
    value,
    classified: classify({ nutrient: 'p', extractant, value, unit: 'mg_kg' }),
    plannedKgHa,
  });
  const fired = (f: ReadingFacts) => judge(readingRules, f).map((w) => w.id);
  it('ask to leave P out where the test is high, beyond a starter', () => {
    expect(fired(reading(28, 'olsen', 11))).toContain('R16');
    expect(fired(reading(28, 'olsen', 10))).not.toContain('R16');
    expect(fired(reading(8, 'olsen', 30))).not.toContain('R16');
  });
  it('protect the water by the screen of the extractant: caution, then stop', () => {
    const at30 = fired(reading(112));
    expect(at30).toContain('R17');
    expect(at30).not.toContain('R18');
    expect(fired(reading(8))).toEqual([]);
  });
  it('say nothing about other nutrients', () =>
    expect(fired({ ...reading(112), nutrient: 'k' })).toEqual([]));
});
