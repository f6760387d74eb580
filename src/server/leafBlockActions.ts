'use server';

import { revalidatePath } from 'next/cache';
import type { NormList } from '@/core/farm/normFile';
import type { Answer } from '@/core/quantity/refusal';
import { answer } from './answer';
import {
  dropNorms,
  dropOwnStandard,
  importNorms,
  keepOwnNorms,
  keepOwnStandard,
  nameSimilar,
} from './leafBlocks';
import { session, type Session } from './session';

// Thin doors, as in actions.ts.
async function changing<T>(work: (s: Session) => Promise<T>): Promise<Answer<T>> {
  const s = await session();
  const result = await answer(() => work(s));
  revalidatePath('/', 'layout');
  return result;
}

export const keepOwnStandardAction = async (farmId: string, raw: unknown): Promise<Answer<void>> =>
  changing(({ db, actor }) => keepOwnStandard(db, actor, farmId, raw));
export const keepOwnNormsAction = async (farmId: string, raw: unknown): Promise<Answer<void>> =>
  changing(({ db, actor }) => keepOwnNorms(db, actor, farmId, raw));
export const dropOwnStandardAction = async (farmId: string, id: string): Promise<Answer<void>> =>
  changing(({ db, actor }) => dropOwnStandard(db, actor, farmId, id));
export const dropNormsAction = async (farmId: string, normSet: string): Promise<Answer<void>> =>
  changing(({ db, actor }) => dropNorms(db, actor, farmId, normSet));
export const nameSimilarAction = async (farmId: string, raw: unknown): Promise<Answer<void>> =>
  changing(({ db, actor }) => nameSimilar(db, actor, farmId, raw));
export async function importNormsAction(
  farmId: string,
  group: string,
  form: FormData,
): Promise<Answer<{ norms: number; left: NormList['left'] }>> {
  const file = form.get('file');
  return changing(async ({ db, actor }) =>
    importNorms(
      db,
      actor,
      farmId,
      group,
      file instanceof File ? new Uint8Array(await file.arrayBuffer()) : new Uint8Array(),
    ),
  );
}
