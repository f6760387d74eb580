import { z } from 'zod';
import { refusalOf } from '@/core/quantity/input';
import { Refusal } from '@/core/quantity/refusal';

// What every use case asks of what comes in.

/** A name of something, trimmed. */
export const named = (most: number) =>
  z
    .string({ error: 'text' })
    .trim()
    .min(1, { error: `1 to ${most} letters` })
    .max(most, { error: `1 to ${most} letters` });

/** What came in as what it should be. @throws Refusal naming the field, its value and what is allowed */
export const parsed = <T>(schema: z.ZodType<T>, raw: unknown): T => {
  const r = schema.safeParse(raw);
  if (r.success) return r.data;
  throw new Refusal(refusalOf(r.error, raw));
};
