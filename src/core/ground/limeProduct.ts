import { refuse } from '../quantity/refusal';
import { RANGES, within } from '../quantity/range';
import { groundParameter } from '../book/sampling';
import { entered, step, type Step } from '../why/step';

/** Shares of a lime that pass 2.36, 0.85 and 0.25 mm (8, 20 and 60 mesh), %. */
export interface Sieve {
  p8: number;
  p20: number;
  p60: number;
}
/**
 * Efficiency of the four sieve fractions from coarse to fine over some 20 months (chapter 3, 7.1).
 */
const FINENESS_WEIGHTS = [0, 0.2, 0.6, 1] as const;
/**
 * Rate of reaction a month of the four fractions in moist soil: chosen for the chapter, low
 * confidence, editable (7.2).
 */
const REACTION_PER_MONTH = [0.004, 0.0107, 0.045, 0.31] as const;

function fractions(s: Sieve): [number, number, number, number] {
  for (const k of ['p8', 'p20', 'p60'] as const)
    within(k, s[k], {
      ...RANGES.pctOf,
      label: `Share through the ${{ p8: '2.36', p20: '0.85', p60: '0.25' }[k]} mm sieve`,
    });
  if (s.p20 > s.p8 || s.p60 > s.p20)
    refuse(
      'inconsistent',
      s.p20 > s.p8 ? 'p20' : 'p60',
      `sieve shares must fall with smaller sieve: ${s.p8}, ${s.p20}, ${s.p60} % pass 2.36, 0.85 and 0.25 mm.`,
      { value: s.p20 > s.p8 ? s.p20 : s.p60, allowed: 'p8 >= p20 >= p60' },
    );
  return [100 - s.p8, s.p8 - s.p20, s.p20 - s.p60, s.p60];
}

export interface NeutralisingInput extends Sieve {
  cce: number;
  dm?: number | null;
  weights?: readonly number[] | null;
}
/**
 * Effective neutralising value of a lime, % (chapter 3, 7.1): what a tonne of it is worth as fine
 * pure carbonate over some 20 months.
 *
 * @param i.cce neutralising value, % CaCO3, dry; i.dm dry matter, % (a fluid lime: its solids)
 * @throws Refusal where a finer sieve passes more than a coarser one, or the value cannot be
 * @example effectiveNeutralisingValue({ cce: 94, p8: 95, p20: 70, p60: 45, dm: 97 }) // {
 * fineness: 65, ecceAsReceived: 59.3 }
 */
export function effectiveNeutralisingValue(i: NeutralisingInput): {
  fineness: number;
  ecceDry: number;
  ecceAsReceived: number;
  why: Step;
} {
  within('cce', i.cce, { ...RANGES.ccePct, above: true });
  const dm = within(
    'dm',
    i.dm ?? groundParameter('dry_matter_pct').default,
    RANGES.limeDryMatterPct,
  );
  const weights = i.weights ?? FINENESS_WEIGHTS;
  if (weights.length !== 4 || weights.some((w) => w < 0 || w > 1))
    refuse('inconsistent', 'weights', 'weights: give four shares from 0 to 1, coarse to fine.', {
      value: weights,
      allowed: 'four numbers from 0 to 1',
    });
  const f = fractions(i);
  const fineness = f.reduce((sum, x, k) => sum + x * (weights[k] ?? 0), 0);
  const ecceDry = (i.cce * fineness) / 100;
  const ecceAsReceived = (ecceDry * dm) / 100;
  return {
    fineness,
    ecceDry,
    ecceAsReceived,
    why: step('lime.ecce', 'Effective neutralising value, as received', ecceAsReceived, '%', {
      formula: 'CCE x fineness x dry matter',
      source: 'sieve method, consensus (chapter 3, 7.1)',
      confidence: 'medium',
      inputs: [
        entered('lime.cce', 'Neutralising value', i.cce, '% CaCO3'),
        step('lime.fineness', 'Fineness', fineness, '%', {
          formula:
            '0 x coarser than 2.36 mm + 0.2 x 0.85-2.36 + 0.6 x 0.25-0.85 + 1 x finer than 0.25',
          inputs: [
            entered('lime.p8', 'through 2.36 mm', i.p8, '%'),
            entered('lime.p20', 'through 0.85 mm', i.p20, '%'),
            entered('lime.p60', 'through 0.25 mm', i.p60, '%'),
          ],
        }),
        entered('lime.dm', 'Dry matter', dm, '%'),
      ],
    }),
  };
}

/**
 * Share of a lime that has reacted after some effective months in moist soil (chapter 3, 7.2).
 *
 * @param i.km speed of the material beside calcitic stone (dolomitic 0.6, hydrated 4)
 * @example limeReacted({ p8: 95, p20: 70, p60: 45, km: 1, t: 6 }).value // 0.456
 */
export function limeReacted(i: Sieve & { km: number; t: number }): { value: number } {
  within('km', i.km, { min: 0, max: 20, unit: '', label: 'Reaction speed', above: true });
  within('t', i.t, { min: 0, max: 600, unit: 'months', label: 'Effective months' });
  return {
    value: fractions(i).reduce(
      (sum, f, k) =>
        sum + (f / 100) * (1 - Math.exp(-(REACTION_PER_MONTH[k] as number) * i.km * i.t)),
      0,
    ),
  };
}

export interface PredictInput {
  ph: number;
  target: number;
  lr: number;
  rate: number;
  dm: number;
  cce: number;
  frac: number;
}
/**
 * pH after a lime has partly reacted (chapter 3, 7.2 step 3); an estimate of +/- 0.3.
 *
 * @param i.lr requirement, t ECC/ha to the target; i.rate product, t/ha as received; i.frac share
 * reacted
 * @throws Refusal where nothing is required: there is nothing to predict from
 * @example predictPh({ ph: 5.6, target: 6.5, lr: 6.01, rate: 9.5, dm: 97, cce: 94, frac: 0.456
 * }).ph // 6.19
 */
export function predictPh(i: PredictInput): {
  cceReacted: number;
  ratio: number;
  ph: number;
  beyondModel: boolean;
} {
  within('ph', i.ph, RANGES.phWater);
  within('target', i.target, { ...RANGES.phWater, label: 'Target pH' });
  within('lr', i.lr, { min: 0, max: 60, unit: 't ECC/ha', label: 'Lime requirement', above: true });
  within('rate', i.rate, { min: 0, max: 100, unit: 't/ha', label: 'Product rate' });
  within('dm', i.dm, RANGES.limeDryMatterPct);
  within('cce', i.cce, RANGES.ccePct);
  within('frac', i.frac, RANGES.share);
  const cceReacted = i.rate * (i.dm / 100) * (i.cce / 100) * i.frac;
  const ratio = cceReacted / i.lr;
  return { cceReacted, ratio, ph: i.ph + (i.target - i.ph) * ratio, beyondModel: ratio > 1.2 };
}

export type PassSoil = 'sand' | 'surface' | 'hydrated' | 'other';
/**
 * One pass at most, t ECC/ha (chapter 3, 7.4): more mixes badly, on sand it brings Mn and Zn
 * shortage.
 */
export function maxPassTHa(kind: PassSoil, own?: number | null): number {
  if (own != null)
    return within('one_pass_max', own, {
      min: 0.5,
      max: 12,
      unit: 't ECC/ha',
      label: 'Largest pass',
    });
  return kind === 'hydrated'
    ? 1
    : kind === 'sand'
      ? 2
      : kind === 'surface'
        ? 2.5
        : groundParameter('lime_one_pass_max_t_ha').default;
}

/**
 * Passes that a rate is split into.
 *
 * @example limePasses({ rate: 10 }).value // 3 passes of up to 4 t ECC/ha
 */
export function limePasses(i: {
  rate: number;
  kind?: PassSoil | null;
  onePassMax?: number | null;
}): { value: number; maxPassTHa: number } {
  within('rate', i.rate, { min: 0, max: 60, unit: 't ECC/ha', label: 'Lime rate' });
  const most = maxPassTHa(i.kind ?? 'other', i.onePassMax);
  return { value: Math.ceil(i.rate / most - 1e-9), maxPassTHa: most };
}

const MONEY = (label: string) => ({ min: 0, max: 1000, unit: 'per t', label });
export interface LimeCostInput {
  price: number;
  haul: number;
  spread: number;
  ecAr: number;
  dm: number;
  cce: number;
  frac: number;
  productTHa?: number | null;
}
/**
 * What a tonne of effective carbonate costs spread, over the life of the lime and by the planting
 * date (chapter 3, 7.6).
 *
 * @param i.ecAr effective neutralising value as received, %
 * @example limeCost({ price: 18, haul: 9, spread: 8, ecAr: 59.3, dm: 97, cce: 94, frac: 0.456 })
 * // { perTProduct: 35, perTEcc: 59.0, perTReacted: 84.2 }
 */
export function limeCost(i: LimeCostInput): {
  perTProduct: number;
  perTEcc: number;
  perTReacted: number | null;
  perHa: number | null;
} {
  const perTProduct =
    within('price', i.price, MONEY('Price')) +
    within('haul', i.haul, MONEY('Haulage')) +
    within('spread', i.spread, MONEY('Spreading'));
  within('ec_ar', i.ecAr, { ...RANGES.ccePct, label: 'Effective neutralising value', above: true });
  within('dm', i.dm, RANGES.limeDryMatterPct);
  within('cce', i.cce, { ...RANGES.ccePct, above: true });
  within('frac', i.frac, RANGES.share);
  const reacted = (i.dm / 100) * (i.cce / 100) * i.frac;
  return {
    perTProduct,
    perTEcc: perTProduct / (i.ecAr / 100),
    perTReacted: reacted > 0 ? perTProduct / reacted : null,
    perHa: i.productTHa == null ? null : i.productTHa * perTProduct,
  };
}

/**
 * What is odd about a neutralising value, or null (chapter 3, parameters): above 180 % only
 * magnesium oxide reaches, below 20 % it is hardly a lime.
 */
export const cceDoubt = (ccePct: number, cceAbove180: boolean): string | null =>
  ccePct > 180 && !cceAbove180
    ? `CCE = ${ccePct} %: only magnesium oxide neutralises more than 180 %. Check the report.`
    : ccePct < 20
      ? `CCE = ${ccePct} %: below 20 % this is hardly a lime. Check the report.`
      : null;
