import { check } from '@placemarkio/check-geojson';
import type { Feature, FeatureCollection, GeoJSON, Geometry } from 'geojson';
import { Refusal, refuse } from '../quantity/refusal';
import { checkOutline, outlineAreaHa, toWgs84, type Outline } from './outline';
import type { SamplingPlan } from './samplingPlan';

const GEOJSON_MAX_BYTES = 5 * 1024 * 1024;

export interface ReadOutline {
  /** Name in the file, or null. */
  name: string | null;
  outline: Outline;
  areaHa: number;
}

function readGeojson(text: string): FeatureCollection {
  if (text.trim() === '') refuse('missing', 'file', 'The file is empty.');
  if (text.length > GEOJSON_MAX_BYTES)
    refuse(
      'out_of_range',
      'file',
      `The file has ${(text.length / 1048576).toFixed(1)} MB; at most 5 MB are read.`,
      { value: text.length, allowed: 'up to 5 MB' },
    );
  let geojson: GeoJSON;
  try {
    geojson = check(text);
  } catch (e) {
    return refuse(
      'inconsistent',
      'file',
      `The file is no GeoJSON: ${e instanceof Error ? e.message : String(e)}.`,
    );
  }
  if (geojson.type === 'FeatureCollection') return geojson;
  const feature: Feature =
    geojson.type === 'Feature' ? geojson : { type: 'Feature', properties: {}, geometry: geojson };
  return { type: 'FeatureCollection', features: [feature] };
}

/** Name of the projection that an older file carries, or null: RFC 7946 files are in degrees. */
export function crsOf(text: string): string | null {
  try {
    const name = (JSON.parse(text) as { crs?: { properties?: { name?: unknown } } }).crs?.properties
      ?.name;
    return typeof name === 'string' ? name : null;
  } catch {
    return null;
  }
}

const nameOf = (f: Feature): string | null => {
  const v = f.properties?.name ?? f.properties?.Name ?? f.properties?.field ?? f.id;
  return typeof v === 'string' || typeof v === 'number' ? String(v).slice(0, 120) : null;
};
function polygonsOf(g: Geometry | null): number[][][][] {
  if (!g) return [];
  if (g.type === 'Polygon') return [g.coordinates];
  if (g.type === 'MultiPolygon') return g.coordinates;
  return g.type === 'GeometryCollection' ? g.geometries.flatMap(polygonsOf) : [];
}

/**
 * Outlines of a GeoJSON file, in degrees on WGS 84 or in a named projection; each with its area
 * on the ellipsoid.
 *
 * @param crs our key, an EPSG code, a UTM zone or a PROJ string; null takes the file's own, else
 * degrees
 * @throws Refusal that names what is wrong and with which feature
 */
export function readOutlines(text: string, crs: string | null = null): ReadOutline[] {
  const convert = toWgs84(crs ?? crsOf(text) ?? 'wgs84');
  const found = readGeojson(text)
    .features.filter((f) => f.properties?.role === undefined || f.properties.role === 'field')
    .flatMap((f) =>
      polygonsOf(f.geometry).map((rings, k, all) => ({
        name: all.length > 1 ? `${nameOf(f) ?? 'part'} ${k + 1}` : nameOf(f),
        rings,
      })),
    );
  if (found.length === 0)
    refuse('missing', 'file', 'The file holds no polygon: an outline is a Polygon.', {
      allowed: 'one Polygon or more',
    });
  return found.map(({ name, rings }, k) => {
    try {
      const outline = checkOutline({
        coordinates: rings.map((r) => r.map((p) => [...convert(p)])),
      });
      return { name, outline, areaHa: outlineAreaHa(outline) };
    } catch (e) {
      if (!(e instanceof Refusal)) throw e;
      throw new Refusal({
        ...e.detail,
        message: `Polygon ${k + 1}${name ? ` (${name})` : ''}: ${e.detail.message}`,
      });
    }
  });
}

export interface PlanFeatures {
  fieldName: string;
  outline: Outline;
  areaHa: number;
  plan: SamplingPlan;
}

/**
 * A field and its sampling plan as GeoJSON (RFC 7946): the outline, the cells, the points in
 * walking order, and what to avoid.
 */
export function planGeojson({ fieldName, outline, areaHa, plan }: PlanFeatures): FeatureCollection {
  const shaped = plan.points.filter((p) => p.shape.length > 0);
  return {
    type: 'FeatureCollection',
    features: [
      {
        type: 'Feature',
        id: 'field',
        properties: { role: 'field', name: fieldName, area_ha: Number(areaHa.toFixed(4)) },
        geometry: outline,
      },
      ...shaped.map((p): Feature => ({
        type: 'Feature',
        properties: { role: p.kind, label: p.label, area_ha: Number(p.areaHa.toFixed(4)) },
        geometry:
          p.shape.length === 1
            ? { type: 'Polygon', coordinates: p.shape[0] as number[][][] }
            : { type: 'MultiPolygon', coordinates: p.shape },
      })),
      ...plan.points.map((p, k): Feature => ({
        type: 'Feature',
        id: p.label,
        properties: {
          role: 'sample',
          label: p.label,
          field: fieldName,
          kind: p.kind,
          order: k + 1,
          cores: plan.coresPerSample,
          depth_cm: plan.layers.map((l) => `${l.fromCm}-${l.toCm}`).join(', '),
          note: p.note,
        },
        geometry: { type: 'Point', coordinates: p.at },
      })),
      ...plan.marks.map((m): Feature => ({
        type: 'Feature',
        id: m.id,
        properties: { role: 'avoid', kind: m.kind, radius_m: m.radiusM, note: m.note },
        geometry: { type: 'Point', coordinates: m.at },
      })),
    ],
  };
}
