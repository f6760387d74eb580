import { perHaSpread } from '../quantity/basis';
import { PRINTED } from '../book/book';
import { describe, expect, it } from 'vitest';
import { assess } from '../assessment/assess';
import { DEMO_FARMS } from '../../demo/scenario';
import { spread } from '../../demo/build';
import { terraceShortWorked } from '../../demo/terraceShortWorked';
import type { Plan } from '../document/document';
import { layerPlan, machinePlan, placementTable, ringPlan, yearAfterYear } from '../views/dressing';
import { doseValue } from '../lines/organicValue';
import { farmTotals, sumRows } from './farmTotals';
import { farmFieldRow } from './wholeFarm';

const tansy = DEMO_FARMS[0];
const rows = tansy.fields.map((f) =>
  farmFieldRow(PRINTED, { fieldId: f.key, plan: f.seasons[0] as Plan }),
);
const stores = tansy.stores.map(({ key, ...s }) => ({
  id: key,
  materialName: s.materialKey,
  ...s,
}));

describe('the whole farm', () => {
  it('adds up: what is left is the sum over fields that are short, and a surplus feeds no other field', () => {
    const t = farmTotals(sumRows(rows), stores, tansy.farm);
    const short = rows.reduce((s, r) => s + Math.max(0, r.left?.n ?? 0) * r.areaHa, 0);
    expect(t.leftKg.n).toBeCloseTo(short, 6);
    expect(t.overKg.n).toBeGreaterThan(0);
    expect(t.counted).toBe(rows.filter((r) => r.left).length);
    expect(t.products.reduce((s, p) => s + p.cost, 0)).toBeCloseTo(t.fertiliserCost, 6);
    expect(t.products.find((p) => p.id === 'can_27')?.kg).toBeCloseTo(
      tansy.fields.reduce(
        (s, f) =>
          s +
          (f.seasons[0] as Plan).passes
            .filter((p) => p.productId === 'can_27' && p.status === 'planned')
            .reduce((x, p) => x + p.productKgHa, 0) *
            f.field.areaHa,
        0,
      ),
      6,
    );
  });
  it('sets manure in store against manure planned', () => {
    const t = farmTotals(sumRows(rows), stores, tansy.farm);
    const heap = t.supply.find((s) => s.id === 'sheep-house');
    const planned = tansy.fields.reduce(
      (s, f) =>
        s +
        (f.seasons[0] as Plan).organics
          .filter(
            (o) => o.cropYear < 2 && o.status === 'planned' && o.materialKey === 'sheep_bedded',
          )
          .reduce((x, o) => x + o.rate, 0) *
          f.field.areaHa,
      0,
    );
    expect(heap?.plannedT).toBeCloseTo(planned, 6);
    expect(heap?.leftT).toBeCloseTo(420 - planned, 6);
    expect(
      farmTotals(sumRows(rows), [], tansy.farm).supply.every(
        (s) => s.name === 'no store named' && s.leftT === null,
      ),
    ).toBe(true);
  });
  it('a field without a crop is listed, with what it lacks, and counts nothing', () => {
    const empty = farmFieldRow(PRINTED, {
      fieldId: 'x',
      plan: { ...terraceShortWorked(), season: { ...terraceShortWorked().season, cropKey: null } },
    });
    expect(empty).toMatchObject({ left: null, missing: 'crop and yield goal' });
    expect(farmTotals(sumRows([empty]), [], tansy.farm)).toMatchObject({ counted: 0, toBuy: 0 });
  });
});

describe('one dressing on its field', () => {
  const withDressing = (o: Parameters<typeof spread>[1]): Plan => ({
    ...terraceShortWorked(),
    organics: [spread('d', o)],
  });
  const of = (plan: Plan) => {
    const a = assess(PRINTED, plan);
    const own = a.organics[0];
    if (!own) throw new Error(a.problems[0]?.message);
    return { a, own, plan };
  };
  const slurry = {
    date: '2027-03-02',
    materialKey: 'dairy_slurry_medium',
    rate: 30,
    rateUnit: 'm3_ha' as const,
    methodKey: 'splash_low',
  };
  it('by other techniques and hours: later loses more, the crew hears what an hour costs', () => {
    const { own, plan } = of(
      withDressing({ ...slurry, coverings: [{ kind: 'disc_or_cultivator_10_15_cm', hours: 4 }] }),
    );
    const t = placementTable(plan, own);
    const kept = (key: string) => t.rows.find((r) => r.key === key)?.keptKgHa ?? NaN;
    expect(t.rows[0]).toMatchObject({ asPlanned: true });
    expect(kept('h1')).toBeGreaterThan(kept('planned'));
    expect(kept('planned')).toBeGreaterThan(kept('h24'));
    expect(kept('h24')).toBeGreaterThan(kept('never'));
    expect(kept('injection_closed')).toBeGreaterThan(kept('trailing_hose'));
    expect(t.anHourCosts).toBeGreaterThan(0);
    // 6 % dry matter at 15 degrees, splash plate, disced after 4 h keeps 0.72 (chapter 2, 4.1).
    expect(kept('planned') / own.tanKgHa).toBeCloseTo(0.72, 2);
    for (const r of t.rows) expect(r.keptKgHa + r.lostKgHa).toBeCloseTo(own.tanKgHa, 9);
  });
  it('is worth what the field can use; the trip takes its share', () => {
    const { own, a, plan } = of(withDressing({ ...slurry, distanceKm: 3 }));
    const v = doseValue(plan, a, own);
    expect(v?.valueHa).toBeLessThanOrEqual((v?.boughtOutrightHa ?? 0) + 1e-9);
    expect(v?.trip?.costPerT).toBeGreaterThan(0);
    expect(v?.netPerT).toBeCloseTo((v?.valuePerT ?? 0) - (v?.trip?.costPerT ?? 0), 9);
    const far = of(withDressing({ ...slurry, distanceKm: 30 }));
    expect(doseValue(far.plan, far.a, far.own)?.netPerT).toBeLessThan(v?.netPerT ?? 0);
    const unknown = of(withDressing(slurry));
    expect(doseValue(unknown.plan, unknown.a, unknown.own)).toMatchObject({
      trip: null,
      netPerT: null,
    });
    expect(doseValue(plan, a, { ...own, rateTHa: perHaSpread(0) })).toBeNull();
  });
  it('in rings: material a tree, and no ring without N', () => {
    const ring = {
      kind: 'ring',
      plantKind: 'tree_fruit',
      ageClass: 'bearing_standard',
      canopyRadiusM: 2.5,
      trunkClearM: 0.6,
      beyondM: 0.5,
      rowM: 5,
      inRowM: 5,
      dormant: false,
    } as const;
    const { own, a } = of(
      withDressing({
        date: '2027-03-05',
        materialKey: 'sheep_bedded',
        rate: 10,
        methodKey: 'solid_broadcast',
        use: ring,
      }),
    );
    const r = ringPlan(a, own);
    expect(r).toMatchObject({ plantsHa: 400, maxLayerCm: 5, bookG: { from: 80, to: 350 } });
    expect(r?.materialKg).toBeCloseTo((r?.nTargetG ?? 0) / own.pan.panKgT, 9);
    expect(r?.areaM2).toBeCloseTo(Math.PI * (9 - 0.36), 9);
    const mulch = of(
      withDressing({
        date: '2027-03-05',
        materialKey: 'wood_chips',
        rate: 10,
        methodKey: 'solid_broadcast',
        use: ring,
      }),
    );
    expect(() => ringPlan(mulch.a, mulch.own)).toThrow('mulch');
    expect(ringPlan(a, { ...own, app: { ...own.app, use: { kind: 'field' } } })).toBeNull();
  });
  it('as a layer: tonnes and years of P; left on top it ties up less than dug in', () => {
    const layer = {
      kind: 'layer',
      layerMm: 25,
      coveredFrac: 1,
      mixed: true,
      mixingDepthCm: 15,
      ecCompost: null,
      ecSoil: null,
    } as const;
    const on = (mixed: boolean, materialKey: string) =>
      withDressing({
        date: '2027-03-05',
        materialKey,
        rate: 20,
        methodKey: 'compost_broadcast',
        use: { ...layer, mixed },
      });
    const l = layerPlan(
      PRINTED,
      on(true, 'compost_green_waste'),
      on(true, 'compost_green_waste').organics[0] as never,
    );
    expect(l?.rateTHa).toBeCloseTo(137.5, 1);
    expect(l?.yearsOfPOfftake).toBeGreaterThan(4);
    expect(of(on(false, 'wood_chips')).own.nKgHa).toBeGreaterThan(
      of(on(true, 'wood_chips')).own.nKgHa,
    );
  });
  it('year after year: the release stays from the fourth, the P climbs', () => {
    const { own, plan } = of(
      withDressing({
        date: '2027-03-05',
        materialKey: 'compost_green_waste',
        rate: 30,
        methodKey: 'compost_broadcast',
      }),
    );
    const rows = yearAfterYear(PRINTED, plan, own);
    expect(rows.map((r) => r.year)).toEqual([1, 2, 3, 4, 6, 10]);
    expect(rows[3]?.nReleaseKgHa).toBeCloseTo(rows[5]?.nReleaseKgHa ?? 0, 9);
    expect(rows[5]?.pStockKgHa).toBeCloseTo(10 * (rows[0]?.pStockKgHa ?? 0), 6);
    expect(rows[1]?.nReleaseKgHa).toBeGreaterThan(rows[0]?.nReleaseKgHa ?? 0);
  });
  it('by the machine: passes above its most, years of P below its least', () => {
    const machine = {
      id: 'm',
      name: 'Spreader',
      kind: 'solid_manure_spreader',
      minRate: 8,
      maxRate: 20,
      capacity: 10,
      calibration: null,
    };
    const app = (rate: number) =>
      spread('d', {
        date: '2027-03-05',
        materialKey: 'sheep_bedded',
        rate,
        methodKey: 'solid_broadcast',
        machine,
      });
    expect(machinePlan(app(30))).toMatchObject({ rule: 'R06', passes: 2, rateSet: 15 });
    expect(machinePlan(app(4))).toMatchObject({ rule: 'R05', pYearsNeeded: 2 });
    expect(machinePlan({ ...app(4), machine: null })).toBeNull();
  });
});
