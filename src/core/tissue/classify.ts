import { normalBelow } from '../quantity/normal';
import { clip } from '../quantity/curve';
import { within } from '../quantity/range';
import type { SufficiencyRow } from '../book/leafStandards';
import { tissueNutrientOf } from '../book/tissueNutrients';
import { limitsOf, type LeafLimits } from './limits';

export type LeafClass =
  'deficient' | 'low' | 'marginal' | 'sufficient' | 'ample' | 'high' | 'toxic_risk';
export interface LeafReading {
  cls: LeafClass;
  /** One scale for all nutrients, -3 to 3; null inside a range that starts at 0. */
  score: number | null;
  dopPct: number | null;
}
const VALUE = { label: 'Leaf value', unit: '', min: 0, max: 1e6 };

/**
 * Class of a leaf value against its sufficiency range (chapter 5, F5.1 to F5.4). A value equal to
 * the deficiency limit is low, not
 * deficient; both ends of the range are sufficient.
 *
 * @param x value in the range's own unit
 * @example classifyLeaf(2.5, { d: 2.4, l: 2.7, sl: 2.7, sh: 4, hh: 4, t: null }) // { cls: 'low',
 * score: -1.667, dopPct: -25 }
 */
export function classifyLeaf(x: number, limits: LeafLimits): LeafReading {
  within('value', x, VALUE);
  const { l, sl, sh, hh, t } = limits;
  const cls: LeafClass =
    limits.d !== null && x < limits.d
      ? 'deficient'
      : x < l
        ? 'low'
        : x < sl
          ? 'marginal'
          : x <= sh
            ? 'sufficient'
            : t !== null && x > t
              ? 'toxic_risk'
              : x <= hh
                ? 'ample'
                : 'high';
  const d = limits.d ?? 0.75 * sl;
  const top = t ?? 2 * sh;
  const raw =
    x > sh
      ? x <= top
        ? 1 + (x - sh) / (top - sh)
        : 2 + (x - top) / top
      : sl === 0
        ? null
        : x >= sl
          ? -1 + (2 * (x - sl)) / (sh - sl)
          : x >= d
            ? -1 - (sl - x) / (sl - d)
            : -2 - (d - x) / d;
  return {
    cls,
    score: raw === null ? null : clip(raw, -3, 3),
    dopPct: sl === 0 ? null : 100 * (x / ((sl + sh) / 2) - 1),
  };
}

/**
 * How sure it is that the true mean lies below a limit, from laboratory and sampling variation
 * (F5.5).
 *
 * @param i.combinedCvPct coefficient of variation of laboratory and sampling together, %
 * @example classConfidence({ value: 2.5, limit: 2.7, combinedCvPct: 6, nSamples: 1 }).pBelowLimit
 * // 0.909
 */
export function classConfidence(i: {
  value: number;
  limit: number;
  combinedCvPct: number;
  nSamples?: number | null;
}): { z: number; pBelowLimit: number; wording: 'on the borderline' | 'probably' | 'clearly' } {
  const value = within('value', i.value, { ...VALUE, above: true });
  const u =
    (value *
      within('combined_cv_pct', i.combinedCvPct, {
        label: 'Variation',
        unit: '%',
        min: 0,
        max: 200,
        above: true,
      })) /
    100 /
    Math.sqrt(
      within('n_samples', i.nSamples ?? 1, { label: 'Samples', unit: '', min: 1, max: 1000 }),
    );
  const z = (i.limit - value) / u;
  const pBelowLimit = normalBelow(z, 0, 1);
  const p = Math.max(pBelowLimit, 1 - pBelowLimit);
  return {
    z,
    pBelowLimit,
    wording: p < 0.75 ? 'on the borderline' : p <= 0.95 ? 'probably' : 'clearly',
  };
}

const TIE_ORDER = ['N', 'P', 'K', 'S', 'Mg', 'Ca', 'B', 'Zn', 'Mn', 'Cu', 'Mo', 'Fe'];
const NAMED = 4;
const CO_LIMITING_WITHIN = 0.3;

/**
 * Nutrients in order of shortage (F5.6). Iron is left out unless symptoms agree, and so are
 * blocked nutrients.
 *
 * @param i.values nutrient -> value in the range's own unit
 * @example mostLimiting({ ranges, setId: 'maize_ear_leaf', values: { K: 1.2, P: 0.24 } }).order
 * // ['K', 'P']
 */
export function mostLimiting(i: {
  ranges: readonly SufficiencyRow[];
  setId: string;
  values: Record<string, number>;
  blocked?: readonly string[];
}) {
  const scored = Object.entries(i.values).flatMap(([nutrient, value]) => {
    tissueNutrientOf(nutrient);
    const row = i.ranges.find((r) => r.setId === i.setId && r.nutrient === nutrient);
    if (!row || nutrient === 'Fe' || i.blocked?.includes(nutrient)) return [];
    const reading = classifyLeaf(value, limitsOf(row));
    return reading.score === null ? [] : [{ nutrient, score: reading.score, cls: reading.cls }];
  });
  const place = (x: string) =>
    (TIE_ORDER.indexOf(x) + TIE_ORDER.length + 1) % (TIE_ORDER.length + 1);
  const fullOrder = scored.sort(
    (a, b) => a.score - b.score || place(a.nutrient) - place(b.nutrient),
  );
  const worst = fullOrder[0];
  return {
    order: fullOrder.slice(0, NAMED).map((s) => s.nutrient),
    fullOrder: fullOrder.map((s) => s.nutrient),
    scores: Object.fromEntries(fullOrder.map((s) => [s.nutrient, s.score])),
    classes: Object.fromEntries(fullOrder.map((s) => [s.nutrient, s.cls])),
    short: fullOrder.filter((s) => s.score < -1).map((s) => s.nutrient),
    coLimiting:
      worst && worst.score < -1
        ? fullOrder
            .filter((s) => s.score < -1 && s.score - worst.score <= CO_LIMITING_WITHIN)
            .map((s) => s.nutrient)
        : [],
  };
}
