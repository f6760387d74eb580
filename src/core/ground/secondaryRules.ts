import type { Rule } from '../rules/rule';

export interface SecondaryFacts {
  cropName: string;
  /** Boron of the plan, kg B/ha, and the most that the crop bears from all routes in a year. */
  boronKgHa: number;
  boronLimitKgHa: number;
  boronInSeedRow: boolean;
  boronDefault: string;
  boronLastYearKgHa: number | null;
  boronSensitive: boolean;
  clay: boolean;
  /** Months between elemental sulphur and the season's need; null where none is planned. */
  elementalSMonths: number | null;
  autumnSulphate: boolean;
  winterRainMm: number;
  sand: boolean;
}
const rule = (r: Omit<Rule<SecondaryFacts>, 'module'>): Rule<SecondaryFacts> => ({
  module: 'ground',
  ...r,
});

/** Herbage and layers: read where the figures are, not with the plan. */
export const herbageRules: readonly Rule<{ ratio: number }>[] = [
  {
    module: 'ground',
    id: 'R34',
    level: 'caution',
    when: 'tetany ratio of herbage above 2.2',
    message:
      'Herbage K/(Ca+Mg) is {ratio} (meq), above 2.2: risk of grass tetany in cattle and sheep.',
    action: 'Magnesium supplement, no K or slurry on spring grass; call a vet for sick animals.',
    test: (f) => (f.ratio > 2.2 ? { ratio: f.ratio.toFixed(1) } : null),
  },
];
export const layerRules: readonly Rule<{ nutrient: string; ratio: number }>[] = [
  {
    module: 'ground',
    id: 'R28',
    level: 'caution',
    when: 'top 5 cm more than three times the layer below',
    message:
      'Top 5 cm holds {ratio} times the {nutrient} of 5-15 cm: roots cannot use it in a dry spell.',
    action: 'Deep band, or mix once.',
    test: (f) => (f.ratio > 3 ? { ratio: f.ratio.toFixed(1), nutrient: f.nutrient } : null),
  },
];

export const secondaryRules: readonly Rule<SecondaryFacts>[] = [
  rule({
    id: 'R23',
    level: 'caution',
    when: 'elemental sulphur less than 6 months before the need',
    message: 'Elemental sulphur spread {months} months before need will be mostly unoxidised.',
    action: 'Use a sulphate form for this crop; elemental S for the next.',
    test: (f) =>
      f.elementalSMonths !== null && f.elementalSMonths < 6
        ? { months: f.elementalSMonths.toFixed(1) }
        : null,
  }),
  rule({
    id: 'R24',
    level: 'caution',
    when: 'sulphate in autumn on sand with more than 300 mm of winter rain',
    message: 'Sulphate put on in autumn leaches like nitrate: {mm} mm winter rain on sand.',
    action: 'Move it to spring.',
    test: (f) =>
      f.autumnSulphate && f.sand && f.winterRainMm > 300 ? { mm: f.winterRainMm } : null,
  }),
  rule({
    id: 'R25',
    level: 'stop',
    when: 'boron above what the crop bears, or in the seed row',
    message: 'Boron {rate} kg/ha can injure {crop}.',
    action: 'Broadcast {default}; check spread pattern.',
    test: (f) =>
      f.boronKgHa > 0 && (f.boronKgHa > f.boronLimitKgHa || f.boronInSeedRow)
        ? { rate: f.boronKgHa.toFixed(1), crop: f.cropName, default: f.boronDefault }
        : null,
  }),
  rule({
    id: 'R26',
    level: 'caution',
    when: 'boron above 1.5 kg/ha in the last 12 months on clay before a sensitive crop',
    message:
      'Boron {rate} kg/ha was used in the last 12 months; {crop} is sensitive to boron carry-over.',
    action: 'Test hot-water B (keep below 1 mg/kg for sensitive crops) or choose another crop.',
    test: (f) =>
      f.boronSensitive && f.clay && (f.boronLastYearKgHa ?? 0) > 1.5
        ? { rate: (f.boronLastYearKgHa ?? 0).toFixed(1), crop: f.cropName }
        : null,
  }),
];
