import { z } from 'zod';
import { camelKeys, snakeKeys, type CamelDeep } from '../quantity/names';
import { rangeText, type Range } from '../quantity/range';
import { Refusal, refuse, type RefusalDetail } from '../quantity/refusal';

/** One public calculation. Its calculator screen, its route, its command and its reference page all come from this entry. */
export interface Method {
  id: string;
  title: string;
  group: string;
  /** Where the chapters define it. */
  chapter: string;
  input: z.ZodType;
  output: z.ZodType;
  run: (input: unknown) => unknown;
}

/**
 * Registers a calculation. `input` speaks the field names of the open edge; `run` gets them in camelCase, and its result goes back in
 * snake_case.
 */
export function method<I extends z.ZodType>(m: Omit<Method, 'run' | 'input' | 'output'> & { input: I; output: z.ZodRawShape; run: (i: CamelDeep<z.output<I>>) => unknown }): Method {
  return { ...m, output: z.looseObject(m.output), run: (raw) => m.run(camelKeys(raw) as CamelDeep<z.output<I>>) };
}

/** A number of the open edge, with the range that its guard refuses outside of. */
export const num = (r: Range) => {
  const allowed = { error: rangeText(r) };
  return (r.above ? z.number(allowed).gt(r.min, allowed) : z.number(allowed).min(r.min, allowed)).max(r.max, allowed).describe(`${r.label}${r.unit ? `, ${r.unit}` : ''}: ${rangeText(r)}`);
};

const at = (raw: unknown, path: readonly PropertyKey[]): unknown => path.reduce<unknown>((v, k) => (v !== null && typeof v === 'object' ? (v as Record<PropertyKey, unknown>)[k] : undefined), raw);

/** The first problem that Zod found, as a typed error that names field, value and allowed range. */
export function refusalOf(error: z.ZodError, raw: unknown): RefusalDetail {
  const issue = error.issues[0] as z.core.$ZodIssue;
  const path = issue.code === 'unrecognized_keys' ? [...issue.path, issue.keys[0] ?? ''] : issue.path;
  const field = path.map((k, i) => (typeof k === 'number' ? `[${k}]` : `${i ? '.' : ''}${String(k)}`)).join('') || 'input';
  const value = at(raw, path);
  if (issue.code === 'unrecognized_keys') return { code: 'unknown_field', field, value, message: `${field} is not a field of this input.` };
  if (issue.code === 'invalid_value') {
    const allowed = issue.values.map(String).join(', ');
    return value === undefined ? { code: 'missing', field, allowed, message: `${field} is missing: use one of ${allowed}.` } : { code: 'unknown_id', field, value, allowed, message: `${field} = ${String(value)} is not known: use one of ${allowed}.` };
  }
  if (issue.code === 'too_small' || issue.code === 'too_big') return { code: 'out_of_range', field, value, allowed: issue.message, message: `${field} = ${typeof value === 'object' ? 'list' : String(value)} is outside ${issue.message}.` };
  if (value === undefined) return { code: 'missing', field, message: `${field} is missing.` };
  const shown = typeof value === 'object' ? JSON.stringify(value) : String(value);
  return { code: 'not_a_number', field, value, allowed: issue.message, message: `${field} = ${shown} does not fit: ${issue.message}.` };
}

/** Runs one method on raw input: validates, calculates, and maps names back. @throws Refusal */
export async function runMethod(m: Method, raw: unknown): Promise<Record<string, unknown>> {
  const parsed = m.input.safeParse(raw);
  if (!parsed.success) throw new Refusal(refusalOf(parsed.error, raw));
  const result = snakeKeys(await m.run(parsed.data)) as Record<string, unknown>;
  const finite = (v: unknown): boolean => (typeof v === 'number' ? Number.isFinite(v) : v === null || typeof v !== 'object' ? true : Object.values(v).every(finite));
  if (!finite(result)) refuse('infeasible', 'output', `${m.id} has no finite result for this input.`);
  return result;
}
