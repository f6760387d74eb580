import type { Rule } from '../rules/rule';

/** A build-up of P or K that the plan asks for, kg/ha above off-take. */
export interface BuildFacts {
  nutrient: 'P' | 'K';
  kgHa: number;
  yearlyLease: boolean;
  fixes: boolean;
  buildKgHaPerMgKg: number;
}
const rule = (r: Omit<Rule<BuildFacts>, 'module'>): Rule<BuildFacts> => ({
  module: 'ground',
  ...r,
});
/** Whether building a soil up pays who pays for it (chapter 3, section 10). */
export const buildRules: readonly Rule<BuildFacts>[] = [
  rule({
    id: 'R38',
    level: 'caution',
    when: 'build-up on a yearly lease',
    message: 'Build-up of {kg} kg/ha on a yearly lease: most of the value stays with the owner.',
    action: 'Sufficiency rate in a band, or agree on sharing the cost.',
    test: (f) => (f.yearlyLease && f.kgHa > 0.5 ? { kg: f.kgHa } : null),
  }),
  rule({
    id: 'R39',
    level: 'caution',
    when: 'build-up on a soil that fixes the nutrient',
    message:
      'Soil fixes {nutrient}: about {build} kg/ha are needed per mg/kg, so build-up is lost money.',
    action: 'Band the crop need every year.',
    test: (f) =>
      f.fixes && f.kgHa > 0.5 ? { nutrient: f.nutrient, build: f.buildKgHaPerMgKg } : null,
  }),
];
