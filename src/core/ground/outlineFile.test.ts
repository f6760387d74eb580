import { zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { Refusal } from '../quantity/refusal';
import { checkOutline, epsgCode, outlineAreaHa, piecesOf, type Outline } from './outline';
import { readOutlineFile, type OutlineFileAsked } from './outlineFile';
import { layOutSamples } from './samplingLayout';
import type { SamplingPlan } from './samplingPlan';
import { zippedShapefile } from './testShapefile';

const bytes = (text: string) => new TextEncoder().encode(text);
const read = (
  file: Uint8Array | string,
  asked: Partial<OutlineFileAsked> & { near?: [number, number | null] } = {},
) =>
  readOutlineFile(typeof file === 'string' ? bytes(file) : file, {
    crs: asked.crs ?? null,
    latitudeFirst: asked.latitudeFirst ?? false,
    near: asked.near ? { latitudeDeg: asked.near[0], longitudeDeg: asked.near[1] } : null,
  });
const refused = async (work: Promise<unknown>) => {
  try {
    await work;
  } catch (e) {
    if (e instanceof Refusal) return e.message;
    throw e;
  }
  throw new Error('was not refused');
};
/** A square of some degrees with its corner at a place. */
const square = (lon: number, lat: number, w = 0.004): number[][] => [
  [lon, lat],
  [lon + w, lat],
  [lon + w, lat + w],
  [lon, lat + w],
  [lon, lat],
];
const collection = (geometry: unknown, properties: object = { name: 'Low Fleet' }, more = {}) =>
  JSON.stringify({
    type: 'FeatureCollection',
    ...more,
    features: [{ type: 'Feature', properties, geometry }],
  });
const polygon = (...rings: number[][][]) => ({ type: 'Polygon', coordinates: rings });
const UTM = [
  [500000, 5761000],
  [500200, 5761000],
  [500200, 5761200],
  [500000, 5761200],
  [500000, 5761000],
];
const PRJ =
  'PROJCS["ETRS_1989_UTM_Zone_32N",GEOGCS["GCS_ETRS_1989",DATUM["D_ETRS_1989",SPHEROID["GRS_1980",6378137.0,298.257222101]],PRIMEM["Greenwich",0.0],UNIT["Degree",0.0174532925199433]],PROJECTION["Transverse_Mercator"],PARAMETER["False_Easting",500000.0],PARAMETER["False_Northing",0.0],PARAMETER["Central_Meridian",9.0],PARAMETER["Scale_Factor",0.9996],PARAMETER["Latitude_Of_Origin",0.0],UNIT["Meter",1.0]]';

describe('GeoJSON', () => {
  it('comes in degrees, in the projection that it names, or in the one that is said', async () => {
    const { format, outlines } = await read(collection(polygon(square(-30, 52))));
    expect([format, outlines[0]?.name]).toEqual(['GeoJSON', 'Low Fleet']);
    const named = collection(
      polygon(UTM),
      {},
      {
        crs: { type: 'name', properties: { name: 'urn:ogc:def:crs:EPSG::32626' } },
      },
    );
    expect((await read(named)).outlines[0]?.areaHa).toBeCloseTo(4, 1);
    const said = await read(collection(polygon(UTM)), { crs: 'epsg:25826' });
    expect(said.outlines[0]?.areaHa).toBeCloseTo(4, 1);
  });
  it('takes national grids by their code', async () => {
    const grid = [
      [435000, 215000],
      [435200, 215000],
      [435200, 215200],
      [435000, 215200],
      [435000, 215000],
    ];
    const [o] = (await read(collection(polygon(grid)), { crs: '27700' })).outlines;
    expect(o?.areaHa).toBeCloseTo(4, 1);
    const [lon, lat] = (o?.outline as Extract<Outline, { type: 'Polygon' }>)
      .coordinates[0]?.[0] as [number, number];
    expect([lon, lat]).toEqual([expect.closeTo(-1.49, 1), expect.closeTo(51.83, 1)]);
    expect(await refused(read(collection(polygon(grid)), { crs: '999999' }))).toMatch(/999999/u);
    expect(['EPSG:2193', 'urn:ogc:def:crs:EPSG:6.9:2193', '2193', 'utm:32n'].map(epsgCode)).toEqual(
      [2193, 2193, 2193, null],
    );
  });
  it('of several polygons is one field of several pieces, sampled on all of them', async () => {
    const pieces = [[square(-30, 52)], [square(-29.99, 52.001)]];
    const [o] = (await read(collection({ type: 'MultiPolygon', coordinates: pieces }))).outlines;
    expect(o && piecesOf(o.outline)).toHaveLength(2);
    expect(o?.areaHa).toBeCloseTo(
      2 * outlineAreaHa(checkOutline({ coordinates: [square(-30, 52)] })),
      1,
    );
    const plan: SamplingPlan = {
      purpose: 'ph_p_k_tilled',
      scheme: 'grid',
      cellAreaHa: 2,
      coresPerSample: 10,
      layers: [{ fromCm: 0, toCm: 20 }],
      headlandM: 0,
      prefix: 'P',
      labPricePerSample: 14,
      labourPerSample: 3,
      labourPerCore: 0.2,
      zones: [],
      marks: [],
      points: [],
    };
    const points = layOutSamples(o?.outline as Outline, plan);
    expect(points.reduce((sum, p) => sum + p.areaHa, 0)).toBeCloseTo(o?.areaHa ?? 0, 0);
    const east = points.filter((p) => p.at[0] > -29.995).length;
    expect(east).toBeGreaterThan(2);
    expect(points.length - east).toBeGreaterThan(2);
  });
  it('refuses pieces that lie on each other', async () => {
    const coordinates = [[square(-30, 52)], [square(-29.999, 52.001, 0.001)]];
    expect(await refused(read(collection({ type: 'MultiPolygon', coordinates })))).toMatch(
      /lies on another piece/u,
    );
  });
  it('finds the attribute that names a field in other languages, and any that tells them apart', async () => {
    const name = async (properties: object) =>
      (await read(collection(polygon(square(-30, 52)), properties))).outlines[0]?.name;
    expect(await name({ id: 7, SCHLAGNAME: 'Müllers Breite' })).toBe('Müllers Breite');
    expect(await name({ area: 3, nombre: 'La Loma' })).toBe('La Loma');
    expect(await name({ 'Feld-Nr': 12 })).toBe('12');
    expect(await name({ code: '東の畑' })).toBe('東の畑');
    expect(await name({})).toBeNull();
  });
});

describe('the place of the farm', () => {
  const swapped = collection(
    polygon(square(-36.5, 148.2).map((p) => [p[0] as number, p[1] as number])),
  );
  it('tells latitude that stands first, and reads it so when told to', async () => {
    expect(await refused(read(swapped, { near: [-36, 148] }))).toMatch(/latitude first/u);
    const { doubt, outlines } = await read(swapped, { near: [-36, 148], latitudeFirst: true });
    expect(doubt).toBeNull();
    expect(outlines[0]?.areaHa).toBeGreaterThan(10);
    // Both orders are degrees: it is read as it stands, and doubted.
    const both = collection(polygon(square(52, -30)));
    expect((await read(both, { near: [52, -30] })).doubt?.kind).toBe('latitude_first');
    expect((await read(both, { near: [52, null] })).doubt?.kind).toBe('latitude_first');
  });
  it('tells a file of another place, and is silent about its own', async () => {
    const far = await read(collection(polygon(square(10, 48))), { near: [52, -30] });
    expect(far.doubt).toMatchObject({ kind: 'far' });
    expect(far.doubt?.distanceKm).toBeGreaterThan(2000);
    expect(
      (await read(collection(polygon(square(-30, 52))), { near: [52, -29] })).doubt,
    ).toBeNull();
    // The date line is no distance.
    const dateLine = collection(polygon(square(179.9, -38)));
    expect((await read(dateLine, { near: [-38, -179.8] })).doubt).toBeNull();
  });
});

describe('Shapefile', () => {
  const twenty = Array.from({ length: 20 }, (_, i) => ({
    name: i === 3 ? 'Große Höhe' : `Schlag ${i + 1}`,
    rings: [UTM.map(([x, y]) => [(x as number) + 400 * i, y as number])],
  }));
  it('brings twenty fields with their names, by the projection beside it', async () => {
    const { format, outlines } = await read(zippedShapefile(twenty, PRJ));
    expect(format).toBe('Shapefile');
    expect(outlines.map((o) => o.name)).toEqual(twenty.map((t) => t.name));
    expect(outlines.map((o) => Number(o.areaHa.toFixed(1)))).toEqual(twenty.map(() => 4));
  });
  it('reads names of a table that is no UTF-8', async () => {
    const latin = (text: string) => Uint8Array.from(text, (c) => c.charCodeAt(0));
    const { outlines } = await read(zippedShapefile(twenty, PRJ, latin));
    expect(outlines[3]?.name).toBe('Große Höhe');
  });
  it('without its projection is asked about, not guessed', async () => {
    expect(await refused(read(zippedShapefile(twenty, null)))).toMatch(/choose the projection/u);
    expect((await read(zippedShapefile(twenty, null), { crs: 'utm:32n' })).outlines).toHaveLength(
      20,
    );
  });
});

describe('KML', () => {
  const kml = (inside: string) =>
    `<?xml version="1.0" encoding="UTF-8"?><kml xmlns="http://www.opengis.net/kml/2.2"><Document>${inside}</Document></kml>`;
  const ring = (lon: number) =>
    `<LinearRing><coordinates>${square(lon, 52)
      .map((p) => `${p.join(',')},0`)
      .join(' ')}</coordinates></LinearRing>`;
  const placemark = (name: string, lon: number) =>
    `<Placemark><name>${name}</name><Polygon><outerBoundaryIs>${ring(lon)}</outerBoundaryIs></Polygon></Placemark>`;
  it('is read with its names, packed or not', async () => {
    const file = kml(placemark('Älva &amp; Brook', -30) + placemark('North', -29.9));
    for (const f of [bytes(file), zipSync({ 'doc.kml': bytes(file) })]) {
      const { format, outlines } = await read(f);
      expect([format, outlines.map((o) => o.name)]).toEqual(['KML', ['Älva & Brook', 'North']]);
    }
  });
});

describe('what is no map of fields', () => {
  it.each<[string, Uint8Array | string, RegExp]>([
    ['nothing', '', /empty/u],
    ['blanks', '  \n ', /nothing but blanks/u],
    ['no JSON', '{', /no GeoJSON/u],
    ['another object', '{"type":"Thing"}', /no GeoJSON/u],
    ['points only', collection({ type: 'Point', coordinates: [0, 52] }), /no polygon/u],
    ['a GeoPackage', 'SQLite format 3\u0000 and more', /GeoPackage.*GeoJSON/u],
    ['a track', '<?xml version="1.0"?><gpx version="1.1"></gpx>', /GPX/u],
    ['a table', 'a,b\n1,2\n', /no GeoJSON, Shapefile or KML/u],
    ['a .shp alone', Uint8Array.from([0, 0, 0x27, 0x0a, 0, 0, 0, 0]), /zip \.shp, \.dbf/u],
    ['a zip of something else', zipSync({ 'a.txt': bytes('x') }), /no Shapefile/u],
    ['a broken zip', Uint8Array.from([0x50, 0x4b, 3, 4, 9, 9]), /damaged|no Shapefile/u],
    ['too much', new Uint8Array(10 * 1024 * 1024 + 1), /at most 10 MB/u],
    [
      'a crossing polygon',
      collection(
        polygon([
          [0, 52],
          [0.01, 52.01],
          [0.01, 52],
          [0, 52.01],
          [0, 52],
        ]),
      ),
      /Polygon 1 \(Low Fleet\): .*crosses/u,
    ],
  ])('%s is told for what it is', async (_, file, message) =>
    expect(await refused(read(file))).toMatch(message),
  );
});
