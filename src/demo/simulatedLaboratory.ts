import { dateAfter, monthOf, type IsoDate } from '../core/quantity/calendar';
import { normalFrom, randomStream, seedOf } from '../core/quantity/random';
import { refuse } from '../core/quantity/refusal';
import { variabilityOf } from '../core/book/sampling';

/** One line of the list that goes to the laboratory with the bags. */
export interface ListedSample {
  label: string;
  field: string;
  fromCm: number;
  toCm: number;
  cores: number;
  lon: number;
  lat: number;
  date: IsoDate;
}
/** The ground under a made-up field: its mean, and how far it swings across the field. */
export interface TrueGround {
  ph: number;
  p: number;
  k: number;
  mg: number;
  ca: number;
  omPct: number;
  cec: number;
  /** Swing of pH across the field, pH units, and of P and K as a share of the mean. */
  phSwing: number;
  pSwing: number;
  kSwing: number;
}
export interface LaboratoryReport {
  receivedOn: IsoDate;
  reportedOn: IsoDate;
  headers: string[];
  rows: string[][];
}
export const SIMULATED_LABORATORY = 'Senn laboratory (simulated)';

/** A field that the stand-in does not know gets ordinary loam. */
const ORDINARY: TrueGround = {
  ph: 6.3,
  p: 14,
  k: 140,
  mg: 70,
  ca: 1700,
  omPct: 2.8,
  cec: 14,
  phSwing: 0.4,
  pSwing: 0.35,
  kSwing: 0.25,
};
const HEADERS = [
  'Sample',
  'Field',
  'Date sampled',
  'Depth (cm)',
  'pH (water)',
  'Buffer pH SMP',
  'P Olsen (mg/kg)',
  'K ammonium acetate (mg/kg)',
  'Mg ammonium acetate (mg/kg)',
  'Ca ammonium acetate (mg/kg)',
  'Organic matter (%)',
  'CEC (cmol/kg)',
];
/**
 * Distance over which the made-up ground is alike, in degrees: about 90 m, within the 50-120 m of
 * chapter 3, 2.1.
 */
const REACH_DEG = 0.0008;
/** Share of a field's variation that is found within the few metres of one sample's cores. */
const INSIDE_A_SAMPLE = 1 / 3;
/** Bags wait longer in the weeks before planting (chapter 3, 2.3). */
const USUAL_DAYS: readonly [number, number] = [7, 12];
const PEAK_DAYS: readonly [number, number] = [21, 30];

/**
 * A smooth surface from -1 to 1 over the ground of a field, always the same for the same field and
 * place.
 */
function surface(field: string, layer: string): (lon: number, lat: number) => number {
  const next = randomStream(seedOf(`${field}|${layer}`));
  const waves = Array.from({ length: 4 }, () => ({
    angle: next() * 2 * Math.PI,
    phase: next() * 2 * Math.PI,
    length: REACH_DEG * (2 + 3 * next()),
  }));
  return (lon, lat) =>
    waves.reduce(
      (sum, w) =>
        sum +
        Math.sin(
          ((lon * Math.cos(w.angle) + lat * Math.sin(w.angle)) * 2 * Math.PI) / w.length + w.phase,
        ),
      0,
    ) / waves.length;
}
/**
 * Nutrients sink with depth, pH little (no-till and grass more: the stand-in does not know
 * tillage).
 */
const atDepth = (fromCm: number): number => (fromCm >= 30 ? 0.35 : fromCm >= 15 ? 0.6 : 1);

/**
 * The stand-in for a laboratory: takes the list that went with the bags and returns what a
 * laboratory would, with the error of cores and of
 * analysis, and after a turn-round. Labelled as simulated wherever it is shown.
 *
 * @param i.seed makes the laboratory's errors repeatable
 * @throws Refusal for an empty list
 */
export function simulateLaboratory(i: {
  samples: readonly ListedSample[];
  ground: (field: string) => TrueGround | null;
  receivedOn: IsoDate;
  seed: number;
}): LaboratoryReport {
  if (i.samples.length === 0)
    refuse('missing', 'samples', 'The list has no samples: there is nothing to analyse.', {
      allowed: 'one sample or more',
    });
  const next = randomStream(i.seed);
  const noisy = (value: number, property: string, cores: number): number => {
    const v = variabilityOf(property);
    const error = Math.hypot((INSIDE_A_SAMPLE * v.fieldDefault) / Math.sqrt(cores), v.labDefault);
    const sd = v.statistic === 'sd_ph_units' ? error : (value * error) / 100;
    return value + sd * normalFrom(next);
  };
  const rows = i.samples.map((s) => {
    const g = i.ground(s.field) ?? ORDINARY;
    const swing = (layer: string) => surface(s.field, layer)(s.lon, s.lat);
    const depth = atDepth(s.fromCm);
    const ph = g.ph + g.phSwing * swing('ph');
    const read = (value: number, property: string, digits: number) =>
      Math.max(0, noisy(value, property, s.cores)).toFixed(digits);
    const phRead = noisy(ph, 'ph_water', s.cores);
    const acid = Math.max(0, (6.9 - ph) * g.cec * 0.14);
    return [
      s.label,
      s.field,
      s.date,
      `${s.fromCm}-${s.toCm}`,
      phRead.toFixed(1),
      Math.min(7, 7 - acid / 12).toFixed(2),
      belowLimit(read(g.p * (1 + g.pSwing * swing('p')) * depth, 'p', 0), 3),
      read(g.k * (1 + g.kSwing * swing('k')) * depth, 'k', 0),
      read(g.mg * (1 + 0.2 * swing('mg')) * (depth === 1 ? 1 : 0.9), 'mg', 0),
      read(g.ca * (1 + 0.25 * swing('ph')), 'ca', 0),
      read(g.omPct * depth, 'om', 1),
      (g.cec * (0.9 + 0.1 * depth)).toFixed(0),
    ];
  });
  const peak = [2, 3, 4].includes(monthOf(i.receivedOn));
  const [least, most] = peak ? PEAK_DAYS : USUAL_DAYS;
  return {
    receivedOn: i.receivedOn,
    reportedOn: dateAfter(i.receivedOn, least + Math.floor(next() * (most - least + 1))),
    headers: HEADERS,
    rows,
  };
}
const belowLimit = (text: string, limit: number): string =>
  Number(text) < limit ? `<${limit}` : text;
