import { feature } from 'topojson-client';
import type { Topology, GeometryCollection } from 'topojson-specification';
import land from 'world-atlas/land-110m.json';

/** Half a degree is finer than a pixel of the small map. */
const rounded = (v: number): number => Math.round(v * 2) / 2;

/**
 * The land of the world as one path of an SVG picture, 360 wide and 180 high: longitude to the
 * right, latitude upwards, without borders.
 */
export function worldPath(): string {
  const topology = land as unknown as Topology<{ land: GeometryCollection }>;
  const found = feature(topology, topology.objects.land);
  const polygons = found.features.flatMap(({ geometry: g }) =>
    g.type === 'Polygon' ? [g.coordinates] : g.type === 'MultiPolygon' ? g.coordinates : [],
  );
  return polygons.flat().map(ringPath).join('');
}

/** A ring that crosses the date line begins anew on the other side, or it would cross the map. */
function ringPath(ring: readonly (readonly number[])[]): string {
  const parts: string[][] = [[]];
  let before: number | null = null;
  for (const [lon = 0, lat = 0] of ring) {
    if (before !== null && Math.abs(lon - before) > 180) parts.push([]);
    before = lon;
    const part = parts.at(-1) ?? [];
    const at = `${rounded(lon + 180)} ${rounded(90 - lat)}`;
    if (part.at(-1) !== at) part.push(at);
  }
  return parts
    .filter((p) => p.length > 2)
    .map((p) => `M${p.join('L')}Z`)
    .join('');
}
