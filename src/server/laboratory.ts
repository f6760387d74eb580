import { keepNitrate } from './nitrateProfiles';
import { pointRows } from '@/core/ground/fieldGeojson';
import {
  guessColumn,
  PLAIN_TARGETS,
  readLabRows,
  sampleKey,
  type BadRow,
  type LabMapping,
  type ParsedSample,
  type ReadContext,
} from '@/core/ground/labReport';
import { refuse } from '@/core/quantity/refusal';
import { z } from 'zod';
import { soilReading } from '@/core/facts/soilSample';
import { refusalOf } from '@/core/quantity/input';
import { Refusal } from '@/core/quantity/refusal';
import type { Db } from '@/data/client';
import { fieldsOf, record, type Field } from '@/data/farms';
import {
  dropWaiting,
  keepWaiting,
  mappingOf,
  rememberMapping,
  soilSamplesOf,
  waitingRowById,
} from '@/data/samples';
import { addSoilSamples, pointsOfFarm } from '@/data/sampling';
import { authorise, type Actor } from './authorise';
import { newId, today } from './clock';
import { readCsv } from './csvFile';
import { planWithNewest } from './fieldMean';

const target = z.union([
  z.strictObject({ kind: z.enum(PLAIN_TARGETS) }),
  z.strictObject({
    kind: z.literal('nutrient'),
    nutrient: soilReading.shape.nutrient,
    extractant: z.string().min(1).max(60),
    unit: z.enum(['mg_kg', 'mg_l', 'lb_ac']),
  }),
]);
const mappingSchema = z.strictObject({
  columns: z.record(z.string().max(200), target),
  dateOrder: z.enum(['ymd', 'dmy', 'mdy']),
});
const laboratoryName = (name: string): string =>
  name.trim().length >= 2 && name.trim().length <= 80
    ? name.trim()
    : refuse('missing', 'laboratory', 'Laboratory: give its name, 2 to 80 letters.', {
        value: name,
        allowed: '2 to 80 letters',
      });
const readMapping = (raw: unknown): LabMapping => {
  const r = mappingSchema.safeParse(raw);
  if (!r.success) throw new Refusal(refusalOf(r.error, raw));
  return r.data;
};

export interface FilePreview {
  headers: string[];
  rows: number;
  delimiter: string;
  firstRows: Record<string, string>[];
  mapping: LabMapping;
  remembered: boolean;
}

/**
 * Looks at a laboratory file without writing anything: headings, first rows, and the mapping
 * remembered for that laboratory or guessed.
 */
export async function previewFile(
  db: Db,
  actor: Actor,
  farmId: string,
  laboratory: string,
  bytes: Uint8Array,
): Promise<FilePreview> {
  await authorise(db, actor, 'edit', farmId);
  const file = readTable(bytes);
  const known = await mappingOf(db, farmId, laboratoryName(laboratory));
  const remembered = known ? mappingSchema.safeParse(known) : null;
  const fits =
    remembered?.success === true && file.headers.every((h) => h in remembered.data.columns);
  const mapping: LabMapping = fits
    ? remembered.data
    : {
        columns: Object.fromEntries(file.headers.map((h) => [h, guessColumn(h)])),
        dateOrder: 'dmy',
      };
  return {
    headers: file.headers,
    rows: file.rows.length,
    delimiter: file.delimiter === '\t' ? 'tab' : file.delimiter,
    firstRows: file.rows.slice(0, 4).map((r) => r.cells),
    mapping: {
      ...mapping,
      columns: Object.fromEntries(
        file.headers.map((h) => [h, mapping.columns[h] ?? { kind: 'ignore' as const }]),
      ),
    },
    remembered: fits,
  };
}

async function context(db: Db, farmId: string): Promise<{ own: Field[]; read: ReadContext }> {
  const own = await fieldsOf(db, [farmId]);
  const stored = await soilSamplesOf(db, [farmId]);
  const nameOf = new Map(own.map((f) => [f.id, f.name]));
  const points = new Map(
    (
      await pointsOfFarm(
        db,
        own.map((f) => f.id),
      )
    ).flatMap((p) =>
      p.document.points.map(
        (x) =>
          [
            x.label.toLowerCase(),
            {
              samplingPlanId: p.samplingPlanId,
              label: x.label,
              fieldName: nameOf.get(p.fieldId) ?? '',
            },
          ] as const,
      ),
    ),
  );
  return {
    own,
    read: {
      fieldNames: own.map((f) => f.name),
      today: today(),
      points,
      known: new Set(
        stored.map((s) =>
          sampleKey({
            fieldName: s.field.name,
            date: s.sample.date ?? '',
            label: s.sample.label,
            depthFromCm: s.sample.depthFromCm,
          }),
        ),
      ),
    },
  };
}

/** A laboratory's CSV, or points that come back as GeoJSON with their results as properties. */
function readTable(bytes: Uint8Array): ReturnType<typeof readCsv> {
  const first = bytes.find((b) => b > 32);
  if (first !== 0x7b) return readCsv(bytes);
  const { headers, rows } = pointRows(new TextDecoder('utf-8').decode(bytes));
  return { headers, rows, delimiter: 'GeoJSON properties' };
}

/** What would be imported, and what not and why; writes nothing. */
export async function checkFile(
  db: Db,
  actor: Actor,
  farmId: string,
  bytes: Uint8Array,
  rawMapping: unknown,
): Promise<{ good: ParsedSample[]; bad: BadRow[] }> {
  await authorise(db, actor, 'edit', farmId);
  return readLabRows(
    readTable(bytes).rows,
    readMapping(rawMapping),
    (await context(db, farmId)).read,
  );
}

/** A row that holds nothing but nitrate is no soil sample: its one home is the nitrate profile. */
const saysMore = (s: ParsedSample): boolean =>
  s.no3nMgKg === null ||
  s.readings.length > 0 ||
  [s.phWater, s.phCacl2, s.bufferPh, s.omPct, s.cecCmolKg, s.alCmolKg].some((v) => v !== null);

const rowsOf = (
  fields: readonly Field[],
  laboratory: string,
  samples: readonly ParsedSample[],
  actor: Actor,
) =>
  samples.filter(saysMore).map((s) => {
    const {
      label,
      date,
      depthFromCm,
      depthCm,
      nCores,
      phWater,
      phCacl2,
      bufferKind,
      bufferPh,
      omPct,
      cecCmolKg,
      alCmolKg,
    } = s;
    const field = fields.find((f) => f.name === s.fieldName) as Field;
    return {
      sample: {
        id: newId(),
        fieldId: field.id,
        laboratory,
        kind: s.point ? ('point' as const) : ('composite' as const),
        samplingPlanId: s.point?.samplingPlanId ?? null,
        label,
        date,
        depthFromCm,
        depthCm,
        nCores,
        phWater,
        phCacl2,
        bufferKind,
        bufferPh,
        omPct,
        cecCmolKg,
        alCmolKg,
        author: actor.name,
        recordedOn: today(),
      },
      readings: s.readings.map((r) => ({
        ...r,
        nutrient: soilReading.shape.nutrient.parse(r.nutrient),
      })),
    };
  });

export interface ImportProgress {
  done: number;
  of: number;
}

/**
 * Imports the good rows in one go and keeps the refused ones, to be put right later; nothing is
 * half-imported.
 */
export async function importFile(
  db: Db,
  actor: Actor,
  farmId: string,
  laboratory: string,
  fileName: string,
  bytes: Uint8Array,
  rawMapping: unknown,
  progress: (p: ImportProgress) => Promise<void> = async () => {},
): Promise<{ imported: number; waiting: number }> {
  await authorise(db, actor, 'edit', farmId);
  const lab = laboratoryName(laboratory);
  const mapping = readMapping(rawMapping);
  const { own, read } = await context(db, farmId);
  const { good, bad } = readLabRows(readTable(bytes).rows, mapping, read);
  const samples = rowsOf(own, lab, good, actor);
  await db.transaction(async (tx) => {
    await addSoilSamples(tx, samples, (done) => progress({ done, of: samples.length }));
    await keepNitrate(tx, actor, lab, own, good);
    await planWithNewest(
      tx,
      samples.map((s) => s.sample),
    );
    await keepWaiting(
      tx,
      bad.map((b) => ({
        id: newId(),
        farmId,
        laboratory: lab,
        fileName: fileName.slice(0, 120),
        row: b.row,
        cells: b.cells,
        problems: b.problems,
      })),
    );
    await rememberMapping(tx, farmId, lab, { ...mapping });
    await record(tx, {
      personId: actor.id,
      farmId,
      action: 'import_soil',
      subject: fileName.slice(0, 120),
      detail: { imported: good.length, waiting: bad.length },
    });
  });
  return { imported: good.length, waiting: bad.length };
}

/** Imports a row that had been refused, with its cells put right. */
export async function importWaiting(
  db: Db,
  actor: Actor,
  id: string,
  cells: Record<string, string>,
): Promise<BadRow | null> {
  const waiting = await waitingRowById(db, id);
  if (!waiting) refuse('unknown_id', 'row', 'This row is not waiting any more.');
  await authorise(db, actor, 'edit', waiting.farmId);
  const mapping = readMapping(await mappingOf(db, waiting.farmId, waiting.laboratory));
  const { own, read } = await context(db, waiting.farmId);
  const { good, bad } = readLabRows([{ row: waiting.row, cells }], mapping, read);
  if (bad[0]) return bad[0];
  await db.transaction(async (tx) => {
    const samples = rowsOf(own, waiting.laboratory, good, actor);
    await addSoilSamples(tx, samples, async () => {});
    await keepNitrate(tx, actor, waiting.laboratory, own, good);
    await planWithNewest(
      tx,
      samples.map((s) => s.sample),
    );
    await dropWaiting(tx, id);
    await record(tx, {
      personId: actor.id,
      farmId: waiting.farmId,
      action: 'import_soil',
      subject: `${waiting.fileName} row ${waiting.row}`,
    });
  });
  return null;
}

export async function discardWaiting(db: Db, actor: Actor, id: string): Promise<void> {
  const waiting = await waitingRowById(db, id);
  if (!waiting) return;
  await authorise(db, actor, 'edit', waiting.farmId);
  await db.transaction(async (tx) => {
    await dropWaiting(tx, id);
    await record(tx, {
      personId: actor.id,
      farmId: waiting.farmId,
      action: 'discard_row',
      subject: `${waiting.fileName} row ${waiting.row}`,
      detail: waiting.cells,
    });
  });
}
