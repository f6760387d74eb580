import { toCamel } from '../quantity/names';
import type { SeasonRecord } from './record';

// The chapter's names of a record as ours: snake_case to camelCase, all the way down.

const camel = (x: unknown): unknown =>
  Array.isArray(x)
    ? x.map(camel)
    : x !== null && typeof x === 'object'
      ? Object.fromEntries(Object.entries(x).map(([k, v]) => [toCamel(k), camel(v)]))
      : x;
export const recordOf = (input: unknown): SeasonRecord => camel(input) as SeasonRecord;
