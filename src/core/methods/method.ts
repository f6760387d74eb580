import { z } from 'zod';
import type { Book } from '../book/book';
import { refusalOf } from '../quantity/input';
import { toldThroughout } from '../why/said';
import { lazily } from '../book/table';
import { Refusal, refuse } from '../quantity/refusal';
import {
  inOurNames,
  schemaOf,
  toInner,
  toOuter,
  type Fields,
  type QuantityName,
  type Taken,
} from './fields';

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
  /** Fields by their names in the dictionary. */
  fields: { takes: Fields; gives: Fields };
  /** Fields that say one thing in several ways: at most one of each group is given. */
  either: readonly Alternatives[];
  /** Schemas, made when somebody asks: a program that calls one method needs one. */
  input: () => z.ZodType;
  output: () => z.ZodType;
  /** From an input that fits to a result, both in the names of the open edge. */
  run: (input: unknown, book: Book) => Promise<Record<string, unknown>>;
}
export type Alternatives = readonly [QuantityName, QuantityName, ...QuantityName[]];
type Entry = Pick<Method, 'id' | 'title' | 'group' | 'chapter'>;

/** A refusal of the calculation, told by the names that the caller knows. */
function inOuterNames(takes: Fields, e: unknown): unknown {
  if (!(e instanceof Refusal)) return e;
  const { field, message, ...rest } = e.detail;
  return new Refusal({
    ...rest,
    field: inOurNames(takes, field),
    message: inOurNames(takes, message),
  });
}

/**
 * Registers a calculation whose fields are quantities of the dictionary. `run` gets them by the
 * chapters' names in camelCase, and answers in those.
 */
export function calculation<I extends Fields>(
  m: Entry & {
    takes: I;
    gives: Fields;
    either?: readonly Alternatives[];
    run: (i: Taken<I>, book: Book) => unknown;
  },
): Method {
  const { takes, gives, either = [], run, ...entry } = m;
  return {
    ...entry,
    fields: { takes, gives },
    either,
    input: lazily(() => schemaOf(takes)),
    output: lazily(() => schemaOf(gives).loose()),
    run: async (raw, book) => {
      try {
        const result = await run(toInner(takes, raw as Record<string, unknown>) as Taken<I>, book);
        return toOuter(gives, toldThroughout(result) as Record<string, unknown>);
      } catch (e) {
        throw inOuterNames(takes, e);
      }
    },
  };
}

const finite = (v: unknown): boolean =>
  typeof v === 'number'
    ? Number.isFinite(v)
    : v === null || typeof v !== 'object'
      ? true
      : Object.values(v).every(finite);

/** The figure of an input that lies nearest to 0 without being 0, and where it stands. */
function nearestToZero(input: unknown, path = ''): { path: string; value: number } | null {
  if (typeof input === 'number') return input === 0 ? null : { path, value: input };
  if (input === null || typeof input !== 'object') return null;
  const list = Array.isArray(input);
  return Object.entries(input)
    .map(([k, v]) => nearestToZero(v, list ? `${path}[${k}]` : path ? `${path}.${k}` : k))
    .reduce((a, b) => (!a || (b && Math.abs(b.value) < Math.abs(a.value)) ? b : a), null);
}

function checkAlternatives({ either }: Method, input: Record<string, unknown>): void {
  for (const names of either) {
    const [one, other] = names.filter((n) => input[n] !== null && input[n] !== undefined);
    if (one === undefined || other === undefined) continue;
    refuse(
      'inconsistent',
      other,
      `${other} and ${one} say the same in two ways: give one of them.`,
      { value: input[other], allowed: `one of ${names.join(', ')}` },
    );
  }
}

/** Runs one method on raw input: validates, calculates, and maps names back. @throws Refusal */
export async function runMethod(
  m: Method,
  raw: unknown,
  book: Book,
): Promise<Record<string, unknown>> {
  const parsed = m.input().safeParse(raw);
  if (!parsed.success) throw new Refusal(refusalOf(parsed.error, raw));
  checkAlternatives(m, parsed.data as Record<string, unknown>);
  const result = await m.run(parsed.data, book);
  if (!finite(result)) {
    // Every range is bounded: only a divisor next to nothing leaves the numbers.
    const { path, value } = nearestToZero(parsed.data) ?? { path: 'input', value: 0 };
    refuse(
      'infeasible',
      path,
      `${path} = ${value} is too near to 0: there is no finite result. Give 0, or a figure that can be measured.`,
      { value, allowed: '0, or a figure that can be measured' },
    );
  }
  return result;
}
