import { z } from 'zod';
import type { Book } from '../book/book';
import { camelKeys, snakeKeys, type CamelDeep } from '../quantity/names';
import { refusalOf } from '../quantity/input';
import { toldThroughout } from '../why/said';
import { Refusal, refuse } from '../quantity/refusal';

/**
 * One public calculation. Its calculator screen, its route, its command and its reference page all
 * come from this entry.
 */
export interface Method {
  id: string;
  title: string;
  group: string;
  /** Where the chapters define it. */
  chapter: string;
  input: z.ZodType;
  output: z.ZodType;
  run: (input: unknown, book: Book) => unknown;
}

/**
 * Registers a calculation. `input` speaks the field names of the open edge; `run` gets them in
 * camelCase, and its result goes back in
 * snake_case.
 */
export function method<I extends z.ZodType>(
  m: Omit<Method, 'run' | 'input' | 'output'> & {
    input: I;
    output: z.ZodRawShape;
    run: (i: CamelDeep<z.output<I>>, book: Book) => unknown;
  },
): Method {
  return {
    ...m,
    output: z.looseObject(m.output),
    run: (raw, book) => m.run(camelKeys(raw) as CamelDeep<z.output<I>>, book),
  };
}

/** Runs one method on raw input: validates, calculates, and maps names back. @throws Refusal */
export async function runMethod(
  m: Method,
  raw: unknown,
  book: Book,
): Promise<Record<string, unknown>> {
  const parsed = m.input.safeParse(raw);
  if (!parsed.success) throw new Refusal(refusalOf(parsed.error, raw));
  const result = snakeKeys(toldThroughout(await m.run(parsed.data, book))) as Record<
    string,
    unknown
  >;
  const finite = (v: unknown): boolean =>
    typeof v === 'number'
      ? Number.isFinite(v)
      : v === null || typeof v !== 'object'
        ? true
        : Object.values(v).every(finite);
  if (!finite(result))
    refuse('infeasible', 'output', `${m.id} has no finite result for this input.`);
  return result;
}
