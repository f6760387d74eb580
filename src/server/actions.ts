'use server';

import { revalidatePath } from 'next/cache';
import { refuse } from '@/core/quantity/refusal';
import { answer } from './answer';
import { takeBackImport } from './imports';
import { discardWaiting, importWaiting, lookAtFile } from './laboratory';
import { solveBlend } from './blend';
import { readSimulatedMeter } from './simulatedMeters';
import { bringOutlines, outlinesForFarm } from './bringOutlines';
import { lookAtLeaves } from './leafImport';
import { addLeaf, dropLeaf } from './leaves';
import { putInField, usesInField } from './places';
import { decide, importPlanFile, lookAtPlanFile, propose, saveEdit } from './plans';
import {
  changeSamplingPlan,
  createSamplingPlan,
  dropClaim,
  dropSamplingPlan,
  keepClaim,
  outlinesInFile,
  saveOutline,
} from './sampling';
import { actAs, session } from './session';
import { correctSample, moveSample, removeSample, takeOver } from './soilSample';
import { sendToSimulatedLaboratory, simulatedLeaves } from './simulatedLaboratory';

// Thin doors: who acts comes from the session, never from the caller; the use cases authorise and
// validate.
const bytesOf = async (form: FormData): Promise<Uint8Array> => {
  const f = form.get('file');
  return f instanceof File ? new Uint8Array(await f.arrayBuffer()) : new Uint8Array();
};
/**
 * A file's text. Files travel as files: what travels as an argument of an action is cut at 1 MB.
 */
const textOf = async (form: FormData): Promise<string> => {
  const f = form.get('file');
  if (!(f instanceof File)) return '';
  if (f.size > MAX_TEXT_BYTES)
    refuse(
      'out_of_range',
      'file',
      `The file has ${(f.size / 1048576).toFixed(1)} MB; at most 5 MB are read.`,
      { value: f.size, allowed: 'up to 5 MB' },
    );
  return f.text();
};
const MAX_TEXT_BYTES = 5 * 1024 * 1024;
/** Answers to what can be read several ways, as a form brings them. */
const said = (form: FormData) => ({
  answers: JSON.parse(text(form, 'answers') || '{}') as unknown,
  anew: text(form, 'anew') === 'true',
});
const text = (form: FormData, key: string): string => {
  const v = form.get(key);
  return typeof v === 'string' ? v : '';
};

export async function actAsAction(personId: string) {
  await actAs(personId);
  revalidatePath('/', 'layout');
}
export async function savePlanAction(seasonId: string, base: unknown, mine: unknown) {
  const { db, actor } = await session();
  return answer(() => saveEdit(db, actor, seasonId, base, mine));
}
export async function usesInFieldAction(raw: unknown) {
  const { db, actor } = await session();
  return answer(() => usesInField(db, actor, raw));
}
export async function solveBlendAction(fieldId: string, raw: unknown) {
  const { db, actor } = await session();
  return answer(() => solveBlend(db, actor, fieldId, raw));
}
export async function simulatedMeterAction(seasonId: string, raw: unknown) {
  const { db, actor } = await session();
  return answer(() => readSimulatedMeter(db, actor, seasonId, raw));
}
export async function putInFieldAction(raw: unknown) {
  const { db, actor } = await session();
  const result = await answer(() => putInField(db, actor, raw));
  revalidatePath('/', 'layout');
  return result;
}
export async function lookAtPlanAction(form: FormData) {
  const { db, actor } = await session();
  return answer(async () => lookAtPlanFile(db, actor, text(form, 'seasonId'), await textOf(form)));
}
export async function importPlanAction(form: FormData) {
  const { db, actor } = await session();
  return answer(async () => {
    const { plan } = await importPlanFile(
      db,
      actor,
      text(form, 'seasonId'),
      await textOf(form),
      Number(text(form, 'looked')),
    );
    return { plan };
  });
}
export async function proposeAction(seasonId: string) {
  const { db, actor } = await session();
  const result = await answer(() => propose(db, actor, seasonId));
  revalidatePath('/', 'layout');
  return result;
}
export async function decideAction(versionId: string, agree: boolean, comment: string) {
  const { db, actor } = await session();
  const result = await answer(() => decide(db, actor, versionId, agree, comment));
  revalidatePath('/', 'layout');
  return result;
}
export async function lookAtFileAction(form: FormData) {
  const { db, actor } = await session();
  return answer(async () =>
    lookAtFile(
      db,
      actor,
      text(form, 'farmId'),
      text(form, 'laboratory'),
      await bytesOf(form),
      said(form),
    ),
  );
}
export async function lookAtLeavesAction(form: FormData) {
  const { db, actor } = await session();
  return answer(async () =>
    lookAtLeaves(db, actor, {
      farmId: text(form, 'farmId'),
      laboratory: text(form, 'laboratory'),
      fileName: text(form, 'fileName'),
      bytes: await bytesOf(form),
      answers: JSON.parse(text(form, 'answers') || '{}') as unknown,
    }),
  );
}
export async function importWaitingAction(id: string, cells: Record<string, string>) {
  const { db, actor } = await session();
  const result = await answer(() => importWaiting(db, actor, id, cells));
  revalidatePath('/', 'layout');
  return result;
}
export async function discardWaitingAction(id: string) {
  const { db, actor } = await session();
  const result = await answer(() => discardWaiting(db, actor, id));
  revalidatePath('/', 'layout');
  return result;
}
export async function takeBackImportAction(id: string) {
  const { db, actor } = await session();
  const result = await answer(() => takeBackImport(db, actor, id));
  revalidatePath('/', 'layout');
  return result;
}
export async function correctSampleAction(id: string, expected: number, raw: unknown) {
  const { db, actor } = await session();
  const result = await answer(() => correctSample(db, actor, id, expected, raw));
  revalidatePath('/', 'layout');
  return result;
}
export async function moveSampleAction(id: string, fieldId: string) {
  const { db, actor } = await session();
  const result = await answer(() => moveSample(db, actor, id, fieldId));
  revalidatePath('/', 'layout');
  return result;
}
export async function removeSampleAction(id: string) {
  const { db, actor } = await session();
  const result = await answer(() => removeSample(db, actor, id));
  revalidatePath('/', 'layout');
  return result;
}
export async function takeOverAction(id: string, column: string) {
  const { db, actor } = await session();
  const result = await answer(() => takeOver(db, actor, id, column));
  revalidatePath('/', 'layout');
  return result;
}
export async function addLeafAction(
  fieldId: string,
  cropKey: string,
  raw: unknown,
  meantAsWritten: readonly string[],
) {
  const { db, actor } = await session();
  const result = await answer(() => addLeaf(db, actor, fieldId, cropKey, raw, meantAsWritten));
  revalidatePath(`/fields/${fieldId}`, 'layout');
  return result;
}
export async function dropLeafAction(fieldId: string, id: string) {
  const { db, actor } = await session();
  const result = await answer(() => dropLeaf(db, actor, fieldId, id));
  revalidatePath(`/fields/${fieldId}`, 'layout');
  return result;
}
export async function saveOutlineAction(fieldId: string, outline: unknown, meant: boolean) {
  const { db, actor } = await session();
  const result = await answer(() => saveOutline(db, actor, fieldId, outline, meant));
  revalidatePath(`/fields/${fieldId}`, 'layout');
  return result;
}
const outlinesAsked = (form: FormData) => ({
  crs: text(form, 'crs') || null,
  latitudeFirst: text(form, 'latitudeFirst') === 'true',
});
export async function outlinesInFileAction(fieldId: string, form: FormData) {
  const { db, actor } = await session();
  return answer(async () =>
    outlinesInFile(db, actor, fieldId, await bytesOf(form), outlinesAsked(form)),
  );
}
export async function outlinesForFarmAction(farmId: string, form: FormData) {
  const { db, actor } = await session();
  return answer(async () =>
    outlinesForFarm(db, actor, farmId, await bytesOf(form), outlinesAsked(form)),
  );
}
export async function bringOutlinesAction(farmId: string, picks: unknown) {
  const { db, actor } = await session();
  const result = await answer(() => bringOutlines(db, actor, farmId, picks));
  revalidatePath('/', 'layout');
  return result;
}
export async function createSamplingPlanAction(fieldId: string, name: unknown, plan: unknown) {
  const { db, actor } = await session();
  const result = await answer(() => createSamplingPlan(db, actor, fieldId, name, plan));
  revalidatePath(`/fields/${fieldId}`, 'layout');
  return result;
}
export async function changeSamplingPlanAction(
  planId: string,
  expected: number,
  name: unknown,
  plan: unknown,
) {
  const { db, actor } = await session();
  const result = await answer(() => changeSamplingPlan(db, actor, planId, expected, name, plan));
  revalidatePath('/fields', 'layout');
  return result;
}
export async function dropSamplingPlanAction(planId: string) {
  const { db, actor } = await session();
  const result = await answer(() => dropSamplingPlan(db, actor, planId));
  revalidatePath('/fields', 'layout');
  return result;
}
export async function keepClaimAction(fieldId: string, product: unknown, input: unknown) {
  const { db, actor } = await session();
  const result = await answer(() => keepClaim(db, actor, fieldId, product, input));
  revalidatePath(`/fields/${fieldId}`, 'layout');
  return result;
}
export async function dropClaimAction(fieldId: string, id: string) {
  const { db, actor } = await session();
  const result = await answer(() => dropClaim(db, actor, fieldId, id));
  revalidatePath(`/fields/${fieldId}`, 'layout');
  return result;
}
export async function simulatedLeavesAction(farmId: string) {
  const { db, actor } = await session();
  return answer(() => simulatedLeaves(db, actor, farmId));
}
export async function simulatedLaboratoryAction(form: FormData) {
  await session();
  return answer(async () => sendToSimulatedLaboratory(await bytesOf(form)));
}
