// Units as they stand in headings, unit rows and cells.

/** What a unit measures, and how many of its base one of it is. */
export interface LabUnit {
  key: string;
  /**
   * `mass`: of a mass, base mg/kg. `volume`: of a volume, base mg/L. `charge`: base cmol/kg.
   * `equivalent` and `molar`: in water, base per litre. `area`: base kg/ha. `conductivity`: base
   * dS/m. `density`: base kg/m3. `hardness`: base mg/L of CaCO3. `length`: base cm.
   */
  kind:
    | 'mass'
    | 'volume'
    | 'charge'
    | 'equivalent'
    | 'molar'
    | 'area'
    | 'conductivity'
    | 'density'
    | 'hardness'
    | 'length';
  factor: number;
  /** How it is written where it is told. */
  told: string;
}

const LB_KG = 0.453_592_37;
const GAL_L = 3.785_411_784;
const unit = (key: string, kind: LabUnit['kind'], factor: number, told = key): LabUnit => ({
  key,
  kind,
  factor,
  told,
});
const PER = String.raw`\s?(?:\/|per|pro|por|par|je)\s?`;
/** Longer spellings stand before those that they hold. */
const SPELLINGS: readonly (readonly [string, LabUnit])[] = [
  [String.raw`mg${PER}l\s?(?:as\s)?caco3`, unit('mg_l_caco3', 'hardness', 1, 'mg/L CaCO3')],
  [String.raw`°\s?dh|deg\.?\s?dh|°d\b|dh°`, unit('dh', 'hardness', 17.85, '°dH')],
  [String.raw`°\s?fh|°\s?f\b`, unit('fh', 'hardness', 10, '°fH')],
  [
    String.raw`(?:lbs?|pounds?)${PER}(?:1[,. ]?000|k|m)\s?gal(?:lons?)?`,
    unit('lb_1000gal', 'volume', (LB_KG / GAL_L) * 1000, 'lb/1000 gal'),
  ],
  [
    String.raw`(?:lbs?|pounds?)${PER}(?:us\s)?gal(?:lon)?`,
    unit('lb_gal', 'density', (LB_KG / GAL_L) * 1000, 'lb/gal'),
  ],
  [
    String.raw`(?:lbs?|pounds?)${PER}(?:short\s)?t(?:on|n)?\b`,
    unit('lb_ton', 'mass', 500, 'lb/ton'),
  ],
  [String.raw`(?:lbs?|pounds?)${PER}ac(?:re)?`, unit('lb_ac', 'area', 1.120_851, 'lb/ac')],
  [String.raw`kg${PER}ha`, unit('kg_ha', 'area', 1, 'kg/ha')],
  [String.raw`mg${PER}100\s?(?:g|ml)`, unit('mg_100g', 'mass', 10, 'mg/100 g')],
  [String.raw`g${PER}100\s?g`, unit('pct', 'mass', 10_000, '%')],
  [
    String.raw`c?mol(?:c|\(\+\)|\(c\))?\s?\+?${PER}kg|meq${PER}100\s?g|me${PER}100\s?g`,
    unit('cmol_kg', 'charge', 1, 'cmol/kg'),
  ],
  [String.raw`mmol(?:c|\(\+\)|\(c\))?${PER}(?:kg)`, unit('mmol_kg', 'charge', 0.1, 'mmol/kg')],
  [String.raw`mmolc${PER}(?:dm3|l)`, unit('mmolc_l', 'charge', 0.1, 'mmolc/L')],
  [String.raw`cmolc?${PER}(?:dm3|l)`, unit('cmolc_l', 'charge', 1, 'cmolc/L')],
  [
    String.raw`m(?:illi)?eq(?:uiv)?\.?${PER}l|me${PER}l|mval${PER}l`,
    unit('meq_l', 'equivalent', 1, 'meq/L'),
  ],
  [String.raw`mmol${PER}l`, unit('mmol_l', 'molar', 1, 'mmol/L')],
  [
    String.raw`kg${PER}(?:l|dm3)|g${PER}(?:cm3|ml|cc)|t${PER}m3`,
    unit('kg_l', 'density', 1000, 'kg/L'),
  ],
  [String.raw`kg${PER}m3`, unit('kg_m3', 'volume', 1000, 'kg/m3')],
  [String.raw`[uµ]g${PER}(?:l|dm3)|ppb`, unit('ug_l', 'volume', 0.001, 'µg/L')],
  [String.raw`mg${PER}(?:l|dm3)|g${PER}m3`, unit('mg_l', 'volume', 1, 'mg/L')],
  [String.raw`g${PER}(?:l|dm3)`, unit('g_l', 'volume', 1000, 'g/L')],
  [String.raw`mg${PER}kg|[uµ]g${PER}g|g${PER}t\b`, unit('mg_kg', 'mass', 1, 'mg/kg')],
  [String.raw`kg${PER}(?:t(?:onne)?|mg)\b`, unit('kg_t', 'mass', 1000, 'kg/t')],
  [String.raw`g${PER}kg|mg${PER}g\b|‰`, unit('g_kg', 'mass', 1000, 'g/kg')],
  [String.raw`ppm`, unit('ppm', 'mass', 1, 'ppm')],
  [String.raw`ds${PER}m|ms${PER}cm|mmhos?${PER}cm`, unit('ds_m', 'conductivity', 1, 'dS/m')],
  [String.raw`[uµ]s${PER}cm|[uµ]mhos?${PER}cm`, unit('us_cm', 'conductivity', 0.001, 'µS/cm')],
  [String.raw`ms${PER}m`, unit('ms_m', 'conductivity', 0.01, 'mS/m')],
  [
    String.raw`%|percent|per cent|prozent|pct\b|masse-?%|gew\.?-?%`,
    unit('pct', 'mass', 10_000, '%'),
  ],
  [String.raw`cm\b`, unit('cm', 'length', 1, 'cm')],
  [String.raw`mm\b`, unit('mm', 'length', 0.1, 'mm')],
  [String.raw`inch(?:es)?\b|\bin\b|["”″]`, unit('in', 'length', 2.54, 'in')],
];
const FINDERS = SPELLINGS.map(
  ([spelling, u]) =>
    [new RegExp(`(^|[^\\p{L}\\p{N}])(?:${spelling})(?![\\p{L}])`, 'iu'), u] as const,
);

/** Powers, micro signs and dots of multiplication in one way of writing. */
const plainly = (text: string): string =>
  text
    .replaceAll('μ', 'µ')
    .replaceAll('³', '3')
    .replaceAll('²', '2')
    .replaceAll('₂', '2')
    .replaceAll('₃', '3')
    .replaceAll('₄', '4')
    .replaceAll('₅', '5')
    .replaceAll(/([a-z0-9])\s?[·.*]?\s?(kg|l|ha|m3|dm3|cm|g|t)\s?(?:⁻¹|-1|\^-1)/giu, '$1/$2')
    .replaceAll('⁻', '-');

export interface UnitFound {
  unit: LabUnit | null;
  /** The text without it. */
  rest: string;
}
/**
 * Looks for a unit in a text.
 *
 * @example unitIn('P2O5 CAL (mg/100 g)').unit?.key // 'mg_100g'
 */
export function unitIn(text: string): UnitFound {
  const plain = plainly(text);
  for (const [finder, found] of FINDERS) {
    const m = finder.exec(plain);
    if (m)
      return {
        unit: found,
        rest: `${plain.slice(0, m.index)}${m[1] ?? ''} ${plain.slice(m.index + m[0].length)}`,
      };
  }
  return { unit: null, rest: plain };
}

export type Basis = 'dry' | 'received';
const DRY =
  /(^|[^\p{L}])(d\.?\s?m\.?|dry( (matter|basis|weight|mass))?|t\.?\s?m\.?|t\.?\s?s\.?|m\.?\s?s\.?|d\.?\s?w\.?|i\.?\s?d\.?\s?tm|trocken(masse|substanz|gewicht|basis)?|(sur |de )?(la )?mati[eè]re s[eè]che|sec|(sobre |en )?(materia )?sec[ao]|ss|droge stof|ds)(?![\p{L}])/iu;
const RECEIVED =
  /(^|[^\p{L}])(fresh( (matter|weight|mass|basis))?|f\.?\s?m\.?|f\.?\s?s\.?|f\.?\s?w\.?|as (is|received|sampled)|wet( (basis|weight))?|frisch(masse|substanz|gewicht)?|o\.?\s?s\.?|original(substanz)?|mati[eè]re (brute|fra[iî]che)|(sur )?(produit )?brut|m\.?\s?b\.?|(materia )?fresc[ao]|vers|product)(?![\p{L}])/iu;

/** Whether a figure is of dry matter or of the material as it came. */
export function basisIn(text: string): { basis: Basis | null; rest: string } {
  const received = RECEIVED.exec(text);
  const dry = DRY.exec(text);
  const found = received ?? dry;
  return found
    ? {
        basis: received ? 'received' : 'dry',
        rest: `${text.slice(0, found.index)} ${text.slice(found.index + found[0].length)}`,
      }
    : { basis: null, rest: text };
}

/** A cell that holds a unit and nothing else, as in a row of units. */
export function isUnitCell(text: string): boolean {
  const { unit: found, rest } = unitIn(text);
  if (!found) return /^(-|ph)$/iu.test(text.trim());
  return basisIn(rest).rest.replaceAll(/[^\p{L}\p{N}]/gu, '') === '';
}
