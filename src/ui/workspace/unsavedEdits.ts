'use client';

import type { Plan } from '@/core/document/document';

/** Edits that are not on the server yet, and the plan that they began from. */
export interface Unsaved {
  plan: Plan;
  base: Plan;
}
const KEY = 'furrow.unsaved.';

/** Edits that a change of station overtook: the next station goes on with them. */
const here = new Map<string, Unsaved>();

const storage = (): Storage | null => {
  try {
    return window.localStorage;
  } catch {
    // A browser that allows no storage keeps the edits in this tab only.
    return null;
  }
};

export function keepUnsaved(seasonId: string, edits: Unsaved): void {
  here.set(seasonId, edits);
  try {
    storage()?.setItem(KEY + seasonId, JSON.stringify(edits));
  } catch {
    // Full storage: the tab still holds them.
  }
}
export function forgetUnsaved(seasonId: string): void {
  here.delete(seasonId);
  storage()?.removeItem(KEY + seasonId);
}
/** Edits of this tab, from the station before. */
export const unsavedHere = (seasonId: string): Unsaved | undefined => here.get(seasonId);

/**
 * Edits that a closed tab or a crash left behind; null where there are none, or what is there
 * can't be read.
 */
export function unsavedLeft(seasonId: string, version: number): Unsaved | null {
  if (here.has(seasonId)) return null;
  const text = storage()?.getItem(KEY + seasonId);
  if (!text) return null;
  try {
    const found = JSON.parse(text) as Partial<Unsaved>;
    return found.plan?.version === version && found.base?.version === version
      ? { plan: found.plan, base: found.base }
      : null;
  } catch {
    return null;
  }
}
