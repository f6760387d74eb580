'use client';

import { createContext, use } from 'react';
import type { Book } from '@/core/book/book';
import type { Plan } from '@/core/document/document';
import type { Figures } from '@/core/views/figures';

export interface WorkspaceState extends Figures {
  plan: Plan;
  /**
   * The reference tables with the farm’s own rows: every look-up of a screen goes through it, as
   * those of the assessment do.
   */
  book: Book;
  readOnly: boolean;
  /** Changes the plan; every change can be undone. */
  edit: (change: (plan: Plan) => Plan) => void;
}
export const WorkspaceContext = createContext<WorkspaceState | null>(null);

export function useWorkspace(): WorkspaceState {
  const state = use(WorkspaceContext);
  if (!state) throw new Error('useWorkspace needs a Workspace');
  return state;
}

export const useBook = (): Book => useWorkspace().book;

export const editSeason =
  (part: Partial<Plan['season']>) =>
  (p: Plan): Plan => ({ ...p, season: { ...p.season, ...part } });
export const editGround =
  (part: Partial<Plan['ground']>) =>
  (p: Plan): Plan => ({ ...p, ground: { ...p.ground, ...part } });
export const editField =
  (part: Partial<Plan['field']>) =>
  (p: Plan): Plan => ({ ...p, field: { ...p.field, ...part } });
export const replaceAt = <T>(list: readonly T[], index: number, part: Partial<T>): T[] =>
  list.map((x, i) => (i === index ? { ...x, ...part } : x));
export const without = <T>(list: readonly T[], index: number): T[] =>
  list.filter((_, i) => i !== index);
export const lineId = (): string => crypto.randomUUID();
