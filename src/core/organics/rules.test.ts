import { describe, expect, it } from 'vitest';
import { materialOf } from '../reference/organicMaterials';
import { judge } from '../rules/rule';
import { analysisOf } from './release';
import { applicationRules, historyRules, type ApplicationFacts } from './rules';

const sheep = materialOf('sheep_bedded');
const lab = { totalNKgT: 8, nh4NKgT: 1.6, no3NKgT: 0, pKgT: 1.5, kKgT: 9, sKgT: 1.3, dmPct: 30 };
/** 14 t/ha of a measured bedded manure on a field that can use it, ploughed in on time. */
const quiet: ApplicationFacts = {
  material: sheep, analysis: analysisOf(sheep, lab), labBroken: [], done: true, rateTHa: 14, rateM3Ha: null, maxPracticalM3Ha: null, tanKgHa: 22, lossFrac: 0.14, lossPlannedFrac: 0.14, lostKgHa: 3, lostMoney: 4, plannedHours: 4, coveredHours: 4, autumn: false,
  panKgHa: 39, needKgHa: 120, pSuppliedKgHa: 21, pOfftakeKgHa: 25, pTest: 13, pCautionAt: 30, pScreenAt: 60, daysToPlanting: 30, daysToHarvest: 220, eatenRaw: false, touchesSoil: false, intervalD: 120, certified: false, cropName: 'Sugar beet', tieUp: false,
};
const fired = (facts: Partial<ApplicationFacts>) => judge(applicationRules, { ...quiet, ...facts }, 'Sheep manure');
const ids = (facts: Partial<ApplicationFacts>) => fired(facts).map((w) => w.id);
const status = (organicStatus: string) => ({ ...sheep, organicStatus });

describe('rules of a manure application', () => {
  it('say nothing where nothing is wrong', () => expect(ids({})).toEqual([]));
  it.each<[string, Partial<ApplicationFacts>, Partial<ApplicationFacts>]>([
    ['M01', { analysis: analysisOf(sheep, null) }, { analysis: analysisOf(sheep, { ...lab, sKgT: null }) }],
    ['M03', { labBroken: ['M03'] }, {}],
    ['M05', { labBroken: ['M05'] }, { labBroken: ['M06'] }],
    ['N01', { coveredHours: 5 }, { coveredHours: 5, done: false }],
    ['N01', { coveredHours: null }, { coveredHours: null, plannedHours: null }],
    ['N02', { lossFrac: 0.41, tanKgHa: 31 }, { lossFrac: 0.41, tanKgHa: 30 }],
    ['N06', { tieUp: true, panKgHa: -12 }, {}],
    ['N07', { panKgHa: 133 }, { panKgHa: 132 }],
    ['R01', { pTest: 60, pSuppliedKgHa: 26 }, { pTest: 60 }],
    ['R02', { pTest: 30, pSuppliedKgHa: 26 }, { pTest: 60, pSuppliedKgHa: 26 }],
    ['R03', { pTest: null }, {}],
    ['R04', { pSuppliedKgHa: 35.1 }, { pSuppliedKgHa: 35 }],
    ['R07', { rateM3Ha: 41, maxPracticalM3Ha: 40 }, { rateM3Ha: 40, maxPracticalM3Ha: 40 }],
    ['R17', { rateM3Ha: 61, maxPracticalM3Ha: 40 }, { rateM3Ha: 60, maxPracticalM3Ha: 40 }],
    ['S16', { tanKgHa: 81, daysToPlanting: 13 }, { tanKgHa: 81, daysToPlanting: 14 }],
    ['S16', { tanKgHa: 81, daysToPlanting: 0 }, { tanKgHa: 81, daysToPlanting: -1 }],
    ['F01', { eatenRaw: true, daysToHarvest: 119 }, { eatenRaw: true, daysToHarvest: 120 }],
    ['F03', { eatenRaw: true, daysToHarvest: null }, { eatenRaw: false, daysToHarvest: null }],
    ['O01', { certified: true, material: status('not allowed') }, { material: status('not allowed') }],
    ['O02', { certified: true, material: status('check certifier') }, { material: status('check certifier') }],
    ['O03', { certified: true, material: status('restricted') }, { material: status('restricted') }],
    ['S10', { done: false, material: { ...sheep, physicalForm: 'slurry' } }, { done: true, material: { ...sheep, physicalForm: 'slurry' } }],
  ])('%s fires at its bound and not before it', (id, at, before) => {
    expect(ids(at)).toContain(id);
    expect(ids(before)).not.toContain(id);
  });
  it('name the material, the days and what is wanted', () => {
    expect(fired({ eatenRaw: true, daysToHarvest: 113, material: { ...sheep, name: 'Layer manure' }, cropName: 'Celery' })[0]).toMatchObject({ id: 'F01', level: 'stop', message: 'Layer manure 113 days before harvest of Celery: at least 120 days are wanted.', about: 'Sheep manure' });
  });
  it('leave no gap in a message', () => {
    for (const w of fired({ analysis: analysisOf(sheep, null), labBroken: ['M03', 'M04', 'M05', 'M06', 'M09'], coveredHours: 9, lossFrac: 0.6, tanKgHa: 90, pTest: 70, pSuppliedKgHa: 60, rateM3Ha: 80, maxPracticalM3Ha: 40, daysToPlanting: 2, eatenRaw: true, daysToHarvest: 10, certified: true, material: status('restricted') })) expect(`${w.message} ${w.action}`).not.toMatch(/[{}]|undefined|NaN/);
  });
});

describe('rules of the manure history', () => {
  const history = (h: 'unknown' | 'none' | 'yes', earlierCount: number) => judge(historyRules, { history: h, earlierCount, estimateKgHa: 10 }).map((w) => w.id);
  it('tell "not asked" from "spread but not entered" and from "none"', () => {
    expect(history('unknown', 0)).toEqual(['N05']);
    expect(history('yes', 0)).toEqual(['N04']);
    expect(history('none', 0)).toEqual([]);
    expect(history('yes', 2)).toEqual([]);
    expect(history('unknown', 1)).toEqual([]);
  });
});
