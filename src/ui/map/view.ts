import type { Metre } from '@/core/ground/outline';

/** What part of the ground is on the canvas: metres at its middle, and pixels for one metre. */
export interface MapView {
  x: number;
  y: number;
  scale: number;
}
export interface Bounds {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}
export interface MapCell {
  label: string;
  rings: Metre[][];
  /** Name of a colour of the palette, or none. */
  fill?: string;
}
export interface MapPoint {
  label: string;
  at: Metre;
  kind: 'sample' | 'problem' | 'good' | 'core' | 'corner' | 'draft';
  /** Second line, under the point: its reading. */
  text?: string;
}
export interface MapMark {
  id: string;
  at: Metre;
  radiusM: number;
  word: string;
}
export interface MapModel {
  outline: Metre[][];
  cells: readonly MapCell[];
  points: readonly MapPoint[];
  marks: readonly MapMark[];
  /** Lines from point to point, in walking order. */
  walk: readonly Metre[];
  /** A polygon being drawn. */
  draft: readonly Metre[];
}

export function boundsOf(model: MapModel): Bounds {
  const all = [...model.outline.flat(), ...model.draft, ...model.points.map((p) => p.at)];
  if (all.length === 0) return { x0: -150, y0: -100, x1: 150, y1: 100 };
  const xs = all.map((p) => p[0]);
  const ys = all.map((p) => p[1]);
  return { x0: Math.min(...xs), y0: Math.min(...ys), x1: Math.max(...xs), y1: Math.max(...ys) };
}

/** The view that shows all of the ground, with some room around it. */
export function fitted(b: Bounds, width: number, height: number): MapView {
  const [w, h] = [Math.max(20, b.x1 - b.x0), Math.max(20, b.y1 - b.y0)];
  return {
    x: (b.x0 + b.x1) / 2,
    y: (b.y0 + b.y1) / 2,
    scale: 0.88 * Math.min(width / w, height / h),
  };
}
export const toScreen = (p: Metre, v: MapView, width: number, height: number): Metre => [
  width / 2 + (p[0] - v.x) * v.scale,
  height / 2 - (p[1] - v.y) * v.scale,
];
export const toGround = (
  sx: number,
  sy: number,
  v: MapView,
  width: number,
  height: number,
): Metre => [v.x + (sx - width / 2) / v.scale, v.y - (sy - height / 2) / v.scale];

/** A round length for the scale bar, m. */
export function scaleBarM(scale: number): number {
  const wanted = 110 / scale;
  const power = 10 ** Math.floor(Math.log10(wanted));
  return [1, 2, 5, 10]
    .map((k) => k * power)
    .reduce((best, m) => (Math.abs(m - wanted) < Math.abs(best - wanted) ? m : best));
}
