import fc from 'fast-check';
import { expect, it } from 'vitest';
import { readLaboratory } from './readLaboratory';
import type { SoilReport } from './samples';

// A table of soil results, written in any of the makes that laboratories use, says the same.

interface Test {
  nutrient: string;
  extractant: string;
  heading: string;
  oxide: string | null;
  /** kg of the element in a kg of the oxide. */
  share: number;
}
const TESTS: readonly Test[] = [
  {
    nutrient: 'p',
    extractant: 'olsen',
    heading: 'P Olsen',
    oxide: 'P2O5 Olsen',
    share: 1 / 2.2914,
  },
  {
    nutrient: 'k',
    extractant: 'ammonium_acetate',
    heading: 'K amm. acetate',
    oxide: 'K2O amm. acetate',
    share: 1 / 1.2046,
  },
  {
    nutrient: 'mg',
    extractant: 'ammonium_acetate',
    heading: 'Mg NH4OAc',
    oxide: 'MgO NH4OAc',
    share: 1 / 1.6583,
  },
  { nutrient: 'zn', extractant: 'dtpa', heading: 'Zinc DTPA', oxide: null, share: 1 },
];
const UNITS = [
  ['mg/kg', 1],
  ['ppm', 1],
  ['mg/100 g', 10],
  ['mg kg-1', 1],
] as const;
const LANGUAGES = [
  {
    field: 'Field',
    label: 'Sample',
    date: 'Sampled',
    depth: 'Depth',
    parameter: 'Parameter',
    result: 'Result',
    unit: 'Unit',
  },
  {
    field: 'Schlag',
    label: 'Probe',
    date: 'Probenahme',
    depth: 'Tiefe (cm)',
    parameter: 'Parameter',
    result: 'Ergebnis',
    unit: 'Einheit',
  },
  {
    field: 'Parcelle',
    label: 'N° échantillon',
    date: 'Date de prélèvement',
    depth: 'Profondeur',
    parameter: 'Paramètre',
    result: 'Résultat',
    unit: 'Unité',
  },
  {
    field: 'Parcela',
    label: 'Muestra',
    date: 'Fecha de muestreo',
    depth: 'Profundidad',
    parameter: 'Elemento',
    result: 'Resultado',
    unit: 'Unidad',
  },
] as const;
const FIELDS = ['Low Fleet', 'Kiln Field', 'Hôtel-Dieu', 'Große Breite'];

const sample = fc.record({
  field: fc.constantFrom(...FIELDS),
  ph: fc.integer({ min: 42, max: 84 }).map((v) => v / 10),
  day: fc.integer({ min: 1, max: 28 }),
  month: fc.integer({ min: 1, max: 12 }),
  depth: fc.constantFrom(15, 20, 25, 30),
  values: fc.tuple(
    fc.integer({ min: 10, max: 900 }),
    fc.integer({ min: 300, max: 12_000 }),
    fc.integer({ min: 200, max: 9000 }),
    fc.integer({ min: 3, max: 90 }),
  ),
});
const table = fc.record({
  samples: fc.array(sample, { minLength: 1, maxLength: 5 }),
  layout: fc.constantFrom('wide', 'unit row', 'long', 'transposed'),
  words: fc.constantFrom(...LANGUAGES),
  delimiter: fc.constantFrom(',', ';', '\t'),
  comma: fc.boolean(),
  thousands: fc.boolean(),
  unit: fc.constantFrom(...UNITS),
  oxide: fc.boolean(),
  day: fc.constantFrom('iso', 'dmy/', 'dmy.', 'mdy/'),
  above: fc.boolean(),
  means: fc.boolean(),
  crlf: fc.boolean(),
  encoding: fc.constantFrom('utf8', 'bom', 'utf16', 'windows'),
});
type Table = typeof table extends fc.Arbitrary<infer T> ? T : never;
type Sample = Table['samples'][number];

const two = (n: number): string => String(n).padStart(2, '0');
function dayOf({ day, month }: Sample, how: Table['day']): string {
  switch (how) {
    case 'iso':
      return `2026-${two(month)}-${two(day)}`;
    case 'dmy/':
      return `${two(day)}/${two(month)}/2026`;
    case 'dmy.':
      return `${two(day)}.${two(month)}.2026`;
    case 'mdy/':
      return `${two(month)}/${two(day)}/2026`;
  }
}
/** The figure as it is printed: of the form and unit, with the marks of the file. */
function printed(value: number, t: Table): string {
  const [whole = '', part] = String(Number(value.toFixed(2))).split('.');
  const grouped = t.thousands ? whole.replaceAll(/\B(?=(\d{3})+$)/gu, t.comma ? '.' : ',') : whole;
  return part === undefined ? grouped : `${grouped}${t.comma ? ',' : '.'}${part}`;
}
const reported = (s: Sample, i: number, t: Table): number => {
  const test = TESTS[i] as Test;
  const element = (s.values[i] as number) / 10;
  return element / t.unit[1] / (t.oxide && test.oxide ? test.share : 1);
};
const named = (test: Test, t: Table): string => (t.oxide && test.oxide ? test.oxide : test.heading);

function rowsOf(t: Table): string[][] {
  const w = t.words;
  const about = (s: Sample, i: number) => [s.field, `S-${i + 1}`, dayOf(s, t.day), String(s.depth)];
  const units = t.layout === 'wide' ? ` (${t.unit[0]})` : '';
  const head = [
    w.field,
    w.label,
    w.date,
    w.depth,
    'pH H2O',
    ...TESTS.map((x) => named(x, t) + units),
  ];
  const ph = (s: Sample) => printed(s.ph, t);
  const wide = t.samples.map((s, i) => [
    ...about(s, i),
    ph(s),
    ...TESTS.map((_, k) => printed(reported(s, k, t), t)),
  ]);
  const unitRow = ['', '', '', '', '', ...TESTS.map(() => t.unit[0])];
  switch (t.layout) {
    case 'wide':
      return [head, ...wide, ...(t.means ? [['Mean', '', '', '', '6', '1', '1', '1', '1']] : [])];
    case 'unit row':
      return [head, unitRow, ...wide];
    case 'transposed':
      return head.map((h, c) => [h, unitRow[c] ?? '', ...wide.map((r) => r[c] ?? '')]);
    case 'long':
      return [
        [w.field, w.label, w.date, w.depth, w.parameter, w.result, w.unit],
        ...t.samples.flatMap((s, i) => [
          [...about(s, i), 'pH H2O', ph(s), ''],
          ...TESTS.map((x, k) => [
            ...about(s, i),
            named(x, t),
            printed(reported(s, k, t), t),
            t.unit[0],
          ]),
        ]),
      ];
  }
}
function bytesOf(t: Table): Uint8Array {
  const quoted = (c: string) => (c.includes(t.delimiter) || c.includes('"') ? `"${c}"` : c);
  const lines = [
    ...(t.above ? ['Senn Soil Laboratory', 'Report 4711', ''] : []),
    ...rowsOf(t).map((r) => r.map(quoted).join(t.delimiter)),
  ];
  const text = `${lines.join(t.crlf ? '\r\n' : '\n')}\n`;
  switch (t.encoding) {
    case 'utf8':
      return new TextEncoder().encode(text);
    case 'bom':
      return new TextEncoder().encode(`\uFEFF${text}`);
    case 'utf16':
      return new Uint8Array(Buffer.from(`\uFEFF${text}`, 'utf16le'));
    case 'windows':
      return new Uint8Array(Buffer.from(text, 'latin1'));
  }
}

it('comes in right or is asked about, whatever the make of the table', async () => {
  await fc.assert(
    fc.asyncProperty(table, async (t) => {
      const report = await readLaboratory(bytesOf(t), {
        kind: null,
        fields: null,
        answers: {},
        sheet: null,
      });
      expect(report.kind).toBe('soil');
      const asked = (about: string, column = '') =>
        report.questions.some((q) => q.about === about && q.column.includes(column));
      // Figures have two decimals at most: one that has some decides for the whole file.
      const decides = t.samples.some((s) =>
        [s.ph, ...TESTS.map((_, k) => reported(s, k, t))].some(
          (v) => Number(v.toFixed(2)) % 1 !== 0,
        ),
      );
      if (decides) expect(asked('decimal_mark'), 'asked without need').toBe(false);
      expect(report.samples.length).toBe(t.samples.length);
      t.samples.forEach((s, i) => {
        const read = report.samples[i] as SoilReport;
        expect(read.field).toBe(s.field);
        expect(read.label).toBe(`S-${i + 1}`);
        expect(read.depthBottomCm).toBe(s.depth);
        if (read.date !== dayOf(s, 'iso')) expect(asked('date_order')).toBe(true);
        if (read.phWater !== s.ph) expect(asked('decimal_mark')).toBe(true);
        TESTS.forEach((test, k) => {
          const r = read.readings.find((x) => x.nutrient === test.nutrient);
          const right = (s.values[k] as number) / 10;
          const open =
            asked('decimal_mark') ||
            asked('value', named(test, t)) ||
            asked('unit', named(test, t));
          if (!r) return expect(open, `${test.nutrient} is missing in silence`).toBe(true);
          expect(r.extractant).toBe(test.extractant);
          // Two decimals of the report are what is there to be read.
          const step = 0.006 * t.unit[1];
          expect(Math.abs(r.value - right), `${test.nutrient} ${r.value}`).toBeLessThan(step);
        });
      });
    }),
    { numRuns: 400, seed: 20_270_226 },
  );
}, 120_000);
