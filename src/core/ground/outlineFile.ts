import { check } from '@placemarkio/check-geojson';
import { unzipSync, type Unzipped } from 'fflate';
import type { Feature, FeatureCollection, GeoJSON, GeoJsonProperties, Geometry } from 'geojson';
import { Refusal, refuse } from '../quantity/refusal';
import {
  checkOutline,
  epsgCode,
  outlineAreaHa,
  toWgs84,
  type Outline,
  type Position,
} from './outline';

// Outlines of fields out of the files that farm software and surveyors give away.

export interface ReadOutline {
  /** Name in the file, or null. */
  name: string | null;
  outline: Outline;
  areaHa: number;
}
/** Where the farm lies; what lies far from it is doubted. */
export interface FarmPoint {
  latitudeDeg: number;
  longitudeDeg: number | null;
}
export interface OutlineFileAsked {
  /**
   * Our key of a projection, an EPSG code, a UTM zone, a PROJ string; null: as the file says, else
   * degrees.
   */
  crs: string | null;
  /** Latitude stands before longitude. */
  latitudeFirst: boolean;
}
export interface OutlineFile {
  format: 'GeoJSON' | 'Shapefile' | 'KML';
  outlines: ReadOutline[];
  /** The outlines lie far from the farm, or would lie near it with latitude first. */
  doubt: { kind: 'latitude_first' | 'far'; distanceKm: number | null } | null;
}
interface Found {
  format: OutlineFile['format'];
  features: FeatureCollection;
  /** Projection that the file names, or null. */
  crs: string | null;
}

const MAX_BYTES = 10 * 1024 * 1024;
const MAX_UNPACKED = 60 * 1024 * 1024;
const MAX_OUTLINES = 2000;
const CONVERT =
  'Export the fields as GeoJSON, as a zipped Shapefile or as KML: every mapping program does.';

const text = (bytes: Uint8Array, encoding = 'utf-8'): string =>
  new TextDecoder(encoding).decode(bytes).replace(/^\uFEFF/u, '');

/** Name of the projection that an older GeoJSON carries, or null: RFC 7946 files are in degrees. */
function crsOf(json: string): string | null {
  try {
    const name = (JSON.parse(json) as { crs?: { properties?: { name?: unknown } } }).crs?.properties
      ?.name;
    return typeof name === 'string' ? name : null;
  } catch {
    return null;
  }
}
function fromGeojson(json: string): Found {
  let geojson: GeoJSON;
  try {
    geojson = check(json);
  } catch (e) {
    return refuse(
      'inconsistent',
      'file',
      `The file is no GeoJSON: ${e instanceof Error ? e.message : String(e)}.`,
    );
  }
  const feature: Feature[] =
    geojson.type === 'FeatureCollection'
      ? geojson.features
      : [
          geojson.type === 'Feature'
            ? geojson
            : { type: 'Feature', properties: {}, geometry: geojson },
        ];
  return {
    format: 'GeoJSON',
    features: { type: 'FeatureCollection', features: feature },
    crs: crsOf(json),
  };
}

async function fromKml(xml: string): Promise<Found> {
  const [{ kml }, { DOMParser }] = await Promise.all([
    import('@tmcw/togeojson'),
    import('@xmldom/xmldom'),
  ]);
  try {
    const document = new DOMParser({ onError: () => {} }).parseFromString(xml, 'text/xml');
    return {
      format: 'KML',
      features: kml(document) as FeatureCollection,
      crs: 'wgs84',
    };
  } catch (e) {
    return refuse(
      'inconsistent',
      'file',
      `The file is no KML: ${e instanceof Error ? e.message : String(e)}.`,
    );
  }
}

/** Names of a table of attributes are in the encoding that stands beside it, else as they read. */
function dbfEncoding(dbf: Uint8Array, cpg: Uint8Array | undefined): string {
  const said = cpg ? text(cpg).trim().toLowerCase() : '';
  const known = /utf-?8|65001/u.test(said)
    ? 'utf-8'
    : /8859-?(\d+)/u.exec(said)
      ? `iso-8859-${/8859-?(\d+)/u.exec(said)?.[1]}`
      : /125(\d)/u.exec(said)
        ? `windows-125${/125(\d)/u.exec(said)?.[1]}`
        : null;
  if (known) return known;
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(dbf);
    return 'utf-8';
  } catch {
    return 'windows-1252';
  }
}
async function fromShapefile(files: Unzipped): Promise<Found> {
  const part = (stem: string, extension: string) =>
    Object.entries(files).find(([n]) => n.toLowerCase() === `${stem}${extension}`)?.[1];
  const stems = Object.keys(files)
    .filter((n) => n.toLowerCase().endsWith('.shp'))
    .map((n) => n.slice(0, -4).toLowerCase());
  const { read } = await import('shapefile');
  for (const stem of stems) {
    const [shp, dbf, prj] = [part(stem, '.shp'), part(stem, '.dbf'), part(stem, '.prj')];
    if (!shp) continue;
    try {
      const features = await read(
        shp,
        dbf,
        dbf ? { encoding: dbfEncoding(dbf, part(stem, '.cpg')) } : undefined,
      );
      if (features.features.some((f) => polygonsOf(f.geometry as Geometry | null).length > 0))
        return { format: 'Shapefile', features, crs: prj ? text(prj).trim() : null };
    } catch (e) {
      refuse(
        'inconsistent',
        'file',
        `${stem}.shp could not be read: ${e instanceof Error ? e.message : String(e)}. Export it again.`,
      );
    }
  }
  return refuse(
    'missing',
    'file',
    'The Shapefile holds no polygon: points and lines are no field.',
    {
      allowed: 'a layer of polygons',
    },
  );
}

function unpacked(bytes: Uint8Array): Unzipped {
  let size = 0;
  try {
    return unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        if (!/\.(shp|dbf|prj|cpg|kml|geojson|json)$/iu.test(name) || name.startsWith('__MACOSX/'))
          return false;
        size += originalSize;
        if (size > MAX_UNPACKED)
          refuse('out_of_range', 'file', 'Unpacked the file is larger than 60 MB: split it.', {
            allowed: 'up to 60 MB unpacked',
          });
        return true;
      },
    });
  } catch (e) {
    if (e instanceof Refusal) throw e;
    return refuse('malformed', 'file', 'This packed file is damaged: export it again.');
  }
}
async function fromZip(bytes: Uint8Array): Promise<Found> {
  const files = unpacked(bytes);
  const named = (ending: RegExp) => Object.entries(files).find(([n]) => ending.test(n))?.[1];
  if (named(/\.shp$/iu)) return fromShapefile(files);
  const kml = named(/\.kml$/iu);
  if (kml) return fromKml(text(kml));
  const json = named(/\.(geo)?json$/iu);
  if (json) return fromGeojson(text(json));
  return refuse(
    'inconsistent',
    'file',
    `This packed file holds no Shapefile (.shp), KML or GeoJSON. ${CONVERT}`,
    { allowed: 'a zipped Shapefile, KMZ' },
  );
}

const begins = (bytes: Uint8Array, head: readonly number[]) => head.every((b, i) => bytes[i] === b);
async function found(bytes: Uint8Array): Promise<Found> {
  if (bytes.length === 0) refuse('missing', 'file', 'The file is empty.');
  if (bytes.length > MAX_BYTES)
    refuse(
      'out_of_range',
      'file',
      `The file has ${(bytes.length / 1048576).toFixed(1)} MB; at most 10 MB are read.`,
      { value: bytes.length, allowed: 'up to 10 MB' },
    );
  if (begins(bytes, [0x50, 0x4b])) return fromZip(bytes);
  if (begins(bytes, [0x00, 0x00, 0x27, 0x0a]))
    refuse(
      'inconsistent',
      'file',
      'This is a .shp alone, without names and projection: zip .shp, .dbf, .shx and .prj together.',
      { allowed: 'a zipped Shapefile' },
    );
  const head = text(bytes.slice(0, 600)).trimStart();
  if (head.startsWith('SQLite format 3'))
    refuse('inconsistent', 'file', `This is a GeoPackage. ${CONVERT}`, { allowed: 'GeoJSON' });
  if (head.startsWith('{') || head.startsWith('[')) return fromGeojson(text(bytes));
  if (/<gpx\b/iu.test(head))
    refuse('inconsistent', 'file', `This is a GPX track, a line and no ground. ${CONVERT}`);
  if (/<kml\b/iu.test(head) || (head.startsWith('<') && /<Placemark\b/u.test(text(bytes))))
    return fromKml(text(bytes));
  if (head === '') refuse('missing', 'file', 'The file holds nothing but blanks.');
  return refuse('inconsistent', 'file', `This is no GeoJSON, Shapefile or KML. ${CONVERT}`, {
    allowed: 'GeoJSON, a zipped Shapefile, KML, KMZ',
  });
}

function polygonsOf(g: Geometry | null): number[][][][] {
  if (!g) return [];
  if (g.type === 'Polygon') return [g.coordinates];
  if (g.type === 'MultiPolygon') return g.coordinates;
  return g.type === 'GeometryCollection' ? g.geometries.flatMap(polygonsOf) : [];
}

/** Attributes that name a field, the surest first. */
const NAMES: readonly RegExp[] = [
  /^(field|paddock|block|parcel|schlag|feld|parcelle|parcela|campo|perceel|skifte)?[\s_-]*(name|bez(eichnung)?|nom|nombre|naam|namn|navn)$/iu,
  /^(name|label|title)\b/iu,
  /^(field|paddock|block|parcel|schlag|feld|parcelle|parcela|campo|lot)([\s_-]*(no|nr|num|id))?$/iu,
  /name|bez/iu,
];
/** The attribute by which the features of a file differ from each other. */
function nameKey(all: readonly GeoJsonProperties[]): string | null {
  const keys = [...new Set(all.flatMap((p) => Object.keys(p ?? {})))];
  const says = (k: string) =>
    all.some((p) => {
      const v: unknown = p?.[k];
      return (typeof v === 'string' && v.trim() !== '') || typeof v === 'number';
    });
  for (const pattern of NAMES) {
    const key = keys.find((k) => pattern.test(k) && says(k));
    if (key) return key;
  }
  return (
    keys.find(
      (k) =>
        all.every((p) => typeof p?.[k] === 'string' && (p[k] as string).trim() !== '') &&
        new Set(all.map((p) => p?.[k] as string)).size === all.length,
    ) ?? null
  );
}

/** A projection that is not among the common ones is looked up by its code. */
async function knownCrs(crs: string): Promise<string> {
  const code = epsgCode(crs);
  if (code === null) return crs;
  try {
    toWgs84(crs);
    return crs;
  } catch {
    const { default: list } = await import('proj4-list');
    return list[`EPSG:${code}`]?.[1] ?? crs;
  }
}

const KM_PER_DEGREE = 111.2;
const NEAR_KM = 400;
function kmFrom([lon, lat]: Position, near: FarmPoint): number {
  const north = (lat - near.latitudeDeg) * KM_PER_DEGREE;
  if (near.longitudeDeg === null) return Math.abs(north);
  const turn = Math.abs(lon - near.longitudeDeg) % 360;
  const east =
    Math.min(turn, 360 - turn) * KM_PER_DEGREE * Math.cos((near.latitudeDeg * Math.PI) / 180);
  return Math.hypot(north, east);
}
function doubtOf([lon, lat]: Position, near: FarmPoint | null): OutlineFile['doubt'] {
  if (!near) return null;
  const here = Math.abs(lat) <= 90 ? kmFrom([lon, lat], near) : Infinity;
  if (here <= NEAR_KM) return null;
  const swapped = Math.abs(lon) <= 90 ? kmFrom([lat, lon], near) : Infinity;
  return swapped <= NEAR_KM
    ? { kind: 'latitude_first', distanceKm: Math.round(swapped) }
    : { kind: 'far', distanceKm: Number.isFinite(here) ? Math.round(here) : null };
}

/**
 * Outlines of fields in a file, in degrees on WGS 84, each with its area on the ellipsoid: GeoJSON,
 * a zipped Shapefile, KML or KMZ. A feature of several polygons is one field of several pieces.
 *
 * @throws Refusal that names what the file is and what to do, or what is wrong with which feature
 */
export async function readOutlineFile(
  bytes: Uint8Array,
  asked: OutlineFileAsked & { near: FarmPoint | null },
): Promise<OutlineFile> {
  const { format, features, crs } = await found(bytes);
  const convert = toWgs84(await knownCrs(asked.crs ?? crs ?? 'wgs84'));
  const place = (p: readonly number[]): Position =>
    asked.latitudeFirst ? convert([p[1] as number, p[0] as number]) : convert(p);
  const fields = features.features
    .filter((f) => f.properties?.role === undefined || f.properties.role === 'field')
    .map((f) => ({ f, pieces: polygonsOf(f.geometry as Geometry | null) }))
    .filter(({ pieces }) => pieces.length > 0);
  if (fields.length === 0)
    refuse('missing', 'file', 'The file holds no polygon: an outline is a polygon.', {
      allowed: 'one polygon or more',
    });
  if (fields.length > MAX_OUTLINES)
    refuse(
      'out_of_range',
      'file',
      `The file holds ${fields.length} polygons; at most ${MAX_OUTLINES} are read. Split it.`,
      { value: fields.length, allowed: `up to ${MAX_OUTLINES}` },
    );
  const corner = fields[0]?.pieces[0]?.[0]?.[0];
  const doubt = corner ? doubtOf(place(corner), asked.near) : null;
  const key = nameKey(fields.map(({ f }) => f.properties));
  const outlines = fields.map(({ f, pieces }, k): ReadOutline => {
    const said: unknown = (key === null ? undefined : f.properties?.[key]) ?? f.id;
    const name =
      typeof said === 'string' || typeof said === 'number'
        ? String(said).trim().slice(0, 80) || null
        : null;
    try {
      const at = pieces.map((rings) => rings.map((r) => r.map((p) => [...place(p)])));
      const outline = checkOutline(
        at.length === 1
          ? { type: 'Polygon', coordinates: at[0] }
          : { type: 'MultiPolygon', coordinates: at },
      );
      return { name, outline, areaHa: outlineAreaHa(outline) };
    } catch (e) {
      if (!(e instanceof Refusal)) throw e;
      const hint =
        doubt?.kind === 'latitude_first'
          ? ' Read it with latitude first: then it lies near the farm.'
          : '';
      throw new Refusal({
        ...e.detail,
        message: `Polygon ${k + 1}${name ? ` (${name})` : ''}: ${e.detail.message}${hint}`,
      });
    }
  });
  return { format, outlines, doubt };
}
