import { PRINTED } from '../../src/core/book/book';
import {
  compareLime,
  type ComparisonInput,
  type LimeCandidate,
} from '../../src/core/ground/limeComparison';
import { checkOutline, outlineAreaHa } from '../../src/core/ground/outline';
import { bagsOf } from '../../src/core/ground/sampleList';
import { layOutSamples } from '../../src/core/ground/samplingLayout';
import { SamplingPlan } from '../../src/core/ground/samplingPlan';
import { limeMaterials } from '../../src/core/book/limes';
import { demoDatabase } from '../../src/data/testDatabase';
import { importFile } from '../../src/server/laboratory';
import { createSamplingPlan, samplingDesk } from '../../src/server/sampling';
import { samplingModel } from '../../src/ui/ground/samplingModel';
import { drawMap } from '../../src/ui/map/draw';
import { boundsOf, fitted } from '../../src/ui/map/view';
import { at, clock, ms } from './clock';

/**
 * Limes against a field; a fine grid over a large field, laid and drawn; and a laboratory file of
 * five thousand rows.
 */
export async function ground(): Promise<void> {
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
  let steps = 0;
  const start = performance.now();
  const { imported } = await importFile(
    db,
    ines,
    'tansy-hollow',
    'Vale testing house',
    'large.csv',
    bytes,
    { answers: {}, anew: false },
    async () => {
      steps++;
    },
  );
  console.log(
    `import of ${imported} rows into the database                      ${((performance.now() - start) / 1000).toFixed(1)} s with ${steps} reports of progress (wanted: under 3)`,
  );
  await close();
}
