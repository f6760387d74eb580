import { z } from 'zod';
import { SHEET_VERSION, type SheetDocument } from './sheet';

const text = z.string().max(4000);
const n = z.number();
const amounts = { n: n.nullable(), p: n.nullable(), k: n.nullable(), s: n.nullable() };
const sums = { n, p: n, k: n, s: n };
const ends = [
  'passes',
  'left',
  'still_to_apply',
  'over',
  'to_bring',
  'planned',
  'balance',
] as const;
/** A sheet as it was frozen, where it comes from a file: what does not fit could not be shown. */
export const sheetSchema: z.ZodType<SheetDocument> = z.object({
  version: z.literal(SHEET_VERSION),
  farm: text,
  field: text,
  areaHa: n,
  season: text,
  crop: text,
  asOf: text,
  rows: z
    .array(
      z.object({
        id: text,
        label: text,
        detail: text,
        kind: z.enum(['requirement', 'debit', 'credit', 'applied', 'planned']),
        struck: text.nullable(),
        ...amounts,
      }),
    )
    .max(200),
  totals: z.array(z.object({ kind: z.enum(ends), label: text, ...amounts })).max(20),
  organics: z
    .array(z.object({ date: text, material: text, rate: text, status: text, n, detail: text }))
    .max(60),
  passes: z
    .array(
      z.object({
        date: text,
        stage: text,
        product: text,
        rateKgHa: n,
        totalKg: n,
        ...sums,
        cost: n,
        placement: text,
        status: text,
      }),
    )
    .max(60),
  ground: z.array(z.object({ label: text, value: text, cls: text })).max(60),
  reasons: z
    .array(z.object({ label: text, text: z.array(text).max(20), confidence: text }))
    .max(200),
  cautions: z.array(z.object({ level: text, message: text, action: text })).max(200),
  costPerHa: n,
  demoPrices: z.boolean(),
  limiting: text.nullable(),
});
