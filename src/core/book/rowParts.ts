import { z } from 'zod';

// Cells of the reference tables. Every row carries source and confidence.
export const text = z.string();
export const maybeText = z.string().nullable();
export const n = z.number();
export const maybe = z.number().nullable();
export const fraction = z.number().min(0).max(1);
/** A trait that a row has or has not. */
export const yes = z.boolean();
export const pct = z.number().min(0).max(100);
const confidence = z.enum(['low', 'medium', 'high']);
export const sourced = { source: z.string().min(1), confidence };
