'use client';

import type { OrganicApplication } from '@/core/document/document';
import { Refusal } from '@/core/quantity/refusal';

export type Use = OrganicApplication['use'];
export type Of<K extends Use['kind']> = Extract<Use, { kind: K }>;
export type Set = (part: Partial<OrganicApplication>) => void;
export const told = <T,>(work: () => T): { value: T | null; problem: string | null } => {
  try {
    return { value: work(), problem: null };
  } catch (e) {
    if (e instanceof Refusal) return { value: null, problem: e.message };
    throw e;
  }
};
export const m = (label: string, max: number, min = 0) => ({ label, unit: 'm', min, max });
