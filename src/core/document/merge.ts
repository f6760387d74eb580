import { deepEqual } from 'fast-equals';
import type { Plan } from './document';

export interface Conflict {
  /** Dotted path of the field that both changed. */
  path: string;
  base: unknown;
  mine: unknown;
  theirs: unknown;
}
export interface Merge {
  plan: Plan;
  conflicts: Conflict[];
}

type Json = unknown;
const isObject = (v: Json): v is Record<string, Json> =>
  v !== null && typeof v === 'object' && !Array.isArray(v);
/** What tells one entry of a list from another: its id, or the caution that it answers. */
const idOf = (x: Json): string | null => {
  if (!isObject(x)) return null;
  const id = x.id ?? x.caution;
  return typeof id === 'string' ? id : null;
};
const hasIds = (v: Json): v is Record<string, Json>[] =>
  Array.isArray(v) && v.every((x) => idOf(x) !== null);
const byId = (v: readonly Record<string, Json>[]): Record<string, Json> =>
  Object.fromEntries(v.map((x) => [idOf(x) ?? '', x]));

function mergeValue(
  base: Json,
  mine: Json,
  theirs: Json,
  path: string,
  conflicts: Conflict[],
): Json {
  if (deepEqual(mine, theirs) || deepEqual(base, theirs)) return mine;
  if (deepEqual(base, mine)) return theirs;
  if (isObject(base) && isObject(mine) && isObject(theirs)) {
    const keys = new Set([...Object.keys(theirs), ...Object.keys(mine)]);
    return Object.fromEntries(
      [...keys].map((k) => [
        k,
        mergeValue(base[k], mine[k], theirs[k], path ? `${path}.${k}` : k, conflicts),
      ]),
    );
  }
  if (hasIds(base) && hasIds(mine) && hasIds(theirs)) {
    const [b, m, t] = [byId(base), byId(mine), byId(theirs)];
    const ids = [...new Set([...Object.keys(t), ...Object.keys(m)])];
    return ids.flatMap((id) => {
      const kept = mergeValue(b[id], m[id], t[id], `${path}.${id}`, conflicts);
      return kept === undefined ? [] : [kept];
    });
  }
  conflicts.push({ path, base, mine, theirs });
  return mine;
}

/**
 * Brings two people's edits of one plan together: what only one changed is taken over; what both
 * changed is listed field by field, and mine
 * is kept until somebody decides. Nothing is lost.
 */
export function mergePlans(base: Plan, mine: Plan, theirs: Plan): Merge {
  const conflicts: Conflict[] = [];
  return { plan: mergeValue(base, mine, theirs, '', conflicts) as Plan, conflicts };
}

/** The plan with one conflict settled for the other side. */
export function takeTheirs(plan: Plan, conflict: Conflict): Plan {
  const set = (v: Json, path: string[]): Json => {
    const [head, ...rest] = path;
    if (head === undefined) return conflict.theirs;
    if (hasIds(v))
      return v.some((x) => idOf(x) === head)
        ? v.flatMap((x) =>
            idOf(x) === head ? ((set(x, rest) as Record<string, Json> | undefined) ?? []) : [x],
          )
        : [...v, conflict.theirs as Record<string, Json>];
    return isObject(v) ? { ...v, [head]: set(v[head], rest) } : v;
  };
  return set(plan, conflict.path.split('.')) as Plan;
}
