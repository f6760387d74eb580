import { z } from 'zod';
import { broughtUp } from '../../document/versions/chain';
import { objectOf, type Step } from '../../document/versions/step';
import { refusalOf } from '../../quantity/input';
import { Refusal } from '../../quantity/refusal';
import { SHEET_VERSION, type SheetDocument } from '../sheet';
import { sheetSchema } from '../sheetSchema';
import { sheetStep0001 } from './0001-0002';
import { sheetStep0002 } from './0002-0003';
import { sheetStep0003 } from './0003-0004';
import schema1 from './1.schema.json';
import schema2 from './2.schema.json';
import schema3 from './3.schema.json';

const STEPS: readonly Step[] = [sheetStep0001, sheetStep0002, sheetStep0003];
const FROZEN: Readonly<Record<number, unknown>> = { 1: schema1, 2: schema2, 3: schema3 };

/**
 * A sheet as it was frozen, checked as what it says it is and taken up to today's. A sheet of
 * version 1 did not say so.
 *
 * @throws Refusal naming what does not fit
 */
export function storedSheet(raw: unknown): SheetDocument {
  const sheet = objectOf(raw);
  const version = sheet.version === undefined ? 1 : Number(sheet.version);
  const frozen = FROZEN[version];
  if (frozen !== undefined) {
    const asWritten = z
      .fromJSONSchema(frozen as Parameters<typeof z.fromJSONSchema>[0])
      .safeParse(sheet);
    if (!asWritten.success) throw new Refusal(refusalOf(asWritten.error, sheet));
  }
  const today =
    frozen === undefined ? sheet : broughtUp({ ...sheet, version }, SHEET_VERSION, STEPS);
  const parsed = sheetSchema.safeParse(today);
  if (!parsed.success) throw new Refusal(refusalOf(parsed.error, raw));
  return parsed.data;
}
