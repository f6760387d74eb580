import { z } from 'zod';
import { soilReading } from '@/core/facts/soilSample';
import {
  fileOfRow,
  sampleKey,
  soilBringIn,
  type BadRow,
  type BringContext,
  type FileLook,
  type ParsedSample,
} from '@/core/laboratory/bringIn';
import { labAnswers } from '@/core/laboratory/answers';
import { againstEarlier } from '@/core/laboratory/earlierValues';
import type { Answers, Question } from '@/core/laboratory/questions';
import type { SoilReport } from '@/core/laboratory/samples';
import { readLaboratory, type LabReport } from '@/core/laboratory/readLaboratory';
import { refuse } from '@/core/quantity/refusal';
import type { Db, Executor } from '@/data/client';
import { addImport, holdFarm, importsOfFarms, readsOf } from '@/data/imports';
import { newestSeasonOf } from '@/data/seasons';
import { fieldsOf, record, type Field } from '@/data/farms';
import {
  dropWaiting,
  keepWaiting,
  mappingOf,
  rememberMapping,
  sampleHeadsOf,
  waitingRowById,
} from '@/data/samples';
import { addSoilSamples, newestTopsoil, pointsOfFarm } from '@/data/sampling';
import { authorise, type Actor } from './authorise';
import { newId, today } from './clock';
import { planWithNewest } from './fieldMean';
import { keepNitrate } from './nitrateProfiles';
import { reportOf } from './recentReport';

export const laboratoryName = (name: string): string =>
  name.trim().length >= 2 && name.trim().length <= 80
    ? name.trim()
    : refuse('missing', 'laboratory', 'Laboratory: give its name, 2 to 80 letters.', {
        value: name,
        allowed: '2 to 80 letters',
      });

/** What is kept of a laboratory's way of writing, after a file of it was brought in. */
const remembered = z.object({
  answers: z.record(z.string(), z.string()),
  given: z.object({
    mark: z.enum(['.', ',']).nullable(),
    order: z.enum(['dmy', 'mdy', 'ymd']).nullable(),
  }),
});
type Remembered = z.infer<typeof remembered>;
const NOTHING: Remembered = { answers: {}, given: { mark: null, order: null } };
/** Another kind of memory, of an older program, is none: then it is asked anew. */
export async function rememberedOf(
  db: Db,
  farmId: string,
  laboratory: string,
): Promise<Remembered> {
  const parsed = remembered.safeParse(await mappingOf(db, farmId, laboratory));
  return parsed.success ? parsed.data : NOTHING;
}

/** How a laboratory writes is worth remembering; what one figure meant is not. */
export const ofLaboratory = (answers: Answers): Answers =>
  Object.fromEntries(
    Object.entries(answers).filter(
      ([key]) => !/^(value|which_column|bulk_density|density|earlier|meant):/u.test(key),
    ),
  );

/** Cells that a page shows before anything is brought in; files may have many thousand. */
const MOST_SHOWN = 3000;

/** What a person answers; `anew` leaves out what is remembered of the laboratory. */
export interface Said {
  answers: unknown;
  anew: boolean;
}
interface Sorted {
  report: LabReport;
  answers: Answers;
  remembered: boolean;
  own: Field[];
  good: ParsedSample[];
  bad: BadRow[];
  /** Of the file, and of its figures against those that the fields had before. */
  questions: Question[];
}
async function sorted(
  db: Db,
  farmId: string,
  laboratory: string,
  bytes: Uint8Array,
  said: Said,
): Promise<Sorted> {
  const memory = said.anew ? NOTHING : await rememberedOf(db, farmId, laboratory);
  const answers = { ...memory.answers, ...labAnswers(said.answers) };
  // What is answered of earlier figures changes nothing of how the file reads.
  const ofFile = Object.entries(answers).filter(([key]) => !key.startsWith('earlier:'));
  const report = await reportOf(bytes, Object.fromEntries(ofFile));
  if (report.kind !== 'soil')
    refuse(
      'inconsistent',
      'file',
      `This reads as a ${report.kind} report (${report.readAs}): soil samples are brought in here.`,
      { value: report.kind, allowed: 'soil' },
    );
  const { own, read } = await context(db, farmId);
  const used = Object.keys(memory.answers).length > 0;
  const first = soilBringIn(report, read);
  const rowOf = new Map((report.samples as SoilReport[]).map((s, i) => [s.row, i]));
  const { good, bad, questions } = againstEarlier(
    first.good,
    await newestTopsoil(db, farmId),
    answers,
    (s) => report.sourceOf(rowOf.get(s.row) ?? 0),
  );
  return {
    report,
    answers,
    remembered: used,
    own,
    good,
    bad: [...first.bad, ...bad],
    questions: [...report.questions, ...questions],
  };
}

/**
 * Looks at a laboratory file without writing anything: what each cell becomes, what has to be
 * asked, what waits and what stays out, and why.
 */
export async function lookAtFile(
  db: Db,
  actor: Actor,
  farmId: string,
  laboratory: string,
  bytes: Uint8Array,
  said: Said,
): Promise<FileLook> {
  await authorise(db, actor, 'edit', farmId);
  const { report, answers, good, bad, questions, ...rest } = await sorted(
    db,
    farmId,
    laboratoryName(laboratory),
    bytes,
    said,
  );
  const { readAs, shape, samples, leftOut } = report;
  const cells = report.cells.toSorted((a, b) => a.row - b.row);
  return {
    readAs,
    shape,
    samples: samples.length,
    good: good.length,
    bad,
    questions,
    answers,
    remembered: rest.remembered,
    cells: cells.slice(0, MOST_SHOWN),
    moreCells: Math.max(0, cells.length - MOST_SHOWN),
    leftOut,
  };
}

async function context(db: Db, farmId: string): Promise<{ own: Field[]; read: BringContext }> {
  const own = await fieldsOf(db, [farmId]);
  const stored = await sampleHeadsOf(db, farmId);
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
      known: new Set(stored.map((s) => sampleKey({ ...s, date: s.date ?? '' }))),
    },
  };
}

/** A row that holds nothing but nitrate or sulphate is no soil sample: its one home is the nitrate profile. */
const saysMore = (s: ParsedSample): boolean =>
  (s.no3nMgKg ?? s.so4sMgKg) === null ||
  s.readings.length > 0 ||
  [s.phWater, s.phCacl2, s.bufferPh, s.omPct, s.ocPct, s.cecCmolKg, s.alCmolKg, s.clayPct].some(
    (v) => v !== null,
  );

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
      ocPct,
      clayPct,
      stonesPct,
      at,
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
        ocPct,
        clayPct,
        stonesPct,
        at,
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

/** The imports of a farm as one text: another one since makes another text. */
const importIds = async (db: Executor, farmId: string): Promise<string> =>
  (await importsOfFarms(db, [farmId])).map((i) => i.id).join();

/** The seasons that an import may let read something else. */
async function newestSeasonsOf(
  tx: Executor,
  fields: readonly Field[],
  good: readonly ParsedSample[],
): Promise<string[]> {
  const names = new Set(good.map((s) => s.fieldName));
  const found = await Promise.all(
    fields.filter((f) => names.has(f.name)).map((f) => newestSeasonOf(tx, f.id)),
  );
  return found.flatMap((s) => (s ? [s.id] : []));
}

/**
 * Imports the good rows in one go and keeps the refused ones, to be put right later; nothing is
 * half-imported, and nothing as long as a question is open.
 */
export async function importFile(
  db: Db,
  actor: Actor,
  farmId: string,
  laboratory: string,
  fileName: string,
  bytes: Uint8Array,
  said: Said,
  progress: (p: ImportProgress) => Promise<void> = async () => {},
): Promise<{ imported: number; waiting: number }> {
  await authorise(db, actor, 'edit', farmId);
  const lab = laboratoryName(laboratory);
  const seen = await importIds(db, farmId);
  const { report, answers, own, good, bad, questions } = await sorted(db, farmId, lab, bytes, said);
  const [open] = questions;
  if (open)
    refuse(
      'missing',
      open.column,
      open.about === 'earlier'
        ? `${open.column}: ${open.cell}. Say whether it is so before it comes in.`
        : `${open.column}: ${open.cell} can be read in several ways. Say how before it comes in.`,
      { value: open.cell, allowed: open.choices.map((c) => c.answer).join(', ') },
    );
  const samples = rowsOf(own, lab, good, actor);
  const waiting = bad.map((b) => ({
    id: newId(),
    farmId,
    laboratory: lab,
    fileName: fileName.slice(0, 120),
    row: b.row,
    cells: b.cells,
    problems: b.problems,
  }));
  await db.transaction(async (tx) => {
    await holdFarm(tx, farmId);
    // What is here already was looked up before: another import since may have brought the same.
    if ((await importIds(tx, farmId)) !== seen)
      refuse(
        'conflict',
        'file',
        'Another file came in for this farm at the same moment. Nothing of this one was brought in: look at it again.',
      );
    const seasons = await newestSeasonsOf(tx, own, good);
    const before = await readsOf(tx, seasons);
    await addSoilSamples(tx, samples, (done) => progress({ done, of: samples.length }));
    const profiles = await keepNitrate(tx, actor, lab, own, good);
    await planWithNewest(
      tx,
      samples.map((s) => s.sample),
    );
    await keepWaiting(tx, waiting);
    await addImport(tx, {
      id: newId(),
      farmId,
      laboratory: lab,
      fileName: fileName.slice(0, 120),
      author: actor.name,
      importedOn: today(),
      document: {
        samples: samples.map((s) => s.sample.id),
        profiles,
        waiting: waiting.map((w) => w.id),
        before,
      },
    });
    await rememberMapping(tx, farmId, lab, { answers: ofLaboratory(answers), given: report.given });
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
  const memory = await rememberedOf(db, waiting.farmId, waiting.laboratory);
  const report = await readLaboratory(fileOfRow(cells), {
    kind: 'soil',
    fields: null,
    answers: memory.answers,
    sheet: null,
    given: memory.given,
  });
  const { own, read } = await context(db, waiting.farmId);
  const { good, bad } = soilBringIn(report, read);
  if (bad[0]) return { ...bad[0], row: waiting.row };
  if (report.questions.length > 0)
    return {
      row: waiting.row,
      cells,
      problems: report.questions.map(({ column, cell, choices }) => ({
        column,
        value: cell,
        reason: `${cell} can be read in several ways: ${choices.map((c) => c.means).join('; ')}.`,
      })),
    };
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
