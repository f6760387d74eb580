import { refuse } from '../quantity/refusal';
import { within } from '../quantity/range';
import type { SufficiencyRow } from '../book/leafStandards';
import type { Confidence } from '../why/step';
import { limitsOf, type LeafLimits } from './limits';

const BBCH = { label: 'Growth stage (BBCH)', unit: '', min: 0, max: 99 };
const GAP_CODES = 25;
const EDGE_CODES = 2;
/**
 * Nitrate and phosphate in petioles fall exponentially: interpolated on logarithms (chapter 5,
 * F6.1).
 */
const ON_LOGS = ['NO3_N', 'PO4_P'];

const oneStepLower = (a: Confidence, b: Confidence): Confidence =>
  a === 'high' && b === 'high' ? 'medium' : 'low';

/**
 * Limits between two windows of one standard (F6.1). Inside a window its own limits hold.
 *
 * @throws Refusal when the stage lies outside both windows
 * @example interpolateRange(early, late, 62).f // 0.5 half way between two stages
 */
export function interpolateRange(
  a: SufficiencyRow,
  b: SufficiencyRow,
  bbch: number,
): { limits: LeafLimits; f: number; confidence: Confidence } {
  within('bbch', bbch, BBCH);
  if (bbch < a.bbchFrom || bbch > b.bbchTo)
    refuse(
      'out_of_range',
      'bbch',
      `bbch outside the bracket: ${bbch} is not between ${a.bbchFrom} and ${b.bbchTo}.`,
      { value: bbch, allowed: `${a.bbchFrom} to ${b.bbchTo}` },
    );
  if (bbch <= a.bbchTo) return { limits: limitsOf(a), f: 0, confidence: a.confidence };
  if (bbch >= b.bbchFrom) return { limits: limitsOf(b), f: 1, confidence: b.confidence };
  const f = (bbch - a.bbchTo) / (b.bbchFrom - a.bbchTo);
  const [la, lb] = [limitsOf(a), limitsOf(b)];
  const logs = ON_LOGS.includes(a.nutrient);
  const mid = (x: number | null, y: number | null) =>
    x === null || y === null
      ? null
      : logs && x > 0 && y > 0
        ? Math.exp((1 - f) * Math.log(x) + f * Math.log(y))
        : (1 - f) * x + f * y;
  const sure = (x: number | null) => x ?? 0;
  return {
    f,
    confidence: oneStepLower(a.confidence, b.confidence),
    limits: {
      d: mid(la.d, lb.d),
      l: sure(mid(la.l, lb.l)),
      sl: sure(mid(la.sl, lb.sl)),
      sh: sure(mid(la.sh, lb.sh)),
      hh: sure(mid(la.hh, lb.hh)),
      t: mid(la.t, lb.t),
    },
  };
}

export interface FoundStandard {
  how: 'inside' | 'interpolated' | 'near_edge';
  setId: string;
  limits: LeafLimits;
  row: SufficiencyRow;
  confidence: Confidence;
}
export interface StandardQuery {
  crop: string;
  part: string;
  bbch: number;
  nutrient: string;
  system?: string | null;
}

/**
 * Parts and stage windows that a crop has standards for: the right choices offered when one is
 * refused.
 */
export function standardsFor(
  ranges: readonly SufficiencyRow[],
  crop: string,
): {
  setId: string;
  part: string;
  partLabel: string;
  stageLabel: string;
  bbchFrom: number;
  bbchTo: number;
  system: string | null;
  protocolId: string;
}[] {
  const seen = new Map<string, SufficiencyRow>();
  for (const r of ranges) if (r.crop === crop && !seen.has(r.setId)) seen.set(r.setId, r);
  return [...seen.values()].map(
    ({ setId, part, partLabel, stageLabel, bbchFrom, bbchTo, system, protocolId }) => ({
      setId,
      part,
      partLabel,
      stageLabel,
      bbchFrom,
      bbchTo,
      system,
      protocolId,
    }),
  );
}

/** Parts of plants that any range knows: for a crop that has none of its own. */
export const partsOfPlants = (
  ranges: readonly SufficiencyRow[],
): { part: string; partLabel: string }[] =>
  [...new Set(ranges.map((r) => r.part))]
    .toSorted()
    .map((part) => ({ part, partLabel: part.replaceAll('_', ' ') }));

/**
 * The standard for a crop, part and stage (F6.0): inside a window, between two of one group, or
 * within 2 codes of an edge. Otherwise it is
 * refused, naming the nearest window. Never another organ, never another crop.
 *
 * @throws Refusal for a part or stage without a standard, or a system that has to be chosen
 * @example findStandard(ranges, { crop: 'maize', part: 'ear_leaf', bbch: 69, nutrient: 'N' }).how
 * // 'near_edge'
 */
export function findStandard(ranges: readonly SufficiencyRow[], q: StandardQuery): FoundStandard {
  const bbch = within('bbch', q.bbch, BBCH);
  const all = ranges.filter(
    (r) => r.crop === q.crop && r.part === q.part && r.nutrient === q.nutrient,
  );
  if (all.length === 0)
    refuse('unknown_id', 'part', `no standard for ${q.crop} / ${q.part} / ${q.nutrient}.`, {
      value: q.part,
      allowed: [...new Set(standardsFor(ranges, q.crop).map((s) => s.part))].join(', '),
    });
  const systems = [...new Set(all.map((r) => r.system).filter((s) => s !== null))];
  if (systems.length > 0 && !(q.system && systems.includes(q.system)))
    refuse('missing', 'system', `system: choose ${systems.join(' or ')} for ${q.crop}.`, {
      allowed: systems.join(', '),
    });
  const rows = all
    .filter((r) => r.system === null || r.system === q.system)
    .sort((a, b) => a.bbchFrom - b.bbchFrom);
  const found = (
    how: FoundStandard['how'],
    row: SufficiencyRow,
    limits = limitsOf(row),
    confidence = row.confidence,
    setId = row.setId,
  ): FoundStandard => ({ how, row, limits, confidence, setId });
  const inside = rows
    .filter((r) => bbch >= r.bbchFrom && bbch <= r.bbchTo)
    .sort((a, b) => a.bbchTo - a.bbchFrom - (b.bbchTo - b.bbchFrom))[0];
  if (inside) return found('inside', inside);
  for (const [k, before] of rows.entries()) {
    const after = rows[k + 1];
    if (!after || bbch <= before.bbchTo || bbch >= after.bbchFrom) continue;
    if (
      before.interpGroup &&
      before.interpGroup === after.interpGroup &&
      after.bbchFrom - before.bbchTo <= GAP_CODES
    ) {
      const r = interpolateRange(before, after, bbch);
      return found(
        'interpolated',
        before,
        r.limits,
        r.confidence,
        `${before.setId}+${after.setId}`,
      );
    }
  }
  const distance = (r: SufficiencyRow) => Math.max(r.bbchFrom - bbch, bbch - r.bbchTo);
  const nearest = [...rows].sort(
    (a, b) => distance(a) - distance(b) || a.bbchFrom - b.bbchFrom,
  )[0] as SufficiencyRow;
  if (distance(nearest) <= EDGE_CODES) return found('near_edge', nearest);
  return refuse(
    'out_of_range',
    'bbch',
    `stage BBCH ${bbch} is outside every window of ${q.crop} / ${q.part}; nearest is ${nearest.setId} (${nearest.bbchFrom}-${nearest.bbchTo}).`,
    { value: bbch, allowed: rows.map((r) => `${r.bbchFrom}-${r.bbchTo}`).join(', '), rule: 'R01' },
  );
}
