import { plausible, shareOf, unitOf, type Otherwise, type Read, type Span } from './amounts';
import { LEAVE_OUT, type Asker } from './questions';
import type { LeftOutValue } from './soil';

// What a figure of a leaf, manure or water report is to the core.

/** A figure of a leaf, manure or water sample, in the core's unit. */
export interface Amount {
  to: 'amount';
  quantity: string;
  value: number;
  unit: string;
}
type Told = Amount | LeftOutValue | null;
const amount = (quantity: string, value: number | null, unit: string): Told =>
  value === null ? null : { to: 'amount', quantity, value, unit };
const out = (reason: string): LeftOutValue => ({ to: 'left_out', reason });

// Leaf

const MACROS = ['n', 'p', 'k', 's', 'ca', 'mg', 'na', 'cl'];
const LEAF: Readonly<Record<string, Span>> = {
  n: { min: 0.3, max: 8 },
  p: { min: 0.03, max: 1.8 },
  k: { min: 0.1, max: 15 },
  s: { min: 0.02, max: 3.5 },
  ca: { min: 0.02, max: 9 },
  mg: { min: 0.02, max: 3 },
  na: { min: 0.0005, max: 6 },
  cl: { min: 0.005, max: 9 },
  zn: { min: 2, max: 1500 },
  mn: { min: 2, max: 6000 },
  cu: { min: 0.3, max: 2000 },
  fe: { min: 5, max: 6000 },
  b: { min: 1, max: 1000 },
  mo: { min: 0.005, max: 200 },
  no3_n: { min: 1, max: 45_000 },
  so4_s: { min: 10, max: 30_000 },
};
const SAP: Readonly<Record<string, Span>> = {
  no3_n: { min: 2, max: 5000 },
  k: { min: 50, max: 15_000 },
};
const FRUIT: Readonly<Record<string, Span>> = {
  n: { min: 8, max: 500 },
  p: { min: 1, max: 100 },
  k: { min: 15, max: 800 },
  ca: { min: 0.3, max: 150 },
  mg: { min: 0.5, max: 80 },
};
/** The same figure in the other units that a leaf report may be in. */
const inOtherUnits = (value: number, macro: boolean): Otherwise[] =>
  macro
    ? [
        { answer: 'g_kg', means: 'in g/kg', value: value / 10 },
        { answer: 'mg_kg', means: 'in mg/kg', value: value / 10_000 },
        { answer: 'fraction', means: 'as a share of 1', value: value * 100 },
      ]
    : [
        { answer: 'pct', means: 'in %', value: value * 10_000 },
        { answer: 'g_kg', means: 'in g/kg', value: value * 1000 },
      ];

/**
 * A figure of a leaf report: % or mg/kg of dry matter; sap mg/L; fresh fruit mg/100 g.
 *
 * @param part the plant part, as it is told
 */
export function leafValue(r: Read, part: string, asker: Asker): Told {
  const { quantity, basis } = r.measured;
  if (quantity === 'brix') return amount('brix', r.value, 'Brix');
  if (quantity === 'dry_matter') return amount('dry_matter', r.value, '%');
  if (!(quantity in LEAF)) return out('not a figure that a leaf sample holds');
  const share = shareOf(r, asker);
  const unit = unitOf(r, 'leaf', asker);
  if (share === null || unit === null) return null;
  const sap = /sap/u.test(part) || /\bsap\b|presssaft|savia/u.test(r.measured.words);
  if (sap) {
    if (unit.kind !== 'volume' && unit.key !== 'ppm' && unit.kind !== 'molar')
      return out(`${unit.told} is not a unit of sap`);
    if (unit.kind === 'molar') return out('mmol/L of sap is not read yet');
    const value = r.value * share * unit.factor;
    return amount(quantity, plausible(r, value, SAP[quantity], 'mg/L', [], asker), 'mg/L');
  }
  if (unit.kind !== 'mass') return out(`${unit.told} is not a unit of a leaf`);
  const mgKg = r.value * share * unit.factor;
  if (basis === 'received' || (unit.key === 'mg_100g' && /fruit/u.test(part)))
    return amount(
      quantity,
      plausible(r, mgKg / 10, FRUIT[quantity], 'mg/100 g', [], asker),
      'mg/100 g fresh',
    );
  const macro = MACROS.includes(quantity);
  const value = macro ? mgKg / 10_000 : mgKg;
  const told = macro ? '%' : 'mg/kg';
  return amount(
    quantity,
    plausible(r, value, LEAF[quantity], told, inOtherUnits(value, macro), asker),
    told,
  );
}

// Manure and compost

/** What else of the sample decides how its figures are read. */
export interface ManureSample {
  dryMatterPct: number | null;
  densityKgM3: number | null;
}
const METALS = ['zn', 'cu', 'cd', 'pb', 'ni', 'cr', 'hg', 'as', 'mn', 'fe', 'b', 'mo', 'se', 'co'];
const NUTRIENTS = [
  'n',
  'kjeldahl_n',
  'organic_n',
  'nh4_n',
  'no3_n',
  'p',
  'k',
  's',
  'so4_s',
  'ca',
  'mg',
  'na',
  'cl',
];
/** Solid manures are weighed: above this share of dry matter a figure by volume is doubted. */
const SOLID_DM_PCT = 20;
/** N of dry matter that no solid manure reaches, %. */
const MOST_N_OF_DM = 8;

/** kg of the nutrient in a tonne as it came. */
function perTonne(r: Read, sample: ManureSample, asker: Asker): number | null | LeftOutValue {
  const unit = unitOf(r, 'manure', asker);
  if (unit === null) return null;
  if (unit.kind === 'volume') {
    const byVolume = (r.value * unit.factor) / 1000;
    if (
      unit.key === 'kg_m3' &&
      sample.dryMatterPct !== null &&
      sample.dryMatterPct > SOLID_DM_PCT
    ) {
      const said = asker.ask({
        about: 'unit',
        shared: 'kg/m3',
        column: r.column,
        cell: r.text,
        choices: [
          { answer: 'g_kg', means: `kg/t: ${r.value} kg/t` },
          {
            answer: 'kg_m3',
            means: `kg/m3 as it stands${sample.densityKgM3 === null ? '' : `: ${((byVolume * 1000) / sample.densityKgM3).toFixed(1)} kg/t`}`,
          },
          LEAVE_OUT,
        ],
      });
      if (said === 'g_kg') return r.value;
      if (said !== 'kg_m3') return said === null ? null : out('left out');
    }
    if (sample.densityKgM3 !== null) return (byVolume * 1000) / sample.densityKgM3;
    const said = asker.ask({
      about: 'density',
      shared: unit.told,
      column: r.column,
      cell: r.text,
      choices: [
        ...['1000', '1020', '1040'].map((d) => ({ answer: d, means: `${d} kg/m3` })),
        LEAVE_OUT,
      ],
    });
    return said === null
      ? null
      : said === 'leave_out'
        ? out('left out')
        : (byVolume * 1000) / Number(said);
  }
  if (unit.kind !== 'mass') return out(`${unit.told} is not a unit of a manure`);
  const kgT = (r.value * unit.factor) / 1000;
  const basis =
    r.measured.basis ??
    // A tonne of manure is weighed as it lies; a share may be of either.
    (unit.key === 'lb_ton' || unit.key === 'kg_t' || sample.dryMatterPct === null
      ? 'received'
      : asker.ask({
          about: 'basis',
          shared: unit.told,
          column: r.column,
          cell: r.text,
          choices: [
            {
              answer: 'received',
              means: `of the material as it came: ${Number(kgT.toPrecision(4))} kg/t`,
            },
            {
              answer: 'dry',
              means: `of dry matter: ${Number(((kgT * sample.dryMatterPct) / 100).toPrecision(4))} kg/t`,
            },
          ],
        }));
  if (basis === null) return null;
  if (basis === 'received') return kgT;
  return sample.dryMatterPct === null
    ? out('of dry matter, and the dry matter is not on the report')
    : (kgT * sample.dryMatterPct) / 100;
}

/** A figure of a manure or compost report: kg/t as received; metals mg/kg of dry matter. */
export function manureValue(r: Read, sample: ManureSample, asker: Asker): Told {
  const { quantity, unit, basis } = r.measured;
  switch (quantity) {
    case 'dry_matter':
      return amount('dry_matter', sample.dryMatterPct, '%');
    case 'moisture':
      return null;
    case 'density':
      return amount('density', sample.densityKgM3, 'kg/m3');
    case 'ph':
      return amount('ph', r.value, '');
    case 'c_to_n':
      return amount('c_to_n', r.value, '');
    case 'ec':
      return amount('ec', conductivity(r, asker), 'dS/m');
    case 'organic_matter':
      return amount('organic_matter', r.value, basis === 'dry' ? '% dm' : '%');
  }
  if (METALS.includes(quantity)) {
    if (unit?.kind !== 'mass') return out('a metal is read in mg/kg');
    const mgKg = r.value * unit.factor;
    if (basis !== 'received') return amount(quantity, mgKg, 'mg/kg dry matter');
    return sample.dryMatterPct === null
      ? out('the dry matter is not on the report')
      : amount(quantity, (mgKg * 100) / sample.dryMatterPct, 'mg/kg dry matter');
  }
  if (!NUTRIENTS.includes(quantity)) return out('not a figure that a manure sample holds');
  const share = shareOf(r, asker);
  const kgT = perTonne(r, sample, asker);
  if (share === null || kgT === null) return null;
  if (typeof kgT !== 'number') return kgT;
  const value = kgT * share;
  const dm = sample.dryMatterPct;
  const span =
    quantity === 'n' && dm !== null && dm > SOLID_DM_PCT
      ? { min: 0, max: (MOST_N_OF_DM / 100) * dm * 10 }
      : { min: 0, max: quantity === 'ca' ? 400 : 150 };
  return amount(
    quantity,
    plausible(
      r,
      value,
      span,
      'kg/t',
      [{ answer: 'tenth', means: 'a tenth', value: value / 10 }],
      asker,
    ),
    'kg/t',
  );
}

/** Dry matter and density of a sample, whichever way they are told. */
export function manureSample(reads: readonly Read[]): ManureSample {
  const of = (quantity: string) =>
    reads.find((r) => r.measured.quantity === quantity && r.limit === null);
  const density = of('density');
  const densityUnit = density?.measured.unit;
  // A density without unit is told by its size: 1.02 is of a litre, 1020 of a cubic metre.
  const kgM3 =
    density === undefined
      ? null
      : densityUnit
        ? densityUnit.key === 'kg_m3'
          ? density.value
          : density.value * densityUnit.factor
        : density.value < 3
          ? density.value * 1000
          : density.value > 150
            ? density.value
            : null;
  // Of a volume it is a share only beside the density.
  const percent = (r: Read | undefined): number | null => {
    const unit = r?.measured.unit;
    if (r === undefined || unit === null) return r?.value ?? null;
    return unit?.kind === 'mass'
      ? (r.value * unit.factor) / 10_000
      : unit?.kind === 'volume' && kgM3 !== null
        ? (r.value * unit.factor) / 10 / kgM3
        : null;
  };
  const dry = percent(of('dry_matter'));
  const moisture = percent(of('moisture'));
  const dryMatterPct = dry ?? (moisture === null ? null : 100 - moisture);
  return {
    dryMatterPct:
      dryMatterPct !== null && dryMatterPct > 0 && dryMatterPct <= 100 ? dryMatterPct : null,
    densityKgM3: kgM3,
  };
}

// Water

/** Milligrams of a milliequivalent and of a millimole, of what is told. */
const EQUIVALENT: Readonly<Record<string, readonly [number, number]>> = {
  ca: [20.04, 40.08],
  mg: [12.153, 24.305],
  na: [22.99, 22.99],
  k: [39.1, 39.1],
  hco3: [61.02, 61.02],
  co3: [30, 60.01],
  so4_s: [16.03, 32.06],
  s: [16.03, 32.06],
  cl: [35.45, 35.45],
  no3_n: [14.007, 14.007],
  nh4_n: [14.007, 14.007],
};
const WATER: Readonly<Record<string, Span>> = {
  ph: { min: 3, max: 11 },
  ec: { min: 0.005, max: 60 },
  no3_n: { min: 0, max: 150 },
  nh4_n: { min: 0, max: 150 },
  so4_s: { min: 0, max: 1500 },
  k: { min: 0, max: 500 },
  ca: { min: 0, max: 1500 },
  mg: { min: 0, max: 1000 },
  na: { min: 0, max: 10_000 },
  cl: { min: 0, max: 15_000 },
  hco3: { min: 0, max: 2500 },
  fe: { min: 0, max: 100 },
  mn: { min: 0, max: 50 },
  b: { min: 0, max: 50 },
};

function conductivity(r: Read, asker: Asker): number | null {
  const unit = unitOf(r, 'conductivity', asker);
  if (unit === null) return null;
  const value = r.value * unit.factor;
  return plausible(
    r,
    value,
    WATER.ec,
    'dS/m',
    [
      { answer: 'us_cm', means: 'in µS/cm', value: r.value / 1000 },
      { answer: 'ms_m', means: 'in mS/m', value: r.value / 100 },
    ],
    asker,
  );
}

/** A figure of a water report: mg/L of the element, nitrate-N, sulphate-S; EC dS/m. */
export function waterValue(r: Read, asker: Asker): Told {
  const { quantity } = r.measured;
  switch (quantity) {
    case 'ec':
      return amount('ec', conductivity(r, asker), 'dS/m');
    case 'ph':
      return amount('ph', plausible(r, r.value, WATER.ph, '', [], asker), '');
    case 'sar':
      return amount('sar', r.value, '');
    case 'hardness': {
      const unit = r.measured.unit;
      if (unit?.kind === 'hardness' || unit?.key === 'mg_l')
        return amount('hardness', r.value * unit.factor, 'mg/L CaCO3');
      return unit?.kind === 'molar'
        ? amount('hardness', r.value * 100.09, 'mg/L CaCO3')
        : out('hardness without a unit that is known');
    }
  }
  const known = [...Object.keys(EQUIVALENT), 'p', 'fe', 'mn', 'zn', 'cu', 'b', 'mo', 'al', 'si'];
  if (!known.includes(quantity)) return out('not a figure that a water sample holds');
  const unit = unitOf(r, 'water', asker);
  if (unit === null) return null;
  const weights = EQUIVALENT[quantity];
  const equivalent =
    unit.kind === 'equivalent' ? weights?.[0] : unit.kind === 'molar' ? weights?.[1] : null;
  // An equivalent is of the ion: its form does not matter.
  const share = equivalent === null || equivalent === undefined ? shareOf(r, asker) : 1;
  if (share === null) return null;
  const value =
    equivalent !== null && equivalent !== undefined
      ? r.value * equivalent
      : unit.kind === 'volume' || unit.key === 'ppm' || unit.key === 'mg_kg'
        ? r.value * share * unit.factor
        : null;
  if (value === null) return out(`${unit.told} is not a unit of water`);
  return amount(
    quantity,
    plausible(
      r,
      value,
      WATER[quantity],
      'mg/L',
      [{ answer: 'ug_l', means: 'in µg/L', value: value / 1000 }],
      asker,
    ),
    'mg/L',
  );
}
