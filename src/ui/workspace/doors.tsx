'use client';

import { createContext, use } from 'react';
import type { Plan } from '@/core/document/document';
import type { PlanFileLook } from '@/core/document/planChanges';
import type { ClaimInput } from '@/core/ground/claim';
import type { OutlineFile } from '@/core/ground/outlineFile';
import type { Outline } from '@/core/ground/outline';
import type { SamplingPlan } from '@/core/ground/samplingPlan';
import type { LeafAssessment } from '@/core/lines/leaf';
import type { Answer } from '@/core/quantity/refusal';
import type { SavedOutline } from '../ground/OutlineEditor';
import type { Save } from './useSavedPlan';

/**
 * Every door of the server that the desk of one field knocks at. Parts take the one they need;
 * none hands them on.
 */
export interface FieldDoors {
  savePlan: Save;
  lookAtPlan: (form: FormData) => Promise<Answer<PlanFileLook>>;
  importPlan: (form: FormData) => Promise<Answer<{ plan: Plan }>>;
  propose: (seasonId: string) => Promise<Answer<void>>;
  decide: (versionId: string, agree: boolean, comment: string) => Promise<Answer<void>>;
  /** Stores a leaf sample, unless it is refused or a figure may be meant otherwise. */
  addLeaf: (
    cropKey: string,
    raw: unknown,
    meantAsWritten: readonly string[],
  ) => Promise<Answer<LeafAssessment>>;
  dropLeaf: (id: string) => Promise<Answer<void>>;
  /** A stand-in for a meter held to the crop: sap, or leaf colour beside a rich strip. */
  readMeter: (asked: {
    meter: string;
    date: string;
    bbch?: number;
  }) => Promise<Answer<{ shows: number } | { field: number; strip: number }>>;
  saveOutline: (outline: Outline, meant: boolean) => Promise<Answer<SavedOutline>>;
  readOutlines: (form: FormData) => Promise<Answer<OutlineFile>>;
  createSamplingPlan: (
    name: string,
    plan: SamplingPlan,
  ) => Promise<Answer<{ id: string; version: number }>>;
  changeSamplingPlan: (
    id: string,
    expected: number,
    name: string,
    plan: SamplingPlan,
  ) => Promise<Answer<{ version: number }>>;
  dropSamplingPlan: (id: string) => Promise<Answer<void>>;
  /** The cheapest blend, in the names of the open edge. */
  solveBlend: (input: Record<string, unknown>) => Promise<Answer<Record<string, unknown>>>;
  keepClaim: (product: string, input: ClaimInput) => Promise<Answer<unknown>>;
  dropClaim: (id: string) => Promise<Answer<unknown>>;
}

const Context = createContext<FieldDoors | null>(null);
export const FieldDoorsProvider = Context;
export function useDoors(): FieldDoors {
  const doors = use(Context);
  if (!doors) throw new Error('useDoors needs FieldDoorsProvider');
  return doors;
}
