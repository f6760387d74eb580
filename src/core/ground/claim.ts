import { convertForm } from '../quantity/forms';
import { refuse } from '../quantity/refusal';
import { RANGES, within } from '../quantity/range';
import { claimCompoundOf } from '../book/limes';
import type { Level, Warning } from '../rules/rule';
import { entered, fromTable, step, type Step } from '../why/step';

/**
 * kg CaCO3 that 1 kg Ca or Mg stands for if all of it were oxide, hydroxide or carbonate (100.09 /
 * 40.08 and / 24.305).
 */
const CACO3_PER_CA = 2.4973;
const CACO3_PER_MG = 4.1179;
/** Nothing neutralises more than pure magnesium oxide, kg CaCO3 per kg. */
const STRONGEST = 2.5;
/** Under this share of the need the change cannot be seen by any sampling. */
const UNSEEN_SHARE = 0.05;
const DENSITY = { min: 0.3, max: 3, unit: 'kg/L', label: 'Density' };

export interface ClaimInput {
  compound: string;
  /** Share of the compound in the product, %. */
  pct: number;
  rate: number;
  unit: 'kg' | 'l';
  density?: number | null;
  /** Calcium and magnesium of the product where the compound is not known, %. */
  caPct?: number | null;
  mgPct?: number | null;
  /** Lime requirement of the field, t ECC/ha, and the pH gap that it closes. */
  lr: number;
  gap: number;
  /** What the seller says that one kilogram replaces, kg CaCO3. */
  claimedKgPerKg?: number | null;
  allowOxidation?: boolean | null;
}
export type ClaimVerdict =
  | 'impossible'
  | 'nothing_needed'
  | 'ruled_out'
  | 'unseen'
  | 'ask_compound'
  | 'too_little'
  | 'part'
  | 'consistent';
export interface ClaimResult {
  rateKg: number;
  baseKg: number;
  caKg: number;
  mgKg: number;
  kKg: number;
  upperKg: number;
  needKg: number;
  share?: number;
  dph?: number;
  verdict: ClaimVerdict;
  level: Level;
  /** The chemistry in one or two plain sentences. */
  message: string;
  warnings: Warning[];
  why: Step;
}

/** Product in kg/ha; litres need a density, which is never assumed. */
function kilograms(rate: number, unit: 'kg' | 'l', density: number | null | undefined): number {
  within('rate', rate, {
    min: 0,
    max: 20_000,
    unit: unit === 'l' ? 'L/ha' : 'kg/ha',
    label: 'Rate',
  });
  if (unit === 'kg') return rate;
  if (density == null)
    refuse(
      'missing',
      'density',
      'density is required for a rate in litres: give kg/L from the label, it is never assumed.',
      { allowed: '0.3 to 3 kg/L' },
    );
  return rate * within('density', density, DENSITY);
}
const ANION_WORDS =
  'Acid is hydrogen; only an anion that takes up hydrogen (carbonate, bicarbonate, oxide, hydroxide, silicate) removes it. Calcium itself neutralises nothing.';

interface Weighed {
  rateKg: number;
  baseKg: number;
  caKg: number;
  upperKg: number;
  needKg: number;
  share: number | null;
  dph: number | null;
  name: string;
  explanation: string;
  chemistry: string;
}
function judgeClaim(
  i: ClaimInput,
  w: Weighed,
): { verdict: ClaimVerdict; level: Level; message: string } {
  const pct = (x: number) => (100 * x).toFixed(x < 0.1 ? 1 : 0);
  if (i.claimedKgPerKg != null && i.claimedKgPerKg > STRONGEST)
    return {
      verdict: 'impossible',
      level: 'stop',
      message: `One kilogram is said to replace ${i.claimedKgPerKg} kg of carbonate: impossible. The strongest lime material, magnesium oxide, neutralises 2.48 kg per kg.`,
    };
  if (w.needKg === 0 || w.share === null || w.dph === null)
    return {
      verdict: 'nothing_needed',
      level: 'info',
      message: 'The pH of this field needs nothing: no lime, and no substitute for it.',
    };
  if (w.chemistry === 'acidifies' || w.chemistry === 'does_not_neutralise')
    return {
      verdict: 'ruled_out',
      level: 'stop',
      message: `${w.name}: chemistry rules it out; ${w.explanation}. ${ANION_WORDS}`,
    };
  if (w.chemistry === 'unknown')
    return w.share < UNSEEN_SHARE
      ? {
          verdict: 'unseen',
          level: 'stop',
          message: `Even if all its calcium were lime it would be ${pct(w.share)} % of the need: no sampling could see it.`,
        }
      : {
          verdict: 'ask_compound',
          level: 'caution',
          message: `Its calcium could be at most ${pct(w.share)} % of the need, if all of it were lime. Ask for the name of the compound.`,
        };
  if (w.share < UNSEEN_SHARE)
    return {
      verdict: 'too_little',
      level: 'caution',
      message: `True lime, but ${pct(w.share)} % of the need: expected change ${w.dph.toFixed(3)} pH units, less than the error of sampling (0.1).`,
    };
  if (w.share < 0.5)
    return {
      verdict: 'part',
      level: 'caution',
      message: `True lime, ${pct(w.share)} % of the need: expected change ${w.dph.toFixed(1)} pH units.`,
    };
  return {
    verdict: 'consistent',
    level: 'info',
    message: `Consistent with chemistry: ${pct(w.share)} % of the need. Compare the cost per tonne of effective carbonate.`,
  };
}

/**
 * What a product sold for pH can do, from its label, by chemistry (chapter 3, 8.1).
 *
 * @throws Refusal for litres without a density, an unknown compound, or shares outside 0 to 100 %
 * @example claimCheck({ compound: 'calcium_chloride', pct: 35, rate: 20, unit: 'l', density:
 * 1.35, lr: 5, gap: 0.8 }).verdict // 'ruled_out'
 */
export function claimCheck(i: ClaimInput): ClaimResult {
  const c = claimCompoundOf(i.compound);
  within('pct', i.pct, { ...RANGES.pctOf, label: 'Compound in the product' });
  within('lr', i.lr, { min: 0, max: 60, unit: 't ECC/ha', label: 'Lime requirement' });
  within('gap', i.gap, { min: -4, max: 5, unit: 'pH', label: 'pH gap' });
  if (i.claimedKgPerKg != null)
    within('claimed_kg_per_kg', i.claimedKgPerKg, {
      min: 0,
      max: 1e6,
      unit: 'kg/kg',
      label: 'Claimed equivalence',
    });
  const rateKg = kilograms(i.rate, i.unit, i.density);
  const unknown = c.verdict === 'unknown';
  // The label of an unknown anion gives the calcium of the product; a compound's own share of
  // calcium is in the table.
  const element = (
    ofProduct: number | null | undefined,
    ofCompound: number | null,
    label: string,
    field: string,
  ) =>
    unknown
      ? (rateKg * within(field, ofProduct ?? 0, { ...RANGES.pctOf, label })) / 100
      : (rateKg * (i.pct / 100) * (ofCompound ?? 0)) / 100;
  const caKg = element(i.caPct, c.caPct, 'Calcium in the product', 'ca_pct');
  const mgKg = element(i.mgPct, c.mgPct, 'Magnesium in the product', 'mg_pct');
  if (unknown && caKg + mgKg === 0)
    refuse(
      'missing',
      'ca_pct',
      'Calcium or magnesium of the product (ca_pct, mg_pct): the label of a product with an unknown compound must give at least one.',
      { allowed: '0 to 100 %' },
    );
  const counts =
    c.verdict === 'neutralises' ||
    c.verdict === 'acidifies' ||
    (c.verdict === 'conditional' && i.allowOxidation === true);
  const baseKg = counts ? rateKg * (i.pct / 100) * ((c.ccePct ?? 0) / 100) : 0;
  const upperKg = caKg * CACO3_PER_CA + mgKg * CACO3_PER_MG;
  const needKg = i.lr * 1000;
  const taken = unknown ? upperKg : Math.max(0, baseKg);
  const share = needKg > 0 ? taken / needKg : null;
  const dph = share === null ? null : i.gap * share;
  const { verdict, level, message } = judgeClaim(i, {
    rateKg,
    baseKg,
    caKg,
    upperKg,
    needKg,
    share,
    dph,
    name: c.name,
    explanation: c.explanation,
    chemistry: c.verdict,
  });
  const of = (id: string, text: string, action: string): Warning[] => [
    { module: 'ground', id, level, message: text, action },
  ];
  const warnings =
    verdict === 'ruled_out'
      ? of(
          'R14',
          `${c.name} is not a lime: its anion takes up no acid. ${caKg.toFixed(1)} kg Ca/ha is supplied, 0 kg of acid removed.`,
          'Choose carbonate, oxide, hydroxide or silicate.',
        )
      : verdict === 'impossible'
        ? of(
            'R15',
            'Impossible: the strongest lime material (magnesium oxide) neutralises 2.48 kg per kg.',
            'Reject the claim.',
          )
        : verdict === 'too_little'
          ? of(
              'R13',
              `${c.name} supplies ${(100 * (share ?? 0)).toFixed(1)} % of the lime needed; expected change ${(dph ?? 0).toFixed(3)} pH, below sampling error.`,
              'Price per t effective carbonate; strip trial.',
            )
          : [];
  return {
    rateKg,
    baseKg,
    caKg,
    mgKg,
    kKg: unknown ? 0 : (rateKg * (i.pct / 100) * (c.kPct ?? 0)) / 100,
    upperKg,
    needKg,
    ...(verdict === 'impossible' || share === null || dph === null ? {} : { share, dph }),
    verdict,
    level,
    message,
    warnings,
    why: step('claim.base', 'Acid neutralised, as CaCO3', baseKg, 'kg/ha', {
      formula: 'product x share of the compound x its neutralising value',
      note: message,
      confidence: c.confidence,
      source: c.source,
      inputs: [
        step('claim.rate', 'Product', rateKg, 'kg/ha', {
          formula: i.unit === 'l' ? 'litres x density' : undefined,
          inputs: [
            entered('claim.rate.entered', 'Rate', i.rate, i.unit === 'l' ? 'L/ha' : 'kg/ha'),
            ...(i.unit === 'l'
              ? [entered('claim.density', 'Density', i.density ?? null, 'kg/L')]
              : []),
          ],
        }),
        entered('claim.pct', `${c.name} in it`, i.pct, '%'),
        fromTable('claim.cce', `Neutralising value of ${c.name}`, c.ccePct, '% CaCO3', c),
        step('claim.upper', 'At most, if all its Ca and Mg were lime', upperKg, 'kg CaCO3/ha', {
          formula: 'Ca x 2.4973 + Mg x 4.1179',
        }),
        step('claim.need', 'Needed', needKg, 'kg CaCO3/ha'),
      ],
    }),
  };
}

export interface LoadInput {
  rate: number;
  unit: 'kg' | 'l';
  analysisPct: number;
  density?: number | null;
  /** What the crop needs, or the low effective rate, kg/ha. */
  reference: number;
  /** Named form of the analysis: p2o5, k2o, so3, mgo, cao; an element where it is left out. */
  oxide?: string | null;
  pricePerUnit?: number | null;
}
/**
 * Nutrient that a product brings against what is needed (chapter 3, 8.2).
 *
 * @example loadCheck({ rate: 10, unit: 'l', analysisPct: 20, density: 1.3, reference: 20, oxide:
 * 'p2o5' }) // { nutrientKgHa: 1.135, share: 0.0567 }
 */
export function loadCheck(i: LoadInput): {
  nutrientKgHa: number;
  share: number;
  rateKg: number;
  pricePerKg: number | null;
  warnings: Warning[];
} {
  within('analysis_pct', i.analysisPct, { ...RANGES.pctOf, label: 'Analysis' });
  within('reference', i.reference, {
    min: 0,
    max: 1000,
    unit: 'kg/ha',
    label: 'Need',
    above: true,
  });
  const rateKg = kilograms(i.rate, i.unit, i.density);
  const carried = (rateKg * i.analysisPct) / 100;
  const nutrientKgHa = i.oxide ? convertForm({ from: i.oxide, value: carried }).value : carried;
  const share = nutrientKgHa / i.reference;
  if (i.pricePerUnit != null)
    within('price_per_unit', i.pricePerUnit, {
      min: 0,
      max: 10_000,
      unit: 'per kg or L',
      label: 'Price',
    });
  return {
    nutrientKgHa,
    share,
    rateKg,
    pricePerKg:
      i.pricePerUnit == null || nutrientKgHa === 0
        ? null
        : (i.pricePerUnit * i.rate) / nutrientKgHa,
    warnings:
      share < UNSEEN_SHARE
        ? [
            {
              module: 'ground',
              id: 'R44',
              level: 'caution',
              message: `At this rate the product supplies ${(100 * share).toFixed(1)} % of the need.`,
              action: 'Compare the money per kg of nutrient.',
            },
          ]
        : [],
  };
}
