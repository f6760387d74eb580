// npm run bench: how fast a whole plan is assessed, against the same budget arithmetic rebuilt in a
// spreadsheet engine, and what each
// route ships. Ratios within one run; nothing is gated on them.
import { PRINTED } from '../src/core/book/book';
import { spawn } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import zlib from 'node:zlib';
import { HyperFormula, type RawCellContent } from 'hyperformula';
import {
  compareLime,
  type ComparisonInput,
  type LimeCandidate,
} from '../src/core/ground/limeComparison';
import { checkOutline, outlineAreaHa } from '../src/core/ground/outline';
import { bagsOf } from '../src/core/ground/sampleList';
import { layOutSamples } from '../src/core/ground/samplingLayout';
import type { SamplingPlan } from '../src/core/ground/samplingPlan';
import { assess } from '../src/core/assessment/assess';
import { DEMO_FARMS } from '../src/demo/scenario';
import { farmTotals } from '../src/core/farm/farmTotals';
import { farmFieldRow } from '../src/core/farm/wholeFarm';
import { type Plan } from '../src/core/document/document';
import { readPlanFile } from '../src/core/document/seasonFile';
import { crops } from '../src/core/book/crops';
import { fertilisers } from '../src/core/book/fertilisers';
import { legumes } from '../src/core/book/legumes';
import { materials, spreadingMethods } from '../src/core/book/organicMaterials';
import { limeMaterials } from '../src/core/book/limes';
import { mineralisationOf } from '../src/core/book/organicTables';
import { demoDatabase } from '../src/data/testDatabase';
import { importFile, previewFile } from '../src/server/laboratory';
import { createSamplingPlan, samplingDesk } from '../src/server/sampling';
import { samplingModel } from '../src/ui/ground/samplingModel';
import { drawMap } from '../src/ui/map/draw';
import { boundsOf, fitted } from '../src/ui/map/view';

type Row = Record<string, RawCellContent>;
const asSheet = (rows: readonly object[]): RawCellContent[][] => {
  const all = rows as readonly Row[];
  const head = Object.keys(all[0] ?? {});
  return [head, ...all.map((r) => head.map((h) => r[h] ?? null))];
};
/** "INDEX(table, the row with this key, that column)", the way a spreadsheet looks a figure up. */
const look = (sheet: string, key: string, column: string) =>
  `INDEX(${sheet}!$A$1:$BZ$200;MATCH(${key};${sheet}!$A$1:$A$200;0);MATCH("${column}";${sheet}!$A$1:$BZ$1;0))`;

/** One plan's budget as a workbook: its figures in column B, the book's tables as sheets, one formula a line. */
function workbook(plan: Plan): {
  cells: RawCellContent[][];
  tables: Record<string, RawCellContent[][]>;
} {
  const { season, field, ground, organics, passes } = plan;
  const [now, before] = [
    organics.find((o) => o.cropYear < 2),
    organics.find((o) => o.cropYear === 2),
  ];
  const legume = plan.previous?.kind === 'legume' ? plan.previous : null;
  if (!now || !before || !legume || passes.length !== 2)
    throw new Error('The benchmark wants the worked example.');
  const layer = (i: number) =>
    ground.nitrateLayers[i] ?? { no3nMgKg: 0, bulkDensityGCm3: 0, topCm: 0, bottomCm: 0 };
  const inputs: Row = {
    crop: season.cropKey,
    yield: season.yieldGoalTHa,
    no3a: layer(0).no3nMgKg,
    bda: layer(0).bulkDensityGCm3,
    cma: layer(0).bottomCm - layer(0).topCm,
    no3b: layer(1).no3nMgKg,
    bdb: layer(1).bulkDensityGCm3,
    cmb: layer(1).bottomCm - layer(1).topCm,
    om: field.omPct,
    days: season.releaseDays,
    temp: season.soilTempSeasonC,
    legume: `${legume.legumeKey}|poor`,
    material: now.materialKey,
    rate: now.rate,
    n: now.lab?.totalNKgT ?? 0,
    nh4: now.lab?.nh4NKgT ?? 0,
    p: now.lab?.pKgT ?? 0,
    k: now.lab?.kKgT ?? 0,
    method: now.methodKey,
    hours: now.coverings[0]?.hours ?? 0,
    earlier: before.materialKey,
    earlierRate: before.rate,
    pass1: passes[0]?.productId ?? null,
    pass1kg: passes[0]?.productKgHa ?? 0,
    pass2: passes[1]?.productId ?? null,
    pass2kg: passes[1]?.productKgHa ?? 0,
    factor: 1,
    catch: 0.85,
  };
  const at = (name: string) => `$B$${Object.keys(inputs).indexOf(name) + 1}`;
  const material = (column: string) => look('materials', at('material'), column);
  const old = (column: string) => look('materials', at('earlier'), column);
  const crop = (column: string) => look('crops', at('crop'), column);
  const loss = look('methods', at('method'), 'fRefFrac');
  const half = look('methods', at('method'), 'tmRefH');
  const lines: [string, string][] = [
    ['reqN', `=${crop('nReqKgT')}*${at('yield')}`],
    ['reqP', `=${crop('removalPKgT')}*${at('yield')}*${at('factor')}`],
    ['reqK', `=${crop('removalKKgT')}*${at('yield')}*${at('factor')}`],
    ['reqS', `=${crop('uptakeSKgT')}*${at('yield')}/0.8`],
    [
      'nitrate',
      `=${at('no3a')}*${at('bda')}*${at('cma')}*0.1+${at('no3b')}*${at('bdb')}*${at('cmb')}*0.1`,
    ],
    [
      'om',
      `=20*1.35*100*${at('om')}/100*0.058*1000*0.03*${at('days')}/365*POWER(2;(${at('temp')}-15)/10)*0.8*${at('catch')}`,
    ],
    ['legume', `=${look('legumes', at('legume'), 'creditRootsKgHa')}*0.92*0.7`],
    [
      'kept',
      `=1-${loss}*(${at('hours')}/(${at('hours')}+${half})+(1-${at('hours')}/(${at('hours')}+${half}))*0.05)`,
    ],
    ['pan', `=${at('rate')}*(${at('nh4')}*$KEPT+(${at('n')}-${at('nh4')})*${material('y1Frac')})`],
    ['manP', `=${at('rate')}*${at('p')}`],
    ['manK', `=${at('rate')}*${at('k')}`],
    ['manS', `=${at('rate')}*${material('sKgT')}*${material('sY1Frac')}`],
    ['oldN', `=${at('earlierRate')}*(${old('totalNKgT')}-${old('nh4NKgT')})*${old('y2Frac')}`],
    ['oldS', `=${at('earlierRate')}*${old('sKgT')}*0.05`],
    ['netN', '=$REQN-$NITRATE-$OM-$LEGUME-$PAN-$OLDN'],
    ['netP', '=$REQP-$MANP'],
    ['netK', '=$REQK-$MANK'],
    ['netS', '=$REQS-$OM/8-$MANS-$OLDS'],
    [
      'planned',
      `=(${at('pass1kg')}*${look('ferts', at('pass1'), 'nTotalPct')}+${at('pass2kg')}*${look('ferts', at('pass2'), 'nTotalPct')})/100`,
    ],
  ];
  const formulas = lines.map(([, f]) =>
    f.replace(/\$([A-Z]{2,})(?!\$)\b/g, (whole, name: string) => {
      const i = lines.findIndex(([l]) => l.toUpperCase() === name);
      return i < 0 ? whole : `$D$${i + 1}`;
    }),
  );
  const names = Object.keys(inputs);
  const cells = Array.from(
    { length: Math.max(names.length, lines.length) },
    (_, i): RawCellContent[] => [
      names[i] ?? null,
      i < names.length ? (inputs[names[i] as string] ?? null) : null,
      lines[i]?.[0] ?? null,
      formulas[i] ?? null,
    ],
  );
  const withShares = materials(PRINTED).map((m) => ({
    ...m,
    ...mineralisationOf(m.mineralisationClass),
  }));
  return {
    cells,
    tables: {
      crops: asSheet(crops(PRINTED)),
      legumes: asSheet(legumes().map((l) => ({ id: `${l.legumeKey}|${l.standClass}`, ...l }))),
      materials: asSheet(withShares),
      methods: asSheet(spreadingMethods()),
      ferts: asSheet(fertilisers(PRINTED)),
    },
  };
}

const OPTIONS = { licenseKey: 'gpl-v3', functionArgSeparator: ';' };
const FIRST_RESULT = { n: 'netN', p: 'netP', k: 'netK', s: 'netS' } as const;
function rebuilt(plan: Plan): HyperFormula {
  const { cells, tables } = workbook(plan);
  return HyperFormula.buildFromSheets({ budget: cells, ...tables }, OPTIONS);
}
function results(engine: HyperFormula, cells: RawCellContent[][]): Record<string, number> {
  const sheet = engine.getSheetId('budget') ?? 0;
  return Object.fromEntries(
    Object.entries(FIRST_RESULT).map(([x, name]) => [
      x,
      Number(engine.getCellValue({ sheet, row: cells.findIndex((r) => r[2] === name), col: 3 })),
    ]),
  );
}

/** Milliseconds of each call, sorted. */
function clock(times: number, call: (i: number) => unknown): number[] {
  return Array.from({ length: times }, (_, i) => {
    const t = performance.now();
    call(i);
    return performance.now() - t;
  }).sort((a, b) => a - b);
}
const at = (sorted: number[], q: number): number =>
  sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * q))] ?? 0;
const ms = (v: number) => `${v.toFixed(v < 1 ? 3 : 1)} ms`;

function speed(): void {
  const plan = readPlanFile(
    JSON.parse(fs.readFileSync('examples/terrace-short.plan.json', 'utf8')),
  );
  const varied = (i: number): Plan => ({
    ...plan,
    season: { ...plan.season, yieldGoalTHa: 50 + (i % 30) },
  });
  // Before the spreadsheet engine fills the heap: its garbage would be counted as ours.
  clock(400, (i) => assess(PRINTED, varied(i)));
  const full = clock(3000, (i) => assess(PRINTED, varied(i)));
  const engine = rebuilt(plan);
  const cells = workbook(plan).cells;
  const ours = assess(PRINTED, plan).sums;
  for (const [x, v] of Object.entries(results(engine, cells))) {
    const net = ours[x as keyof typeof ours].net;
    if (Math.abs(net - v) > 0.011)
      throw new Error(`The workbook and assess() differ for ${x}: ${v} and ${net}.`);
  }
  clock(5, (i) => rebuilt(varied(i)).destroy());
  const books = clock(40, (i) => {
    const e = rebuilt(varied(i));
    results(e, cells);
    e.destroy();
  });
  const sheet = engine.getSheetId('budget') ?? 0;
  // The kindest case for the spreadsheet: its tables stay, and only the figures of the next plan
  // are written over the last one's.
  const column = (i: number): RawCellContent[][] =>
    cells.map((r) => [r[0] === 'yield' ? 50 + (i % 30) : (r[1] ?? null)]);
  const edits = clock(300, (i) => {
    engine.setCellContents({ sheet, row: 0, col: 1 }, column(i));
    results(engine, cells);
  });
  const mean = (v: number[]) => v.reduce((s, x) => s + x, 0) / v.length;
  console.log(
    `assess(), a full plan with reasons, warnings and stations   median ${ms(at(full, 0.5))}, p95 ${ms(at(full, 0.95))}, ${Math.round(1000 / mean(full))} plans/s`,
  );
  console.log(
    `the same arithmetic, one workbook a plan                     median ${ms(at(books, 0.5))}, ${Math.round(1000 / mean(books))} plans/s`,
  );
  console.log(
    `the same arithmetic, figures typed over in an open workbook  median ${ms(at(edits, 0.5))}`,
  );
  console.log(
    `ratio, plans a second against a workbook a plan: ${(mean(books) / mean(full)).toFixed(1)} (wanted: 50 or more); against typing over an open one: ${(mean(edits) / mean(full)).toFixed(1)}`,
  );
}

/**
 * A farm of five hundred fields, as the worker reckons it: the demo's fields over and over, each
 * with a goal of its own.
 */
function wholeFarm(): void {
  const demo = DEMO_FARMS.flatMap((f) => f.fields.map((x) => x.seasons[0] as Plan));
  const fields = Array.from({ length: 500 }, (_, i) => {
    const plan = demo[i % demo.length] as Plan;
    return {
      fieldId: `f${i}`,
      plan: {
        ...plan,
        season: {
          ...plan.season,
          yieldGoalTHa:
            plan.season.yieldGoalTHa === null
              ? null
              : plan.season.yieldGoalTHa * (0.8 + (i % 20) / 50),
        },
      },
    };
  });
  const each: number[] = [];
  const start = performance.now();
  const rows = fields.map((f) => {
    const t = performance.now();
    const row = farmFieldRow(PRINTED, f);
    each.push(performance.now() - t);
    return row;
  });
  const reckoned = performance.now() - start;
  const sums = clock(20, () => farmTotals(rows, [], fields[0]?.plan.farm as Plan['farm']));
  console.log(
    `whole farm of ${rows.length} fields, in the worker                      ${(reckoned / 1000).toFixed(2)} s in all, longest field ${ms(Math.max(...each))}; its sums on the page ${ms(at(sums, 0.95))}`,
  );
}

/**
 * Limes against a field; a fine grid over a large field, laid and drawn; and a laboratory file of
 * five thousand rows.
 */
async function ground(): Promise<void> {
  const comparison: ComparisonInput = {
    needTHa: 3,
    ph: 5.9,
    targetPh: 6.6,
    actBelowPh: 6.2,
    spreadDate: '2027-02-26',
    plantingDate: '2027-05-25',
    climate: 'moist',
    soil: 'other',
    split: true,
    onePassMaxTHa: null,
    crop: { group: 'faba_bean', omPct: 2, yieldGoal: 4, price: 260 },
  };
  const limes = limeMaterials(PRINTED)
    .filter((m) => m.isLime === 'yes')
    .map((m): LimeCandidate => ({
      id: m.key,
      materialKey: m.key,
      pricePerT: 20,
      haulPerT: 9,
      spreadPerT: 8,
      analysis: null,
    }));
  const compared = (i: number) =>
    compareLime(PRINTED, limes[i % limes.length] as LimeCandidate, {
      ...comparison,
      needTHa: 2 + (i % 30) / 10,
    });
  clock(2000, compared);
  const each = clock(5000, compared);
  console.log(
    `one lime against a field and a planting date                 median ${ms(at(each, 0.5))}, ${Math.round(5000 / (each.reduce((a, b) => a + b, 0) / 1000))} comparisons/s`,
  );

  const side = 0.0322;
  const outline = checkOutline({
    coordinates: [
      [
        [-30, 52],
        [-30 + side, 52],
        [-30 + side, 52 + side * 0.63],
        [-30 + side * 0.2, 52 + side * 0.7],
        [-30, 52 + side * 0.5],
      ],
    ],
  });
  const plan: SamplingPlan = {
    purpose: 'ph_p_k_tilled',
    scheme: 'grid',
    cellAreaHa: 0.25,
    coresPerSample: 10,
    layers: [{ fromCm: 0, toCm: 20 }],
    headlandM: 12,
    prefix: 'G-',
    labPricePerSample: 14,
    labourPerSample: 3,
    labourPerCore: 0.25,
    zones: [],
    marks: [],
    points: [],
  };
  const laying = clock(3, () => layOutSamples(outline, plan));
  const laid = { ...plan, points: layOutSamples(outline, plan) };
  const model = samplingModel(outline, laid, { look: () => ({ fill: '--map-2', text: '5.1' }) });
  // Without a canvas here: what is measured is our own part, the geometry and the calls.
  const canvas = new Proxy(
    {},
    { get: () => () => undefined, set: () => true },
  ) as CanvasRenderingContext2D;
  const view = fitted(boundsOf(model), 900, 600);
  clock(10, () => drawMap(canvas, model, view, 900, 600, () => '#000', 'sans-serif'));
  const frames = clock(60, (i) =>
    drawMap(canvas, model, { ...view, x: view.x + i * 5 }, 900, 600, () => '#000', 'sans-serif'),
  );
  console.log(
    `grid of 0.25 ha over ${outlineAreaHa(outline).toFixed(0)} ha, ${laid.points.length} samples            laid in ${ms(at(laying, 0.5))}; a frame while panning median ${ms(at(frames, 0.5))}, p95 ${ms(at(frames, 0.95))} (without the canvas itself)`,
  );

  process.env.FURROW_TODAY = '2027-02-26';
  const { db, close } = await demoDatabase();
  const ines = { id: 'ines-calloway', name: 'Ines Calloway' };
  const fine: SamplingPlan = {
    ...plan,
    cellAreaHa: 0.05,
    coresPerSample: 5,
    headlandM: 0,
    prefix: 'BIG-',
    layers: [
      { fromCm: 0, toCm: 10 },
      { fromCm: 10, toCm: 20 },
      { fromCm: 20, toCm: 30 },
      { fromCm: 30, toCm: 40 },
    ],
  };
  const lowFleet = (await samplingDesk(db, ines, 'low-fleet', false)).outline;
  if (!lowFleet) throw new Error('The demo field has an outline.');
  const document = { ...fine, points: layOutSamples(lowFleet, fine) };
  await createSamplingPlan(db, ines, 'low-fleet', 'Low Fleet, very fine', document);
  const rows = Array.from({ length: 12 }, (_, d) =>
    bagsOf(document).map(
      (b, i) =>
        `${b.label};Low Fleet;2026-12-${String(d + 1).padStart(2, '0')};${(5 + (i % 20) / 10).toFixed(1)};${10 + (i % 30)};${100 + (i % 60)}`,
    ),
  )
    .flat()
    .slice(0, 5000);
  const bytes = new TextEncoder().encode(
    `Sample;Field;Sampled;pH H2O;P Olsen (mg/kg);K amm. acetate (mg/kg)\n${rows.join('\n')}\n`,
  );
  const { mapping } = await previewFile(db, ines, 'tansy-hollow', 'Vale testing house', bytes);
  let steps = 0;
  const start = performance.now();
  const { imported } = await importFile(
    db,
    ines,
    'tansy-hollow',
    'Vale testing house',
    'large.csv',
    bytes,
    { ...mapping, dateOrder: 'ymd' },
    async () => {
      steps++;
    },
  );
  console.log(
    `import of ${imported} rows into the database                      ${((performance.now() - start) / 1000).toFixed(1)} s with ${steps} reports of progress (wanted: under 3)`,
  );
  await close();
}

/** Compressed JavaScript that each route asks for in its first HTML, from the built app. */
async function sizes(): Promise<void> {
  const data = fs.mkdtempSync(path.join(os.tmpdir(), 'furrow-bench-'));
  const server = spawn(process.execPath, ['.next/standalone/server.js'], {
    stdio: 'ignore',
    env: {
      ...process.env,
      PORT: '3119',
      HOSTNAME: '127.0.0.1',
      NODE_ENV: 'production',
      FURROW_DATA: data,
      FURROW_DEMO: '1',
      FURROW_TODAY: '2027-02-26',
    },
  });
  try {
    const url = 'http://127.0.0.1:3119';
    for (
      let i = 0;
      i < 120 &&
      !(await fetch(`${url}/api/health`).then(
        (r) => r.ok,
        () => false,
      ));
      i++
    )
      await new Promise((r) => setTimeout(r, 500));
    const field = '/fields/low-fleet';
    for (const route of [
      '/',
      ...[
        'ground',
        'ground/sampling',
        'ground/survey',
        'ground/barrel',
        'ground/lime',
        'ground/nutrients',
        'ground/claims',
        'crop',
        'budget',
        'budget/organics',
        'budget/years',
        'supply',
        'season',
        'sheet',
      ].map((s) => `${field}/${s}`),
      '/fields',
      '/farms/tansy-hollow',
      '/library',
      '/samples',
      '/claims',
      '/sampling/low-fleet-grid',
      '/calculators',
      '/calculators/budget.balance',
    ]) {
      const html = await (await fetch(url + route)).text();
      // Scripts and preloaded chunks; not the old browsers' fill-ins that are marked noModule.
      const tags = [...html.matchAll(/<(?:script|link)[^>]*>/gi)]
        .map((m) => m[0])
        .filter((t) => !/nomodule/i.test(t));
      const files = [
        ...new Set(tags.flatMap((t) => /(?:src|href)="([^"]+\.js)[^"]*"/.exec(t)?.[1] ?? [])),
      ];
      const bytes = await Promise.all(
        files.map(
          async (f) =>
            zlib.gzipSync(Buffer.from(await (await fetch(url + f)).arrayBuffer())).length,
        ),
      );
      console.log(
        `${route.padEnd(30)} ${(bytes.reduce((s, b) => s + b, 0) / 1000).toFixed(0).padStart(4)} kB of JavaScript, compressed (wanted: under 200)`,
      );
    }
  } finally {
    server.kill('SIGTERM');
    fs.rmSync(data, { recursive: true, force: true });
  }
}

speed();
wholeFarm();
await ground();
await sizes();
