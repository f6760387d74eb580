import { guessColumn, readLabRows, sampleKey, type BadRow, type LabMapping, type ParsedSample } from '@/core/ground/labReport';
import { refuse } from '@/core/quantity/refusal';
import { z } from 'zod';
import { soilReading } from '@/core/plan/document';
import { refusalOf } from '@/core/quantity/input';
import { Refusal } from '@/core/quantity/refusal';
import type { Db, Executor } from '@/data/client';
import { fieldsOf, record, type Field } from '@/data/farms';
import { addSoilSample, dropWaiting, keepWaiting, mappingOf, rememberMapping, soilSamplesOf, waitingRowById } from '@/data/samples';
import { seasonsOfField, planWithSample } from '@/data/seasons';
import { soilSamples } from '@/data/schema';
import { eq } from 'drizzle-orm';
import { authorise, type Actor } from './authorise';
import { newId, today } from './clock';
import { readCsv } from './csvFile';

const target = z.union([
  z.strictObject({ kind: z.enum(['ignore', 'field', 'label', 'date', 'depth_cm', 'ph_water', 'ph_cacl2']) }),
  z.strictObject({ kind: z.literal('nutrient'), nutrient: soilReading.shape.nutrient, extractant: z.string().min(1).max(60), unit: z.enum(['mg_kg', 'mg_l', 'lb_ac']) }),
]);
const mappingSchema = z.strictObject({ columns: z.record(z.string().max(200), target), dateOrder: z.enum(['ymd', 'dmy', 'mdy']) });
const laboratoryName = (name: string): string => (name.trim().length >= 2 && name.trim().length <= 80 ? name.trim() : refuse('missing', 'laboratory', 'Laboratory: give its name, 2 to 80 letters.', { value: name, allowed: '2 to 80 letters' }));
const readMapping = (raw: unknown): LabMapping => { const r = mappingSchema.safeParse(raw); if (!r.success) throw new Refusal(refusalOf(r.error, raw)); return r.data; };

export interface FilePreview {
  headers: string[];
  rows: number;
  delimiter: string;
  firstRows: Record<string, string>[];
  mapping: LabMapping;
  remembered: boolean;
}

/** Looks at a laboratory file without writing anything: headings, first rows, and the mapping remembered for that laboratory or guessed. */
export async function previewFile(db: Db, actor: Actor, farmId: string, laboratory: string, bytes: Uint8Array): Promise<FilePreview> {
  await authorise(db, actor, 'edit', farmId);
  const file = readCsv(bytes);
  const known = await mappingOf(db, farmId, laboratoryName(laboratory));
  const remembered = known ? mappingSchema.safeParse(known) : null;
  const fits = remembered?.success === true && file.headers.every((h) => h in remembered.data.columns);
  const mapping: LabMapping = fits ? remembered.data : { columns: Object.fromEntries(file.headers.map((h) => [h, guessColumn(h)])), dateOrder: 'dmy' };
  return { headers: file.headers, rows: file.rows.length, delimiter: file.delimiter === '\t' ? 'tab' : file.delimiter, firstRows: file.rows.slice(0, 4).map((r) => r.cells), mapping: { ...mapping, columns: Object.fromEntries(file.headers.map((h) => [h, mapping.columns[h] ?? { kind: 'ignore' as const }])) }, remembered: fits };
}

async function context(db: Db, farmId: string) {
  const own = await fieldsOf(db, [farmId]);
  const stored = await soilSamplesOf(db, [farmId]);
  return { own, read: { fieldNames: own.map((f) => f.name), today: today(), known: new Set(stored.map((s) => sampleKey({ fieldName: s.field.name, date: s.sample.date, label: s.sample.label }))) } };
}

/** What would be imported, and what not and why; writes nothing. */
export async function checkFile(db: Db, actor: Actor, farmId: string, bytes: Uint8Array, rawMapping: unknown): Promise<{ good: ParsedSample[]; bad: BadRow[] }> {
  await authorise(db, actor, 'edit', farmId);
  return readLabRows(readCsv(bytes).rows, readMapping(rawMapping), (await context(db, farmId)).read);
}

/** Stores one sample and, when it is the newest of its field, lets the newest season plan with it. */
async function store(tx: Executor, db: Db, fields: readonly Field[], laboratory: string, s: ParsedSample): Promise<void> {
  const field = fields.find((f) => f.name === s.fieldName) as Field;
  const id = newId();
  await addSoilSample(tx, { id, fieldId: field.id, date: s.date, label: s.label, laboratory, depthCm: s.depthCm, phWater: s.phWater, phCacl2: s.phCacl2 }, s.readings.map((r) => ({ ...r, nutrient: soilReading.shape.nutrient.parse(r.nutrient) })));
  const season = (await seasonsOfField(tx as Db, field.id))[0];
  const current = season?.soilSampleId ? (await tx.select({ date: soilSamples.date }).from(soilSamples).where(eq(soilSamples.id, season.soilSampleId)))[0] : undefined;
  if (season && (!current || current.date <= s.date)) await planWithSample(tx, season.id, id);
}

/** Imports the good rows in one go and keeps the refused ones, to be put right later; nothing is half-imported. */
export async function importFile(db: Db, actor: Actor, farmId: string, laboratory: string, fileName: string, bytes: Uint8Array, rawMapping: unknown): Promise<{ imported: number; waiting: number }> {
  await authorise(db, actor, 'edit', farmId);
  const lab = laboratoryName(laboratory);
  const mapping = readMapping(rawMapping);
  const { own, read } = await context(db, farmId);
  const { good, bad } = readLabRows(readCsv(bytes).rows, mapping, read);
  await db.transaction(async (tx) => {
    for (const s of good) await store(tx, db, own, lab, s);
    await keepWaiting(tx, bad.map((b) => ({ id: newId(), farmId, laboratory: lab, fileName: fileName.slice(0, 120), row: b.row, cells: b.cells, problems: b.problems })));
    await rememberMapping(tx, farmId, lab, { ...mapping });
    await record(tx, { personId: actor.id, farmId, action: 'import_soil', subject: fileName.slice(0, 120), detail: { imported: good.length, waiting: bad.length } });
  });
  return { imported: good.length, waiting: bad.length };
}

/** Imports a row that had been refused, with its cells put right. */
export async function importWaiting(db: Db, actor: Actor, id: string, cells: Record<string, string>): Promise<BadRow | null> {
  const waiting = await waitingRowById(db, id);
  if (!waiting) refuse('unknown_id', 'row', 'This row is not waiting any more.');
  await authorise(db, actor, 'edit', waiting.farmId);
  const mapping = readMapping(await mappingOf(db, waiting.farmId, waiting.laboratory));
  const { own, read } = await context(db, waiting.farmId);
  const { good, bad } = readLabRows([{ row: waiting.row, cells }], mapping, read);
  if (bad[0]) return bad[0];
  await db.transaction(async (tx) => {
    for (const s of good) await store(tx, db, own, waiting.laboratory, s);
    await dropWaiting(tx, id);
    await record(tx, { personId: actor.id, farmId: waiting.farmId, action: 'import_soil', subject: `${waiting.fileName} row ${waiting.row}` });
  });
  return null;
}

export async function discardWaiting(db: Db, actor: Actor, id: string): Promise<void> {
  const waiting = await waitingRowById(db, id);
  if (!waiting) return;
  await authorise(db, actor, 'edit', waiting.farmId);
  await db.transaction(async (tx) => {
    await dropWaiting(tx, id);
    await record(tx, { personId: actor.id, farmId: waiting.farmId, action: 'discard_row', subject: `${waiting.fileName} row ${waiting.row}`, detail: waiting.cells });
  });
}
