import { describe, expect, it } from 'vitest';
import { terraceShortWorked } from '../../demo/terraceShortWorked';
import { assess } from '../assessment/assess';
import { PRINTED } from '../book/book';
import { newWater } from '../document/defaults';
import { inWords } from '../why/said';
import { laboratoryJson, readLaboratory, type ToldReport } from '../laboratory/readLaboratory';
import { camelKeys } from '../quantity/names';
import { watersOf } from './waterFile';

async function waters(text: string) {
  const report = await readLaboratory(new TextEncoder().encode(text), {
    kind: 'water',
    fields: null,
    answers: {},
    sheet: null,
  });
  return watersOf(camelKeys(laboratoryJson(report)) as ToldReport);
}

describe('water of which only part is known', () => {
  it('has its nitrate as a line of its own, not known, and no line twice', () => {
    const plan = terraceShortWorked();
    const a = assess(PRINTED, {
      ...plan,
      irrigation: { ...newWater(), mm: 200, so4sMgL: 12, kMgL: 4 },
    });
    const ids = a.lines.map((l) => l.id);
    expect(new Set(ids).size).toBe(ids.length);
    expect(a.lines.find((l) => l.id === 'irrigation_nitrate')?.usual).toMatchObject({ low: 0 });
    expect(a.lines.find((l) => l.id === 'irrigation_other')).toMatchObject({ n: null });
    expect(a.sums.n.unknown.high).toBeGreaterThan(0);
  });
  it('tells both ends of a usual range in the reader’s unit', () => {
    const a = assess(PRINTED, terraceShortWorked());
    const sulphate = a.lines.find((l) => l.id === 'soil_sulphate');
    expect(inWords(sulphate?.detail ?? '', 'us')).toBe('not known, usually 0 lb/ac to 22 lb/ac');
    expect(inWords(a.stations.supply.note, 'us')).not.toMatch(/kg/u);
  });
});

describe('a water report', () => {
  it('comes in as the elements, whatever ion it is told as', async () => {
    const [first, second] = await waters(
      [
        'Lab No,Field,Sampled,pH,Nitrate NO3 (mg/L),Sulphate SO4 (mg/L),K (mg/L),Cl (mg/L),HCO3 (mg/L)',
        'WA-1,Bay One,2026-04-20,7.4,44.268,59.92,4.1,48,268',
        'WA-2,Bay Two,2026-04-21,7.4,8.8536,,,,',
      ].join('\n'),
    );
    expect(first?.no3nMgL).toBeCloseTo(10, 3);
    expect(first?.so4sMgL).toBeCloseTo(20, 2);
    expect(first).toMatchObject({ name: 'WA-1, Bay One', kMgL: 4.1, clMgL: 48 });
    expect(first?.sampledOn).toBe('2026-04-20');
    expect(first?.beside.length).toBeGreaterThan(0);
    expect(second).toMatchObject({ so4sMgL: null, kMgL: null, clMgL: null });
  });
});
