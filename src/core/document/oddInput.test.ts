import { describe, expect, it } from 'vitest';
import { terraceShortWorked } from '../../demo/terraceShortWorked';
import { checkOutline } from '../ground/outline';
import { readDecimal } from '../quantity/input';
import { Refusal } from '../quantity/refusal';
import { readPlanFile, writePlanFile } from './seasonFile';

const refused = (work: () => unknown) => {
  try {
    work();
  } catch (e) {
    if (e instanceof Refusal) return e.detail;
    throw e;
  }
  return null;
};
interface File {
  facts: { nitrate: { layers: { top_cm: number; bottom_cm: number }[] }[] };
  field: { name: string };
}
const file = (change: (f: File) => void) => {
  const f = JSON.parse(writePlanFile(terraceShortWorked())) as File;
  change(f);
  return f;
};

describe('what no laboratory and no field has', () => {
  it('a layer that ends above where it begins', () =>
    expect(
      refused(() =>
        readPlanFile(
          file((f) => {
            const layer = f.facts.nitrate[0]?.layers[0];
            if (layer) Object.assign(layer, { top_cm: 60, bottom_cm: 30 });
          }),
        ),
      ),
    ).toMatchObject({ field: 'facts.nitrate[0].layers[0].bottom_cm', value: 30 }));
  it('a NUL in a name', () =>
    expect(
      refused(() =>
        readPlanFile(
          file((f) => {
            f.field.name = 'Low\u0000 Fleet';
          }),
        ),
      ),
    ).toMatchObject({ code: 'malformed' }));
  it('a number that is none', () => {
    for (const text of ['0x10', '1e999', 'Infinity', '', '1.2.3', 'NaN', '--1'])
      expect(readDecimal(text)).toBeNull();
    expect([readDecimal(' 3,5 '), readDecimal('-0.2'), readDecimal('.5')]).toEqual([
      3.5, -0.2, 0.5,
    ]);
  });
  it('a hole outside its outline, or in another hole', () => {
    const square = (x: number, y: number, size: number) => [
      [x, y],
      [x + size, y],
      [x + size, y + size],
      [x, y + size],
      [x, y],
    ];
    const outer = square(0, 52, 0.01);
    const of = (...holes: number[][][]) =>
      refused(() => checkOutline({ coordinates: [outer, ...holes] }));
    expect(of(square(0.004, 52.004, 0.001))).toBeNull();
    expect(of(square(0.02, 52.004, 0.001))).toMatchObject({ field: 'outline' });
    expect(of(square(0.002, 52.002, 0.004), square(0.003, 52.003, 0.001))).toMatchObject({
      field: 'outline',
    });
  });
});
