import { elementShare, type NamedForm } from '../quantity/forms';
import type { Measured } from './headings';
import { LEAVE_OUT, type Asker, type Choice } from './questions';
import type { LabUnit } from './units';

// From a figure of the report to one of the core.

/** One figure of a sample with all that was read of it. */
export interface Read {
  column: string;
  row: number;
  text: string;
  measured: Measured;
  /** In the unit of the report. */
  value: number;
  limit: 'below' | 'above' | null;
}

const PO4_P = 3.0662;
const NA2O_NA = 1.348;
const FORMS: Readonly<Record<string, readonly Choice[]>> = {
  p: [
    { answer: 'p2o5', means: 'P2O5' },
    { answer: 'p', means: 'P, the element' },
    { answer: 'po4', means: 'PO4' },
  ],
  k: [
    { answer: 'k2o', means: 'K2O' },
    { answer: 'k', means: 'K, the element' },
  ],
  mg: [
    { answer: 'mgo', means: 'MgO' },
    { answer: 'mg', means: 'Mg, the element' },
  ],
  no3_n: [
    { answer: 'n', means: 'nitrate-N' },
    { answer: 'no3', means: 'nitrate, NO3' },
  ],
  nh4_n: [
    { answer: 'n', means: 'ammonium-N' },
    { answer: 'nh4', means: 'ammonium, NH4' },
  ],
  so4_s: [
    { answer: 's', means: 'sulphate-S' },
    { answer: 'so4', means: 'sulphate, SO4' },
  ],
};

/**
 * How much of the element one unit of the reported form holds; null as long as the form is open.
 *
 */
export function shareOf(
  r: Pick<Read, 'measured' | 'column' | 'text'>,
  { ask }: Asker,
): number | null {
  const { quantity, form } = r.measured;
  const said =
    form ??
    ask({ about: 'form', column: r.column, cell: r.text, choices: [...(FORMS[quantity] ?? [])] });
  switch (said) {
    case null:
      return null;
    case 'po4':
      return 1 / PO4_P;
    case 'na2o':
      return 1 / NA2O_NA;
    case 'p2o5':
    case 'k2o':
    case 'mgo':
    case 'cao':
    case 'so3':
    case 'so4':
    case 'no3':
    case 'nh4':
    case 'nh3':
      return elementShare(said satisfies NamedForm);
    default:
      return 1;
  }
}

const u = (key: string, kind: LabUnit['kind'], factor: number, told: string): LabUnit => ({
  key,
  kind,
  factor,
  told,
});
const OFFERED: Readonly<Record<string, readonly LabUnit[]>> = {
  soil: [
    u('mg_kg', 'mass', 1, 'mg/kg (ppm)'),
    u('mg_100g', 'mass', 10, 'mg/100 g'),
    u('mg_l', 'volume', 1, 'mg/L'),
    u('lb_ac', 'area', 1.120_851, 'lb/ac'),
  ],
  leaf: [
    u('pct', 'mass', 10_000, '%'),
    u('g_kg', 'mass', 1000, 'g/kg'),
    u('mg_kg', 'mass', 1, 'mg/kg (ppm)'),
  ],
  manure: [
    u('g_kg', 'mass', 1000, 'kg/t or g/kg'),
    u('pct', 'mass', 10_000, '%'),
    u('kg_m3', 'volume', 1000, 'kg/m3'),
    u('lb_ton', 'mass', 500, 'lb/ton'),
    u('lb_1000gal', 'volume', 119.826_427, 'lb/1000 gal'),
    u('mg_kg', 'mass', 1, 'mg/kg (ppm)'),
  ],
  water: [
    u('mg_l', 'volume', 1, 'mg/L (ppm)'),
    u('meq_l', 'equivalent', 1, 'meq/L'),
    u('mmol_l', 'molar', 1, 'mmol/L'),
  ],
  conductivity: [
    u('ds_m', 'conductivity', 1, 'dS/m or mS/cm'),
    u('us_cm', 'conductivity', 0.001, 'µS/cm'),
    u('ms_m', 'conductivity', 0.01, 'mS/m'),
  ],
  charge: [
    u('cmol_kg', 'charge', 1, 'cmol/kg or meq/100 g'),
    u('mmol_kg', 'charge', 0.1, 'mmol/kg'),
  ],
};

/** The unit of a figure, asked for where the file does not say. */
export function unitOf(r: Read, kind: keyof typeof OFFERED, { ask }: Asker): LabUnit | null {
  if (r.measured.unit) return r.measured.unit;
  const offered = OFFERED[kind] ?? [];
  const said = ask({
    about: 'unit',
    column: r.column,
    cell: r.text,
    choices: [...offered.map((x) => ({ answer: x.key, means: x.told })), LEAVE_OUT],
  });
  return offered.find((x) => x.key === said) ?? null;
}

export interface Span {
  min: number;
  max: number;
}
const inSpan = (v: number, s: Span): boolean => v >= s.min && v <= s.max;
/** Another reading of a figure: how it would be told, and what it would be. */
export interface Otherwise {
  answer: string;
  means: string;
  value: number;
}
const told = (v: number): string => String(Number(v.toPrecision(5)));

/**
 * A value outside of what occurs is asked about, with what it would be in another unit; null as
 * long as nobody answered, or where it is left out.
 */
export function plausible(
  r: Pick<Read, 'column' | 'text' | 'limit'>,
  value: number,
  span: Span | undefined,
  unit: string,
  others: readonly Otherwise[],
  { ask }: Asker,
): number | null {
  if (!span || inSpan(value, span) || r.limit === 'below') return value;
  const fitting = others.filter((o) => inSpan(o.value, span));
  const said = ask({
    about: 'value',
    column: r.column,
    cell: r.text,
    choices: [
      ...fitting.map((o) => ({ answer: o.answer, means: `${o.means}: ${told(o.value)} ${unit}` })),
      { answer: 'as_it_is', means: `as it stands: ${told(value)} ${unit}` },
      LEAVE_OUT,
    ],
  });
  if (said === 'as_it_is') return value;
  return fitting.find((o) => o.answer === said)?.value ?? null;
}
