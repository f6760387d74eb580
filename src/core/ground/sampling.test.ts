import fs from 'node:fs';
import { check } from '@placemarkio/check-geojson';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { parse } from 'csv-parse/sync';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Refusal } from '../quantity/refusal';
import { planGeojson } from './fieldGeojson';
import {
  checkOutline,
  crsDefinition,
  outlineAreaHa,
  planeOf,
  ringsOf,
  type Outline,
} from './outline';
import { readOutlineFile } from './outlineFile';
import { sampleListCsv, bagsOf } from './sampleList';
import { bandCores, samplingDeadline, samplingGrid } from './sampling';
import { checkPoints, layOutSamples, walkLengthM, zigzagCores } from './samplingLayout';
import { samplingPlanSchema, type SamplingPlan } from './samplingPlan';
import { expectedPrecision, precisionCurve, samplingCost, whatMoreBuys } from './samplingValue';
import {
  simulateLaboratory,
  type ListedSample,
  type TrueGround,
} from '../../demo/simulatedLaboratory';
import { fieldMean, history, newestSurvey, readingError, type HistoryPoint } from './survey';

const refusal = (work: () => unknown) => {
  try {
    work();
  } catch (e) {
    if (e instanceof Refusal) return e.detail;
    throw e;
  }
  throw new Error('was not refused');
};
/** A field of about `ha`, a rectangle with one corner cut off. */
function outlineOf(ha: number, lon = -30, lat = 52): Outline {
  const [w, h] = [Math.sqrt(ha * 1.5) * 100, Math.sqrt(ha / 1.5) * 100];
  const at = (x: number, y: number) => [
    lon + x / (111320 * Math.cos((lat * Math.PI) / 180)),
    lat + y / 111320,
  ];
  return checkOutline({
    coordinates: [[at(0, 0), at(w, 0), at(w, h * 0.7), at(w * 0.8, h), at(0, h)]],
  });
}
const plan = (part: Partial<SamplingPlan> = {}): SamplingPlan => ({
  purpose: 'ph_p_k_tilled',
  scheme: 'grid',
  cellAreaHa: 1,
  coresPerSample: 10,
  layers: [{ fromCm: 0, toCm: 20 }],
  headlandM: 0,
  prefix: 'LF-',
  labPricePerSample: 14,
  labourPerSample: 3,
  labourPerCore: 0.2,
  zones: [],
  marks: [],
  points: [],
  ...part,
});

describe('outline of a field', () => {
  it('is closed, turned counter-clockwise, and measured on the ellipsoid', () => {
    const square = checkOutline({
      coordinates: [
        [
          [0, 52],
          [0, 52.01],
          [0.01, 52.01],
          [0.01, 52],
        ],
      ],
    });
    expect(ringsOf(square)[0]).toHaveLength(5);
    expect(ringsOf(square)[0]?.[1]).toEqual([0.01, 52]);
    expect(outlineAreaHa(square)).toBeCloseTo(76.41, 1);
  });
  it('takes a hole off', () => {
    const ring = (s: number) => [
      [-s, 52 - s],
      [s, 52 - s],
      [s, 52 + s],
      [-s, 52 + s],
    ];
    expect(outlineAreaHa(checkOutline({ coordinates: [ring(0.004), ring(0.002)] }))).toBeCloseTo(
      outlineAreaHa(checkOutline({ coordinates: [ring(0.004)] })) * 0.75,
      3,
    );
  });
  it('has the same area on its plane, to 1 in 2000', () => {
    const o = outlineOf(40);
    const ring = (ringsOf(o)[0] ?? []).map(planeOf(o).toMetres);
    const area =
      Math.abs(
        ring.slice(1).reduce((sum, p, i) => {
          const q = ring[i] ?? [0, 0];
          return sum + q[0] * p[1] - p[0] * q[1];
        }, 0),
      ) / 20_000;
    expect(Math.abs(area / outlineAreaHa(o) - 1)).toBeLessThan(0.0005);
  });
  it('goes to its plane and back', () =>
    fc.assert(
      fc.property(
        fc.double({ min: -500, max: 500, noNaN: true }),
        fc.double({ min: -500, max: 500, noNaN: true }),
        (x, y) => {
          const p = planeOf(outlineOf(5));
          const [u, v] = p.toMetres(p.toDegrees([x, y]));
          expect(Math.hypot(u - x, v - y)).toBeLessThan(0.001);
        },
      ),
    ));
  it.each<[string, number[][][], RegExp]>([
    ['nothing', [], /empty/],
    ['an empty ring', [[]], /empty/],
    [
      'a line',
      [
        [
          [0, 52],
          [0.01, 52],
        ],
      ],
      /three or more/,
    ],
    [
      'the same corner again and again',
      [
        [
          [0, 52],
          [0, 52],
          [0, 52],
          [0, 52],
        ],
      ],
      /three or more/,
    ],
    [
      'edges that cross',
      [
        [
          [0, 52],
          [0.01, 52.01],
          [0.01, 52],
          [0, 52.01],
        ],
      ],
      /crosses itself near 0\.005/,
    ],
    [
      'no area',
      [
        [
          [0, 52],
          [0.00001, 52],
          [0.00001, 52.00001],
        ],
      ],
      /m2: a field has 10 m2/,
    ],
    [
      'metres taken for degrees',
      [
        [
          [500000, 5761000],
          [500100, 5761000],
          [500100, 5761100],
        ],
      ],
      /choose the projection/,
    ],
    [
      'a country',
      [
        [
          [0, 50],
          [5, 50],
          [5, 53],
          [0, 53],
        ],
      ],
      /at most 5000 ha/,
    ],
  ])('refuses %s', (_, coordinates, message) =>
    expect(refusal(() => checkOutline({ coordinates })).message).toMatch(message),
  );
});

describe('projections', () => {
  it('common ones are known, others refused by name', () => {
    for (const c of [
      'wgs84',
      'EPSG:4326',
      'urn:ogc:def:crs:OGC:1.3:CRS84',
      'web_mercator',
      'epsg:3857',
      'EPSG:3035',
      'utm:60s',
      'EPSG:32701',
      '+proj=longlat +datum=WGS84',
    ])
      expect(crsDefinition(c)).toContain('+proj=');
    expect(refusal(() => crsDefinition('EPSG:99999')).field).toBe('crs');
    expect(refusal(() => crsDefinition('utm:61n')).field).toBe('crs');
  });
});

describe('samples laid on a field', () => {
  const outline = outlineOf(12);
  const area = outlineAreaHa(outline);
  it.each([0.25, 0.5, 1, 2.02])(
    'cells of %s ha cover the field once, and slivers go to a neighbour',
    (cellAreaHa) => {
      const points = layOutSamples(outline, plan({ cellAreaHa }));
      expect(points.reduce((sum, p) => sum + p.areaHa, 0)).toBeCloseTo(area, 1);
      expect(Math.min(...points.map((p) => p.areaHa))).toBeGreaterThan(0.29 * cellAreaHa);
      expect(new Set(points.map((p) => p.label)).size).toBe(points.length);
      expect(samplingPlanSchema.safeParse(plan({ cellAreaHa, points })).success).toBe(true);
    },
  );
  it('go along one row and back along the next: no leg is much longer than a cell', () => {
    const points = layOutSamples(outline, plan());
    expect(walkLengthM(points, outline)).toBeLessThan(points.length * 160);
    expect(points[0]?.label).toBe('LF-01');
  });
  it('keep clear of marks and headland', () => {
    const [first] = layOutSamples(outline, plan());
    const at = first?.at as [number, number];
    const moved = layOutSamples(
      outline,
      plan({ marks: [{ id: 'm', kind: 'old_heap', at, radiusM: 25, note: '' }] }),
    )[0];
    const plane = planeOf(outline);
    const [a, b] = [plane.toMetres(at), plane.toMetres(moved?.at ?? at)];
    expect(Math.hypot(a[0] - b[0], a[1] - b[1])).toBeGreaterThan(25);
    expect(moved?.note).toMatch(/moved clear/);
    expect(
      layOutSamples(
        outline,
        plan({ marks: [{ id: 'm', kind: 'old_heap', at, radiusM: 300, note: '' }] }),
      )[0]?.note,
    ).toMatch(/no spot clear/);
  });
  it('may be one composite, a fixed spot, or zones; problem pairs stay', () => {
    expect(layOutSamples(outline, plan({ scheme: 'whole_field' }))).toMatchObject([
      { kind: 'whole', areaHa: expect.closeTo(area, 1) },
    ]);
    expect(layOutSamples(outline, plan({ scheme: 'benchmark' }))).toMatchObject([
      { kind: 'benchmark', areaHa: 0.15, shape: [] },
    ]);
    const half = (ringsOf(outline)[0] ?? []).map((p, i) =>
      i === 1 || i === 2 ? [(p[0] as number) - 0.003, p[1] as number] : p,
    ) as [number, number][];
    const pair = {
      label: 'bad',
      kind: 'problem' as const,
      at: layOutSamples(outline, plan())[3]?.at as [number, number],
      areaHa: 0.01,
      shape: [],
      note: 'pale patch',
    };
    expect(
      layOutSamples(
        outline,
        plan({ scheme: 'zone', zones: [{ name: 'west', ring: half }], points: [pair] }),
      ).map((p) => [p.kind, p.label]),
    ).toEqual([
      ['zone', 'LF-01'],
      ['problem', 'bad'],
    ]);
  });
  it('lay 2000 cells over 500 ha in well under a second', () =>
    expect(layOutSamples(outlineOf(500), plan({ cellAreaHa: 0.25 })).length).toBeGreaterThan(1900));
  it.each([
    ['no zones', () => layOutSamples(outline, plan({ scheme: 'zone' })), 'zones'],
    [
      'a zone elsewhere',
      () =>
        layOutSamples(
          outline,
          plan({
            scheme: 'zone',
            zones: [
              {
                name: 'far',
                ring: [
                  [1, 50],
                  [1.001, 50],
                  [1.001, 50.001],
                  [1, 50],
                ],
              },
            ],
          }),
        ),
      'zones',
    ],
    [
      'a grid of ants',
      () => layOutSamples(outlineOf(500), plan({ cellAreaHa: 0.06 })),
      'cell_area_ha',
    ],
    [
      'a grid without a cell',
      () => layOutSamples(outline, plan({ cellAreaHa: null })),
      'cell_area_ha',
    ],
    [
      'a label that stands twice',
      () =>
        checkPoints(outline, [
          ...layOutSamples(outline, plan()).slice(0, 1),
          ...layOutSamples(outline, plan()).slice(0, 1),
        ]),
      'label',
    ],
    [
      'a point outside',
      () =>
        checkPoints(outline, [
          { label: 'a', kind: 'cell', at: [0, 0], areaHa: 1, shape: [], note: '' },
        ]),
      'points',
    ],
  ])('refuse %s', (_, work, field) => expect(refusal(work).field).toBe(field));
  it('one composite walks a zigzag inside the field', () => {
    const cores = zigzagCores(outline, [], 12, 20);
    expect(cores).toHaveLength(20);
    checkPoints(
      outline,
      cores.map((at, i) => ({
        label: String(i),
        kind: 'whole',
        at,
        areaHa: 1,
        shape: [],
        note: '',
      })),
    );
  });
});

describe('files of a sampling plan', () => {
  const outline = outlineOf(5);
  const laid = plan({
    cellAreaHa: 0.5,
    layers: [
      { fromCm: 0, toCm: 5 },
      { fromCm: 5, toCm: 15 },
    ],
    marks: [{ id: 'gate', kind: 'gateway', at: [-29.9995, 52.0002], radiusM: 20, note: '' }],
  });
  const full = { ...laid, points: layOutSamples(outline, laid) };
  it('write GeoJSON that a validator takes, and read the outline and the points back equal', async () => {
    const text = JSON.stringify(
      planGeojson({ fieldName: 'Low Fleet', outline, areaHa: outlineAreaHa(outline), plan: full }),
    );
    expect(() => check(text)).not.toThrow();
    const { outlines } = await readOutlineFile(new TextEncoder().encode(text), {
      crs: null,
      latitudeFirst: false,
      near: null,
    });
    expect(outlines[0]?.outline).toEqual(outline);
  });
  it('write a list for the laboratory with a bag for each layer, read back equal', () => {
    const rows = parse(
      sampleListCsv({
        farm: '=Tansy Hollow',
        field: 'Low Fleet',
        sampledOn: '2027-02-26',
        plan: full,
      }),
      { columns: true },
    ) as Record<string, string>[];
    expect(rows).toHaveLength(2 * full.points.length);
    expect(rows[1]).toMatchObject({
      label: 'LF-01/5-15',
      depth_from_cm: '5',
      depth_to_cm: '15',
      cores: '10',
      longitude: String(full.points[0]?.at[0]),
    });
    expect(rows[0]?.farm, 'a formula is not run by a spreadsheet').toBe("'=Tansy Hollow");
    expect(bagsOf({ ...full, layers: [{ fromCm: 0, toCm: 20 }] })[0]?.label).toBe('LF-01');
  });
  it('write a list that fits its published schema, bag by bag', () => {
    const fits = new Ajv2020().compile(
      JSON.parse(fs.readFileSync('docs/sample-list.schema.json', 'utf8')),
    );
    for (const row of parse(
      sampleListCsv({
        farm: 'Tansy Hollow',
        field: 'Low Fleet',
        sampledOn: '2027-02-26',
        plan: full,
      }),
      { columns: true },
    ))
      expect(fits(row), JSON.stringify(fits.errors)).toBe(true);
    expect(fits({ label: '' })).toBe(false);
  });
});

describe('what a sampling buys', () => {
  const effort = {
    nSamples: 12,
    coresPerSample: 10,
    labPricePerSample: 14,
    labourPerSample: 3,
    labourPerCore: 0.2,
  };
  it('costs samples and cores', () => expect(samplingCost(effort)).toBeCloseTo(12 * 19, 9));
  it('knows the mean of the field better than a sample, and more with more cores', () => {
    for (const row of expectedPrecision(effort)) expect(row.fieldMean).toBeLessThan(row.perSample);
    const curve = precisionCurve(effort);
    curve.slice(1).forEach((c, i) => {
      expect(c.rows[0]?.perSample).toBeLessThan(curve[i]?.rows[0]?.perSample ?? 0);
      expect(c.cost).toBeGreaterThan(curve[i]?.cost ?? 0);
    });
    expect(expectedPrecision(effort).find((r) => r.property === 'ph_water')?.unit).toBe('pH');
  });
  it('says what the next hundred buys, less each time', () => {
    const first = whatMoreBuys(effort, 100);
    const second = whatMoreBuys({ ...effort, coresPerSample: first?.cores ?? 0 }, 100);
    expect((first?.from ?? 0) - (first?.to ?? 0)).toBeGreaterThan(
      (second?.from ?? 0) - (second?.to ?? 0),
    );
    expect(whatMoreBuys({ ...effort, labourPerCore: 0 }, 100)).toBeNull();
  });
  it('has its timetable and its small sums', () => {
    expect(
      samplingDeadline({ planting: '2027-04-25', limeLeadDays: 0, today: '2027-04-10' }),
    ).toMatchObject({ value: '2027-04-01', late: true });
    expect([
      samplingGrid({ areaHa: 8, cellAreaHa: 1 }).nCells,
      bandCores({ bandSpacingCm: 30 }).value,
    ]).toEqual([8, 8]);
  });
});

describe('results of a survey', () => {
  it('weigh each point by its ground', () =>
    expect(
      fieldMean([
        { value: 10, areaHa: 1 },
        { value: 20, areaHa: 3 },
      ]),
    ).toMatchObject({ mean: 17.5, min: 10, max: 20, n: 2 }));
  it('agree with the plain mean and spread for equal cells', () => {
    const m = fieldMean([2, 4, 4, 4, 5, 5, 7, 9].map((value) => ({ value, areaHa: 1 })));
    expect(m?.mean).toBe(5);
    expect(m?.sd).toBeCloseTo(Math.sqrt(32 / 7), 9);
    expect(m?.se).toBeCloseTo(Math.sqrt(32 / 7 / 8), 9);
  });
  it('never average half a detection limit with figures', () =>
    expect(
      fieldMean([
        { value: 1.5, areaHa: 1, belowDetection: true },
        { value: 9, areaHa: 1 },
      ]),
    ).toBeNull());
  it('of a plan that was walked twice are those of the last walk, each bag once', () => {
    const bags = [
      ['a', '2022-11-01'],
      ['b', '2022-11-02'],
      ['a', '2026-11-01'],
      ['b', '2026-11-20'],
      ['b', '2026-12-01'],
    ].map(([label, date]) => ({ label: label as string, date: date as string }));
    expect(newestSurvey(bags, (b) => b).map((b) => b.date)).toEqual(['2026-11-01', '2026-12-01']);
    expect(
      newestSurvey(bags.slice(0, 3), (b) => b),
      'a bag that was not taken again has no reading of today',
    ).toHaveLength(1);
    expect(newestSurvey([], (b: { label: string; date: string }) => b)).toEqual([]);
  });
  it('have no mean without points', () => expect(fieldMean([])).toBeNull());
  const reading = (
    date: string,
    value: number,
    more: Partial<HistoryPoint> = {},
  ): HistoryPoint => ({
    date,
    value,
    scale: 'olsen, mg/kg',
    fromCm: 0,
    toCm: 20,
    cores: 20,
    analyses: 1,
    dry: false,
    ...more,
  });
  it('call a change smaller than the error none, and a large one by its size', () => {
    const [first, second, third] = history('p', [
      reading('2026-10-20', 30),
      reading('2018-10-10', 14),
      reading('2022-10-15', 17),
    ]);
    expect([first?.date, second?.change?.changed, third?.change?.changed]).toEqual([
      '2018-10-10',
      false,
      true,
    ]);
  });
  it('set readings of another season, depth, scale or a drought apart', () => {
    const list = history('p', [
      reading('2018-04-10', 14),
      reading('2019-10-10', 14, { toCm: 10 }),
      reading('2020-10-10', 14, { scale: 'bray' }),
      reading('2021-10-10', 14, { dry: true }),
      reading('2026-10-20', 15),
    ]);
    expect(list.map((r) => r.apart)).toEqual([
      'another season',
      'another depth',
      'another extractant or unit',
      'sampled dry',
      null,
    ]);
    expect(list.every((r) => r.change === null)).toBe(true);
  });
  it('have an error where the chapter knows the variation, and none for iron', () => {
    expect(readingError('p', 18, 15)).toBeCloseTo(2.539, 2);
    expect(readingError('fe', 18, 15)).toBeNull();
    expect(history('p', [])).toEqual([]);
  });
});

describe('the simulated laboratory', () => {
  const ground: TrueGround = {
    ph: 5.6,
    p: 14,
    k: 150,
    mg: 60,
    ca: 1500,
    omPct: 2.6,
    cec: 16,
    phSwing: 0.6,
    pSwing: 0.3,
    kSwing: 0.2,
  };
  const points = layOutSamples(outlineOf(20), plan({ cellAreaHa: 0.5 }));
  const samples: ListedSample[] = points.map((p) => ({
    label: p.label,
    field: 'Low Fleet',
    fromCm: 0,
    toCm: 20,
    cores: 10,
    lon: p.at[0],
    lat: p.at[1],
    date: '2026-11-12',
  }));
  const report = (seed: number, receivedOn = '2026-11-14') =>
    simulateLaboratory({ samples, ground: () => ground, receivedOn, seed });
  const column = (r: ReturnType<typeof report>, name: RegExp) =>
    r.rows.map((row) => Number(row[r.headers.findIndex((h) => name.test(h))]));
  it('answers every label once, the same for the same seed and otherwise not', () => {
    expect(report(1).rows.map((r) => r[0])).toEqual(points.map((p) => p.label));
    expect(report(1)).toEqual(report(1));
    expect(report(2).rows).not.toEqual(report(1).rows);
  });
  it('finds the ground that is there, with a pattern in it', () => {
    const ph = column(report(3), /^pH/);
    expect(ph.reduce((a, b) => a + b, 0) / ph.length).toBeCloseTo(5.6, 0);
    expect(Math.max(...ph) - Math.min(...ph)).toBeGreaterThan(0.5);
  });
  it('errs less than the ground swings: two laboratories see the same pattern', () => {
    const [a, b] = [column(report(4), /^pH/), column(report(5), /^pH/)];
    const mean = (x: number[]) => x.reduce((s, v) => s + v, 0) / x.length;
    const r =
      a.reduce((s, v, i) => s + (v - mean(a)) * ((b[i] ?? 0) - mean(b)), 0) /
      Math.sqrt(
        a.reduce((s, v) => s + (v - mean(a)) ** 2, 0) *
          b.reduce((s, v) => s + (v - mean(b)) ** 2, 0),
      );
    expect(r).toBeGreaterThan(0.7);
  });
  it('takes longer in the weeks before planting', () => {
    const days = (from: string) =>
      (Date.parse(report(1, from).reportedOn) - Date.parse(from)) / 86_400_000;
    expect(days('2026-11-14')).toBeLessThanOrEqual(12);
    expect(days('2027-03-01')).toBeGreaterThanOrEqual(21);
  });
  it('knows an ordinary loam where it is told nothing, and refuses an empty list', () => {
    expect(
      simulateLaboratory({
        samples: samples.slice(0, 3),
        ground: () => null,
        receivedOn: '2026-11-14',
        seed: 1,
      }).rows,
    ).toHaveLength(3);
    expect(
      refusal(() =>
        simulateLaboratory({ samples: [], ground: () => null, receivedOn: '2026-11-14', seed: 1 }),
      ).field,
    ).toBe('samples');
  });
});
