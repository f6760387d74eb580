import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ClaimInput } from '@/core/ground/claim';
import { bagsOf } from '@/core/ground/sampleList';
import { layOutSamples } from '@/core/ground/samplingLayout';
import type { SamplingPlan } from '@/core/ground/samplingPlan';
import { Refusal } from '@/core/quantity/refusal';
import type { Db } from '@/data/client';
import { demoDatabase } from '@/data/testDatabase';
import { NotAllowed } from './authorise';
import { importFile, lookAtFile } from './laboratory';
import { deskOf } from './plans';
import {
  changeSamplingPlan,
  createSamplingPlan,
  dropClaim,
  dropSamplingPlan,
  keepClaim,
  outlinesInFile,
  samplingCsv,
  samplingDesk,
  samplingGeojson,
  samplingToPrint,
  saveOutline,
} from './sampling';
import { samplesOverview } from './samples';
import { sendToSimulatedLaboratory } from './simulatedLaboratory';

process.env.FURROW_TODAY = '2027-02-26';
const ines = { id: 'ines-calloway', name: 'Ines Calloway' };
const odo = { id: 'odo-merrick', name: 'Odo Merrick' };
const wanda = { id: 'wanda-ostrow', name: 'Wanda Ostrow' };
let db: Db;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ db, close } = await demoDatabase());
});
afterAll(() => close());
const text = (t: string) => new TextEncoder().encode(t);
const refusal = async (work: Promise<unknown>) => {
  try {
    await work;
  } catch (e) {
    if (e instanceof Refusal) return e.detail;
    throw e;
  }
  throw new Error('was not refused');
};
const draft = (part: Partial<SamplingPlan> = {}): SamplingPlan => ({
  purpose: 'ph_p_k_tilled',
  scheme: 'grid',
  cellAreaHa: 0.5,
  coresPerSample: 10,
  layers: [{ fromCm: 0, toCm: 20 }],
  headlandM: 12,
  prefix: 'YP-',
  labPricePerSample: 14,
  labourPerSample: 3,
  labourPerCore: 0.2,
  zones: [],
  marks: [],
  points: [],
  ...part,
});
async function laid(fieldId: string, part: Partial<SamplingPlan> = {}): Promise<SamplingPlan> {
  const { outline } = await samplingDesk(db, ines, fieldId);
  if (!outline) throw new Error('no outline');
  const plan = draft(part);
  return { ...plan, points: layOutSamples(outline, plan) };
}

describe('sampling plans', () => {
  it('are stored, changed by version, printed, and dropped', async () => {
    const plan = await laid('yard-piece');
    const { id } = await createSamplingPlan(db, ines, 'yard-piece', 'Yard 2027', plan);
    expect(
      await changeSamplingPlan(db, ines, id, 1, 'Yard 2027', { ...plan, coresPerSample: 12 }),
    ).toEqual({ version: 2 });
    expect((await refusal(changeSamplingPlan(db, ines, id, 1, 'Yard 2027', plan))).message).toMatch(
      /Somebody else/,
    );
    const print = await samplingToPrint(db, odo, id);
    expect(print?.plan.document.coresPerSample).toBe(12);
    if (!print) return;
    expect((JSON.parse(samplingGeojson(print)) as { features: unknown[] }).features.length).toBe(
      1 + 2 * plan.points.length,
    );
    expect(samplingCsv(print).trim().split(/\r?\n/)).toHaveLength(1 + plan.points.length);
    await expect(changeSamplingPlan(db, odo, id, 2, 'Mine', plan)).rejects.toThrow(NotAllowed);
    await expect(samplingToPrint(db, wanda, id)).rejects.toThrow(NotAllowed);
    await dropSamplingPlan(db, ines, id);
    expect(await samplingToPrint(db, ines, id)).toBeNull();
  });
  it('keep labels that name one bag on the farm', async () => {
    const plan = await laid('yard-piece', { prefix: 'LF26-' });
    expect(
      (await refusal(createSamplingPlan(db, ines, 'yard-piece', 'Yard 2027', plan))).message,
    ).toMatch(/LF26-\d+ is used already in a sampling plan of Low Fleet/);
    const [first] = plan.points;
    expect(
      (
        await refusal(
          createSamplingPlan(db, ines, 'yard-piece', 'Yard 2027', {
            ...plan,
            points: [first, first],
          }),
        )
      ).field,
    ).toBe('label');
  });
  it('refuse a point outside, a layer upside down, no samples, and a name of one letter', async () => {
    const plan = await laid('yard-piece', { prefix: 'Q-' });
    const points = plan.points.map((p, i) => (i === 0 ? { ...p, at: [0, 0] } : p));
    expect(
      (await refusal(createSamplingPlan(db, ines, 'yard-piece', 'Yard', { ...plan, points })))
        .field,
    ).toBe('points');
    expect(
      (
        await refusal(
          createSamplingPlan(db, ines, 'yard-piece', 'Yard', {
            ...plan,
            layers: [{ fromCm: 20, toCm: 10 }],
          }),
        )
      ).field,
    ).toBe('layers');
    expect(
      (await refusal(createSamplingPlan(db, ines, 'yard-piece', 'Yard', { ...plan, points: [] })))
        .field,
    ).toBe('points');
    expect((await refusal(createSamplingPlan(db, ines, 'yard-piece', 'Y', plan))).field).toBe(
      'name',
    );
    expect(
      (
        await refusal(
          createSamplingPlan(db, ines, 'yard-piece', 'Yard', { ...plan, coresPerSample: 0 }),
        )
      ).code,
    ).toBe('out_of_range');
    expect((await refusal(createSamplingPlan(db, ines, 'nowhere', 'Yard', plan))).field).toBe(
      'field',
    );
  });
});

const NOTHING_SAID = { answers: {}, anew: false };

describe('the way to the laboratory and back', () => {
  it('brings each label back to its point, and the mean of the points into the plan', async () => {
    const plan = await laid('sheepwalk', {
      prefix: 'SW-',
      cellAreaHa: 1,
      layers: [{ fromCm: 0, toCm: 10 }],
    });
    const { id } = await createSamplingPlan(db, ines, 'sheepwalk', 'Sheepwalk 2027', plan);
    const print = await samplingToPrint(db, ines, id);
    const report = sendToSimulatedLaboratory(text(samplingCsv(print as NonNullable<typeof print>)));
    expect(report).toMatchObject({ samples: plan.points.length, receivedOn: '2027-02-26' });
    const bytes = text(report.csv);
    const look = () =>
      lookAtFile(db, ines, 'tansy-hollow', 'Senn laboratory (simulated)', bytes, NOTHING_SAID);
    expect(await look()).toMatchObject({ questions: [], good: plan.points.length, bad: [] });
    const before = (await deskOf(db, ines, 'sheepwalk', null))?.stored.plan.ground.sampleDate;
    const done: number[] = [];
    expect(
      await importFile(
        db,
        ines,
        'tansy-hollow',
        'Senn laboratory (simulated)',
        'r.csv',
        bytes,
        NOTHING_SAID,
        async (p) => {
          done.push(p.done);
        },
      ),
    ).toEqual({ imported: plan.points.length, waiting: 0 });
    expect(done.at(-1)).toBe(plan.points.length);
    const ground = (await deskOf(db, ines, 'sheepwalk', null))?.stored.plan.ground;
    expect(ground?.sampleDate).not.toBe(before);
    expect(ground?.nPoints).toBe(plan.points.length);
    const points = (await samplingDesk(db, ines, 'sheepwalk')).samples.filter(
      (s) => s.sample.samplingPlanId === id && s.sample.kind === 'point',
    );
    expect(new Set(points.map((s) => s.sample.label))).toEqual(
      new Set(bagsOf(plan).map((b) => b.label)),
    );
    const phs = points.map((s) => s.sample.phWater as number);
    expect(ground?.phWater).toBeGreaterThan(Math.min(...phs));
    expect(ground?.phWater).toBeLessThan(Math.max(...phs));
    const listed = await samplesOverview(db, odo, { offset: 0, limit: 50, search: '' });
    const line = listed.samples.find((s) => s.fieldId === 'sheepwalk' && s.kind === 'point');
    expect(line).toMatchObject({
      samples: plan.points.length,
      depth: '0-10',
      ph: expect.stringMatching(/^\d\.\d to \d\.\d$/),
    });
    expect((await look()).good).toBe(0);
    // Three weeks later one bag is read again: the same survey, whose mean moves; four years on
    // it would be another.
    const means = async () =>
      (await samplingDesk(db, ines, 'sheepwalk')).samples.filter((s) => s.sample.kind === 'mean');
    expect(await means()).toHaveLength(1);
    const [heading, first] = report.csv.trim().split(/\r?\n/) as [string, string];
    process.env.FURROW_TODAY = '2031-03-01';
    for (const [date, count] of [
      ['2027-03-19', 1],
      ['2031-02-20', 2],
    ] as const) {
      const again = text(`${heading}\n${first.replaceAll('2027-02-26', date)}\n`);
      expect(
        (
          await importFile(
            db,
            ines,
            'tansy-hollow',
            'Senn laboratory (simulated)',
            'r.csv',
            again,
            NOTHING_SAID,
          )
        ).imported,
      ).toBe(1);
      expect(await means(), date).toHaveLength(count);
    }
    process.env.FURROW_TODAY = '2027-02-26';
  });
  it('refuses a list that is none, and a depth that is no number', () => {
    expect(() => sendToSimulatedLaboratory(text('a,b\n1,2\n'))).toThrow(/not a sample list/);
    expect(() =>
      sendToSimulatedLaboratory(
        text(
          'label,farm,field,sampled_on,depth_from_cm,depth_to_cm,cores,purpose,longitude,latitude\nA,F,Low Fleet,2027-02-01,0,deep,10,x,-30,52\n',
        ),
      ),
    ).toThrow(/Line 2, column depth_to_cm: deep is not a number/);
  });
  it('takes five thousand rows, and says how far it is', async () => {
    const plan = await laid('low-fleet', {
      prefix: 'BIG-',
      cellAreaHa: 0.05,
      headlandM: 0,
      coresPerSample: 5,
      layers: [
        { fromCm: 0, toCm: 10 },
        { fromCm: 10, toCm: 20 },
        { fromCm: 20, toCm: 30 },
        { fromCm: 30, toCm: 40 },
      ],
    });
    await createSamplingPlan(db, ines, 'low-fleet', 'Low Fleet, very fine', plan);
    const bags = bagsOf(plan);
    // Twelve days of the same bags make five thousand rows and more.
    const rows = Array.from({ length: 12 }, (_, d) =>
      bags.map(
        (b, i) =>
          `${b.label};Low Fleet;2026-12-${String(d + 1).padStart(2, '0')};${(5 + (i % 20) / 10).toFixed(1)};${10 + (i % 30)};${100 + (i % 60)}`,
      ),
    )
      .flat()
      .slice(0, 5000);
    expect(rows).toHaveLength(5000);
    const bytes = text(
      `Sample;Field;Sampled;pH H2O;P Olsen (mg/kg);K amm. acetate (mg/kg)\n${rows.join('\n')}\n`,
    );
    const steps: number[] = [];
    const result = await importFile(
      db,
      ines,
      'tansy-hollow',
      'Vale testing house',
      'big.csv',
      bytes,
      NOTHING_SAID,
      async (p) => {
        steps.push(p.done);
      },
    );
    expect(result).toEqual({ imported: 5000, waiting: 0 });
    expect(steps.length).toBeGreaterThan(5);
  });
});

describe('outlines', () => {
  const square = (x: number, y: number, w: number) => ({
    type: 'Polygon',
    coordinates: [
      [
        [x, y],
        [x + w, y],
        [x + w, y + w],
        [x, y + w],
        [x, y],
      ],
    ],
  });
  it('give the field its area, which the open plan learns', async () => {
    const version = (await deskOf(db, ines, 'brook-meadow', null))?.stored.version ?? 0;
    const drawn = square(-30, 52, 0.004);
    const was = (await deskOf(db, ines, 'brook-meadow', null))?.stored.plan.field.areaHa;
    const asked = await saveOutline(db, ines, 'brook-meadow', drawn, false);
    expect(asked).toMatchObject({ saved: false, was });
    expect((await deskOf(db, ines, 'brook-meadow', null))?.stored).toMatchObject({
      version,
      plan: { field: { areaHa: was } },
    });
    const { areaHa } = await saveOutline(db, ines, 'brook-meadow', drawn, true);
    expect(await saveOutline(db, ines, 'brook-meadow', drawn, false)).toMatchObject({
      saved: true,
    });
    expect(areaHa).toBeGreaterThan(11);
    expect((await deskOf(db, ines, 'brook-meadow', null))?.stored).toMatchObject({
      version: version + 2,
      plan: { field: { areaHa } },
    });
  });
  it('that cross or are no polygon are refused, and the stored one stays', async () => {
    const before = (await samplingDesk(db, ines, 'kiln-field')).outline;
    expect(
      (
        await refusal(
          saveOutline(
            db,
            ines,
            'kiln-field',
            {
              type: 'Polygon',
              coordinates: [
                [
                  [0, 0],
                  [1, 1],
                  [1, 0],
                  [0, 1],
                  [0, 0],
                ],
              ],
            },
            true,
          ),
        )
      ).field,
    ).toBe('outline');
    expect(
      (
        await refusal(
          saveOutline(db, ines, 'kiln-field', { type: 'Point', coordinates: [0, 0] }, true),
        )
      ).code,
    ).toBeTruthy();
    expect((await samplingDesk(db, ines, 'kiln-field')).outline).toEqual(before);
    await expect(saveOutline(db, odo, 'kiln-field', square(-30, 52, 0.001), true)).rejects.toThrow(
      NotAllowed,
    );
  });
  it('in a file are read for who may edit', async () => {
    const file = new TextEncoder().encode(
      JSON.stringify({
        type: 'Feature',
        properties: { name: 'North' },
        geometry: square(-30, 52, 0.002),
      }),
    );
    const asked = { crs: null, latitudeFirst: false };
    expect((await outlinesInFile(db, ines, 'kiln-field', file, asked)).outlines[0]).toMatchObject({
      name: 'North',
    });
    await expect(outlinesInFile(db, wanda, 'kiln-field', file, asked)).rejects.toThrow(NotAllowed);
  });
});

describe('claims', () => {
  const input: ClaimInput = {
    compound: 'calcium_chloride',
    pct: 35,
    rate: 20,
    unit: 'l',
    density: 1.35,
    lr: 5,
    gap: 0.8,
  };
  it('are judged on the server and stay with the field until they are dropped', async () => {
    await keepClaim(db, ines, 'low-fleet', 'Liquid lime', input);
    const [claim] = (await samplingDesk(db, odo, 'low-fleet')).claims;
    expect(claim).toMatchObject({
      product: 'Liquid lime',
      verdict: 'ruled_out',
      checkedOn: '2027-02-26',
    });
    await expect(dropClaim(db, odo, 'low-fleet', claim?.id ?? '')).rejects.toThrow(NotAllowed);
    await dropClaim(db, ines, 'yard-piece', claim?.id ?? '');
    expect(
      (await samplingDesk(db, odo, 'low-fleet')).claims,
      'by way of another field it is not found',
    ).toHaveLength(1);
    await dropClaim(db, ines, 'low-fleet', claim?.id ?? '');
    expect((await samplingDesk(db, odo, 'low-fleet')).claims).toEqual([]);
  });
  it('need a name and figures that can be', async () => {
    expect((await refusal(keepClaim(db, ines, 'low-fleet', ' ', input))).field).toBe('product');
    expect(
      (await refusal(keepClaim(db, ines, 'low-fleet', 'Liquid lime', { ...input, pct: 400 }))).code,
    ).toBe('out_of_range');
  });
});
