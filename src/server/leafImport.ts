import { bookOf, type LibraryChange } from '@/core/book/book';
import type { LeafSampleFact } from '@/core/facts/leafSample';
import { labAnswers } from '@/core/laboratory/answers';
import {
  leafBringIn,
  type LeafField,
  type LeafFileLook,
  type LeafToBring,
} from '@/core/farm/leafBringIn';
import { leafRowsOf } from '@/core/laboratory/leafFile';
import type { Answers } from '@/core/laboratory/questions';
import { readLaboratory } from '@/core/laboratory/readLaboratory';
import type { OtherReport } from '@/core/laboratory/samples';
import { refuse } from '@/core/quantity/refusal';
import type { Db } from '@/data/client';
import { fieldsOf, libraryOf, record } from '@/data/farms';
import { addImport, holdFarm } from '@/data/imports';
import { addLeafSamples, leafFactsOf, rememberMapping, removeLeafSample } from '@/data/samples';
import { loadPlansOf } from '@/data/seasons';
import { authorise, type Actor } from './authorise';
import { newId, today } from './clock';
import { laboratoryName, ofLaboratory, rememberedOf } from './laboratory';
import type { Progress } from './toldByLines';

export interface LeafFile {
  farmId: string;
  laboratory: string;
  fileName: string;
  bytes: Uint8Array;
  answers: unknown;
}
async function sorted(db: Db, { farmId, laboratory, bytes, answers: said }: LeafFile) {
  const memory = await rememberedOf(db, farmId, laboratoryName(laboratory));
  const answers: Answers = { ...memory.answers, ...labAnswers(said) };
  const ofFile = Object.fromEntries(
    Object.entries(answers).filter(([key]) => !/^(part|meant):/u.test(key)),
  );
  const report = await readLaboratory(bytes, {
    kind: 'leaf',
    fields: null,
    answers: ofFile,
    sheet: null,
  });
  const book = bookOf(
    (await libraryOf(db, [farmId])).map(({ farmId: _, ...c }): LibraryChange => c),
  );
  const own = await fieldsOf(db, [farmId]);
  const facts = await leafFactsOf(
    db,
    own.map((f) => f.id),
  );
  const plans = await loadPlansOf(db, [farmId], today());
  const fields = own.map((f): LeafField => ({
    name: f.name,
    areaHa: f.areaHa,
    seasons: plans
      .filter((p) => p.fieldId === f.id)
      .map(({ plan: { season } }) => season)
      .toSorted((a, b) => b.startDate.localeCompare(a.startDate)),
    known: (facts.get(f.id) ?? []).map((l) => ({
      id: l.id,
      date: l.date,
      part: l.part,
      label: l.laboratoryNumber,
      waits: l.values.length === 0,
    })),
  }));
  const brought = leafBringIn(book, leafRowsOf(report.samples as OtherReport[]), fields, {
    today: today(),
    answers,
    newId,
  });
  return { report, own, facts, brought, answers };
}

/** Looks at a leaf file of a farm; nothing is written. */
export async function lookAtLeaves(db: Db, actor: Actor, file: LeafFile): Promise<LeafFileLook> {
  await authorise(db, actor, 'sample', file.farmId);
  const { report, brought } = await sorted(db, file);
  return {
    readAs: report.readAs,
    good: brought.good.map((g) => ({
      row: g.row,
      fieldName: g.fieldName,
      part: g.assessment.standard?.partLabel ?? g.sample.part,
      bbch: g.sample.bbch,
      date: g.sample.date,
      values: g.sample.values.length,
      short: g.assessment.order,
      fills: g.fills !== null,
    })),
    left: brought.left,
    questions: [...report.questions, ...brought.questions],
  };
}

/**
 * Brings in the good leaves of a file, all or nothing, and nothing as long as a question is open.
 * Those that stay out are named.
 */
export async function importLeaves(
  db: Db,
  actor: Actor,
  file: LeafFile,
  progress: Progress = async () => {},
): Promise<{ imported: number; left: number }> {
  const { farmId } = file;
  await authorise(db, actor, 'sample', farmId);
  const { report, own, facts, brought, answers } = await sorted(db, file);
  const open = [...report.questions, ...brought.questions][0];
  if (open)
    refuse(
      'missing',
      open.column,
      `${open.column}: ${open.cell} can be read in several ways. Say how before it comes in.`,
      { value: open.cell, allowed: open.choices.map((c) => c.answer).join(', ') },
    );
  if (brought.good.length === 0)
    refuse('missing', 'file', 'No leaf of this file can come in: each says why below.');
  const ids = new Map(own.map((f) => [f.name, f.id]));
  const rows = brought.good.map((g) => {
    const fieldId = ids.get(g.fieldName) as string;
    const before = facts.get(fieldId)?.find((l) => l.id === g.fills) ?? null;
    return { fieldId, before, leaf: leafOf(g, before, actor) };
  });
  await db.transaction(async (tx) => {
    await holdFarm(tx, farmId);
    // What is here was looked up before: another file or person may have come in since.
    const since = await leafFactsOf(
      tx,
      own.map((f) => f.id),
    );
    const state = (all: typeof facts) =>
      own.map((f) => (all.get(f.id) ?? []).map((l) => `${l.id} ${l.version}`).toSorted()).join(';');
    if (state(since) !== state(facts))
      refuse(
        'conflict',
        'file',
        'Leaves of this farm changed at the same moment. Nothing of this file was brought in: look at it again.',
      );
    for (const { fieldId, before } of rows)
      if (before) await removeLeafSample(tx, fieldId, before.id);
    await addLeafSamples(tx, rows, (done) => progress({ done, of: rows.length }));
    await addImport(tx, {
      id: newId(),
      farmId,
      laboratory: laboratoryName(file.laboratory),
      fileName: file.fileName.slice(0, 120),
      author: actor.name,
      importedOn: today(),
      document: {
        samples: [],
        profiles: [],
        waiting: [],
        before: [],
        leaves: rows.map(({ fieldId, before, leaf }) => ({ fieldId, id: leaf.id, before })),
      },
    });
    await rememberMapping(tx, farmId, laboratoryName(file.laboratory), {
      answers: ofLaboratory(answers),
      given: report.given,
    });
    await record(tx, {
      personId: actor.id,
      farmId,
      action: 'import_leaves',
      subject: file.fileName.slice(0, 120),
      detail: { imported: rows.length, left: brought.left.length },
    });
  });
  return { imported: rows.length, left: brought.left.length };
}

/** What somebody noted when the sample was taken stands; the laboratory adds its values. */
const leafOf = (g: LeafToBring, before: LeafSampleFact | null, actor: Actor): LeafSampleFact => ({
  ...g.sample,
  ...(before
    ? {
        hour: before.hour,
        place: before.place,
        takenBy: before.takenBy,
        biomassTHa: before.biomassTHa,
        tenPlantsG: before.tenPlantsG,
        sentOn: before.sentOn,
        nOrgans: before.nOrgans,
        washed: before.washed,
        role: before.role,
        bbch: before.bbch,
      }
    : {}),
  cropKey: g.cropKey,
  version: (before?.version ?? 0) + 1,
  author: actor.name,
  recordedOn: today(),
});
