import { z } from 'zod';
import { SHEET_VERSION, type SheetDocument } from './sheet';

const text = z.string().max(4000);
const n = z.number();
const amounts = { n: n.nullable(), p: n.nullable(), k: n.nullable(), s: n.nullable() };
const shown = z.object({ value: n, unit: text });
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
  units: z.enum(['metric', 'us']),
  farm: text,
  field: text,
  area: shown,
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
  jobs: z
    .array(
      z.object({
        id: text,
        kind: z.enum(['lime', 'manure', 'kill', 'pass', 'spray']),
        date: text.nullable(),
        stage: text,
        what: text,
        analysis: text,
        rate: shown.nullable(),
        total: shown.nullable(),
        loads: n.nullable(),
        ...amounts,
        how: text,
        notIf: text,
        cost: n.nullable(),
        who: text.nullable(),
        status: z.enum(['planned', 'done', 'may not go out']),
      }),
    )
    .max(160),
  unknown: z.array(z.object({ label: text, usual: text, findOut: text })).max(20),
  ground: z.array(z.object({ label: text, value: text, cls: text })).max(60),
  reasons: z
    .array(z.object({ label: text, text: z.array(text).max(20), confidence: text }))
    .max(200),
  cautions: z.array(z.object({ level: text, message: text, action: text })).max(200),
  smaller: z.array(text).max(200),
  answered: z
    .array(
      z.object({
        message: text,
        state: z.enum(['accepted', 'postponed']),
        words: text.nullable(),
        by: text.nullable(),
        on: text,
        until: text.nullable(),
      }),
    )
    .max(200),
  cost: z.object({ fertiliser: n, lime: n }),
  demoPrices: z.boolean(),
  limiting: text.nullable(),
});
