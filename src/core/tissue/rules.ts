import type { Rule } from '../rules/rule';
import type { LeafClass } from './classify';
import type { Flag, UnitCheck } from './reading';

export interface LeafSampleFacts {
  how: 'inside' | 'interpolated' | 'near_edge';
  window: string;
  nOrgans: number | null;
  minCount: number;
  areaHa: number;
  perennial: boolean;
  flags: Flag[];
  daysSinceSpray: number | null;
  short: string[];
  missing: string[];
  Al: number | null;
  Fe: number | null;
}
export interface LeafReadingFacts {
  nutrient: string;
  cls: LeafClass;
  p: number;
  unit: UnitCheck;
  typed: string;
  decimal: number | null;
  weakStandard: boolean;
  legume: boolean;
}

const rule = <F>(r: Omit<Rule<F>, 'module'>): Rule<F> => ({ module: 'tissue', ...r });
const flagged = (f: LeafSampleFacts, kind: string, level?: string) =>
  f.flags.find((x) => x[0] === kind && (!level || x[1] === level));

export const leafSampleRules: readonly Rule<LeafSampleFacts>[] = [
  rule({
    id: 'R02',
    level: 'caution',
    when: 'stage within two codes of the window',
    message: 'Two codes off the window {window}: read low N, P, K with care.',
    action: 'Add the exact stage or resample.',
    test: (f) => (f.how === 'near_edge' ? { window: f.window } : null),
  }),
  rule({
    id: 'R03',
    level: 'caution',
    when: 'too few organs in the sample',
    message: 'Only {n} organs; at least {min} are needed.',
    action: 'Take a new sample, or treat as a hint.',
    test: (f) =>
      f.nOrgans !== null && f.nOrgans < f.minCount ? { n: f.nOrgans, min: f.minCount } : null,
  }),
  rule({
    id: 'R04',
    level: 'caution',
    when: 'sample stands for more than 8 ha (annual) or 4 ha (perennial)',
    message: 'One sample for {area} ha hides differences.',
    action: 'Split by soil and cultivar.',
    test: (f) => (f.areaHa > (f.perennial ? 4 : 8) ? { area: f.areaHa } : null),
  }),
  rule({
    id: 'R05',
    level: 'stop',
    when: 'soil on the leaves',
    message: 'Soil on the leaves (Al {al}, Fe {fe} mg/kg): Fe, Al, Mn cannot be read.',
    action: 'Wash and resample; N, P, K, S, Ca, Mg stay valid.',
    test: (f) =>
      flagged(f, 'soil_dust', 'stop')
        ? { al: f.Al ?? 'not measured', fe: f.Fe ?? 'not measured' }
        : null,
  }),
  rule({
    id: 'R06',
    level: 'caution',
    when: 'dust likely',
    message: 'Dust is likely.',
    action: 'Read Fe with care; ask for Ti or Al.',
    test: (f) => (flagged(f, 'soil_dust', 'caution') ? {} : null),
  }),
  rule({
    id: 'R07',
    level: 'caution',
    when: 'element sprayed within 14 days',
    message: '{el} was sprayed {d} days ago: residue hides the plant.',
    action: 'Use new growth.',
    test: (f) => {
      const x = flagged(f, 'spray_residue_declared');
      return x
        ? {
            el: f.flags
              .filter((y) => y[0] === x[0])
              .map((y) => y[2])
              .join(', '),
            d: f.daysSinceSpray ?? 'under 14',
          }
        : null;
    },
  }),
  rule({
    id: 'R08',
    level: 'caution',
    when: 'Mn, Zn or Cu far above normal',
    message: '{el} far above normal: spray or fungicide residue?',
    action: 'Check the spray diary.',
    test: (f) => {
      const x = flagged(f, 'spray_residue_suspected');
      return x ? { el: x[2] } : null;
    },
  }),
  rule({
    id: 'R09',
    level: 'caution',
    when: 'washed with tap water',
    message: 'Tap water adds Ca, Mg, Na, Cl.',
    action: 'Use distilled water.',
    test: (f) => (flagged(f, 'tap_water') ? {} : null),
  }),
  rule({
    id: 'R14',
    level: 'info',
    when: 'N, P or K not measured',
    message: 'Not measured: {list}.',
    action: 'Order the full set next time; never assume sufficient.',
    test: (f) => (f.missing.length > 0 ? { list: f.missing.join(', ') } : null),
  }),
  rule({
    id: 'R21',
    level: 'info',
    when: 'two or more nutrients short',
    message: 'Most limiting: {list}.',
    action: 'Treat the first; co-limiting within 0.3 of the score together.',
    test: (f) => (f.short.length >= 2 && f.short.length < 8 ? { list: f.short.join(', ') } : null),
  }),
  rule({
    id: 'R22',
    level: 'caution',
    when: 'eight or more nutrients short',
    message: 'Nearly everything is low: roots or dilution, not a list of fertilisers.',
    action: 'Dig.',
    test: (f) => (f.short.length >= 8 ? {} : null),
  }),
];

export const leafReadingRules: readonly Rule<LeafReadingFacts>[] = [
  rule({
    id: 'R10',
    level: 'stop',
    when: 'value impossible',
    message: '{typed} {nutrient} is impossible. Did you mean {suggest}?',
    action: 'Confirm or correct.',
    test: (f) =>
      f.unit.result === 'stop'
        ? { typed: f.typed, nutrient: f.nutrient, suggest: f.unit.suggest ?? 'another unit' }
        : null,
  }),
  rule({
    id: 'R11',
    level: 'caution',
    when: 'value unusual, another unit fits',
    message: '{typed} {nutrient} is unusual; as {suggest} it fits.',
    action: 'Confirm.',
    test: (f) =>
      f.unit.result === 'caution'
        ? { typed: f.typed, nutrient: f.nutrient, suggest: f.unit.suggest ?? '' }
        : null,
  }),
  rule({
    id: 'R12',
    level: 'caution',
    when: 'decimal point slipped',
    message: 'Decimal point? {nutrient} {typed} would fit as {suggest}.',
    action: 'Confirm.',
    test: (f) =>
      f.decimal !== null && f.unit.result === 'ok'
        ? {
            nutrient: f.nutrient,
            typed: f.typed,
            suggest: String(Number(f.decimal.toPrecision(3))),
          }
        : null,
  }),
  rule({
    id: 'R15',
    level: 'info',
    when: 'nodulated legume and N low',
    message: 'N in a nodulated legume is a nodule question.',
    action: 'Cut 20 nodules; check Mo, S, pH.',
    test: (f) =>
      f.legume && f.nutrient === 'N' && (f.cls === 'low' || f.cls === 'deficient') ? {} : null,
  }),
  rule({
    id: 'R17',
    level: 'caution',
    when: 'deficient with a chance of 75 % or more',
    message: '{nutrient} is deficient ({p} % sure that it lies below the range).',
    action: 'Check roots, water and pH first, then correct what still pays this season.',
    test: (f) =>
      f.cls === 'deficient' && f.p >= 0.75
        ? { nutrient: f.nutrient, p: Math.round(f.p * 100) }
        : null,
  }),
  rule({
    id: 'R18',
    level: 'info',
    when: 'low',
    message: '{nutrient} may limit ({p} % sure that it lies below the range).',
    action: 'Take a good/bad pair, soil-test, watch.',
    test: (f) => (f.cls === 'low' ? { nutrient: f.nutrient, p: Math.round(f.p * 100) } : null),
  }),
  rule({
    id: 'R19',
    level: 'caution',
    when: 'above the level where injury has been seen',
    message: '{nutrient} is above the level where injury has been seen.',
    action: 'Look at the plant; soil pH, salt, residue.',
    test: (f) => (f.cls === 'toxic_risk' ? { nutrient: f.nutrient } : null),
  }),
  rule({
    id: 'R45',
    level: 'info',
    when: 'standard of low confidence and the value is outside the range',
    message: 'Weak standard for {nutrient}.',
    action: 'Use a pair and your own trend.',
    test: (f) =>
      f.weakStandard && f.cls !== 'sufficient' && f.cls !== 'ample'
        ? { nutrient: f.nutrient }
        : null,
  }),
];
