'use server';

import type { Answer } from '@/core/quantity/refusal';
import type { OwnClimate } from '@/core/document/farmTerms';
import { readPriceList, type PriceList } from '@/core/farm/priceFile';
import { readClimate } from '@/core/farm/climateFile';
import { revalidatePath } from 'next/cache';
import { after } from 'next/server';
import { answer } from './answer';
import { today } from './clock';
import { bringBack, removeField, removeMachine, removeStore } from './drawer';
import { farmTermsOf, saveFarmTerms, saveMachine, saveStore } from './farm';
import { importFarm } from './farmFile';
import { importLibrary, overrideRow, resetRow, tableOf, type LibraryImport } from './library';
import { openNextSeason } from './nextSeason';
import { createFarm, saveFarmPlace } from './ownFarm';
import { createFields, renameField } from './ownFields';
import { removeMember, renameMember, saveMember } from './people';
import { session, type Session } from './session';
import { pricedProducts } from './prices';
import { renewFarm } from './summaries';

// Thin doors, as in actions.ts: the session says who acts, the use cases authorise and validate.
async function changing<T>(work: (s: Session) => Promise<T>): Promise<Answer<T>> {
  const s = await session();
  const result = await answer(() => work(s));
  revalidatePath('/', 'layout');
  return result;
}
/**
 * The same for what every figure of the farm rests on: its lists are renewed in the background at
 * once.
 */
async function changingAll<T>(
  farmId: string,
  work: (s: Session) => Promise<T>,
): Promise<Answer<T>> {
  const result = await changing(work);
  const { db } = await session();
  if (result.ok) after(() => renewFarm(db, farmId));
  return result;
}
const text = (form: FormData, key: string): string => {
  const v = form.get(key);
  return typeof v === 'string' ? v : '';
};
const fileOf = (form: FormData): File | null => {
  const f = form.get('file');
  return f instanceof File ? f : null;
};

export const saveTermsAction = async (
  farmId: string,
  expected: number,
  raw: unknown,
): Promise<Answer<number>> =>
  changingAll(farmId, ({ db, actor }) => saveFarmTerms(db, actor, farmId, expected, raw));
export const saveStoreAction = async (farmId: string, raw: unknown): Promise<Answer<string>> =>
  changing(({ db, actor }) => saveStore(db, actor, farmId, raw));
export const removeStoreAction = async (farmId: string, id: string): Promise<Answer<void>> =>
  changing(({ db, actor }) => removeStore(db, actor, farmId, id));
export const saveMachineAction = async (farmId: string, raw: unknown): Promise<Answer<string>> =>
  changing(({ db, actor }) => saveMachine(db, actor, farmId, raw));
export const removeMachineAction = async (farmId: string, id: string): Promise<Answer<void>> =>
  changing(({ db, actor }) => removeMachine(db, actor, farmId, id));
export const overrideRowAction = async (farmId: string, raw: unknown): Promise<Answer<void>> =>
  changingAll(farmId, ({ db, actor }) => overrideRow(db, actor, farmId, raw));
export const resetRowAction = async (
  farmId: string,
  table: string,
  key: string,
  replace: boolean,
): Promise<Answer<void>> =>
  changingAll(farmId, ({ db, actor }) => resetRow(db, actor, farmId, tableOf(table), key, replace));
export const importLibraryAction = async (form: FormData): Promise<Answer<LibraryImport>> =>
  changingAll(text(form, 'farmId'), async ({ db, actor }) =>
    importLibrary(
      db,
      actor,
      text(form, 'farmId'),
      tableOf(text(form, 'table')),
      new Uint8Array((await fileOf(form)?.arrayBuffer()) ?? []),
      text(form, 'why'),
    ),
  );
export const importFarmAction = async (form: FormData): Promise<Answer<string>> =>
  changing(async ({ db, actor }) =>
    importFarm(db, actor, (await fileOf(form)?.text()) ?? '', text(form, 'name') || null),
  );
export const openNextSeasonAction = async (
  farmId: string,
  picks: unknown,
): Promise<Answer<{ opened: number; added: number }>> =>
  changingAll(farmId, ({ db, actor }) => openNextSeason(db, actor, farmId, picks));
export const createFarmAction = async (
  farmId: string | null,
  raw: unknown,
): Promise<Answer<string>> => changing(({ db, actor }) => createFarm(db, actor, raw, farmId));
export const savePlaceAction = async (farmId: string, raw: unknown): Promise<Answer<number>> =>
  changingAll(farmId, ({ db, actor }) => saveFarmPlace(db, actor, farmId, raw));
export const readClimateAction = async (form: FormData): Promise<Answer<OwnClimate>> => {
  await session();
  return answer(async () =>
    readClimate(
      new Uint8Array((await fileOf(form)?.arrayBuffer()) ?? []),
      text(form, 'name') || 'Own climate',
    ),
  );
};
export const readPricesAction = async (
  farmId: string,
  form: FormData,
): Promise<Answer<PriceList>> => {
  const { db, actor } = await session();
  return answer(async () =>
    readPriceList(
      new Uint8Array((await fileOf(form)?.arrayBuffer()) ?? []),
      pricedProducts((await farmTermsOf(db, actor, farmId)).library),
      today(),
    ),
  );
};
export const createFieldsAction = async (raw: unknown): Promise<Answer<string[]>> =>
  changing(({ db, actor }) => createFields(db, actor, raw));
export const renameFieldAction = async (fieldId: string, name: unknown): Promise<Answer<void>> =>
  changing(({ db, actor }) => renameField(db, actor, fieldId, name));
export const removeFieldAction = async (fieldId: string): Promise<Answer<string>> =>
  changing(({ db, actor }) => removeField(db, actor, fieldId));
export const bringBackAction = async (farmId: string, id: string): Promise<Answer<string>> =>
  changing(({ db, actor }) => bringBack(db, actor, farmId, id));
export const saveMemberAction = async (farmId: string, raw: unknown): Promise<Answer<void>> =>
  changing(({ db, actor }) => saveMember(db, actor, farmId, raw));
export const renameMemberAction = async (
  farmId: string,
  personId: string,
  name: unknown,
): Promise<Answer<void>> =>
  changing(({ db, actor }) => renameMember(db, actor, farmId, personId, name));
export const removeMemberAction = async (farmId: string, personId: string): Promise<Answer<void>> =>
  changing(({ db, actor }) => removeMember(db, actor, farmId, personId));
