import { ratioOf, ratios, type RatioRow } from '../book/leafRatios';
import { tissueNutrientOf } from '../book/tissueNutrients';
import { refuse } from '../quantity/refusal';

// Ratios of nutrients: a second look beside the classes, never a reason to fertilise (chapter 5,
// section 8).

/** One side of a ratio: a constant and elements with their weights. */
interface Side {
  constant: number;
  elements: { element: string; weight: number }[];
}
const TERM = /^(?:(\d+(?:\.\d+)?)\*)?([A-Z][a-z]?)$/u;
const sideOf = (text: string): Side =>
  text
    .replaceAll(/[()]/gu, '')
    .split('+')
    .reduce<Side>(
      (side, part) => {
        const term = TERM.exec(part);
        return term
          ? {
              ...side,
              elements: [
                ...side.elements,
                { element: term[2] ?? '', weight: Number(term[1] ?? 1) },
              ],
            }
          : { ...side, constant: side.constant + Number(part) };
      },
      { constant: 0, elements: [] },
    );
/** Numerator and denominator of a row's formula. */
const sidesOf = (r: RatioRow): [Side, Side] => {
  const at = r.formula.search(/\/(?![^(]*\))/u);
  return [sideOf(r.formula.slice(0, at)), sideOf(r.formula.slice(at + 1))];
};
/** Nutrients that a ratio needs. */
export const elementsOf = (r: RatioRow): string[] =>
  sidesOf(r).flatMap((s) => s.elements.map((e) => e.element));

/** mmol of charge in a per cent of an element, per kg. */
const CHARGE: Readonly<Record<string, number>> = { K: 39.098, Ca: 20.039, Mg: 12.1525 };
/** A figure of % or mg/kg in the unit in which a ratio is taken. */
function inUnitOf(r: RatioRow, element: string, value: number): number {
  if (r.units.startsWith('meq')) return (value * 10_000) / (CHARGE[element] ?? NaN);
  const percent = tissueNutrientOf(element).coreUnit === '%';
  return r.units.startsWith('mg/kg') && percent ? value * 10_000 : value;
}
const valueOf = (r: RatioRow, side: Side, values: Readonly<Record<string, number>>): number =>
  side.constant +
  side.elements.reduce(
    (s, { element, weight }) => s + weight * inUnitOf(r, element, values[element] ?? NaN),
    0,
  );

export type RatioLevel =
  'ok' | 'info_low' | 'info_high' | 'borderline_low' | 'borderline_high' | 'caution';
export interface LeafRatio {
  ratio: number;
  /** One standard deviation of its logarithm. */
  sdLn: number;
  level: RatioLevel;
  /** What the side on which it lies means; null inside the good span. */
  means: string | null;
}

/**
 * A ratio against its good span and its alerts (F8.1): an alert only where it lies outside by more
 * than its own uncertainty.
 *
 * @param i.values in % for N P K S Ca Mg Cl Na, mg/kg for the rest; of fruit and sap in the row's unit
 * @param i.cvPct variation of each nutrient of the formula, %; left out: that of laboratory and sampling
 * @throws Refusal for an unknown ratio, a nutrient that is missing or not above 0
 * @example leafRatio({ ratioId: 'R_NS_CEREAL', values: { N: 4.2, S: 0.18 } }).level // 'caution'
 */
export function leafRatio(i: {
  ratioId: string;
  values: Readonly<Record<string, number | null | undefined>>;
  cvPct?: readonly number[] | null;
}): LeafRatio {
  const r =
    ratioOf(i.ratioId) ??
    refuse(
      'unknown_id',
      'ratio_id',
      `ratio_id = ${i.ratioId} is not known: use one of ${ratios()
        .map((x) => x.ratioId)
        .join(', ')}.`,
      {
        value: i.ratioId,
      },
    );
  const known: Record<string, number> = {};
  for (const element of elementsOf(r)) {
    const value = i.values[element];
    if (value === null || value === undefined)
      return refuse(
        'missing',
        element.toLowerCase(),
        `${element} is missing: the ratio ${r.formula} needs it.`,
      );
    if (!(Number.isFinite(value) && value > 0))
      return refuse(
        'out_of_range',
        element.toLowerCase(),
        `${element} = ${value} must be above 0.`,
        {
          value,
          allowed: 'above 0',
        },
      );
    known[element] = value;
  }
  const [top, bottom] = sidesOf(r);
  const ratio = valueOf(r, top, known) / valueOf(r, bottom, known);
  const cv = elementsOf(r).map((e, k) => i.cvPct?.[k] ?? tissueNutrientOf(e).combinedCvPct);
  const sdLn = Math.sqrt(cv.reduce((s, c) => s + (c / 100) ** 2, 0));
  return { ratio, sdLn, ...levelOf(r, ratio, sdLn) };
}

function levelOf(r: RatioRow, ratio: number, sdLn: number): Pick<LeafRatio, 'level' | 'means'> {
  const { alertBelow, alertAbove, goodLow, goodHigh } = r;
  if (alertAbove !== null && ratio > alertAbove)
    return {
      level: Math.log(ratio / alertAbove) > sdLn ? 'caution' : 'borderline_high',
      means: r.meaningHigh,
    };
  if (alertBelow !== null && ratio < alertBelow)
    return {
      level: Math.log(alertBelow / ratio) > sdLn ? 'caution' : 'borderline_low',
      means: r.meaningLow,
    };
  if (goodHigh !== null && ratio > goodHigh) return { level: 'info_high', means: r.meaningHigh };
  if (goodLow !== null && ratio < goodLow) return { level: 'info_low', means: r.meaningLow };
  return { level: 'ok', means: null };
}

/** Whether a ratio is for a crop of the leaf ranges. */
export const ratioServes = (r: RatioRow, crop: string, annual: boolean): boolean => {
  const named = (r.forCrops ?? r.appliesTo).split(',').map((x) => x.trim());
  return named.includes(crop) || (annual && named.includes('annual'));
};
