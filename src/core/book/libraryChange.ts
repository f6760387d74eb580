import { z } from 'zod';
import { LIBRARY_TABLES } from './book';

/**
 * A farm's own values, checked: kept apart from the look-ups, so that a page need not fetch the
 * checker.
 */
export const libraryChange = z.strictObject({
  table: z.enum(LIBRARY_TABLES),
  key: z.string().min(1).max(120),
  like: z.string().min(1).max(120),
  values: z.record(z.string().max(60), z.union([z.number(), z.string().max(200), z.null()])),
  by: z.string().max(120),
  on: z.iso.date(),
  why: z.string().trim().min(3, { error: '3 letters or more' }).max(300),
});
