import type { SeasonGlance } from '@/core/views/glance';

/** Earth browns for strata, slate blue for water. */
export const STRATUM_FILL: Record<string, string> = {
  nitrate: 'var(--nitrate)',
  organic_matter: 'var(--organic-matter)',
  legume: 'var(--legume)',
  air: 'var(--air)',
  dose: 'var(--dose)',
  manure: 'var(--manure)',
  water: 'var(--water-fill)',
  fertiliser: 'var(--fertiliser)',
};

export interface FurrowBox {
  width: number;
  left: number;
  right: number;
  up: number;
  down: number;
}
export interface FurrowGeometry {
  x: (day: number) => number;
  /** Height above or depth below the line for an amount of N, kg/ha. */
  k: number;
  demandPath: string;
  mirrorPath: string;
  strata: {
    id: string;
    label: string;
    kind: string;
    path: string;
    midY: number;
    thickness: number;
    total: number;
  }[];
  shortPath: string;
}

/**
 * Lays the section out in pixels: one scale for demand above and supply below, so that they can be
 * compared by eye.
 *
 * @param reaches how deep what is drawn over it goes, kg/ha
 */
export function layOut(section: SeasonGlance, box: FurrowBox, reaches = 0): FurrowGeometry {
  const { days, strata, demand, wanted, supply, calendar } = section;
  const inner = box.width - box.left - box.right;
  const x = (day: number) => box.left + (day / calendar.days) * inner;
  const most = Math.max(1, section.demandTotal);
  const deepest = Math.max(1, ...supply, section.demandTotal, reaches);
  const k = Math.min(box.up / most, box.down / deepest);
  const at = (i: number) => x(days[i] ?? 0).toFixed(1);
  const line = (values: readonly number[], sign: 1 | -1, reverse = false) => {
    const points = values.map((v, i) => `${at(i)} ${(sign * v * k).toFixed(1)}`);
    return (reverse ? points.reverse() : points).join('L');
  };
  const zero = days.map(() => 0);
  let upper: number[] = zero;
  const bands = strata.map((s) => {
    const lower = upper.map((u, i) => u + (s.given[i] ?? 0));
    const last = lower.length - 1;
    const band = {
      id: s.id,
      label: s.label,
      kind: s.kind,
      total: s.total,
      path: `M${line(upper, 1)}L${line(lower, 1, true)}Z`,
      midY: (((upper[last] ?? 0) + (lower[last] ?? 0)) / 2) * k,
      thickness: ((lower[last] ?? 0) - (upper[last] ?? 0)) * k,
    };
    upper = lower;
    return band;
  });
  // What is left out on purpose is no shortage.
  const gapTop = supply.map((s, i) => Math.min(s, wanted[i] ?? 0));
  return {
    x,
    k,
    demandPath: `M${line(demand, -1)}L${line(zero, 1, true)}Z`,
    mirrorPath: `M${line(demand, 1)}`,
    strata: bands,
    shortPath: `M${line(gapTop, 1)}L${line(
      wanted.map((d, i) => Math.max(d, gapTop[i] ?? 0)),
      1,
      true,
    )}Z`,
  };
}

/** Room between two labels of the column beside the picture, px. */
export const LABEL_STEP = 13;
/**
 * Where the names of the strata stand beside the picture: each at its stratum where there is room,
 * none over another; what would run out at the bottom moves up.
 *
 * @param bottom lowest place, px below the soil line
 */
export function beside(
  strata: FurrowGeometry['strata'],
  bottom: number,
): { id: string; y: number }[] {
  const placed: { id: string; y: number }[] = [];
  for (const s of strata) {
    const last = placed[placed.length - 1];
    placed.push({ id: s.id, y: Math.max(s.midY + 4, last ? last.y + LABEL_STEP : 8) });
  }
  let limit = bottom;
  for (const p of placed.toReversed()) {
    p.y = Math.min(p.y, limit);
    limit = p.y - LABEL_STEP;
  }
  return placed;
}
