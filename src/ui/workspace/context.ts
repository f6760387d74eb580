'use client';

import { createContext, use } from 'react';
import { useStore, type StoreApi } from 'zustand';
import { useShallow } from 'zustand/react/shallow';
import type { Assessment } from '@/core/assessment/assess';
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
  /** Puts another plan in its place, as the server holds it: an imported file. */
  replace: (plan: Plan) => void;
}
export const WorkspaceContext = createContext<StoreApi<WorkspaceState> | null>(null);

/**
 * What a part of a station looks at, and nothing else: it is drawn again only when that changes.
 *
 * @example const { season, edit } = useWorkspace((w) => ({ season: w.plan.season, edit: w.edit }))
 */
export function useWorkspace<T>(look: (w: WorkspaceState) => T): T {
  const store = use(WorkspaceContext);
  if (!store) throw new Error('useWorkspace needs a Workspace');
  return useStore(store, useShallow(look));
}

const picked = <T extends object, K extends keyof T>(from: T, keys: readonly K[]): Pick<T, K> =>
  Object.fromEntries(keys.map((k) => [k, from[k]])) as Pick<T, K>;
/** Parts of the plan by name. */
export const usePlan = <K extends keyof Plan>(...keys: K[]): Pick<Plan, K> =>
  useWorkspace((w) => picked(w.plan, keys));
/** Parts of the assessment by name. */
export const useAssessed = <K extends keyof Assessment>(...keys: K[]): Pick<Assessment, K> =>
  useWorkspace((w) => picked(w.a, keys));
/** For a part that reckons from all of it, and follows every edit. */
export const useWholePlan = (): Plan => useWorkspace((w) => w.plan);
export const useWholeAssessment = (): Assessment => useWorkspace((w) => w.a);
export const useBook = (): Book => useWorkspace((w) => w.book);
/** How a part changes the plan, and whether it may. */
export const useEdit = () => useWorkspace(({ edit, readOnly }) => ({ edit, readOnly }));

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
