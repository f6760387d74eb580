import { zipSync } from 'fflate';

// A Shapefile as a mapping program writes one, for tests: polygons with one text attribute.

export interface TestShape {
  name: string;
  /** Rings of one piece or of several, outer rings clockwise as the format has them. */
  rings: number[][][];
}
const clockwise = (ring: readonly number[][]): number[][] => {
  const turn = ring
    .slice(1)
    .reduce(
      (sum, p, i) =>
        sum +
        ((p[0] as number) - (ring[i]?.[0] as number)) *
          ((p[1] as number) + (ring[i]?.[1] as number)),
      0,
    );
  return turn > 0 ? [...ring] : [...ring].reverse();
};
const bounds = (points: readonly number[][]): number[] => [
  Math.min(...points.map((p) => p[0] as number)),
  Math.min(...points.map((p) => p[1] as number)),
  Math.max(...points.map((p) => p[0] as number)),
  Math.max(...points.map((p) => p[1] as number)),
];

function shp(shapes: readonly TestShape[]): Uint8Array {
  const records = shapes.map(({ rings }) => {
    const turned = rings.map(clockwise);
    const points = turned.flat();
    const view = new DataView(new ArrayBuffer(44 + 4 * turned.length + 16 * points.length));
    view.setInt32(0, 5, true);
    bounds(points).forEach((v, i) => view.setFloat64(4 + 8 * i, v, true));
    view.setInt32(36, turned.length, true);
    view.setInt32(40, points.length, true);
    let start = 0;
    turned.forEach((ring, i) => {
      view.setInt32(44 + 4 * i, start, true);
      start += ring.length;
    });
    points.forEach((p, i) => {
      view.setFloat64(44 + 4 * turned.length + 16 * i, p[0] as number, true);
      view.setFloat64(52 + 4 * turned.length + 16 * i, p[1] as number, true);
    });
    return new Uint8Array(view.buffer);
  });
  const length = 100 + records.reduce((sum, r) => sum + 8 + r.length, 0);
  const out = new Uint8Array(length);
  const view = new DataView(out.buffer);
  view.setInt32(0, 9994);
  view.setInt32(24, length / 2);
  view.setInt32(28, 1000, true);
  view.setInt32(32, 5, true);
  bounds(shapes.flatMap((s) => s.rings.flat())).forEach((v, i) =>
    view.setFloat64(36 + 8 * i, v, true),
  );
  let at = 100;
  records.forEach((r, i) => {
    view.setInt32(at, i + 1);
    view.setInt32(at + 4, r.length / 2);
    out.set(r, at + 8);
    at += 8 + r.length;
  });
  return out;
}
const WIDTH = 40;
function dbf(shapes: readonly TestShape[], encode: (text: string) => Uint8Array): Uint8Array {
  const out = new Uint8Array(65 + shapes.length * (WIDTH + 1) + 1).fill(0x20, 65);
  const view = new DataView(out.buffer);
  view.setUint8(0, 3);
  view.setUint32(4, shapes.length, true);
  view.setUint16(8, 65, true);
  view.setUint16(10, WIDTH + 1, true);
  out.set(new TextEncoder().encode('SCHLAGNAME'), 32);
  out.set(new TextEncoder().encode('C'), 43);
  view.setUint8(48, WIDTH);
  view.setUint8(64, 0x0d);
  shapes.forEach(({ name }, i) => out.set(encode(name).slice(0, WIDTH), 66 + i * (WIDTH + 1)));
  out[out.length - 1] = 0x1a;
  return out;
}

/** A zipped Shapefile; `prj` is its projection as WKT, left out where it is null. */
export function zippedShapefile(
  shapes: readonly TestShape[],
  prj: string | null,
  encode: (text: string) => Uint8Array = (t) => new TextEncoder().encode(t),
): Uint8Array {
  return zipSync({
    'export/fields.shp': shp(shapes),
    'export/fields.dbf': dbf(shapes, encode),
    ...(prj === null ? {} : { 'export/fields.prj': new TextEncoder().encode(prj) }),
  });
}
