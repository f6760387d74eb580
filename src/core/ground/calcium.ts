import { refuse } from '../quantity/refusal';
import { RANGES, within } from '../quantity/range';
import { step, type Step } from '../why/step';
import { MG_PER_CMOL } from './cations';
import { soilMass } from './soilMass';

/** Targets of the base-saturation school, % of CEC (chapter 3, 9). */
const BASE_SATURATION_TARGETS = { ca: 68, mg: 12, k: 3 } as const;
/** Calcium in gypsum, and in lime where none is chosen, fraction. */
const CA_IN_GYPSUM = 0.22;
const CA_IN_LIME_PCT = 36;

export interface CalciumInput {
  ca: number;
  mg: number;
  k: number;
  /** A measured CEC, not a sum on limy soil. */
  cec: number;
  ph?: number | null;
  target?: number | null;
  sand?: boolean | null;
  caPctOfLime?: number | null;
  bd?: number | null;
  depth?: number | null;
}
export interface CalciumSchools {
  caSat: number;
  mgSat: number;
  kSat: number;
  suffShortKgHa: number;
  bcsrShortKgHa: number;
  bcsrMgShortKgHa: number;
  bcsrKShortKgHa: number;
  limeTHa: number;
  gypsumTHa: number;
  why: Step;
}

/**
 * Calcium by two systems (chapter 3, 9): sufficiency (enough is enough) and base saturation (a
 * wanted share of the CEC). Field tests find
 * that crops yield alike over wide ratios while no cation is short and pH is right, so
 * sufficiency is the default.
 *
 * @throws Refusal on limy soil, where a CEC by sum and the calcium test are inflated (R33)
 * @example calciumCompare({ ca: 1400, mg: 180, k: 150, cec: 13.65 }) // { caSat: 51.2,
 * bcsrShortKgHa: 1196 }
 */
export function calciumCompare(i: CalciumInput): CalciumSchools {
  for (const x of ['ca', 'mg', 'k'] as const) within(x, i[x], RANGES.testMgKg);
  within('cec', i.cec, RANGES.cecCmolKg);
  if (i.ph != null && i.ph > 7.3)
    refuse(
      'inconsistent',
      'ph',
      `pH = ${i.ph}: on limy soil the calcium test holds dissolved carbonate, so its saturation cannot be computed. Ask for a CEC measured for limy soil.`,
      { value: i.ph, allowed: 'up to 7.3', rule: 'R33' },
    );
  const target = within('target', i.target ?? BASE_SATURATION_TARGETS.ca, {
    min: 40,
    max: 85,
    unit: '%',
    label: 'Calcium wanted',
  });
  const mass = soilMass({ bulkDensityGCm3: i.bd, depthCm: i.depth });
  const sat = (x: 'ca' | 'mg' | 'k') => (100 * (i[x] / MG_PER_CMOL[x])) / i.cec;
  const [caSat, mgSat, kSat] = [sat('ca'), sat('mg'), sat('k')];
  const kgOf = (x: 'ca' | 'mg' | 'k', share: number) =>
    Math.max(0, ((share - sat(x)) / 100) * i.cec) * MG_PER_CMOL[x] * (mass.kgHa / 1e6);
  const least = i.sand ? 200 : 400;
  const suffShortKgHa = Math.max(0, ((least - i.ca) * mass.kgHa) / 1e6, kgOf('ca', 25));
  const bcsrShortKgHa = kgOf('ca', target);
  return {
    caSat,
    mgSat,
    kSat,
    suffShortKgHa,
    bcsrShortKgHa,
    bcsrMgShortKgHa: kgOf('mg', BASE_SATURATION_TARGETS.mg),
    bcsrKShortKgHa: kgOf('k', BASE_SATURATION_TARGETS.k),
    limeTHa:
      bcsrShortKgHa /
      (within('ca_pct_of_lime', i.caPctOfLime ?? CA_IN_LIME_PCT, {
        min: 0,
        max: 72,
        unit: '%',
        label: 'Calcium in the lime',
        above: true,
      }) /
        100) /
      1000,
    gypsumTHa: bcsrShortKgHa / CA_IN_GYPSUM / 1000,
    why: step('calcium.short', 'Calcium short', suffShortKgHa, 'kg Ca/ha', {
      formula: `sufficiency: below ${least} mg/kg or 25 % of CEC; base saturation asks for ${target} % and finds ${bcsrShortKgHa.toFixed(0)} kg/ha short`,
      source:
        'Kopittke & Menzies 2007 Soil Sci Soc Am J 71:259-265; McLean et al. 1983 Agron J 75:635-639',
      confidence: 'medium',
      school: 'sufficiency',
      inputs: [
        step('calcium.saturation', 'Calcium saturation', caSat, '% of CEC', {
          formula: 'Ca / 200.39 / CEC',
        }),
        mass.why,
      ],
    }),
  };
}
