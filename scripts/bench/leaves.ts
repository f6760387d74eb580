// Two thousand leaves of a laboratory's file, read and set against their ranges; and the causes of a
// picture with the next best test. The aims are 3 s and a blink.
import { PRINTED } from '../../src/core/book/book';
import { features } from '../../src/core/book/symptoms';
import { leafBringIn, type LeafField } from '../../src/core/farm/leafBringIn';
import { leafRowsOf } from '../../src/core/laboratory/leafFile';
import { readLaboratory } from '../../src/core/laboratory/readLaboratory';
import type { OtherReport } from '../../src/core/laboratory/samples';
import { diagnose, nextTests } from '../../src/core/tissue/diagnosis';

const SAMPLES = 2000;
const FIELDS = 50;

export async function leaves(): Promise<void> {
  const head =
    'Sample,Field,Part,BBCH,Date,N %,P %,K %,S %,Ca %,Mg %,B mg/kg,Zn mg/kg,Mn mg/kg,Cu mg/kg';
  const rows = Array.from(
    { length: SAMPLES },
    (_, k) =>
      `S-${k},Field ${k % FIELDS},blade,37,2027-06-${String(1 + (k % 28)).padStart(2, '0')},${(4 + (k % 9) / 10).toFixed(2)},0.4,3.4,0.4,1.2,0.5,${30 + (k % 20)},40,60,11`,
  );
  const fields = Array.from({ length: FIELDS }, (_, k): LeafField => ({
    name: `Field ${k}`,
    areaHa: 6,
    seasons: [{ startDate: '2026-10-01', cropKey: 'sugar_beet', use: null }],
    known: [],
  }));
  const bytes = new TextEncoder().encode([head, ...rows].join('\n'));
  let ids = 0;
  const began = performance.now();
  const report = await readLaboratory(bytes, {
    kind: 'leaf',
    fields: null,
    answers: {},
    sheet: null,
  });
  const read = performance.now();
  const { good } = leafBringIn(PRINTED, leafRowsOf(report.samples as OtherReport[]), fields, {
    today: '2027-07-01',
    answers: {},
    newId: () => `s${(ids += 1)}`,
  });
  const done = performance.now();
  console.log(
    `${good.length} leaves: read ${(read - began).toFixed(0)} ms, set against their ranges ${(done - read).toFixed(0)} ms`,
  );
  const answers = Object.fromEntries(
    [...features().keys()].slice(0, 12).map((f, k) => [f, k % 3 === 0]),
  );
  const runs = 50;
  const start = performance.now();
  for (let k = 0; k < runs; k++) nextTests(diagnose({ crop: 'maize', answers }), { legume: false });
  console.log(
    `diagnosis with the next test: ${((performance.now() - start) / runs).toFixed(1)} ms`,
  );
}
