import booleanPointInPolygon from '@turf/boolean-point-in-polygon';
import kinks from '@turf/kinks';
import geodesic from 'geographiclib-geodesic';
import proj4 from 'proj4';
import { refuse } from '../quantity/refusal';

/** A position in degrees, longitude first, as in GeoJSON. */
export type Position = [lon: number, lat: number];
/** Outer ring, then holes; each ring closed. */
type Rings = number[][][];
/**
 * The ground of a field in degrees on WGS 84: one piece, or several that are farmed as one.
 */
export type Outline =
  { type: 'Polygon'; coordinates: Rings } | { type: 'MultiPolygon'; coordinates: Rings[] };
/** The pieces of a field, each with its holes. */
export const piecesOf = (o: Outline): Rings[] =>
  o.type === 'Polygon' ? [o.coordinates] : o.coordinates;
/** All rings of a field, of whichever piece. */
export const ringsOf = (o: Outline): number[][][] => piecesOf(o).flat();
const MAX_PIECES = 50;
/** A position in metres on the plane of a field. */
export type Metre = [x: number, y: number];
/**
 * A plane that touches the ground at the field: metres in, degrees out and back. Areas on it are
 * true to 1 in 10 000 for any field.
 */
export interface FieldPlane {
  toMetres: (p: readonly number[]) => Metre;
  toDegrees: (p: readonly number[]) => Position;
}

const MAX_VERTICES = 5000;
const SMALLEST_HA = 0.001;

const ringName = (k: number) => (k === 0 ? 'outline' : `hole ${k}`);

interface LooseOutline {
  type?: string;
  coordinates: unknown;
}
/**
 * Checks an outline and returns it closed, with its outer rings counter-clockwise as GeoJSON asks.
 *
 * @throws Refusal for an empty or open-ended outline, fewer than three corners, positions that are
 *   no degrees, edges that cross, pieces that lie on each other, or no area
 */
export function checkOutline(outline: LooseOutline): Outline {
  const pieces =
    outline.type === 'MultiPolygon'
      ? (outline.coordinates as Rings[])
      : [outline.coordinates as Rings];
  if (pieces.length === 0) checkPiece({ coordinates: [] });
  if (pieces.length > MAX_PIECES)
    refuse(
      'out_of_range',
      'outline',
      `The outline has ${pieces.length} pieces; at most ${MAX_PIECES} are kept.`,
      { value: pieces.length, allowed: `up to ${MAX_PIECES}` },
    );
  const checked = pieces.map((coordinates) => checkPiece({ coordinates }));
  checked.forEach((piece, i) => {
    const corner = piece[0]?.[0] as number[];
    if (
      checked.some(
        (other, k) =>
          k !== i && booleanPointInPolygon(corner, { type: 'Polygon', coordinates: other }),
      )
    )
      refuse('inconsistent', 'outline', `Piece ${i + 1} lies on another piece of the field.`, {
        value: corner,
        allowed: 'pieces beside each other',
      });
  });
  const [first] = checked as [Rings, ...Rings[]];
  const whole: Outline =
    checked.length === 1
      ? { type: 'Polygon', coordinates: first }
      : { type: 'MultiPolygon', coordinates: checked };
  const areaHa = outlineAreaHa(whole);
  if (areaHa > 5000)
    refuse(
      'out_of_range',
      'outline',
      `The outline encloses ${areaHa.toFixed(0)} ha: at most 5000 ha.`,
      { value: areaHa, allowed: 'up to 5000 ha' },
    );
  return whole;
}

/** One piece of it. */
function checkPiece(outline: { coordinates: readonly (readonly (readonly number[])[])[] }): Rings {
  if (outline.coordinates.length === 0 || (outline.coordinates[0]?.length ?? 0) === 0)
    refuse('missing', 'outline', 'The outline is empty: draw at least three corners.', {
      allowed: 'three corners or more',
    });
  const rings = outline.coordinates.map((ring, k) => {
    if (ring.length > MAX_VERTICES)
      refuse(
        'out_of_range',
        'outline',
        `The ${ringName(k)} has ${ring.length} corners; at most ${MAX_VERTICES} are kept. Simplify it.`,
        { value: ring.length, allowed: `up to ${MAX_VERTICES}` },
      );
    const bad = ring.find(
      (p) =>
        p.length < 2 ||
        !Number.isFinite(p[0]) ||
        !Number.isFinite(p[1]) ||
        Math.abs(p[0] as number) > 180 ||
        Math.abs(p[1] as number) > 90,
    );
    if (bad)
      refuse(
        'out_of_range',
        'outline',
        `${bad.slice(0, 2).join(', ')} is no position in degrees (longitude -180 to 180, latitude -90 to 90): choose the projection of the file.`,
        { value: bad, allowed: 'degrees on WGS 84' },
      );
    const open = ring.map((p) => [p[0] as number, p[1] as number]);
    const [first, last] = [open[0] as number[], open[open.length - 1] as number[]];
    if (open.length > 1 && first[0] === last[0] && first[1] === last[1]) open.pop();
    const corners = open.filter((p, i) => {
      const before = open[(i + open.length - 1) % open.length] as number[];
      return p[0] !== before[0] || p[1] !== before[1];
    });
    if (corners.length < 3)
      refuse(
        'inconsistent',
        'outline',
        `The ${ringName(k)} has ${corners.length} corners: an area needs three or more.`,
        { value: corners.length, allowed: 'three corners or more' },
      );
    return [...corners, corners[0] as number[]];
  });
  const closed = {
    type: 'Polygon' as const,
    coordinates: rings.map((r, k) => (signedArea(r) > 0 === (k === 0) ? r : [...r].reverse())),
  };
  const crossing = kinks(closed).features[0];
  if (crossing) {
    const [lon, lat] = crossing.geometry.coordinates as [number, number];
    refuse(
      'inconsistent',
      'outline',
      `The outline crosses itself near ${lon.toFixed(5)}, ${lat.toFixed(5)}: move a corner so that no two edges cross.`,
      { value: [lon, lat], allowed: 'edges that do not cross' },
    );
  }
  // No two edges cross, so one corner tells where a whole ring lies.
  const [outer, ...holes] = closed.coordinates as [number[][], ...number[][][]];
  holes.forEach((hole, k) => {
    const corner = hole[0] as number[];
    const inside = (ring: number[][]) =>
      booleanPointInPolygon(corner, { type: 'Polygon', coordinates: [ring] });
    if (!inside(outer) || holes.some((other, i) => i !== k && inside(other)))
      refuse(
        'inconsistent',
        'outline',
        `The ${ringName(k + 1)} does not lie inside the outline, clear of the other holes.`,
        { value: corner, allowed: 'holes inside the outline' },
      );
  });
  const areaHa = outlineAreaHa(closed);
  if (areaHa < SMALLEST_HA)
    refuse(
      'out_of_range',
      'outline',
      `The outline encloses ${(areaHa * 10_000).toFixed(1)} m2: a field has 10 m2 or more.`,
      { value: areaHa, allowed: '0.001 ha or more' },
    );
  return closed.coordinates;
}

/** Twice the area in square degrees, positive counter-clockwise. */
const signedArea = (ring: readonly (readonly number[])[]): number =>
  ring.slice(1).reduce((sum, p, i) => {
    const q = ring[i] as readonly number[];
    return sum + (q[0] as number) * (p[1] as number) - (p[0] as number) * (q[1] as number);
  }, 0);

function ringAreaM2(ring: readonly (readonly number[])[]): number {
  const polygon = geodesic.Geodesic.WGS84.Polygon(false);
  for (const [lon, lat] of ring.slice(1)) polygon.AddPoint(lat as number, lon as number);
  return Math.abs(polygon.Compute(false, true).area ?? 0);
}

/**
 * Area on the WGS 84 ellipsoid, ha (Karney 2013, J Geodesy 87:43-55).
 *
 * @example outlineAreaHa({ type: 'Polygon', coordinates: [[[0, 52], [0.01, 52], [0.01, 52.01],
 * [0, 52.01], [0, 52]]] }) // 76.4 ha
 */
export const outlineAreaHa = (o: Outline): number =>
  piecesOf(o)
    .flatMap((rings) => rings.map((ring, k) => (k === 0 ? 1 : -1) * ringAreaM2(ring)))
    .reduce((sum, m2) => sum + m2, 0) / 10_000;

/**
 * The metric plane of a field: Lambert azimuthal equal-area about a corner of it, so that areas
 * stay true.
 */
export function fieldPlane(origin: readonly number[]): FieldPlane {
  const to = proj4(
    'WGS84',
    `+proj=laea +lat_0=${origin[1]} +lon_0=${origin[0]} +x_0=0 +y_0=0 +datum=WGS84 +units=m +no_defs`,
  );
  return {
    toMetres: (p) => to.forward([p[0] as number, p[1] as number]) as Metre,
    toDegrees: (p) => to.inverse([p[0] as number, p[1] as number]) as Position,
  };
}
export const planeOf = (o: Outline): FieldPlane => fieldPlane(ringsOf(o)[0]?.[0] ?? [0, 0]);

export interface Crs {
  key: string;
  name: string;
  definition: string;
}
/**
 * Projections that farm software and surveyors write. A UTM zone is named with it, as in utm:32n.
 */
export const COMMON_CRS: readonly Crs[] = [
  {
    key: 'wgs84',
    name: 'degrees, WGS 84 (EPSG:4326)',
    definition: '+proj=longlat +datum=WGS84 +no_defs',
  },
  {
    key: 'web_mercator',
    name: 'web Mercator, metres (EPSG:3857)',
    definition:
      '+proj=merc +a=6378137 +b=6378137 +lat_ts=0 +lon_0=0 +x_0=0 +y_0=0 +k=1 +units=m +nadgrids=@null +no_defs',
  },
  {
    key: 'laea_europe',
    name: 'equal-area grid of Europe, metres (EPSG:3035)',
    definition:
      '+proj=laea +lat_0=52 +lon_0=10 +x_0=4321000 +y_0=3210000 +ellps=GRS80 +units=m +no_defs',
  },
];
const utm = (zone: number, south: boolean): string =>
  `+proj=utm +zone=${zone}${south ? ' +south' : ''} +datum=WGS84 +units=m +no_defs`;

/** A projection as a Shapefile carries it. */
const WKT = /^(PROJCS|GEOGCS|PROJCRS|GEOGCRS|BOUNDCRS|COMPD_CS)\[/u;
/** The code that a text such as `EPSG:27700` or `urn:ogc:def:crs:EPSG::2193` names, or null. */
export function epsgCode(text: string): number | null {
  const found = /(?:^|epsg[:/]*(?:[\d.]*[:/])?)(\d{4,6})$/iu.exec(text.trim());
  return found ? Number(found[1]) : null;
}
/**
 * Definition of a projection by our key, an EPSG code (4326, 3857, 3035, UTM zones 326xx, 327xx and
 * 258xx) or a PROJ string.
 */
export function crsDefinition(text: string): string {
  const t = text.trim();
  const known = COMMON_CRS.find((c) => c.key === t);
  if (known) return known.definition;
  const zoned = /^utm:(\d{1,2})([ns])$/i.exec(t);
  if (zoned && Number(zoned[1]) >= 1 && Number(zoned[1]) <= 60)
    return utm(Number(zoned[1]), zoned[2]?.toLowerCase() === 's');
  if (/crs84$/i.test(t)) return (COMMON_CRS[0] as Crs).definition;
  const n = epsgCode(t) ?? NaN;
  if (n === 4326) return (COMMON_CRS[0] as Crs).definition;
  if (n === 3857) return (COMMON_CRS[1] as Crs).definition;
  if (n === 3035) return (COMMON_CRS[2] as Crs).definition;
  if ((n > 32600 && n <= 32660) || (n > 25800 && n <= 25860)) return utm(n % 100, false);
  if (n > 32700 && n <= 32760) return utm(n % 100, true);
  if (t.startsWith('+proj=') || WKT.test(t)) return t;
  return refuse(
    'unknown_id',
    'crs',
    `Projection ${text} is not known here: choose one of ${COMMON_CRS.map((c) => c.name).join('; ')}; a UTM zone such as utm:32n; an EPSG code of a national grid; or give its PROJ definition.`,
    { value: text },
  );
}

/**
 * Turns coordinates of a projection into degrees on WGS 84. @throws Refusal for a definition that
 * cannot be read
 */
export function toWgs84(crs: string): (p: readonly number[]) => Position {
  const definition = crsDefinition(crs);
  // Degrees stay as they are, to the last digit: what the app writes it reads back equal.
  if (definition === (COMMON_CRS[0] as Crs).definition)
    return (p) => [p[0] as number, p[1] as number];
  try {
    const convert = proj4(definition, 'WGS84');
    return (p) => convert.forward([p[0] as number, p[1] as number]) as Position;
  } catch (e) {
    return refuse(
      'inconsistent',
      'crs',
      `The projection ${crs} could not be read: ${e instanceof Error ? e.message : String(e)}.`,
      { value: crs },
    );
  }
}
