import { deepEqual } from 'fast-equals';
import { toSnake } from '../quantity/names';
import type { Plan } from './document';

/** One thing of a plan that would be another one. */
export interface PlanChange {
  /** Where it stands in the plan, in the names of the season file. */
  path: string;
  before: string;
  after: string;
}

/** What a plan file is of, and what it would change in the season that it is brought to. */
export interface PlanFileLook {
  /** Field and season of the file, and those that it would land in. */
  of: { field: string; season: string };
  here: { field: string; season: string };
  /** The season here as it was looked at: another one since is looked at anew. */
  version: number;
  changes: PlanChange[];
}

const isObject = (v: unknown): v is Record<string, unknown> =>
  v !== null && typeof v === 'object' && !Array.isArray(v);
const lines = (n: number): string => `${n} ${n === 1 ? 'line' : 'lines'}`;
/** A value in few words: of a list only how long it is, of a record that there is one. */
const told = (v: unknown): string => {
  if (v === null || v === undefined) return 'not known';
  if (Array.isArray(v))
    return v.every((x) => typeof x !== 'object') ? v.join(', ') || 'none' : lines(v.length);
  if (isObject(v)) return 'entered';
  return typeof v === 'boolean' ? (v ? 'yes' : 'no') : String(v);
};
/** Ids are made anew where a file is taken over: they are no change. */
const withoutIds = (v: unknown): unknown =>
  Array.isArray(v)
    ? v.map(withoutIds)
    : isObject(v)
      ? Object.fromEntries(
          Object.entries(v)
            .filter(([k]) => k !== 'id' && k !== 'chosenId')
            .map(([k, x]) => [k, withoutIds(x)]),
        )
      : v;

function walk(before: unknown, after: unknown, path: string, out: PlanChange[]): void {
  if (deepEqual(withoutIds(before), withoutIds(after))) return;
  if (isObject(before) && isObject(after)) {
    for (const k of new Set([...Object.keys(before), ...Object.keys(after)]))
      walk(before[k], after[k], path ? `${path}.${toSnake(k)}` : toSnake(k), out);
    return;
  }
  const [was, is] = [told(before), told(after)];
  out.push({ path, before: was, after: was === is ? `${is}, other figures` : is });
}

/** Parts that a plan file never changes: the farm, the day, which facts are read, the leaves. */
const LEFT_ALONE = ['farm', 'asOf', 'format', 'version', 'reads', 'leaves'] as const;

/**
 * What of a plan would be another one, place by place: what somebody reads before a file takes the
 * place of what stands there.
 */
export function planChanges(before: Plan, after: Plan): PlanChange[] {
  const out: PlanChange[] = [];
  const part = (p: Plan) =>
    Object.fromEntries(
      Object.entries(p).filter(([k]) => !(LEFT_ALONE as readonly string[]).includes(k)),
    );
  walk(part(before), part(after), '', out);
  return out;
}
