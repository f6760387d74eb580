import { Refusal, refuse } from '../quantity/refusal';
import { RANGES, within } from '../quantity/range';
import { bufferingClass, limeBufferingOf } from '../book/limes';
import { entered, fromTable, step, type Step } from '../why/step';
import { REFERENCE_DEPTH_CM, soilMass } from './soilMass';

/** A lime requirement: t/ha of effective calcium carbonate (ECC) for 20 cm, to the target pH. */
export interface LimeNeed {
  value: number;
  /** Said beside the figure: caps, assumptions. */
  notes: string[];
  why: Step;
}
/**
 * t CaCO3/ha that one cmol/kg of acid in a layer takes: 0.0005 x soil mass in t/ha (50 g CaCO3 per
 * mol of charge).
 */
const T_PER_CMOL = 0.0005;
/** Mixing in the field is never perfect (chapter 3, 6.2a and 6.3). */
const FIELD_FACTOR = 1.2;
const PH = RANGES.phWater;
const TARGET = { ...RANGES.phWater, label: 'Target pH' };

const need = (
  id: string,
  label: string,
  value: number,
  formula: string,
  source: string,
  confidence: 'low' | 'medium' | 'high',
  inputs: Step[],
  notes: string[] = [],
): LimeNeed => ({
  value,
  notes,
  why: step(`lime.need.${id}`, label, value, 't ECC/ha', {
    formula,
    source,
    confidence,
    inputs,
    note: notes.join('; ') || undefined,
  }),
});
const phInputs = (id: string, ph: number, target: number): Step[] => [
  entered(`lime.need.${id}.ph`, 'pH to plan with', ph, ''),
  entered(`lime.need.${id}.target`, 'Target pH', target, ''),
];
const atTarget = (id: string, label: string, ph: number, target: number): LimeNeed | null =>
  target - ph <= 1e-9
    ? need(
        id,
        label,
        0,
        'pH is at the target or above it: the buffer tells how much acid is stored, not whether the crop minds',
        'chapter 3, 6.5',
        'high',
        phInputs(id, ph, target),
      )
    : null;

export interface BufferInput {
  ph: number;
  target: number;
  bph: number;
  bd?: number | null;
}

/**
 * Hydrogen saturation at a pH by Adams & Evans: the lower root of pH = 7.79 - 5.55 h + 2.27 h^2; 1
 * at pH 4.51 and below.
 */
const hydrogenSaturation = (ph: number): number =>
  ph <= 4.51 ? 1 : (5.55 - Math.sqrt(5.55 ** 2 - 4 * 2.27 * (7.79 - ph))) / 4.54;

/**
 * Lime by the Adams-Evans buffer (starts at 8.00): sandy soil of low CEC (chapter 3, 6.2a).
 *
 * @throws Refusal for a buffer pH outside 7.0 to 8.1 or a target above 6.8
 * @example limeByAdamsEvans({ ph: 5.2, target: 6.3, bph: 7.6 }).value // 2.55 t/ha
 */
export function limeByAdamsEvans(i: BufferInput): LimeNeed {
  within('ph', i.ph, PH);
  within('target', i.target, { ...TARGET, max: 6.8 });
  within('buffer_ph_ae', i.bph, { min: 7, max: 8.1, unit: '', label: 'Adams-Evans buffer pH' });
  const id = 'adams_evans';
  const label = 'Lime by Adams-Evans buffer';
  const none = atTarget(id, label, i.ph, i.target);
  if (none) return none;
  const mass = soilMass({ bulkDensityGCm3: i.bd });
  const acid = Math.max(0, 8 * (8 - i.bph));
  const [hNow, hThen] = [hydrogenSaturation(i.ph), hydrogenSaturation(i.target)];
  const change = (acid * (hNow - hThen)) / hNow;
  return need(
    id,
    label,
    change * T_PER_CMOL * (mass.kgHa / 1000) * FIELD_FACTOR,
    'acid x (h now - h at target) / h now x 0.0005 x soil mass in t x 1.2',
    'Adams & Evans 1962 Soil Sci Soc Am Proc 26:355-357',
    'medium',
    [
      ...phInputs(id, i.ph, i.target),
      entered(`lime.need.${id}.buffer`, 'Buffer pH', i.bph, ''),
      step(`lime.need.${id}.acid`, 'Exchangeable acid', acid, 'cmol/kg', {
        formula: '8 x (8.00 - buffer pH)',
      }),
      step(`lime.need.${id}.h`, 'Hydrogen saturation now', hNow, ''),
      step(`lime.need.${id}.h2`, 'at the target', hThen, ''),
      mass.why,
    ],
  );
}

/**
 * t/ha of ordinary lime for each unit of buffer pH below 6.93, by target pH (remembered line: low
 * confidence, chapter 3, 6.2b).
 */
const SMP_SLOPES: readonly (readonly [number, number])[] = [
  [6, 15.9],
  [6.5, 19.7],
  [6.8, 23.1],
  [7, 25.4],
];
function smpSlope(target: number): number {
  if (target <= 6) return Math.max(0, (15.9 * (target - 5.2)) / 0.8);
  const k = SMP_SLOPES.findIndex(([t]) => target <= t + 1e-9);
  const [[t0, s0], [t1, s1]] = [SMP_SLOPES[k - 1], SMP_SLOPES[k]] as [
    [number, number],
    [number, number],
  ];
  return s0 + ((s1 - s0) * (target - t0)) / (t1 - t0);
}

/**
 * Lime by the SMP buffer or the Sikora buffer that mimics it (chapter 3, 6.2b). The laboratory's
 * printed table wins over this line.
 *
 * @throws Refusal for a buffer pH below 4.8 or above 7.1, or a target above 7.0
 * @example limeBySmp({ ph: 5.6, target: 6.5, bph: 6.5 }).value // 6.01 t/ha
 */
export function limeBySmp(i: BufferInput): LimeNeed {
  within('ph', i.ph, PH);
  within('target', i.target, { ...TARGET, max: 7 });
  within('buffer_ph_smp', i.bph, { min: 4.8, max: 7.1, unit: '', label: 'SMP buffer pH' });
  const id = 'smp';
  const label = 'Lime by SMP buffer';
  const none = atTarget(id, label, i.ph, i.target);
  if (none) return none;
  const weak = i.bph > 6.9;
  const ordinary = weak ? 0 : Math.max(0, smpSlope(i.target) * (6.93 - i.bph));
  return need(
    id,
    label,
    0.71 * ordinary,
    '0.71 x slope for the target x (6.93 - buffer pH)',
    'after Shoemaker, McLean & Pratt 1961 Soil Sci Soc Am Proc 25:274-277; line fitted from memory, compare with the laboratory’s table',
    'low',
    [
      ...phInputs(id, i.ph, i.target),
      entered(`lime.need.${id}.buffer`, 'Buffer pH', i.bph, ''),
      step(`lime.need.${id}.slope`, 'Slope for the target', smpSlope(i.target), 't/ha per unit'),
      step(`lime.need.${id}.ordinary`, 'Ordinary lime', ordinary, 't/ha'),
    ],
    weak ? ['soil weakly buffered: use carbon and clay'] : [],
  );
}

/**
 * Lime by the Mehlich buffer (starts at 6.60; chapter 3, 6.2c).
 *
 * @throws Refusal from pH 6.4 up, for a target above 6.5 or a buffer pH outside 4.0 to 6.7
 * @example limeByMehlich({ ph: 5.3, target: 6, bph: 6.2 }).value // 1.74 t/ha
 */
export function limeByMehlich(i: BufferInput): LimeNeed {
  within('target', i.target, { ...TARGET, max: 6.5 });
  within('buffer_ph_mehlich', i.bph, { min: 4, max: 6.7, unit: '', label: 'Mehlich buffer pH' });
  within('ph', i.ph, PH);
  const id = 'mehlich';
  const label = 'Lime by Mehlich buffer';
  const none = atTarget(id, label, i.ph, i.target);
  if (none) return none;
  within('ph', i.ph, { ...PH, max: 6.4 });
  if (i.ph >= 6.4)
    refuse('out_of_range', 'ph', `pH (ph) = ${i.ph}: the Mehlich line holds below 6.4.`, {
      value: i.ph,
      allowed: 'below 6.4',
    });
  const acid = Math.max(0, (6.6 - i.bph) / 0.25);
  const ordinary = (2.2417 * acid * (i.target - i.ph)) / (6.6 - i.ph);
  return need(
    id,
    label,
    0.9 * ordinary,
    '0.90 x 2.2417 x acid x (target - pH) / (6.6 - pH)',
    'Mehlich 1976 Commun Soil Sci Plant Anal 7:637-652',
    'medium',
    [
      ...phInputs(id, i.ph, i.target),
      entered(`lime.need.${id}.buffer`, 'Buffer pH', i.bph, ''),
      step(`lime.need.${id}.acid`, 'Acid', acid, 'cmol/L', {
        formula: '(6.60 - buffer pH) / 0.25',
      }),
    ],
  );
}

/**
 * Lime from the buffering of organic carbon and clay (chapter 3, 6.3).
 *
 * @throws Refusal on peat
 * @example limeByCarbonAndClay({ ph: 5.6, target: 6.5, oc: 1.6, clay: 22 }).value // 4.97 t/ha
 */
export function limeByCarbonAndClay(i: {
  ph: number;
  target: number;
  oc: number;
  clay: number;
  bd?: number | null;
}): LimeNeed {
  within('ph', i.ph, PH);
  within('target', i.target, TARGET);
  within('oc', i.oc, { min: 0, max: 58, unit: '%', label: 'Organic carbon' });
  within('clay', i.clay, RANGES.clayPct);
  if (i.oc * 1.724 > 25)
    refuse(
      'inconsistent',
      'oc',
      `Organic carbon (oc) = ${i.oc} % is peat: this relation does not hold there; use the texture table.`,
      { value: i.oc, allowed: 'up to 14.5 %' },
    );
  const id = 'carbon_clay';
  const label = 'Lime by carbon and clay';
  const none = atTarget(id, label, i.ph, i.target);
  if (none) return none;
  const raw = 0.955 * i.oc + 0.011 * i.clay;
  const bc = Math.max(0.4, Math.min(8, raw));
  const mass = soilMass({ bulkDensityGCm3: i.bd });
  return need(
    id,
    label,
    (bc * mass.kgHa * (i.target - i.ph) * FIELD_FACTOR) / 1e6,
    'buffering x soil mass x (target - pH) x 1.2',
    'after Aitken, Moody & McKinley 1990 Aust J Soil Res 28:695-701',
    'medium',
    [
      ...phInputs(id, i.ph, i.target),
      entered(`lime.need.${id}.oc`, 'Organic carbon', i.oc, '%'),
      entered(`lime.need.${id}.clay`, 'Clay', i.clay, '%'),
      step(`lime.need.${id}.bc`, 'Buffering', bc, 'g CaCO3/kg per pH', {
        formula: '0.955 x carbon + 0.011 x clay',
      }),
      mass.why,
    ],
    bc === raw
      ? []
      : [`buffering of ${raw.toFixed(2)} is outside the relation’s 0.4 to 8: ${bc} used`],
  );
}

/**
 * Lime from texture and organic matter, with the span of the table (chapter 3, 6.3 step 3). Field
 * values: no further factor.
 *
 * @example limeByTexture({ ph: 5.6, target: 6.5, tex: 'silt_loam', om: 'medium_om_2_4' }).value
 * // 4.77 t/ha
 */
export function limeByTexture(i: {
  ph: number;
  target: number;
  tex: string;
  om: string;
}): LimeNeed & { lo: number; hi: number } {
  within('ph', i.ph, PH);
  within('target', i.target, TARGET);
  const row = limeBufferingOf(i.tex, i.om);
  const gap = Math.max(0, i.target - i.ph);
  const id = 'texture';
  return {
    ...need(
      id,
      'Lime by texture',
      row.bcTCaco3HaPerPh20cm * gap,
      'buffering of the texture x gap',
      row.source,
      'low',
      [
        ...phInputs(id, i.ph, i.target),
        fromTable(
          `lime.need.${id}.bc`,
          `Buffering of ${i.tex.replaceAll('_', ' ')} (${row.bcMin} to ${row.bcMax})`,
          row.bcTCaco3HaPerPh20cm,
          't/ha per pH',
          row,
        ),
      ],
      row.note ? [row.note] : [],
    ),
    lo: row.bcMin * gap,
    hi: row.bcMax * gap,
  };
}

/**
 * The lime factor of cool humid regions: ground limestone, and what it is worth as effective
 * carbonate (chapter 3, 6.3; low confidence).
 *
 * @example limeByFactor({ ph: 5.6, target: 6.5, factor: 7 }) // { groundLimestoneTHa: 7.7, lrEcc:
 * 5.0 }
 */
export function limeByFactor(i: { ph: number; target: number; factor: number }): {
  groundLimestoneTHa: number;
  lrEcc: number;
} {
  within('ph', i.ph, PH);
  within('target', i.target, TARGET);
  within('factor', i.factor, { min: 1, max: 20, unit: '', label: 'Lime factor' });
  const groundLimestoneTHa = i.target <= i.ph ? 0 : i.factor * (i.target + 0.2 - i.ph);
  return { groundLimestoneTHa, lrEcc: 0.65 * groundLimestoneTHa };
}

export interface AluminiumInput {
  al: number;
  ca: number;
  mg: number;
  ras: number;
  bd?: number | null;
  depth?: number | null;
}
/**
 * Lime that brings aluminium saturation down to what the crop bears, on highly weathered soil
 * (chapter 3, 6.4.2; Cochrane, Salinas &
 * Sanchez 1980).
 *
 * @param i.ras tolerated aluminium saturation, %
 * @example limeByAluminium({ al: 2, ca: 1.5, mg: 0.5, ras: 20 }).value // 2.34 t/ha
 */
export function limeByAluminium(i: AluminiumInput): LimeNeed {
  within('al', i.al, RANGES.alCmolKg);
  for (const x of ['ca', 'mg'] as const)
    within(x, i[x], {
      min: 0,
      max: 300,
      unit: 'cmol/kg',
      label: x === 'ca' ? 'Calcium' : 'Magnesium',
    });
  within('ras', i.ras, { min: 0, max: 100, unit: '%', label: 'Tolerated aluminium saturation' });
  const base = i.al - (i.ras / 100) * (i.al + i.ca + i.mg);
  const factor = base <= 0 ? 0 : 1.5 * base > i.al ? 2 : 1.5;
  const mass = soilMass({ bulkDensityGCm3: i.bd, depthCm: i.depth });
  const id = 'aluminium';
  return need(
    id,
    'Lime by aluminium tolerance',
    Math.max(0, factor * base) * T_PER_CMOL * (mass.kgHa / 1000),
    `${factor || 1.5} x (Al - tolerated share of Al + Ca + Mg) x 0.0005 x soil mass in t`,
    'Cochrane, Salinas & Sanchez 1980 Tropical Agriculture 57:133-140',
    'medium',
    [
      entered(`lime.need.${id}.al`, 'Exchangeable aluminium', i.al, 'cmol/kg'),
      entered(`lime.need.${id}.ca`, 'Calcium', i.ca, 'cmol/kg'),
      entered(`lime.need.${id}.mg`, 'Magnesium', i.mg, 'cmol/kg'),
      entered(`lime.need.${id}.ras`, 'Tolerated aluminium saturation', i.ras, '%'),
      mass.why,
    ],
  );
}

/**
 * Lime that raises base saturation (chapter 3, 6.4.3).
 *
 * @param i.cec CEC at pH 7, cmol/dm3
 * @example limeByBaseSaturation({ cec: 9, v1: 35, v2: 60 }).value // 2.25 t/ha
 */
export function limeByBaseSaturation(i: {
  cec: number;
  v1: number;
  v2: number;
  d?: number | null;
}): LimeNeed {
  within('cec', i.cec, RANGES.cecCmolKg);
  within('v1', i.v1, { ...RANGES.pctOf, label: 'Base saturation now' });
  within('v2', i.v2, { ...RANGES.pctOf, label: 'Base saturation wanted' });
  const d = within('d', i.d ?? REFERENCE_DEPTH_CM, RANGES.sampleDepthCm);
  const id = 'base_saturation';
  return need(
    id,
    'Lime by base saturation',
    Math.max(0, (i.cec * (i.v2 - i.v1)) / 100) * (d / REFERENCE_DEPTH_CM),
    'CEC x (wanted - now) / 100 x depth / 20',
    'chapter 3, 6.4.3; consensus',
    'medium',
    [
      entered(`lime.need.${id}.cec`, 'CEC at pH 7', i.cec, 'cmol/dm3'),
      entered(`lime.need.${id}.v1`, 'Base saturation now', i.v1, '%'),
      entered(`lime.need.${id}.v2`, 'wanted', i.v2, '%'),
    ],
  );
}

export const LIME_SCHOOLS = [
  'auto',
  'lab',
  'buffer',
  'aluminium',
  'carbon_clay',
  'texture',
] as const;
export type LimeSchool = (typeof LIME_SCHOOLS)[number];
export type BufferKind = 'adams_evans' | 'smp' | 'sikora' | 'mehlich';
export type LimeMethodKey = Exclude<LimeSchool, 'auto'>;

export interface LimeRequirementInput {
  ph: number;
  targetPh: number;
  maxPreferredPh: number;
  actBelowPh: number;
  school: LimeSchool;
  soilTextureId: string;
  omPct: number | null;
  clayPct: number | null;
  bulkDensityGCm3: number | null;
  bufferKind: BufferKind | null;
  bufferPh: number | null;
  lab: { rateTHa: number; referenceEccPct: number | null; depthCm: number | null } | null;
  aluminium: {
    alCmolKg: number;
    caCmolKg: number | null;
    mgCmolKg: number | null;
    rasPct: number | null;
  } | null;
  /**
   * The user says that the soil is highly weathered: aluminium decides before carbon and texture.
   */
  weathered: boolean;
  /** Depth to which the lime is mixed, cm; 5 for a surface without tillage. */
  depthCm: number;
}
export interface LimeMethodResult {
  key: LimeMethodKey;
  label: string;
  /** t ECC/ha at the wanted depth, or why it could not be worked out. */
  valueTHa: number | null;
  refused: string | null;
  notes: string[];
  why: Step | null;
}
export interface LimeRequirement {
  methods: LimeMethodResult[];
  chosen: LimeMethodKey | null;
  /** t ECC/ha to the target at the wanted depth. */
  valueTHa: number | null;
  /** Largest over smallest of the methods that gave a figure above zero. */
  disagreement: number | null;
  /** need, optional or none (6.5), or too small to be worth a trip. */
  word: 'need' | 'optional' | 'none' | 'not_worth_a_trip' | 'unknown';
  /** Buffering, t CaCO3/ha for one pH unit in 20 cm, by the chosen method. */
  bcTHaPh: number | null;
  why: Step | null;
}

const LABELS: Record<LimeMethodKey, string> = {
  lab: 'Laboratory’s own',
  buffer: 'Buffer pH',
  aluminium: 'Aluminium tolerance',
  carbon_clay: 'Carbon and clay',
  texture: 'Texture table',
};
const MISSING: Record<LimeMethodKey, string> = {
  lab: 'The laboratory gave no rate.',
  buffer: 'Needs a buffer pH and its kind: a buffer pH without its kind is unusable.',
  aluminium:
    'Needs exchangeable aluminium by KCl, calcium and magnesium, and a crop with a known tolerance.',
  carbon_clay: 'Needs organic matter and clay.',
  texture: 'Needs organic matter.',
};
/** Organic matter holds this many times its carbon (chapter 3, section 1). */
const OM_PER_CARBON = 1.724;

function byBuffer(i: LimeRequirementInput): LimeNeed | null {
  if (i.bufferKind === null || i.bufferPh === null) return null;
  if (i.bufferPh < i.ph - 2)
    refuse(
      'inconsistent',
      'buffer_ph',
      `Buffer pH = ${i.bufferPh} lies more than 2 below the water pH ${i.ph}: check the report, or use carbon and clay.`,
      { value: i.bufferPh, allowed: `${(i.ph - 2).toFixed(1)} or more` },
    );
  const input = { ph: i.ph, target: i.targetPh, bph: i.bufferPh, bd: i.bulkDensityGCm3 };
  return i.bufferKind === 'adams_evans'
    ? limeByAdamsEvans(input)
    : i.bufferKind === 'mehlich'
      ? limeByMehlich(input)
      : limeBySmp(input);
}
function byLaboratory(i: LimeRequirementInput): LimeNeed | null {
  if (!i.lab) return null;
  within('lab_rate', i.lab.rateTHa, {
    min: 0,
    max: 40,
    unit: 't/ha',
    label: 'Laboratory lime rate',
  });
  const share = i.lab.referenceEccPct ?? 100;
  within('lab_ecc', share, {
    min: 10,
    max: 180,
    unit: '%',
    label: 'Effective carbonate of the laboratory’s lime',
  });
  const depth = within('lab_depth', i.lab.depthCm ?? REFERENCE_DEPTH_CM, RANGES.sampleDepthCm);
  const none = atTarget('lab', 'Lime by the laboratory', i.ph, i.targetPh);
  if (none) return none;
  return need(
    'lab',
    'Lime by the laboratory',
    (i.lab.rateTHa * (share / 100) * REFERENCE_DEPTH_CM) / depth,
    'rate x effective share of the laboratory’s lime x 20 / its depth',
    'the laboratory',
    'medium',
    [
      entered('lime.need.lab.rate', 'Rate on the report', i.lab.rateTHa, 't/ha'),
      entered('lime.need.lab.ecc', 'Effective carbonate of that lime', share, '%'),
      entered('lime.need.lab.depth', 'for a depth of', depth, 'cm'),
    ],
    i.lab.referenceEccPct === null
      ? ['the report does not say for which lime: taken as pure effective carbonate']
      : [],
  );
}
const byAluminium = (i: LimeRequirementInput): LimeNeed | null =>
  i.aluminium &&
  i.aluminium.caCmolKg !== null &&
  i.aluminium.mgCmolKg !== null &&
  i.aluminium.rasPct !== null
    ? limeByAluminium({
        al: i.aluminium.alCmolKg,
        ca: i.aluminium.caCmolKg,
        mg: i.aluminium.mgCmolKg,
        ras: i.aluminium.rasPct,
        bd: i.bulkDensityGCm3,
      })
    : null;
const byCarbon = (i: LimeRequirementInput): LimeNeed | null =>
  i.omPct === null || i.clayPct === null
    ? null
    : limeByCarbonAndClay({
        ph: i.ph,
        target: i.targetPh,
        oc: i.omPct / OM_PER_CARBON,
        clay: i.clayPct,
        bd: i.bulkDensityGCm3,
      });
function byTexture(i: LimeRequirementInput): LimeNeed | null {
  if (i.omPct === null) return null;
  const { textureClass, omClass } = bufferingClass(i.soilTextureId, i.omPct);
  const need = limeByTexture({ ph: i.ph, target: i.targetPh, tex: textureClass, om: omClass });
  const other = byLimeFactor(i);
  return other > 0
    ? {
        ...need,
        notes: [
          ...need.notes,
          `the lime factor of cool, humid regions gives ${other.toFixed(1)} t/ha ECC in 20 cm: where the two lie far apart, go by a buffer test`,
        ],
      }
    : need;
}
const SANDS = ['sand', 'loamy_sand'];
const HEAVY = [
  'clay_loam',
  'silty_clay_loam',
  'sandy_clay_loam',
  'sandy_clay',
  'silty_clay',
  'clay',
];
/**
 * Ground limestone by the lime factor of arable land, as effective carbonate in 20 cm (chapter 3,
 * 6.3), t/ha: a second opinion beside the texture table.
 */
function byLimeFactor(i: Pick<LimeRequirementInput, 'ph' | 'targetPh' | 'soilTextureId'>): number {
  if (i.ph >= i.targetPh) return 0;
  const factor =
    i.soilTextureId === 'organic_peat'
      ? 16
      : SANDS.includes(i.soilTextureId)
        ? 6
        : HEAVY.includes(i.soilTextureId)
          ? 8
          : 7;
  return 0.65 * factor * (i.targetPh + 0.2 - i.ph);
}
const WORKERS: Record<LimeMethodKey, (i: LimeRequirementInput) => LimeNeed | null> = {
  lab: byLaboratory,
  buffer: byBuffer,
  aluminium: byAluminium,
  carbon_clay: byCarbon,
  texture: byTexture,
};

/** A method that refuses its input stands in the list with its reason; the others go on. */
function tried(work: () => LimeNeed | null): { found: LimeNeed | null; refused: string | null } {
  try {
    return { found: work(), refused: null };
  } catch (e) {
    if (e instanceof Refusal) return { found: null, refused: e.message };
    throw e;
  }
}

/**
 * Every lime requirement method that the report allows, side by side, and the one to plan with
 * (chapter 3, 6.1). Never guesses an input.
 *
 * @throws Refusal for a target above the highest pH that the crop likes
 */
export function limeRequirement(i: LimeRequirementInput): LimeRequirement {
  within('depth', i.depthCm, { ...RANGES.incorporationCm, min: 2 });
  if (i.targetPh > i.maxPreferredPh + 1e-9)
    refuse(
      'inconsistent',
      'target_ph',
      `Target pH = ${i.targetPh} lies above ${i.maxPreferredPh}, the highest that suits the crops.`,
      { value: i.targetPh, allowed: `up to ${i.maxPreferredPh}` },
    );
  const scale = i.depthCm / REFERENCE_DEPTH_CM;
  const results = (Object.keys(WORKERS) as LimeMethodKey[]).map(
    (key): LimeMethodResult & { need: LimeNeed | null } => {
      const { found, refused } = tried(() => WORKERS[key](i));
      const why =
        found &&
        step(`lime.need.${key}.depth`, LABELS[key], found.value * scale, 't ECC/ha', {
          formula: `for 20 cm x ${i.depthCm} / 20`,
          inputs: [found.why],
        });
      return {
        key,
        label: LABELS[key],
        valueTHa: found ? found.value * scale : null,
        refused: refused ?? (found ? null : MISSING[key]),
        notes: found?.notes ?? [],
        why,
        need: found,
      };
    },
  );
  const order: LimeMethodKey[] = i.weathered
    ? ['lab', 'buffer', 'aluminium', 'carbon_clay', 'texture']
    : ['lab', 'buffer', 'carbon_clay', 'texture'];
  const has = (k: LimeMethodKey) => results.find((r) => r.key === k && r.valueTHa !== null);
  const chosen =
    i.school === 'auto' ? (order.map(has).find(Boolean) ?? null) : (has(i.school) ?? null);
  const figures = results.flatMap((r) =>
    r.valueTHa !== null && r.valueTHa > 0.05 ? [r.valueTHa] : [],
  );
  const gap = i.targetPh - i.ph;
  const value = chosen?.valueTHa ?? null;
  const word =
    gap <= 1e-9
      ? 'none'
      : value === null
        ? 'unknown'
        : value < 0.5
          ? 'not_worth_a_trip'
          : i.ph < i.actBelowPh - 1e-9
            ? 'need'
            : 'optional';
  return {
    methods: results.map(({ key, label, valueTHa, refused, notes, why }) => ({
      key,
      label,
      valueTHa,
      refused,
      notes,
      why,
    })),
    chosen: chosen?.key ?? null,
    valueTHa: value,
    word,
    disagreement: figures.length > 1 ? Math.max(...figures) / Math.min(...figures) : null,
    bcTHaPh:
      chosen?.need && gap > 1e-9
        ? chosen.need.value / gap
        : (byTexture({ ...i, targetPh: i.ph + 1 })?.value ?? null),
    why:
      chosen &&
      step('lime.requirement', 'Lime requirement', value, 't ECC/ha', {
        formula: `by ${chosen.label}, to pH ${i.targetPh.toFixed(1)} in ${i.depthCm} cm`,
        note: chosen.notes.join('; ') || undefined,
        inputs: results.flatMap((r) => (r.why ? [r.why] : [])),
      }),
  };
}
