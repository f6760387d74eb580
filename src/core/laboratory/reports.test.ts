import fs from 'node:fs';
import { describe, expect, it } from 'vitest';
import { readLaboratory, type LabReport } from './readLaboratory';
import type { LabKind, OtherReport, SoilReport } from './samples';

// Laboratory files as laboratories write them, with what is true of each: a value comes in as it
// is, or its column is asked about. It is never wrong, and never missing in silence.

interface Truth {
  file: string;
  samples: TrueSample[];
  expect?: 'right' | 'ask';
}
interface TrueSample {
  label: string;
  field?: string;
  store?: string;
  date: string;
  depth_top_cm?: number | null;
  depth_bottom_cm?: number | null;
  ph_water?: number;
  ph_cacl2?: number;
  om_pct?: number;
  nitrate_no3n_mg_kg?: number;
  crop?: string;
  part?: string;
  stage?: string;
  pair?: string;
  readings?: { nutrient: string; extractant: string; value: number; unit: string }[];
  values?: {
    quantity: string;
    value: number | null;
    unit: string;
    optional?: boolean;
    below_detection?: boolean;
    not_found?: boolean;
    above_range?: boolean;
  }[];
}
const at = (kind: string) => `src/core/laboratory/reports/${kind}`;
const truths = (kind: string) =>
  (JSON.parse(fs.readFileSync(`${at(kind)}/truth.json`, 'utf8')) as { files: Truth[] }).files;
const read = (kind: LabKind, file: string, answers: Record<string, string> = {}) =>
  readLaboratory(new Uint8Array(fs.readFileSync(`${at(kind)}/${file}`)), {
    kind: null,
    fields: null,
    answers,
    sheet: null,
  });
const near = (a: unknown, b: unknown): boolean =>
  a === b ||
  (typeof a === 'number' &&
    typeof b === 'number' &&
    Math.abs(a - b) <= 1e-3 * Math.max(Math.abs(a), Math.abs(b)));

/** What a report says otherwise than what is true of it. */
function faults(report: LabReport, truth: Truth): string[] {
  const found: string[] = [];
  const check = (what: string, value: unknown, right: unknown) => {
    if (right !== undefined && !near(value ?? null, right))
      found.push(`${what}: ${String(value)} for ${String(right)}`);
  };
  for (const t of truth.samples) {
    const all = report.samples as (Partial<SoilReport> & Partial<OtherReport>)[];
    const s = all.find(
      (x) =>
        x.label === t.label &&
        (t.field === undefined || x.field === t.field) &&
        (t.depth_top_cm === undefined || x.depthTopCm === t.depth_top_cm),
    );
    if (!s) {
      found.push(`${t.label} is missing`);
      continue;
    }
    check('date', s.date, t.date);
    check('depth', s.depthBottomCm, t.depth_bottom_cm);
    check('pH', s.phWater, t.ph_water);
    check('pH in CaCl2', s.phCacl2, t.ph_cacl2);
    check('organic matter', s.omPct, t.om_pct);
    check('nitrate', s.nitrate?.[0]?.no3nMgKg, t.nitrate_no3n_mg_kg);
    for (const k of ['crop', 'part', 'stage', 'store', 'pair'] as const) check(k, s[k], t[k]);
    for (const right of t.readings ?? []) {
      const r = s.readings?.find(
        (x) => x.nutrient === right.nutrient && x.extractant === right.extractant,
      );
      check(right.nutrient, r?.value, right.value);
      check(`${right.nutrient} unit`, r?.unit, right.unit);
    }
    for (const r of s.readings ?? [])
      if (t.readings && !t.readings.some((x) => x.nutrient === r.nutrient))
        found.push(`${r.nutrient} is no result`);
    for (const right of t.values ?? []) {
      const v = s.values?.find((x) => x.quantity === right.quantity);
      if (!v && right.optional) continue;
      check(right.quantity, v?.value, right.value);
      check(`${right.quantity} unit`, v?.unit, right.unit);
      check(`${right.quantity} below`, v?.belowDetection ?? false, right.below_detection ?? false);
      check(`${right.quantity} not found`, v?.notFound ?? false, right.not_found ?? false);
      check(`${right.quantity} above`, v?.aboveRange ?? false, right.above_range ?? false);
    }
    for (const v of s.values ?? [])
      if (!t.values?.some((x) => x.quantity === v.quantity))
        found.push(`${v.quantity} is no result`);
  }
  check('samples', report.samples.length, truth.samples.length);
  return found;
}

/** What somebody who knows the file would answer. */
const KNOWN: Record<string, string> = {
  'ph_in: pH': 'water',
  'bulk_density: all columns': '1.35',
  'value: Zn (mg/kg)': 'pct',
  'unit: kg/m3': 'g_kg',
  'value: EC (dS/m)': 'us_cm',
};
const answered = (report: LabReport): Record<string, string> =>
  Object.fromEntries(
    report.questions.map((q) => [q.key, q.about === 'date_order' ? 'dmy' : (KNOWN[q.key] ?? '')]),
  );

describe.each(['soil', 'leaf', 'manure', 'water'] as const)('%s reports', (kind) => {
  it.each(truths(kind).map((t) => [t.file, t] as const))('%s', async (file, truth) => {
    const first = await read(kind, file);
    expect(first.kind).toBe(kind);
    if (truth.expect === 'right') expect(first.questions).toEqual([]);
    if (truth.expect === 'ask') expect(first.questions.length).toBe(1);
    // What is not right at once is asked about, or waits; once answered it is right.
    const again = first.questions.length > 0 ? await read(kind, file, answered(first)) : first;
    expect(again.questions).toEqual([]);
    const left = faults(again, truth);
    expect(left.filter((f) => !(f.startsWith('pH: null') && again.waiting.length > 0))).toEqual([]);
    if (left.length > 0) expect(again.waiting.every((w) => /limit/u.test(w.reason))).toBe(true);
  });
});

it('never takes in what it asks about', async () => {
  const report = await read('water', 'conductivity-figures-in-other-unit.csv');
  expect(report.questions[0]).toMatchObject({ column: 'EC (dS/m)', cell: '640, 585' });
  for (const s of report.samples as OtherReport[])
    expect(s.values.some((v) => v.quantity === 'ec')).toBe(false);
});
