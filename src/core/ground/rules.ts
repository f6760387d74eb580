import { extractantName, pScreenOf } from '../book/soilTests';
import type { Rule } from '../rules/rule';
import type { Classified } from './classify';
import type { PhGate, PlanningPh } from './ph';

export interface SampleFacts {
  cropName: string;
  planning: PlanningPh | null;
  gate: PhGate | null;
  acidLoving: boolean;
  alSensitivity: string | null;
  ageYears: number | null;
  sampleDate: string | null;
  nCores: number | null;
  areaHa: number;
  depthCm: number | null;
  grass: boolean;
  moisture: 'dry' | 'moist' | 'wet' | null;
  tillage: 'ploughed' | 'mixed' | 'no_till' | 'grass' | null;
  /** Days between the last lime, manure or P-K fertiliser and the sample. */
  daysSinceSpread: number | null;
  /** K to Mg in cmol. */
  kMg: number | null;
  dairyGrass: boolean;
  /** Aluminium far above what the crop bears, with no lime planned; else null. */
  aluminium: { satPct: number; bearsPct: number } | null;
}
export interface ReadingFacts {
  nutrient: string;
  extractant: string;
  value: number;
  classified: Classified | null;
  /** P that the plan brings, kg/ha. */
  plannedKgHa: number;
}

const rule = <F>(r: Omit<Rule<F>, 'module'>): Rule<F> => ({ module: 'ground', ...r });

export const sampleRules: readonly Rule<SampleFacts>[] = [
  rule({
    id: 'R01',
    level: 'stop',
    when: 'pH to plan with below 4.5 and the crop is not acid-loving',
    message:
      'pH {ph}: too acid for this crop. Aluminium and manganese injure roots; fertiliser is largely wasted.',
    action: 'Lime first; hold P and K except starter; halve N; look for the cause.',
    test: (f) =>
      f.planning && f.planning.ph < 4.5 && !f.acidLoving ? { ph: f.planning.ph.toFixed(1) } : null,
  }),
  rule({
    id: 'R02',
    level: 'stop',
    when: 'pH below the limit and the gap too large for a sensitive crop',
    message: 'pH {ph} is {gap} below the target of {crop}.',
    action: 'Lime and wait, or sow a tolerant crop.',
    test: (f) =>
      f.planning &&
      f.gate?.level === 'stop' &&
      f.planning.ph >= 4.5 &&
      f.planning.ph < f.gate.actBelowPh
        ? { ph: f.planning.ph.toFixed(1), gap: f.gate.gap.toFixed(1), crop: f.cropName }
        : null,
  }),
  rule({
    id: 'R46',
    level: 'stop',
    when: 'aluminium above twice what the crop bears and no lime planned (chapter 7, W2.3 h)',
    message:
      'Aluminium holds {sat} % of the exchange; {crop} bears {bears} %: its roots will stay short.',
    action: 'Lime first, to pH 5.5-5.8 on weathered ground, or sow a crop that bears aluminium.',
    test: (f) =>
      f.aluminium
        ? {
            sat: f.aluminium.satPct.toFixed(0),
            crop: f.cropName,
            bears: f.aluminium.bearsPct.toFixed(0),
          }
        : null,
  }),
  rule({
    id: 'R03',
    level: 'caution',
    when: 'pH below the limit at which lime is advised',
    message: 'pH {ph} is below {act}. Lime pays before more P or K.',
    action: 'Work out the lime requirement, then compare products.',
    test: (f) =>
      f.planning && f.gate?.level === 'caution' && f.planning.ph < f.gate.actBelowPh
        ? { ph: f.planning.ph.toFixed(1), act: f.gate.actBelowPh.toFixed(1) }
        : null,
  }),
  rule({
    id: 'R05',
    level: 'caution',
    when: 'sample taken dry, or water and salt pH under 0.3 apart',
    message: 'Sampled dry or salty: water pH may read 0.1-0.6 low and K can shift either way.',
    action: 'Use salt pH; resample after 75-100 mm rain before build-up or lime.',
    test: (f) => (f.moisture === 'dry' || f.planning?.flag === 'salt_bias' ? {} : null),
  }),
  rule({
    id: 'R06',
    level: 'caution',
    when: 'sample older than 4 years',
    message: 'Sample is {age} years old.',
    action: 'Resample; at most maintenance rates meanwhile.',
    test: (f) =>
      f.ageYears !== null && f.ageYears > 4 && f.ageYears <= 10
        ? { age: f.ageYears.toFixed(1) }
        : null,
  }),
  rule({
    id: 'R07',
    level: 'info',
    when: 'sample 3 to 4 years old',
    message: 'Sample is {age} years old; due now.',
    action: 'Plan sampling this season.',
    test: (f) =>
      f.ageYears !== null && f.ageYears > 3 && f.ageYears <= 4
        ? { age: f.ageYears.toFixed(1) }
        : null,
  }),
  rule({
    id: 'R08',
    level: 'stop',
    when: 'sample older than 10 years',
    message: 'Sample from {sample_date} is {age} years old: too old to base a rate on.',
    action: 'Resample before any lime, P or K decision.',
    test: (f) =>
      f.ageYears !== null && f.ageYears > 10
        ? { age: f.ageYears.toFixed(1), sample_date: f.sampleDate ?? '' }
        : null,
  }),
  rule({
    id: 'R21',
    level: 'stop',
    when: 'pH to plan with above 8.5',
    message: 'pH above 8.5 suggests sodium.',
    action: 'EC, exchangeable sodium, carbonate tests.',
    test: (f) => (f.planning && f.planning.ph > 8.5 ? {} : null),
  }),
  rule({
    id: 'R29',
    level: 'caution',
    when: 'sample depth differs from the calibration depth by more than 2.5 cm',
    message: 'Sampled to {d} cm, calibration is {ref} cm.',
    action: 'Resample; do not shift the class by rule of thumb.',
    // Book limits hold for 15-20 cm, on grass for 10; outside that by more than 2.5 cm the class
    // is doubtful.
    test: (f) =>
      f.depthCm !== null && (f.depthCm < (f.grass ? 7.5 : 12.5) || f.depthCm > 22.5)
        ? { d: f.depthCm, ref: f.grass ? '10' : '15-20' }
        : null,
  }),
  rule({
    id: 'R30',
    level: 'caution',
    when: 'fewer than 8 cores in the sample',
    message: '{n} cores: error on P about +/- {e} %.',
    action: 'At least 12; 20 better.',
    // 1.645 x sqrt(0.45^2 / n + 0.08^2), chapter 3, 2.2 with the book variation of P.
    test: (f) =>
      f.nCores !== null && f.nCores < 8
        ? { n: f.nCores, e: 164.5 * Math.sqrt(0.45 ** 2 / f.nCores + 0.08 ** 2) }
        : null,
  }),
  rule({
    id: 'R31',
    level: 'caution',
    when: 'one sample covers more than 8 ha',
    message: '{area} ha in one sample hides variation.',
    action: 'Split.',
    test: (f) => (f.areaHa > 8 && f.planning ? { area: f.areaHa } : null),
  }),
  rule({
    id: 'R27',
    level: 'info',
    when: 'no-till and the top 5 cm not sampled apart',
    message: 'No-till field sampled only as one layer: an acid or rich top may be hidden.',
    action: 'Sample 0-5 and 5-15 cm apart.',
    test: (f) => (f.tillage === 'no_till' && f.planning && (f.depthCm ?? 20) > 5 ? {} : null),
  }),
  rule({
    id: 'R35',
    level: 'caution',
    when: 'K to Mg above 1.0 in cmol, on dairy grass above 0.5',
    message: 'Soil K:Mg is {ratio} in cmol, above {limit}: K hinders Mg uptake.',
    action: 'Leave out K this season; supply Mg if the Mg test is low or medium.',
    test: (f) =>
      f.kMg !== null && f.kMg > (f.dairyGrass ? 0.5 : 1)
        ? { ratio: f.kMg.toFixed(2), limit: f.dairyGrass ? '0.5' : '1.0' }
        : null,
  }),
  rule({
    id: 'R43',
    level: 'caution',
    when: 'lime, manure or fertiliser less than 60 days before sampling, 90 on grass',
    message:
      'Lime, manure or fertiliser was spread {days} days before sampling: results of pH, P and K are not settled.',
    action: 'Sample 60 days after (90 on grass).',
    test: (f) =>
      f.daysSinceSpread !== null && f.daysSinceSpread < (f.grass ? 90 : 60)
        ? { days: String(f.daysSinceSpread) }
        : null,
  }),
];

export const readingRules: readonly Rule<ReadingFacts>[] = [
  rule({
    id: 'R04',
    level: 'stop',
    when: 'extractant unknown',
    message: 'No class: extractant unknown. A P of 20 is low in one method and high in another.',
    action: 'Read the lab sheet or phone the lab; enter the method.',
    test: (f) => (f.extractant === 'unknown' ? {} : null),
  }),
  rule({
    id: 'R16',
    level: 'caution',
    when: 'P test high or very high and P is planned',
    message: 'P test {p} is {class}: no P recommended.',
    action: 'Keep 5-10 kg P starter only if the soil is cold.',
    test: (f) =>
      f.nutrient === 'p' &&
      f.classified &&
      ['high', 'very_high'].includes(f.classified.cls) &&
      f.plannedKgHa > 10
        ? { p: f.value, class: f.classified.cls.replace('_', ' ') }
        : null,
  }),
  rule({
    id: 'R17',
    level: 'stop',
    when: 'P test at or above the water-protection stop',
    message: 'P test {p} by {extractant} is above the water-protection limit {limit}.',
    action:
      'No P from any source, manure included; cut erosion and run-off; resample in 3-4 years.',
    test: (f) => {
      const screen = f.nutrient === 'p' ? pScreenOf(f.extractant) : undefined;
      return screen && f.value >= screen.stopAbove
        ? { p: f.value, extractant: extractantName(f.extractant), limit: screen.stopAbove }
        : null;
    },
  }),
  rule({
    id: 'R18',
    level: 'caution',
    when: 'P test at or above the water-protection caution',
    message:
      'P test {p} by {extractant} is above {limit}, far beyond crop need: P is at risk of being lost to water.',
    action: 'P at most off-take; take manure to fields with low P.',
    test: (f) => {
      const screen = f.nutrient === 'p' ? pScreenOf(f.extractant) : undefined;
      return screen && f.value >= screen.cautionAt && f.value < screen.stopAbove
        ? { p: f.value, extractant: extractantName(f.extractant), limit: screen.cautionAt }
        : null;
    },
  }),
];
