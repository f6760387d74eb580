import { intersection, union } from 'polyclip-ts';
import polylabel from 'polylabel';
import { refuse } from '../quantity/refusal';
import { RANGES, within } from '../quantity/range';
import {
  checkOutline,
  piecesOf,
  planeOf,
  ringsOf,
  type FieldPlane,
  type Metre,
  type Outline,
} from './outline';
import type { Mark, SamplePoint, SamplingPlan } from './samplingPlan';

/**
 * A cell smaller than this share of a full one goes to its neighbour: nobody walks to a corner of
 * 10 m2.
 */
const SLIVER = 0.3;
const MAX_CELLS = 5000;
const SQUARE_M_PER_HA = 10_000;

type Ring = Metre[];
type Polygon = Ring[];
type MultiPolygon = Polygon[];

interface Cell {
  column: number;
  row: number;
  shape: MultiPolygon;
  areaM2: number;
  whole: boolean;
}

const ringArea = (r: Ring): number =>
  Math.abs(
    r.reduce((sum, p, i) => {
      const q = r[(i + 1) % r.length] as Metre;
      return sum + p[0] * q[1] - q[0] * p[1];
    }, 0),
  ) / 2;
const polygonArea = (p: Polygon): number =>
  p.reduce((sum, r, k) => sum + (k === 0 ? 1 : -1) * ringArea(r), 0);
const shapeArea = (m: MultiPolygon): number => m.reduce((sum, p) => sum + polygonArea(p), 0);

function inside(p: Metre, polygon: Polygon): boolean {
  let odd = false;
  for (const r of polygon)
    for (let i = 0, j = r.length - 1; i < r.length; j = i++) {
      const [xi, yi] = r[i] as Metre;
      const [xj, yj] = r[j] as Metre;
      if (yi > p[1] !== yj > p[1] && p[0] < ((xj - xi) * (p[1] - yi)) / (yj - yi) + xi) odd = !odd;
    }
  return odd;
}
const insideShape = (p: Metre, shape: MultiPolygon): boolean =>
  shape.some((polygon) => inside(p, polygon));

/** Distance from a point to the nearest edge of a polygon, m. */
function edgeDistance(p: Metre, polygon: Polygon): number {
  let best = Infinity;
  for (const r of polygon)
    for (let i = 0, j = r.length - 1; i < r.length; j = i++) {
      const [x1, y1] = r[j] as Metre;
      const [x2, y2] = r[i] as Metre;
      const [dx, dy] = [x2 - x1, y2 - y1];
      const t =
        dx === 0 && dy === 0
          ? 0
          : Math.max(0, Math.min(1, ((p[0] - x1) * dx + (p[1] - y1) * dy) / (dx * dx + dy * dy)));
      best = Math.min(best, Math.hypot(p[0] - x1 - t * dx, p[1] - y1 - t * dy));
    }
  return best;
}
const bounds = (r: Ring) => ({
  x0: Math.min(...r.map((p) => p[0])),
  y0: Math.min(...r.map((p) => p[1])),
  x1: Math.max(...r.map((p) => p[0])),
  y1: Math.max(...r.map((p) => p[1])),
});

/**
 * Square cells over a field; those that the edge cuts are clipped, and slivers go to a neighbour.
 */
function cellsOf(field: MultiPolygon, cellAreaHa: number): Cell[] {
  const side = 100 * Math.sqrt(cellAreaHa);
  const rings = field.flat();
  const b = bounds(rings.flat());
  const [columns, rows] = [
    Math.max(1, Math.ceil((b.x1 - b.x0) / side - 1e-6)),
    Math.max(1, Math.ceil((b.y1 - b.y0) / side - 1e-6)),
  ];
  if (columns * rows > 4 * MAX_CELLS)
    refuse(
      'out_of_range',
      'cell_area_ha',
      `Cell area (cell_area_ha) = ${cellAreaHa} ha would cut this field into some ${columns * rows} cells; at most ${MAX_CELLS} are laid. Take larger cells.`,
      { value: cellAreaHa, allowed: `at most ${MAX_CELLS} cells` },
    );
  // Centred on the field, so that the cut cells of opposite edges are alike.
  const [x0, y0] = [
    b.x0 - (columns * side - (b.x1 - b.x0)) / 2,
    b.y0 - (rows * side - (b.y1 - b.y0)) / 2,
  ];
  const edges = rings.flatMap((r) =>
    r.map((p, i) => {
      const q = r[(i + 1) % r.length] as Metre;
      return {
        x0: Math.min(p[0], q[0]),
        x1: Math.max(p[0], q[0]),
        y0: Math.min(p[1], q[1]),
        y1: Math.max(p[1], q[1]),
      };
    }),
  );
  const cells = new Map<string, Cell>();
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const [l, t] = [x0 + column * side, y0 + row * side];
      const square: Polygon = [
        [
          [l, t],
          [l + side, t],
          [l + side, t + side],
          [l, t + side],
          [l, t],
        ],
      ];
      const cut = edges.some((e) => e.x0 < l + side && e.x1 > l && e.y0 < t + side && e.y1 > t);
      if (!cut && !inside([l + side / 2, t + side / 2], rings)) continue;
      const shape = cut ? intersection(square, field) : [square];
      const areaM2 = cut ? shapeArea(shape) : side * side;
      if (areaM2 > 1) cells.set(`${column},${row}`, { column, row, shape, areaM2, whole: !cut });
    }
  const full = side * side;
  for (const small of [...cells.values()].filter((c) => c.areaM2 < SLIVER * full)) {
    const near = [
      [-1, 0],
      [1, 0],
      [0, -1],
      [0, 1],
    ]
      .flatMap(
        ([dx, dy]) =>
          cells.get(`${small.column + (dx as number)},${small.row + (dy as number)}`) ?? [],
      )
      .sort((p, q) => q.areaM2 - p.areaM2)[0];
    if (!near) continue;
    near.shape = union(near.shape, small.shape);
    near.areaM2 += small.areaM2;
    near.whole = false;
    cells.delete(`${small.column},${small.row}`);
  }
  if (cells.size > MAX_CELLS)
    refuse(
      'out_of_range',
      'cell_area_ha',
      `Cell area (cell_area_ha) = ${cellAreaHa} ha cuts this field into ${cells.size} cells; at most ${MAX_CELLS} are kept. Take larger cells.`,
      { value: cellAreaHa, allowed: `at most ${MAX_CELLS} cells` },
    );
  return [...cells.values()];
}

const inMetres = (outline: Outline, plane: FieldPlane): MultiPolygon =>
  piecesOf(outline).map((rings) => rings.map((r) => r.map(plane.toMetres)));

interface Avoid {
  marks: readonly { at: Metre; radiusM: number }[];
  headlandM: number;
  /** All edges of the field. */
  rings: Ring[];
}
/** The cores of a point lie within some metres of it: they too must keep clear of a mark. */
const AROUND_M = 5;
const clear = (p: Metre, a: Avoid): boolean =>
  a.marks.every((m) => Math.hypot(p[0] - m.at[0], p[1] - m.at[1]) > m.radiusM + AROUND_M) &&
  (a.headlandM === 0 || edgeDistance(p, a.rings) >= a.headlandM);

/**
 * The place to sample a piece of ground: its middle, or the spot nearest to it that keeps clear of
 * marks and headland.
 */
function standIn(shape: MultiPolygon, a: Avoid, middle: Metre | null): { at: Metre; note: string } {
  const largest = shape.reduce((p, q) => (polygonArea(q) > polygonArea(p) ? q : p));
  const centre =
    middle ??
    (() => {
      const found = polylabel(largest, 1);
      return [found[0] as number, found[1] as number] as Metre;
    })();
  if (clear(centre, a)) return { at: centre, note: '' };
  const b = bounds(largest[0] as Ring);
  const candidates: Metre[] = [];
  for (let i = 1; i < 12; i++)
    for (let j = 1; j < 12; j++)
      candidates.push([b.x0 + ((b.x1 - b.x0) * i) / 12, b.y0 + ((b.y1 - b.y0) * j) / 12]);
  const free = candidates
    .filter((p) => insideShape(p, shape) && clear(p, a))
    .sort(
      (p, q) =>
        Math.hypot(p[0] - centre[0], p[1] - centre[1]) -
        Math.hypot(q[0] - centre[0], q[1] - centre[1]),
    )[0];
  return free
    ? { at: free, note: 'moved clear of a mark or the headland' }
    : { at: centre, note: 'no spot clear of marks and headland: look before you sample' };
}

/** Boustrophedon: along one row, back along the next, so that no step is longer than it must be. */
const inWalkingOrder = <T extends { column: number; row: number }>(cells: T[]): T[] =>
  [...cells].sort(
    (p, q) => p.row - q.row || (p.row % 2 === 0 ? p.column - q.column : q.column - p.column),
  );

const numbered = (prefix: string, k: number, of: number): string =>
  `${prefix}${String(k + 1).padStart(Math.max(2, String(of).length), '0')}`;
const toRings = (shape: MultiPolygon, plane: FieldPlane) =>
  shape.map((polygon) =>
    polygon.map((r) =>
      (r[0]?.[0] === r[r.length - 1]?.[0] && r[0]?.[1] === r[r.length - 1]?.[1]
        ? r
        : [...r, r[0] as Metre]
      ).map((p) => plane.toDegrees(p).map((x) => Number(x.toFixed(7))) as [number, number]),
    ),
  );

/**
 * Lays the samples of a plan on a field: one composite, a grid, zones, or a fixed spot; labelled,
 * in walking order, clear of what must not be
 * mixed in. Spots that somebody wants to understand (problem and good pairs) are kept as they are.
 *
 * @throws Refusal for a bad outline, too many cells, a zone outside the field, or labels that
 * stand twice
 */
export function layOutSamples(outline: Outline, plan: SamplingPlan): SamplePoint[] {
  const checked = checkOutline(outline);
  const plane = planeOf(checked);
  const field = inMetres(checked, plane);
  const avoid: Avoid = {
    rings: field.flat(),
    headlandM: plan.headlandM,
    marks: plan.marks.map((m) => ({ at: plane.toMetres(m.at), radiusM: m.radiusM })),
  };
  const point = (
    label: string,
    kind: SamplePoint['kind'],
    shape: MultiPolygon,
    middle: Metre | null,
    extra = '',
  ): SamplePoint => {
    const spot = standIn(shape, avoid, middle);
    return {
      label,
      kind,
      at: plane.toDegrees(spot.at).map((x) => Number(x.toFixed(7))) as [number, number],
      areaHa: shapeArea(shape) / SQUARE_M_PER_HA,
      shape: toRings(shape, plane),
      note: [extra, spot.note].filter(Boolean).join('; '),
    };
  };
  const kept = plan.points.filter((p) => p.kind === 'problem' || p.kind === 'good');
  const laid = (): SamplePoint[] => {
    switch (plan.scheme) {
      case 'whole_field':
        return [point(numbered(plan.prefix, 0, 1), 'whole', field, null)];
      case 'benchmark': {
        const spot = point(
          numbered(plan.prefix, 0, 1),
          'benchmark',
          field,
          null,
          'within 20 m of the point, every time',
        );
        return [{ ...spot, areaHa: 0.15, shape: [] }];
      }
      case 'zone': {
        if (plan.zones.length === 0)
          refuse('missing', 'zones', 'Zones: draw one or more, or choose another scheme.', {
            allowed: 'one zone or more',
          });
        return plan.zones.map((zone, k) => {
          const shape = intersection([zone.ring.map(plane.toMetres)], field);
          if (shape.length === 0 || shapeArea(shape) < 10)
            refuse('inconsistent', 'zones', `Zone ${zone.name} lies outside the field.`, {
              value: zone.name,
              allowed: 'a zone that overlaps the field',
            });
          return point(numbered(plan.prefix, k, plan.zones.length), 'zone', shape, null, zone.name);
        });
      }
      case 'grid': {
        const cellAreaHa = within('cell_area_ha', plan.cellAreaHa, {
          min: 0.05,
          max: 100,
          unit: 'ha',
          label: 'Cell area',
        });
        const cells = inWalkingOrder(cellsOf(field, cellAreaHa));
        const middleOf = (c: Cell): Metre | null => {
          if (!c.whole) return null;
          const r = c.shape[0]?.[0] as Ring;
          return [
            ((r[0] as Metre)[0] + (r[2] as Metre)[0]) / 2,
            ((r[0] as Metre)[1] + (r[2] as Metre)[1]) / 2,
          ];
        };
        return cells.map((c, k) =>
          point(numbered(plan.prefix, k, cells.length), 'cell', c.shape, middleOf(c)),
        );
      }
    }
  };
  const points = [...laid(), ...kept];
  checkPoints(checked, points);
  return points;
}

/** @throws Refusal for a label that stands twice, or a point outside the field */
export function checkPoints(outline: Outline, points: readonly SamplePoint[]): void {
  const plane = planeOf(outline);
  const rings = ringsOf(outline).map((r) => r.map(plane.toMetres));
  const seen = new Set<string>();
  for (const p of points) {
    const key = p.label.toLowerCase();
    if (seen.has(key))
      refuse(
        'inconsistent',
        'label',
        `The label ${p.label} stands twice: every sample needs its own.`,
        { value: p.label, allowed: 'labels that differ' },
      );
    seen.add(key);
    if (!inside(plane.toMetres(p.at), rings))
      refuse(
        'inconsistent',
        'points',
        `Point ${p.label} at ${p.at[0]}, ${p.at[1]} lies outside the field.`,
        { value: p.at, allowed: 'inside the outline' },
      );
  }
}

/** Metres to walk from point to point in the order of the plan. */
export function walkLengthM(points: readonly Pick<SamplePoint, 'at'>[], outline: Outline): number {
  const plane = planeOf(outline);
  const at = points.map((p) => plane.toMetres(p.at));
  return at
    .slice(1)
    .reduce(
      (sum, p, i) => sum + Math.hypot(p[0] - (at[i] as Metre)[0], p[1] - (at[i] as Metre)[1]),
      0,
    );
}

/**
 * Where to push the probe for one composite of a whole piece: a zigzag that keeps clear of marks
 * and headland (chapter 3, 2.1).
 *
 * @param nCores cores of the composite, 1 to 100
 */
export function zigzagCores(
  outline: Outline,
  marks: readonly Mark[],
  headlandM: number,
  nCores: number,
): [number, number][] {
  within('n_cores', nCores, RANGES.nCores);
  const plane = planeOf(outline);
  const rings = ringsOf(outline).map((r) => r.map(plane.toMetres));
  const avoid: Avoid = {
    rings,
    headlandM,
    marks: marks.map((m) => ({ at: plane.toMetres(m.at), radiusM: m.radiusM })),
  };
  const b = bounds(rings.flat());
  const legs = 4;
  const path: Metre[] = [];
  for (let k = 0; k <= 400; k++) {
    const t = (k / 400) * legs;
    const fold = t % 2;
    const p: Metre = [
      b.x0 + ((b.x1 - b.x0) * k) / 400,
      b.y0 + (b.y1 - b.y0) * (fold <= 1 ? fold : 2 - fold),
    ];
    if (inside(p, rings) && clear(p, avoid)) path.push(p);
  }
  if (path.length < nCores) return [];
  return Array.from({ length: nCores }, (_, k) =>
    plane.toDegrees(path[Math.floor(((k + 0.5) * path.length) / nCores)] as Metre),
  );
}
