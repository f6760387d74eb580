import { checkOutline, outlineAreaHa, ringsOf, type Outline } from '../core/ground/outline';
import { stringify } from 'csv-stringify/sync';
import { bagsOf } from '../core/ground/sampleList';
import { soilBringIn } from '../core/laboratory/bringIn';
import { readLaboratory } from '../core/laboratory/readLaboratory';
import { layOutSamples } from '../core/ground/samplingLayout';
import type { SamplingPlan } from '../core/ground/samplingPlan';
import { SIMULATED_LABORATORY, simulateLaboratory } from '../demo/simulatedLaboratory';
import { EARLIER_SOIL } from '../demo/earlierSoil';
import { soilReading } from '../core/facts/soilSample';
import { DEMO_ADVISOR, DEMO_FARMS } from '../demo/scenario';
import { trueGround } from '../demo/trueGround';
import { demoLeaves } from '../demo/quernOrchard';
import type { Plan } from '../core/document/document';
import type { Db, Executor } from './client';
import { fieldById } from './farms';
import { addLeafSample } from './samples';
import { addSamplingPlan, addSoilSamples } from './sampling';
import { farms, fields, machines, memberships, people, stores } from './schema';
import { createSeason } from './savePlan';

/** Shapes of the made-up fields, as shares of a box: no field is a rectangle. */
const SHAPES: readonly (readonly [number, number])[][] = [
  [
    [0, 0.08],
    [0.34, 0],
    [1, 0.12],
    [0.96, 0.7],
    [0.62, 1],
    [0.1, 0.92],
  ],
  [
    [0.05, 0],
    [0.9, 0.04],
    [1, 0.5],
    [0.82, 1],
    [0.2, 0.95],
    [0, 0.4],
  ],
  [
    [0, 0],
    [1, 0.1],
    [0.98, 0.86],
    [0.5, 1],
    [0.02, 0.88],
  ],
  [
    [0.12, 0],
    [1, 0],
    [0.94, 0.6],
    [0.66, 0.96],
    [0, 1],
  ],
];
/** An outline of just this area, laid out on the open sea: the farms are made up. */
function outline(areaHa: number, index: number): Outline {
  const shape = SHAPES[index % SHAPES.length] as (readonly [number, number])[];
  const [lon, lat] = [-30 + (index % 5) * 0.008, 52 + Math.floor(index / 5) * 0.006];
  const at = (scale: number): Outline =>
    checkOutline({
      type: 'Polygon',
      coordinates: [
        shape.map(([x, y]) =>
          [lon + x * scale * 0.0019, lat + y * scale * 0.00082].map((v) => Number(v.toFixed(7))),
        ),
      ],
    });
  // The area grows with the square of the size.
  return at(Math.sqrt(areaHa / outlineAreaHa(at(1))));
}

/**
 * The survey of the low field: a grid whose results show a pattern, as the simulated laboratory
 * found it.
 */
async function demoSurvey(tx: Executor): Promise<void> {
  const field = await fieldById(tx, 'low-fleet');
  if (!field?.outline) return;
  const plan: SamplingPlan = {
    purpose: 'ph_p_k_tilled',
    scheme: 'grid',
    cellAreaHa: 0.5,
    coresPerSample: 10,
    layers: [{ fromCm: 0, toCm: 20 }],
    headlandM: 12,
    prefix: 'LF26-',
    labPricePerSample: 14,
    labourPerSample: 3,
    labourPerCore: 0.25,
    zones: [],
    points: [],
    marks: [
      {
        id: 'lf-gate',
        kind: 'gateway',
        at: markAt(field.outline, 0.16, 0.2),
        radiusM: 20,
        note: 'field gate',
      },
      {
        id: 'lf-heap',
        kind: 'old_heap',
        at: markAt(field.outline, 0.62, 0.55),
        radiusM: 25,
        note: 'muck heap of 2024',
      },
    ],
  };
  const document = { ...plan, points: layOutSamples(field.outline, plan) };
  await addSamplingPlan(tx, {
    id: 'low-fleet-grid',
    fieldId: 'low-fleet',
    createdOn: '2026-11-05',
    name: 'Low Fleet grid 2026',
    document,
  });
  const report = simulateLaboratory({
    samples: bagsOf(document).map((b) => ({
      label: b.label,
      field: field.name,
      fromCm: b.fromCm,
      toCm: b.toCm,
      cores: document.coresPerSample,
      lon: b.at[0],
      lat: b.at[1],
      date: '2026-11-12',
    })),
    ground: trueGround,
    receivedOn: '2026-11-14',
    seed: 20261112,
  });
  const points = new Map(
    document.points.map((p) => [
      p.label.toLowerCase(),
      { samplingPlanId: 'low-fleet-grid', label: p.label, fieldName: field.name },
    ]),
  );
  const file = stringify([report.headers, ...report.rows]);
  const { good } = soilBringIn(
    await readLaboratory(new TextEncoder().encode(file), {
      kind: 'soil',
      fields: null,
      answers: {},
      sheet: null,
    }),
    { fieldNames: [field.name], today: '2027-02-26', known: new Set(), points },
  );
  await addSoilSamples(
    tx,
    good.map((s) => ({
      sample: {
        id: `lf26-${s.label}`,
        fieldId: 'low-fleet',
        date: s.date,
        label: s.label,
        laboratory: SIMULATED_LABORATORY,
        depthFromCm: s.depthFromCm,
        depthCm: s.depthCm,
        nCores: document.coresPerSample,
        moisture: 'moist',
        phWater: s.phWater,
        bufferKind: s.bufferKind,
        bufferPh: s.bufferPh,
        omPct: s.omPct,
        cecCmolKg: s.cecCmolKg,
        kind: 'point',
        samplingPlanId: 'low-fleet-grid',
      },
      readings: s.readings.map((r) => ({
        ...r,
        nutrient: soilReading.shape.nutrient.parse(r.nutrient),
      })),
    })),
    async () => {},
  );
}
const markAt = (o: Outline, x: number, y: number): [number, number] => {
  const ring = ringsOf(o)[0] ?? [];
  const span = (k: 0 | 1) => {
    const v = ring.map((p) => p[k] as number);
    return [Math.min(...v), Math.max(...v)] as const;
  };
  const [[lon0, lon1], [lat0, lat1]] = [span(0), span(1)];
  return [
    Number((lon0 + x * (lon1 - lon0)).toFixed(7)),
    Number((lat0 + y * (lat1 - lat0)).toFixed(7)),
  ];
};

/** Ids of the demo's facts, the same in every copy: soil sample first, then nitrate. */
const factIds = (fieldKey: string, plan: Plan) => {
  const ids = [
    ...(plan.ground.sampleDate ? [`${fieldKey}-soil-${plan.ground.sampleDate}`] : []),
    `${fieldKey}-nitrate-${plan.season.label.replace('/', '-')}`,
  ];
  return () => ids.shift() ?? '';
};
async function demoFarms(tx: Executor): Promise<void> {
  await tx.insert(people).values({ id: DEMO_ADVISOR.key, name: DEMO_ADVISOR.name });
  let place = 0;
  for (const f of DEMO_FARMS) {
    await tx.insert(people).values({ id: f.farmer.key, name: f.farmer.name });
    await tx.insert(farms).values({
      id: f.key,
      place: f.place,
      latitudeDeg: f.latitudeDeg,
      climateId: f.climateId,
      demo: true,
      ...f.farm,
    });
    await tx.insert(memberships).values([
      { personId: DEMO_ADVISOR.key, farmId: f.key, role: 'advisor' },
      { personId: f.farmer.key, farmId: f.key, role: 'farmer' },
    ]);
    if (f.stores.length > 0)
      await tx
        .insert(stores)
        .values(
          f.stores.map(({ key, ...s }, position) => ({ id: key, farmId: f.key, position, ...s })),
        );
    if (f.machines.length > 0)
      await tx
        .insert(machines)
        .values(
          f.machines.map(({ key, ...m }, position) => ({ id: key, farmId: f.key, position, ...m })),
        );
    for (const [position, d] of f.fields.entries()) {
      const {
        name,
        areaHa,
        soilTextureId,
        omPct,
        omDepthCm,
        cecCmolKg,
        clayPct,
        tillage,
        tenure,
        certification,
      } = d.field;
      await tx.insert(fields).values({
        id: d.key,
        farmId: f.key,
        outline: outline(areaHa, place++),
        position,
        name,
        areaHa,
        soilTextureId,
        omPct,
        omDepthCm,
        cecCmolKg,
        clayPct,
        tillage,
        tenure,
        certification,
      });
      for (const plan of d.seasons)
        await createSeason(tx, `${d.key}-${plan.season.label.replace('/', '-')}`, d.key, plan, {
          author: null,
          today: plan.asOf,
          newId: factIds(d.key, plan),
        });
    }
  }
  await demoSurvey(tx);
  for (const s of EARLIER_SOIL)
    await addSoilSamples(
      tx,
      [
        {
          sample: {
            id: `${s.fieldKey}-soil-${s.date}`,
            fieldId: s.fieldKey,
            date: s.date,
            label: null,
            laboratory: s.laboratory,
            depthCm: s.depthCm,
            nCores: s.nCores,
            moisture: s.moisture,
            phWater: s.phWater,
            phCacl2: s.phCacl2,
          },
          readings: s.readings,
        },
      ],
      async () => {},
    );
  for (const l of demoLeaves)
    await addLeafSample(tx, l.fieldKey, {
      ...l.sample,
      cropKey: l.cropKey,
      version: 1,
      author: null,
      recordedOn: l.sample.date,
    });
}

/** The user's own start: one person, one farm without fields. */
async function ownFarm(tx: Executor): Promise<void> {
  await tx.insert(people).values({ id: 'me', name: 'Me' });
  await tx.insert(farms).values({
    id: 'my-farm',
    name: 'My farm',
    place: '',
    latitudeDeg: 52,
    climateId: 'maritime_cool_52n',
    closedPeriods: [],
    legalNCapKgHa: null,
    nPricePerKg: 1.2,
  });
  await tx.insert(memberships).values({ personId: 'me', farmId: 'my-farm', role: 'owner' });
}

/** Fills an empty database, all or nothing; leaves one with people alone. */
export async function seed(db: Db, kind: 'demo' | 'own'): Promise<void> {
  if ((await db.select({ id: people.id }).from(people).limit(1)).length > 0) return;
  await db.transaction((tx) => (kind === 'demo' ? demoFarms(tx) : ownFarm(tx)));
}
