import { describe, expect, it } from 'vitest';
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
