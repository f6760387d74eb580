import { PRINTED, type Book } from '../book/book';
import { closest } from '../quantity/range';
import { refuse } from '../quantity/refusal';
import { budgetMethods } from './budget';
import { diagnosisMethods } from './diagnosis';
import { groundMethods } from './ground';
import { namesOf } from './fields';
import { runMethod, type Method } from './method';

export type { Method };
import { nitrogenMethods } from './nitrogen';
import { organicsMethods } from './organics';
import { quantityMethods } from './quantity';
import { seasonMethods } from './season';
import { tissueMethods } from './tissue';

/** Every public calculation, once. Ids are the chapters' registry ids. */
export const METHODS: readonly Method[] = [
  ...quantityMethods,
  ...groundMethods,
  ...budgetMethods,
  ...organicsMethods,
  ...nitrogenMethods,
  ...seasonMethods,
  ...tissueMethods,
  ...diagnosisMethods,
];

const index = new Map(METHODS.map((m) => [m.id, m]));

/** @throws Refusal naming the nearest ids */
export const methodOf = (id: string): Method =>
  index.get(id) ??
  refuse(
    'not_found',
    'method',
    `Unknown method ${id}. Nearest: ${closest(id, [...index.keys()]).join(', ')}.`,
    { value: id },
  );

/** Every name of the chapters beside its name at the open edge, method by method. */
export const namesTable = (): { method: string; direction: string; old: string; new: string }[] =>
  METHODS.flatMap(({ id, fields }) =>
    (['takes', 'gives'] as const).flatMap((direction) =>
      namesOf(fields[direction]).map(({ old, name }) => ({
        method: id,
        direction,
        old,
        new: name,
      })),
    ),
  );

/**
 * Runs a method by id on input in the open edge's names, with the printed book unless a farm's own
 * is given.
 *
 * @example await run('budget.balance', { requirement_kg_ha: 130 }) // { net_kg_ha: 130 }
 */
export const run = async (
  id: string,
  input: unknown,
  book: Book = PRINTED,
): Promise<Record<string, unknown>> => runMethod(methodOf(id), input, book);
