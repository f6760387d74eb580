import { z } from 'zod';
import { checkOutline, outlineAreaHa } from '@/core/ground/outline';
import {
  readOutlineFile,
  type OutlineFile,
  type OutlineFileAsked,
  type ReadOutline,
} from '@/core/ground/outlineFile';
import { refuse } from '@/core/quantity/refusal';
import type { Db } from '@/data/client';
import { fieldsOf, record } from '@/data/farms';
import { holdFarm } from '@/data/imports';
import { setOutline } from '@/data/sampling';
import { inTransaction } from '@/data/transaction';
import { authorise, type Actor } from './authorise';
import { named, parsed } from './input';
import { addFieldsIn, newField } from './ownFields';
import { outlineSchema } from './outlineSchema';
import { areaDiffers, placeOfFarm } from './sampling';

// Outlines of many fields out of one file.

export interface MatchedOutline extends ReadOutline {
  /** The field of the farm that has this name, or null. */
  field: { id: string; name: string; areaHa: number } | null;
  /** The area of that field would change by more than is let pass. */
  differs: boolean;
}
export interface FarmOutlines extends Omit<OutlineFile, 'outlines'> {
  outlines: MatchedOutline[];
}
/** Names as people write them: case, blanks and hyphens tell no two fields apart. */
const plain = (name: string): string =>
  name
    .normalize('NFKC')
    .toLowerCase()
    .replaceAll(/[\s_-]+/gu, ' ')
    .trim();

/** What a file would bring to a farm, each outline beside the field of its name; writes nothing. */
export async function outlinesForFarm(
  db: Db,
  actor: Actor,
  farmId: string,
  bytes: Uint8Array,
  asked: OutlineFileAsked,
): Promise<FarmOutlines> {
  await authorise(db, actor, 'edit', farmId);
  const file = await readOutlineFile(bytes, { ...asked, near: await placeOfFarm(db, farmId) });
  const own = await fieldsOf(db, [farmId]);
  return {
    ...file,
    outlines: file.outlines.map((o) => {
      const field = own.find((f) => o.name !== null && plain(f.name) === plain(o.name));
      return {
        ...o,
        field: field ? { id: field.id, name: field.name, areaHa: field.areaHa } : null,
        differs: field !== undefined && areaDiffers(field.areaHa, o.areaHa),
      };
    }),
  };
}

const picks = z
  .array(
    z.discriminatedUnion('to', [
      z.strictObject({
        to: z.literal('field'),
        fieldId: z.string().min(1),
        outline: outlineSchema,
      }),
      z.strictObject({
        to: z.literal('new'),
        name: named(80),
        soilTextureId: newField.shape.soilTextureId,
        outline: outlineSchema,
      }),
    ]),
  )
  .min(1, { error: 'one outline or more' })
  .max(2000);

/**
 * Brings outlines to fields of a farm, and makes new fields of the others; all or nothing. The area
 * of each becomes what its outline encloses.
 */
export async function bringOutlines(
  db: Db,
  actor: Actor,
  farmId: string,
  raw: unknown,
): Promise<{ changed: number; made: number }> {
  const chosen = parsed(picks, raw).map((p) => ({ ...p, outline: checkOutline(p.outline) }));
  await authorise(db, actor, 'edit', farmId);
  return inTransaction(db, async (tx) => {
    await holdFarm(tx, farmId);
    const own = await fieldsOf(tx, [farmId]);
    const seen = new Set<string>();
    for (const p of chosen) {
      if (p.to !== 'field') continue;
      const field =
        own.find((f) => f.id === p.fieldId) ??
        refuse(
          'unknown_id',
          'field',
          'A field of these does not exist any more: read the file anew.',
        );
      if (seen.has(p.fieldId))
        refuse('inconsistent', 'field', `Two outlines are meant for ${field.name}: choose one.`, {
          value: field.name,
        });
      seen.add(p.fieldId);
      const areaHa = Number(outlineAreaHa(p.outline).toFixed(4));
      await setOutline(tx, field.id, p.outline, areaHa);
      await record(tx, {
        personId: actor.id,
        farmId,
        action: 'outline',
        subject: `field ${field.id}`,
        detail: { was: field.areaHa, areaHa },
      });
    }
    const fresh = chosen.flatMap((p) =>
      p.to === 'new'
        ? [
            {
              name: p.name,
              soilTextureId: p.soilTextureId,
              outline: p.outline,
              areaHa: Number(outlineAreaHa(p.outline).toFixed(4)),
            },
          ]
        : [],
    );
    if (fresh.length > 0) await addFieldsIn(tx, actor, farmId, fresh);
    return { changed: seen.size, made: fresh.length };
  });
}
