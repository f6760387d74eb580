import fs from 'node:fs';
import { describe, expect, it } from 'vitest';
import { manureLab } from '../document/organicDocument';
import { leavesOf } from '../laboratory/leafFile';
import { laboratoryJson, readLaboratory, type ToldReport } from '../laboratory/readLaboratory';
import type { LabKind } from '../laboratory/samples';
import { camelKeys } from '../quantity/names';
import { manuresOf } from './manureFile';

/** The report as it comes over the open edge. */
const told = async (
  kind: LabKind,
  file: string | Uint8Array,
  answers: Record<string, string> = {},
): Promise<ToldReport> =>
  camelKeys(
    JSON.parse(
      JSON.stringify(
        laboratoryJson(
          await readLaboratory(typeof file === 'string' ? new TextEncoder().encode(file) : file, {
            kind,
            fields: null,
            answers,
            sheet: null,
          }),
        ),
      ),
    ),
  ) as ToldReport;
const report = (path: string) =>
  new Uint8Array(fs.readFileSync(`src/core/laboratory/reports/${path}`));

describe('a leaf report in its form', () => {
  it('names nutrients as leaf standards do, keeps limits and what was not found', async () => {
    const [leaf] = leavesOf(
      await told(
        'leaf',
        'Element,Result,Unit\nN,4.6,%\nzn,<20,ppm\nMo,n.n.,mg/kg\nFe,>500,mg/kg\n',
      ),
    );
    expect(leaf).toMatchObject({
      values: [
        { nutrient: 'N', reported: '4.6', unit: '%' },
        { nutrient: 'Zn', reported: '<20', unit: 'mg/kg' },
        { nutrient: 'Fe', reported: '>500', unit: 'mg/kg' },
      ],
      notFound: ['Mo'],
    });
  });
  it('tells samples apart by what a person knows', async () => {
    const leaves = leavesOf(await told('leaf', report('leaf/one-number-two-fields.csv')));
    expect(leaves.map((l) => l.name)).toEqual([
      '5530, Low Fleet, winter wheat, whole shoot, BBCH 31, 2026-04-22',
      '5530, Terrace Long, winter wheat, whole shoot, BBCH 31, 2026-04-22',
      '5531, Kiln Field, winter barley, whole shoot, BBCH 32, 2026-04-22',
    ]);
    expect(leaves[0]).toMatchObject({ bbch: 31, date: '2026-04-22' });
  });
});

describe('a manure report in its form', () => {
  it('is an analysis in kg of element per tonne, whatever it was written in', async () => {
    const [slurry] = manuresOf(await told('manure', report('manure/lb-per-1000-gal.csv')));
    expect(slurry?.name).toBe('S-2290, Dairy-wash pit, 2026-04-02');
    expect(manureLab.safeParse(slurry?.lab).success).toBe(true);
    expect(slurry?.lab).toMatchObject({ date: '2026-04-02', dmPct: 3.2 });
    expect(slurry?.lab.totalNKgT).toBeCloseTo(1.988, 3);
    expect(slurry?.lab.pKgT).toBeCloseTo(0.315, 3);
    expect(slurry?.lab.report?.densityKgM3).toBeCloseTo(1012.5, 1);
    expect(slurry?.beside).toEqual(['ph 7.4']);
  });
  it('takes nitrate into the total of a Kjeldahl report, and every file as an analysis', async () => {
    const [compost] = manuresOf(await told('manure', report('manure/kjeldahl-and-nitrate.csv')));
    expect(compost?.lab.totalNKgT).toBeCloseTo(9.88, 6);
    for (const file of fs.readdirSync('src/core/laboratory/reports/manure')) {
      if (file === 'truth.json') continue;
      for (const m of manuresOf(await told('manure', report(`manure/${file}`))))
        expect(manureLab.safeParse(m.lab).success, file).toBe(true);
    }
  });
});
