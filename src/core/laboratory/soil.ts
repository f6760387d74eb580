import { extractantsFor } from '../book/soilTests';
import type { SoilUnit } from '../ground/classify';
import { elementShare, type NamedForm } from '../quantity/forms';
import { plausible, shareOf, unitOf, type Otherwise, type Read, type Span } from './amounts';
import type { LabUnit } from './units';
import { RANGES, rangeProblem } from '../quantity/range';
import { LEAVE_OUT, type Asker } from './questions';

// What a figure of a soil report is to the core.

export type { SoilUnit };
/** Where a figure of a soil report goes. */
export type SoilValue =
  | {
      to:
        | 'ph_water'
        | 'ph_cacl2'
        | 'om_pct'
        | 'oc_pct'
        | 'cec_cmol_kg'
        | 'al_cmol_kg'
        | 'clay_pct'
        | 'stones_pct';
      value: number;
    }
  | { to: 'nitrate' | 'sulphate'; value: number; depthNeeded: boolean }
  | { to: 'buffer_ph'; value: number; buffer: string }
  | { to: 'reading'; nutrient: string; extractant: string; value: number; unit: SoilUnit };
/** A figure that cannot be so: somebody has to put it right. */
export interface WaitingValue {
  to: 'waits';
  reason: string;
}
export interface LeftOutValue {
  to: 'left_out';
  reason: string;
}

/** Null as long as a question is open. */
type Soil = SoilValue | LeftOutValue | WaitingValue | null;

const EXTRACTANTS: readonly (readonly [RegExp, string | null])[] = [
  [/olsen|bicarbonate p|nahco3/u, 'olsen'],
  [/bray ?[- ]?(p ?)?[- ]?(2|ii)\b/u, null],
  [/bray/u, 'bray_1'],
  [/mehlich ?[- ]?(1|i)\b|\bm ?1\b|double acid/u, null],
  [/(mehlich|\bm) ?[- ]?(3|iii)?\b.*(icp)/u, 'mehlich_3_icp'],
  [/(mehlich|\bm) ?[- ]?(3|iii)?\b.*(col)/u, 'mehlich_3_col'],
  [/mehlich|\bm ?3\b/u, 'mehlich_3'],
  [/mod\w*\.? morgan/u, 'modified_morgan'],
  [/morgan/u, 'morgan'],
  [/\bcal\b/u, 'cal'],
  [/\bdl\b|doppellactat|\begner\b|\bp[- ]?al\b|\bk[- ]?al\b|\bal[- ]?(methode|method)\b/u, null],
  [/amm\w*\.? ?(ac|oac)|nh4 ?(oac|ac)\b|acetat/u, 'ammonium_acetate'],
  [/amm\w*\.? ?nit|nh4no3/u, 'ammonium_nitrate'],
  [/dtpa/u, 'dtpa'],
  [/edta|\bresin|\bwater.?sol|\bcacl2\b|\bcat\b|\bpw\b|total\b|aqua regia|konigswasser/u, null],
  [/hot.?water|heisswasser|eau chaude|\bhws\b/u, 'hot_water'],
  [/calcium phosphate|phosphate extract|\bmcp\b/u, 'calcium_phosphate_so4'],
];
const SPANS: Readonly<Record<string, Span>> = {
  p: { min: 0.5, max: 600 },
  k: { min: 5, max: 3000 },
  mg: { min: 2, max: 3000 },
  ca: { min: 20, max: 25_000 },
  s: { min: 0.3, max: 600 },
  zn: { min: 0.03, max: 300 },
  mn: { min: 0.1, max: 800 },
  cu: { min: 0.03, max: 300 },
  fe: { min: 0.5, max: 2000 },
  b: { min: 0.03, max: 30 },
  cl: { min: 1, max: 3000 },
  om: { min: 0.1, max: 60 },
  cec: { min: 0.5, max: 120 },
  nitrate: { min: 0, max: 150 },
};
/** mg/kg that one cmol of charge in a kilogram is. */
const CHARGE: Readonly<Record<string, number>> = { k: 391, ca: 200.4, mg: 121.5, na: 230 };

function extractantOf(r: Read, { ask }: Asker): string | LeftOutValue | null {
  const { quantity, words } = r.measured;
  const known = extractantsFor(quantity);
  const named = EXTRACTANTS.find(([word]) => word.test(words));
  if (named?.[1] === null)
    return { to: 'left_out', reason: 'an extractant that the book has no classes for' };
  const found = named?.[1];
  if (found !== undefined && known.includes(found)) return found;
  // Mehlich 3 of P is read by colour or by plasma: they differ.
  const among = found === 'mehlich_3' ? known.filter((k) => k.startsWith('mehlich_3')) : known;
  if (found !== undefined && found !== 'mehlich_3')
    return { to: 'left_out', reason: `the book has no class of ${quantity.toUpperCase()} by it` };
  const said = ask({
    about: 'extractant',
    column: r.column,
    cell: r.text,
    choices: [...among.map((k) => ({ answer: k, means: k.replaceAll('_', ' ') })), LEAVE_OUT],
  });
  return said === null
    ? null
    : said === 'leave_out'
      ? { to: 'left_out', reason: 'left out' }
      : said;
}

const DENSITIES = ['1.2', '1.3', '1.35', '1.4', '1.5', '1.6'];
const NO_LAYER: WaitingValue = {
  to: 'waits',
  reason: 'an amount for a hectare is of a layer: its depth is missing.',
};
/** The density of a layer, as somebody says it; null as long as nobody has. */
function densityOf(
  r: Read,
  means: (density: number) => string,
  { ask }: Asker,
): number | LeftOutValue | null {
  const said = ask({
    about: 'bulk_density',
    shared: 'all columns',
    column: r.column,
    cell: r.text,
    choices: [
      ...DENSITIES.map((d) => ({ answer: d, means: `a soil of ${d} g/cm3${means(Number(d))}` })),
      LEAVE_OUT,
    ],
  });
  if (said === null) return null;
  const density = Number(said);
  return Number.isFinite(density) ? density : { to: 'left_out', reason: 'left out' };
}
/** kg/ha are of a layer and a density: asked for, never taken as mg/kg. */
function fromArea(r: Read, kgHa: number, depthCm: number | null, asker: Asker): number | null {
  const density = densityOf(
    r,
    (d) => (depthCm === null ? '' : `: ${(kgHa / (0.1 * d * depthCm)).toFixed(1)} mg/kg`),
    asker,
  );
  return typeof density !== 'number' || depthCm === null ? null : kgHa / (0.1 * density * depthCm);
}

const OXIDE: Readonly<Record<string, NamedForm>> = { p: 'p2o5', k: 'k2o', mg: 'mgo', ca: 'cao' };
/** What a figure would be in another unit, or as the oxide, where it is told as the element. */
function otherReadings(
  quantity: string,
  value: number,
  unit: LabUnit,
  share: number,
  told: number,
): Otherwise[] {
  const oxide = OXIDE[quantity];
  const units: Otherwise[] = [
    { answer: 'mg_kg', means: 'in mg/kg', value },
    { answer: 'mg_100g', means: 'in mg/100 g', value: value * 10 },
    { answer: 'g_kg', means: 'in g/kg', value: value * 1000 },
  ];
  return [
    ...units.filter((o) => o.answer !== unit.key),
    ...(oxide && share === 1
      ? [{ answer: 'oxide', means: 'as the oxide', value: told * elementShare(oxide) }]
      : []),
  ];
}

/** Chloride is told as what the layer 0-60 cm holds: another layer says nothing of it. */
function chloride(r: Read, thickness: number | null, asker: Asker): Soil {
  const unit = unitOf(r, 'soil', asker);
  if (unit === null) return null;
  if (thickness !== null && thickness !== 60)
    return {
      to: 'left_out',
      reason: `chloride is classed in 0-60 cm; this is a layer of ${thickness} cm`,
    };
  if (unit.kind === 'mass') {
    const mgKg = r.value * unit.factor;
    const kgHa = (density: number) => mgKg * density * 6;
    const density = densityOf(r, (d) => `: ${kgHa(d).toFixed(1)} kg/ha in 0-60 cm`, asker);
    return typeof density === 'number' ? chlorideAs(r, kgHa(density), 'kg_ha', asker) : density;
  }
  if (unit.kind !== 'area')
    return { to: 'left_out', reason: `${unit.told} is not a unit of chloride in the soil` };
  if (thickness === null) return NO_LAYER;
  return unit.key === 'lb_ac'
    ? chlorideAs(r, r.value, 'lb_ac', asker)
    : chlorideAs(r, r.value * unit.factor, 'kg_ha', asker);
}
function chlorideAs(r: Read, v: number, unit: SoilUnit, asker: Asker): Soil {
  const value = plausible(r, v, SPANS.cl, unit.replace('_', '/'), [], asker);
  return value === null
    ? null
    : {
        to: 'reading',
        nutrient: 'cl',
        extractant: extractantsFor('cl')[0] ?? 'unknown',
        value,
        unit,
      };
}
function reading(r: Read, thickness: number | null, asker: Asker): Soil {
  const { quantity } = r.measured;
  const extractant = extractantOf(r, asker);
  if (extractant === null || typeof extractant !== 'string') return extractant;
  const share = shareOf(r, asker);
  const unit = unitOf(r, 'soil', asker);
  if (share === null || unit === null) return null;
  const value = r.value * share;
  const as = (v: number, to: SoilUnit): SoilValue | null => {
    const kept = plausible(
      r,
      v,
      SPANS[quantity],
      to.replace('_', '/'),
      otherReadings(quantity, value, unit, share, v),
      asker,
    );
    return kept === null
      ? null
      : { to: 'reading', nutrient: quantity, extractant, value: kept, unit: to };
  };
  if (unit.key === 'lb_ac') return as(value, 'lb_ac');
  switch (unit.kind) {
    case 'mass':
      return as(value * unit.factor, 'mg_kg');
    case 'volume':
      return as(value * unit.factor, 'mg_l');
    case 'charge': {
      const weight = CHARGE[quantity];
      return weight === undefined
        ? { to: 'left_out', reason: 'not a unit of this nutrient' }
        : as(value * unit.factor * weight, 'mg_kg');
    }
    case 'area': {
      if (thickness === null) return NO_LAYER;
      const kept = fromArea(r, value * unit.factor, thickness, asker);
      return kept === null ? null : as(kept, 'mg_kg');
    }
    default:
      return { to: 'left_out', reason: `${unit.told} is not a unit of a soil test` };
  }
}

function ph(r: Read, asker: Asker): Soil {
  const medium =
    r.measured.form ??
    asker.ask({
      about: 'ph_in',
      column: r.column,
      cell: r.text,
      choices: [
        { answer: 'water', means: 'in water' },
        { answer: 'cacl2', means: 'in calcium chloride' },
        { answer: 'kcl', means: 'in potassium chloride: it is left out' },
      ],
    });
  if (medium === null) return null;
  if (medium === 'kcl')
    return { to: 'left_out', reason: 'pH in potassium chloride is not pH in water' };
  const to = medium === 'cacl2' ? 'ph_cacl2' : 'ph_water';
  const problem = rangeProblem(
    to === 'ph_water' ? 'pH in water' : 'pH in CaCl2',
    r.value,
    to === 'ph_water' ? RANGES.phWater : RANGES.phSalt,
  );
  return problem === null ? { to, value: r.value } : { to: 'waits', reason: problem };
}

const BUFFERS: readonly (readonly [RegExp, string])[] = [
  [/smp/u, 'smp'],
  [/sikora/u, 'sikora'],
  [/adams/u, 'adams_evans'],
  [/mehlich/u, 'mehlich'],
];
function buffer(r: Read, asker: Asker): Soil {
  const kind =
    BUFFERS.find(([word]) => word.test(r.measured.words))?.[1] ??
    asker.ask({
      about: 'buffer',
      column: r.column,
      cell: r.text,
      choices: [...BUFFERS.map(([, k]) => ({ answer: k, means: k.replace('_', ' ') })), LEAVE_OUT],
    });
  if (kind === null) return null;
  return kind === 'leave_out'
    ? { to: 'left_out', reason: 'left out' }
    : { to: 'buffer_ph', value: r.value, buffer: kind };
}

/** A share of the soil by weight, %. */
function percent(r: Read, to: 'om_pct' | 'oc_pct' | 'clay_pct' | 'stones_pct', asker: Asker): Soil {
  const unit = r.measured.unit;
  const value = unit?.kind === 'mass' ? (r.value * unit.factor) / 10_000 : r.value;
  const kept = plausible(
    r,
    value,
    to === 'om_pct' ? SPANS.om : undefined,
    '%',
    [{ answer: 'g_kg', means: 'in g/kg', value: value / 10 }],
    asker,
  );
  return kept === null ? null : { to, value: kept };
}

function charge(r: Read, to: 'cec_cmol_kg' | 'al_cmol_kg', asker: Asker): Soil {
  const unit = unitOf(r, 'charge', asker);
  if (unit === null) return null;
  if (unit.kind !== 'charge')
    return { to: 'left_out', reason: `${unit.told} is not a unit of exchange capacity` };
  const value = plausible(
    r,
    r.value * unit.factor,
    to === 'cec_cmol_kg' ? SPANS.cec : undefined,
    'cmol/kg',
    [{ answer: 'mmol_kg', means: 'in mmol/kg', value: r.value / 10 }],
    asker,
  );
  return value === null ? null : { to, value };
}

function ofLayer(
  r: Read,
  to: 'nitrate' | 'sulphate',
  thickness: number | null,
  asker: Asker,
): Soil {
  const share = shareOf(r, asker);
  const unit = unitOf(r, 'soil', asker);
  if (share === null || unit === null) return null;
  const value = r.value * share * unit.factor;
  if (unit.kind === 'area' && thickness === null) return NO_LAYER;
  const mgKg =
    unit.kind === 'area'
      ? fromArea(r, value, thickness, asker)
      : unit.kind === 'mass'
        ? value
        : null;
  if (mgKg === null)
    return unit.kind === 'area'
      ? null
      : { to: 'left_out', reason: `${unit.told} is not a unit of a soil layer` };
  const kept = plausible(
    r,
    mgKg,
    SPANS.nitrate,
    'mg/kg',
    [{ answer: 'no3', means: 'as nitrate, NO3', value: mgKg / 4.4268 }],
    asker,
  );
  return kept === null ? null : { to, value: kept, depthNeeded: true };
}

const HELD = [
  'ph',
  'buffer_ph',
  'organic_matter',
  'organic_carbon',
  'clay',
  'stones',
  'cec',
  'no3_n',
  'al',
  'so4_s',
  'p',
  'k',
  'mg',
  'ca',
  's',
  'zn',
  'mn',
  'cu',
  'fe',
  'b',
  'cl',
];
/** Why a soil sample does not hold a quantity; null where it does. */
export const notHeld = (quantity: string): string | null =>
  HELD.includes(quantity)
    ? null
    : quantity === 'mineral_n'
      ? 'mineral N holds ammonium, too: nitrate-N by itself is wanted'
      : 'not a figure that a soil sample holds';

/**
 * Where a figure of a soil report goes and what it is there; null as long as a question is open.
 *
 * @param thickness of the layer in cm, where it is known
 */
export function soilValue(r: Read, thickness: number | null, asker: Asker): Soil {
  switch (r.measured.quantity) {
    case 'ph':
      return ph(r, asker);
    case 'buffer_ph':
      return buffer(r, asker);
    case 'organic_matter':
      return percent(r, 'om_pct', asker);
    case 'organic_carbon':
      return percent(r, 'oc_pct', asker);
    case 'clay':
      return percent(r, 'clay_pct', asker);
    case 'stones':
      return percent(r, 'stones_pct', asker);
    case 'cec':
      return charge(r, 'cec_cmol_kg', asker);
    case 'no3_n':
      return ofLayer(r, 'nitrate', thickness, asker);
    case 'al':
      return r.measured.unit?.kind === 'charge'
        ? charge(r, 'al_cmol_kg', asker)
        : { to: 'left_out', reason: 'aluminium is read in cmol/kg' };
    case 'so4_s':
      return EXTRACTANTS.some(([word, k]) => k !== null && word.test(r.measured.words))
        ? reading({ ...r, measured: { ...r.measured, quantity: 's' } }, thickness, asker)
        : ofLayer(r, 'sulphate', thickness, asker);
    case 'cl':
      return chloride(r, thickness, asker);
    case 'p':
    case 'k':
    case 'mg':
    case 'ca':
    case 's':
    case 'zn':
    case 'mn':
    case 'cu':
    case 'fe':
    case 'b':
      return reading(r, thickness, asker);
    default:
      return { to: 'left_out', reason: notHeld(r.measured.quantity) ?? 'left out' };
  }
}

/** Whether the words of a heading name a way of extracting a soil. */
export const namesExtractant = (words: string): boolean =>
  EXTRACTANTS.some(([word, key]) => key !== null && word.test(words));
