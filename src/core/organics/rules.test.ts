import { inWords, toldThroughout } from '../why/said';
import { PRINTED } from '../book/book';
import { describe, expect, it } from 'vitest';
import { materialOf } from '../book/organicMaterials';
import { judge } from '../rules/rule';
import { compostRules, treeRules, type CompostFacts, type TreeFacts } from './compostRules';
import { inCropRules, type InCropFacts } from './inCrop';
import { labRules, type LabFacts } from './labRules';
import { analysisOf } from './release';
import { applicationRules, historyRules, mixRules, type ApplicationFacts } from './rules';
import { siteRules } from './site';

const sheep = materialOf(PRINTED, 'sheep_bedded');
const lab = { totalNKgT: 8, nh4NKgT: 1.6, no3NKgT: 0, pKgT: 1.5, kKgT: 9, sKgT: 1.3, dmPct: 30 };
const is = (part: Partial<typeof sheep>) => ({ ...sheep, ...part });
/** A rule fires at its bound, and not before it. */
const bounds = <F>(
  ids: (facts: Partial<F>) => string[],
  rows: [string, Partial<F>, Partial<F>][],
) => {
  it('say nothing where nothing is wrong', () => expect(ids({})).toEqual([]));
  it.each(rows)('%s fires at its bound and not before it', (id, at, before) => {
    expect(ids(at)).toContain(id);
    expect(ids(before)).not.toContain(id);
  });
};

/** 14 t/ha of a measured bedded manure on a field that can use it, ploughed in on time. */
const quiet: ApplicationFacts = {
  material: sheep,
  done: true,
  liquid: false,
  rateTHa: 14,
  rateM3Ha: null,
  maxPracticalM3Ha: null,
  machine: null,
  nh4Share: 0.2,
  tanKgHa: 22,
  mineralKgHa: 15,
  lossFrac: 0.14,
  lossPlannedFrac: 0.14,
  lostKgHa: 3,
  lostMoney: 4,
  plannedHours: 4,
  coveredHours: 4,
  autumn: false,
  soilTempC: null,
  soilSaturated: false,
  sandy: false,
  uptakeWeeks: 14,
  panKgHa: 39,
  needKgHa: 120,
  pSuppliedKgHa: 21,
  pOfftakeKgHa: 25,
  pRise: null,
  pTest: 13,
  pCautionAt: 30,
  pScreenAt: 60,
  highClasses: [],
  grass: false,
  kBalanceKgHa: 0,
  school: null,
  manureNYearKgHa: 112,
  manureNLimitKgHa: 170,
  daysToPlanting: 30,
  smallSeeded: false,
  intervals: [],
  certified: false,
  certifierApproval: false,
  heatRecords: null,
  permit: false,
  cropName: 'Sugar beet',
  tieUp: false,
  closed: null,
  near: [],
  metals: [],
  ashWithAmmonium: false,
  touchesSeed: false,
  ponding: false,
  windToRawCrop: false,
  hoseOnRoad: false,
  dose: null,
  yieldBonusPct: 0,
};
const within = (
  days: number | null,
  change: Partial<ApplicationFacts['intervals'][number]> = {},
): ApplicationFacts['intervals'] => [
  {
    ruleKey: 'raw_soil_contact',
    ofRaw: true,
    needD: 120,
    days,
    to: 'harvest',
    level: 'stop',
    source: 'consensus',
    ...change,
  },
];
const slurry = {
  ruleKey: 'slurry_graze',
  ofRaw: false,
  needD: 28,
  to: 'the next cut or grazing',
  level: 'caution',
} as const;
const fired = (facts: Partial<ApplicationFacts>) =>
  judge(applicationRules, { ...quiet, ...facts }, 'Sheep manure');
const ids = (facts: Partial<ApplicationFacts>) => fired(facts).map((w) => w.id);
const dose = { costPerKgN: 1.8, nPrice: 1.2, netPerT: 0, km: 4, breakevenKm: 3 };
const copper = (kgHa: number) => [{ name: 'Copper', kgHa, warn: 6, limit: 12 }];

describe('rules of a manure application', () => {
  bounds<ApplicationFacts>(ids, [
    ['N01', { coveredHours: 5 }, { coveredHours: 5, done: false }],
    ['N01', { coveredHours: null }, { coveredHours: null, plannedHours: null }],
    ['N02', { lossFrac: 0.41, tanKgHa: 31 }, { lossFrac: 0.41, tanKgHa: 30 }],
    [
      'N03',
      { autumn: true, soilTempC: 10.1, nh4Share: 0.3 },
      { autumn: true, soilTempC: 10, nh4Share: 0.3 },
    ],
    [
      'N03',
      { autumn: true, soilTempC: 14, nh4Share: 0.3 },
      { autumn: true, soilTempC: 14, nh4Share: 0.29 },
    ],
    ['N06', { tieUp: true, panKgHa: -12 }, {}],
    ['N07', { panKgHa: 133 }, { panKgHa: 132 }],
    ['N09', { school: 'one share' }, {}],
    [
      'N11',
      { liquid: true, nh4Share: 0.5, soilSaturated: true, soilTempC: 10.1 },
      { liquid: true, nh4Share: 0.5, soilSaturated: true, soilTempC: 10 },
    ],
    [
      'N12',
      { sandy: true, nh4Share: 0.4, mineralKgHa: 21, uptakeWeeks: 8.1 },
      { sandy: true, nh4Share: 0.4, mineralKgHa: 21, uptakeWeeks: 8 },
    ],
    ['R01', { pTest: 60, pSuppliedKgHa: 26 }, { pTest: 60 }],
    ['R02', { pTest: 30, pSuppliedKgHa: 26 }, { pTest: 60, pSuppliedKgHa: 26 }],
    ['R03', { pTest: null }, {}],
    ['R04', { pSuppliedKgHa: 35.1 }, { pSuppliedKgHa: 35 }],
    ['R05', { machine: { min: 8, max: 40, rate: 7.9 } }, { machine: { min: 8, max: 40, rate: 8 } }],
    [
      'R06',
      { machine: { min: 8, max: 40, rate: 40.1 } },
      { machine: { min: 8, max: 40, rate: 40 } },
    ],
    ['R07', { rateM3Ha: 41, maxPracticalM3Ha: 40 }, { rateM3Ha: 40, maxPracticalM3Ha: 40 }],
    ['R17', { rateM3Ha: 61, maxPracticalM3Ha: 40 }, { rateM3Ha: 60, maxPracticalM3Ha: 40 }],
    ['R17', { rateM3Ha: 20, maxPracticalM3Ha: 40, ponding: true }, { ponding: true }],
    ['R08', { manureNYearKgHa: 171 }, { manureNYearKgHa: 171, manureNLimitKgHa: null }],
    ['R09', { grass: true, kBalanceKgHa: 151 }, { grass: true, kBalanceKgHa: 150 }],
    ['R12', { yieldBonusPct: 5.1 }, { yieldBonusPct: 5 }],
    ['R13', { dose: { ...dose, costPerKgN: 1.81 } }, { dose: { ...dose, costPerKgN: 1.79 } }],
    ['R14', { dose: { ...dose, netPerT: -0.1 } }, { dose }],
    ['R15', { highClasses: ['P'] }, { highClasses: ['P'], panKgHa: 0 }],
    [
      'S01',
      { material: materialOf(PRINTED, 'broiler_litter'), tanKgHa: 81, daysToPlanting: 6 },
      { material: materialOf(PRINTED, 'broiler_litter'), tanKgHa: 81, daysToPlanting: 7 },
    ],
    [
      'S01',
      { smallSeeded: true, tanKgHa: 81, daysToPlanting: 13 },
      { smallSeeded: true, tanKgHa: 81, daysToPlanting: 14 },
    ],
    ['S16', { tanKgHa: 81, daysToPlanting: 13 }, { tanKgHa: 81, daysToPlanting: 14 }],
    ['S16', { tanKgHa: 81, daysToPlanting: 0 }, { tanKgHa: 81, daysToPlanting: -1 }],
    ['S02', { touchesSeed: true }, { touchesSeed: true, tanKgHa: 20 }],
    [
      'S08',
      { closed: { from: '10-15', to: '01-31' }, nh4Share: 0.3 },
      { closed: { from: '10-15', to: '01-31' }, nh4Share: 0.29 },
    ],
    [
      'S09',
      { near: [{ feature: 'well', metres: 20, need: 50, level: 'stop' }] },
      { near: [{ feature: 'road', metres: 5, need: 10, level: 'caution' }] },
    ],
    ['S09b', { near: [{ feature: 'road', metres: 5, need: 10, level: 'caution' }] }, {}],
    [
      'S10',
      { done: false, liquid: true, material: is({ physicalForm: 'slurry' }) },
      { liquid: true, material: is({ physicalForm: 'slurry' }) },
    ],
    [
      'S11',
      { material: is({ class: 'biosolids' }) },
      { material: is({ class: 'biosolids' }), permit: true },
    ],
    ['S12', { metals: copper(6.1) }, { metals: copper(6) }],
    [
      'S13',
      { material: is({ class: 'biosolids' }), permit: true, metals: copper(12.1) },
      { metals: copper(12.1) },
    ],
    ['S14', { ashWithAmmonium: true }, {}],
    ['S15', { hoseOnRoad: true }, {}],
    ['F01', { intervals: within(119) }, { intervals: within(120) }],
    ['F04', { intervals: within(27, slurry) }, { intervals: within(28, slurry) }],
    [
      'F02',
      { windToRawCrop: true },
      { windToRawCrop: true, material: is({ pathogenClass: 'plant_only' }) },
    ],
    ['F03', { intervals: within(null) }, { intervals: within(120) }],
    [
      'O01',
      { certified: true, material: is({ organicStatus: 'not allowed' }) },
      { material: is({ organicStatus: 'not allowed' }) },
    ],
    [
      'O02',
      { certified: true, material: is({ organicStatus: 'check certifier' }) },
      {
        certified: true,
        certifierApproval: true,
        material: is({ organicStatus: 'check certifier' }),
      },
    ],
    [
      'O03',
      { certified: true, material: is({ organicStatus: 'restricted' }) },
      { material: is({ organicStatus: 'restricted' }) },
    ],
    ['O04', { certified: true, intervals: within(119) }, { intervals: within(119) }],
    [
      'O05',
      { certified: true, material: is({ pathogenClass: 'treated_compost' }) },
      { certified: true, heatRecords: true, material: is({ pathogenClass: 'treated_compost' }) },
    ],
  ]);
  it('name the material, the days and what is wanted', () => {
    expect(
      toldThroughout(
        fired({
          intervals: within(113),
          material: { ...sheep, name: 'Layer manure' },
          cropName: 'Celery',
        })[0],
      ),
    ).toMatchObject({
      id: 'F01',
      level: 'stop',
      message: 'Layer manure 113 days before harvest of Celery: at least 120 days are wanted.',
      about: 'Sheep manure',
    });
  });
  it('say by how much P climbs, and "at least" for the years', () => {
    expect(
      inWords(
        fired({ pSuppliedKgHa: 45, pRise: { mgKgYr: 2.2, yearsToScreen: 7.9 } })[0]?.message ?? '',
      ),
    ).toBe(
      'P builds up: +20 kg P/ha a year, about +2.2 mg/kg in the soil test; at least 7 years to the screen.',
    );
  });
  it('leave no gap in a message', () => {
    for (const w of fired({
      coveredHours: 9,
      lossFrac: 0.6,
      tanKgHa: 90,
      pTest: 70,
      pSuppliedKgHa: 60,
      rateM3Ha: 80,
      maxPracticalM3Ha: 40,
      daysToPlanting: 2,
      intervals: within(10),
      certified: true,
      metals: copper(20),
      dose: { ...dose, costPerKgN: 4, netPerT: -2 },
      machine: { min: 20, max: 30, rate: 14 },
      yieldBonusPct: 9,
    }))
      expect(inWords(w.message) + inWords(w.action), w.id).not.toMatch(/[{}]|undefined|NaN/);
  });
});

describe('rules of an analysis', () => {
  const good: LabFacts = {
    material: sheep,
    analysis: analysisOf(sheep, lab),
    labBroken: [],
    date: '2027-01-10',
    ageDays: 60,
    rationChanged: false,
    slip: null,
    dryPossible: false,
    oxide: null,
    driedSample: false,
    disagreesPct: null,
    nh4Share: 0.2,
    bookNh4Share: 0.25,
  };
  bounds<LabFacts>(
    (f) => judge(labRules, { ...good, ...f }).map((w) => w.id),
    [
      [
        'M01',
        { analysis: analysisOf(sheep, null) },
        { analysis: analysisOf(sheep, { ...lab, sKgT: null }) },
      ],
      ['M02', { ageDays: 366 }, { ageDays: 365 }],
      ['M02', { rationChanged: true }, { rationChanged: true, date: null }],
      ['M03', { labBroken: ['M03'] }, {}],
      ['M05', { labBroken: ['M05'] }, { labBroken: ['M06'] }],
      ['M07', { slip: { candidate: 'lb per 1000 US gallons', ratio: 8.4 } }, {}],
      ['M07b', { dryPossible: true }, {}],
      ['M08', { oxide: 'P2O5_perhaps' }, {}],
      [
        'M11',
        { driedSample: true, material: is({ physicalForm: 'slurry' }) },
        { driedSample: true },
      ],
      ['M12', { disagreesPct: 30.1 }, { disagreesPct: 30 }],
      ['M13', { nh4Share: 0.6 }, { nh4Share: 0.49 }],
      ['M13', { nh4Share: 0.05, bookNh4Share: 0.3 }, { nh4Share: 0.05, bookNh4Share: 0.2 }],
    ],
  );
});

describe('rules of the day and the ground', () => {
  bounds<Parameters<(typeof siteRules)[number]['test']>[0]>(
    (f) =>
      judge(siteRules, {
        rain48hMm: 0,
        ground: 'ok',
        slopePct: 2,
        surfaceLiquid: false,
        drainsOpen: false,
        ...f,
      }).map((w) => w.id),
    [
      ['S03', { rain48hMm: 25 }, { rain48hMm: 24.9 }],
      ['S04', { rain48hMm: 12 }, { rain48hMm: 11.9 }],
      ['S04', { rain48hMm: 24.9 }, { rain48hMm: 25 }],
      ['S05', { ground: 'snow' }, {}],
      ['S06', { slopePct: 15.1, surfaceLiquid: true }, { slopePct: 15.1 }],
      ['S07', { slopePct: 6.1 }, { slopePct: 6 }],
      ['S17', { drainsOpen: true }, {}],
      ['S18', { ground: null }, {}],
    ],
  );
});

describe('rules of compost, mulch and trees', () => {
  const compost: CompostFacts = {
    cToN: 14,
    mixed: true,
    preAmendKgHa: 0,
    nh4MgKgDm: 300,
    no3ToNh4: 2,
    heapHot: false,
    beyond: [],
    sour: false,
    compost: true,
    bioassayScore: 0,
    herbicideOpen: false,
    pKgHa: 30,
    pYears: 1.4,
    salt: null,
    layerCm: null,
    maxLayerCm: 5,
    touchesStem: false,
    clearCm: 60,
  };
  bounds<CompostFacts>(
    (f) => judge(compostRules, { ...compost, ...f }).map((w) => w.id),
    [
      ['K01', { cToN: 28.1 }, { cToN: 28.1, mixed: false }],
      ['K02', { nh4MgKgDm: 1001 }, { nh4MgKgDm: 1000 }],
      ['K02', { no3ToNh4: 0.14 }, { no3ToNh4: 0.15 }],
      ['K02b', { beyond: ['ph 9.2 (good: 6.5 to 8)'] }, { beyond: ['ph 9.2'], compost: false }],
      ['K02c', { sour: true }, {}],
      ['K03', { bioassayScore: 1 }, { bioassayScore: 2 }],
      ['K04', { bioassayScore: 2 }, { bioassayScore: 1 }],
      ['K05', { herbicideOpen: true, bioassayScore: null }, { herbicideOpen: true }],
      ['K06', { pYears: 4.1 }, { pYears: 4 }],
      [
        'K07',
        { salt: { ec: 2.1, limit: 2, sharePct: 14 } },
        { salt: { ec: 2, limit: 2, sharePct: 14 } },
      ],
      ['K08', { layerCm: 5.1 }, { layerCm: 5 }],
      ['K08', { layerCm: 2, touchesStem: true }, {}],
    ],
  );
  const tree: TreeFacts = {
    woody: true,
    givesN: true,
    afterLateSummer: false,
    dormant: false,
    ring: true,
    rain48hMm: 4,
    trunkClearM: 0.6,
    needClearM: 0.6,
    ericaceous: false,
    animalOrLimy: true,
    enoughN: false,
  };
  bounds<TreeFacts>(
    (f) => judge(treeRules, { ...tree, ...f }).map((w) => w.id),
    [
      ['T01', { afterLateSummer: true }, { afterLateSummer: true, dormant: true }],
      ['T02', { rain48hMm: 12.1 }, { rain48hMm: 12 }],
      ['T03', { trunkClearM: 0.5 }, {}],
      ['T04', { ericaceous: true }, { ericaceous: true, animalOrLimy: false }],
      ['T05', { enoughN: true }, { enoughN: true, givesN: false }],
    ],
  );
});

describe('rules of a standing crop', () => {
  const inCrop: InCropFacts = {
    crop: 'maize',
    technique: 'drag hose',
    past: null,
    outside: null,
    stage: '3 collars',
    unsuited: false,
    dm: 4,
    share: 0.6,
    rawCrop: false,
    wheelPan: false,
    money: { loss: 20, worth: 20 },
    scorch: false,
  };
  bounds<InCropFacts>(
    (f) => judge(inCropRules, { ...inCrop, ...f }).map((w) => w.id),
    [
      ['I01', { outside: '10-14' }, { outside: '10-14', past: 'growing point' }],
      ['I02', { past: 'growing point above ground' }, {}],
      ['I03', { unsuited: true }, {}],
      ['I04', { rawCrop: true }, {}],
      ['I05', { wheelPan: true }, {}],
      ['I06', { money: { loss: 21, worth: 20 } }, {}],
      ['I07', { scorch: true }, {}],
    ],
  );
});

describe('rules of the whole sheet and of the history', () => {
  const mix = (over: number, short: string[]) =>
    judge(mixRules, { over: { name: 'P', kg: over, pct: over }, short }).map((w) => w.id);
  it('tell over- from under-supply', () => {
    expect(mix(25.1, [])).toEqual(['R10']);
    expect(mix(25, ['N 40'])).toEqual(['R11']);
  });
  const history = (h: 'unknown' | 'none' | 'yes', earlierCount: number) =>
    judge(historyRules, { history: h, earlierCount, estimateKgHa: 10 }).map((w) => w.id);
  it('tell "not asked" from "spread but not entered" and from "none"', () => {
    expect(history('unknown', 0)).toEqual(['N05']);
    expect(history('yes', 0)).toEqual(['N04']);
    expect(history('none', 0)).toEqual([]);
    expect(history('yes', 2)).toEqual([]);
    expect(history('unknown', 1)).toEqual([]);
  });
});
