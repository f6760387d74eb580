import { z } from 'zod';
import { soils } from '@/core/book/soils';
import { blankPlan } from '@/core/document/blank';
import type { Plan } from '@/core/document/document';
import { checkOutline, outlineAreaHa } from '@/core/ground/outline';
import { num } from '@/core/quantity/input';
import { RANGES } from '@/core/quantity/range';
import { refuse } from '@/core/quantity/refusal';
import type { Db, Executor } from '@/data/client';
import {
  addField,
  changeField,
  farmById,
  fieldById,
  fieldsOf,
  libraryOf,
  record,
  termsOf,
  type Farm,
} from '@/data/farms';
import { holdFarm } from '@/data/imports';
import { setOutline } from '@/data/sampling';
import { createSeason } from '@/data/savePlan';
import { inTransaction } from '@/data/transaction';
import { authorise, type Actor } from './authorise';
import { newId, today } from './clock';
import { named, parsed } from './input';
import { outlineSchema } from './outlineSchema';

export const newField = z.strictObject({
  name: named(80),
  areaHa: num(RANGES.areaHa),
  soilTextureId: z.string({ error: 'a texture: feel it, or ask for it' }).min(1),
  outline: outlineSchema.nullable().optional(),
});
type NewField = z.infer<typeof newField>;
const newFields = z.strictObject({
  farmId: z.string().min(1),
  fields: z
    .array(newField)
    .min(1, { error: 'one field or more' })
    .max(500, { error: 'at most 500 fields at once' }),
});

/**
 * The season being planned on a day: from October to September on the northern calendar, April to
 * March on the southern.
 */
export function seasonOf(date: string, latitudeDeg: number): { label: string; startDate: string } {
  const month = latitudeDeg < 0 ? 4 : 10;
  const year = Number(date.slice(0, 4)) - (Number(date.slice(5, 7)) < month ? 1 : 0);
  return {
    label: `${year}/${String(year + 1).slice(2)}`,
    startDate: `${year}-${String(month).padStart(2, '0')}-01`,
  };
}

/** Names of fields are unlike each other within a farm, whatever the case of their letters. */
export function checkNames(taken: readonly string[], fields: readonly { name: string }[]): void {
  const seen = new Set(taken.map((n) => n.toLowerCase()));
  fields.forEach(({ name }, i) => {
    if (seen.has(name.toLowerCase()))
      refuse(
        'inconsistent',
        `fields[${i}].name`,
        `name = ${name}: this farm has a field of that name. Give it another.`,
        { value: name },
      );
    seen.add(name.toLowerCase());
  });
}

async function putField(
  tx: Executor,
  actor: Actor,
  farm: Farm,
  { outline, ...said }: NewField,
  position: number,
): Promise<string> {
  const id = newId();
  const field = {
    ...said,
    omPct: null,
    omDepthCm: 20,
    cecCmolKg: null,
    clayPct: null,
    tillage: null,
    tenure: 'owned',
    certification: 'none',
    fixes: 'none',
    drainageClass: null,
    slopePct: null,
    near: [],
    forage: null,
  } satisfies Partial<Plan['field']>;
  await addField(tx, { id, farmId: farm.id, ...field, position });
  await createSeason(
    tx,
    newId(),
    id,
    blankPlan({
      asOf: today(),
      farm: termsOf(farm, await libraryOf(tx, [farm.id])),
      field: { ...field, latitudeDeg: farm.latitudeDeg, climateId: farm.climateId },
      ...seasonOf(today(), farm.latitudeDeg),
    }),
    { author: actor.name, today: today(), newId },
  );
  if (outline) {
    const checked = checkOutline(outline);
    await setOutline(tx, id, checked, outlineAreaHa(checked));
  }
  await record(tx, {
    personId: actor.id,
    farmId: farm.id,
    action: 'add_field',
    subject: said.name,
  });
  return id;
}

/** Adds fields inside the caller's transaction, while it holds the farm. */
export async function addFieldsIn(
  tx: Executor,
  actor: Actor,
  farmId: string,
  list: readonly NewField[],
): Promise<string[]> {
  list.forEach(({ soilTextureId: t }, i) => {
    if (!soils().some((s) => s.textureId === t))
      refuse('unknown_id', `fields[${i}].soil`, `soil = ${t} is not known.`, { value: t });
  });
  const farm = await farmById(tx, farmId);
  if (!farm) refuse('unknown_id', 'farm', 'This farm does not exist.');
  const there = await fieldsOf(tx, [farmId]);
  checkNames(
    there.map((f) => f.name),
    list,
  );
  const last = Math.max(-1, ...there.map((f) => f.position));
  const ids = [];
  for (const [i, f] of list.entries()) ids.push(await putField(tx, actor, farm, f, last + 1 + i));
  return ids;
}
/**
 * Adds fields, each with an empty season; all or none.
 *
 * @returns ids of the new fields, in their order
 */
export async function createFields(db: Db, actor: Actor, raw: unknown): Promise<string[]> {
  const { farmId, fields } = parsed(newFields, raw);
  await authorise(db, actor, 'edit', farmId);
  return inTransaction(db, async (tx) => {
    await holdFarm(tx, farmId);
    return addFieldsIn(tx, actor, farmId, fields);
  });
}

/** Gives a field another name. */
export async function renameField(
  db: Db,
  actor: Actor,
  fieldId: string,
  raw: unknown,
): Promise<void> {
  const name = parsed(named(80), raw);
  const field = await fieldById(db, fieldId);
  if (!field) refuse('unknown_id', 'field', 'This field does not exist any more.');
  await authorise(db, actor, 'edit', field.farmId);
  await inTransaction(db, async (tx) => {
    await holdFarm(tx, field.farmId);
    const others = (await fieldsOf(tx, [field.farmId])).filter((f) => f.id !== fieldId);
    checkNames(
      others.map((f) => f.name),
      [{ name }],
    );
    await changeField(tx, fieldId, { name });
    await record(tx, {
      personId: actor.id,
      farmId: field.farmId,
      action: 'rename_field',
      subject: name,
      detail: { was: field.name },
    });
  });
}

/** A farm's fields by name, in their order. */
export async function namedFields(
  db: Db,
  actor: Actor,
  farmId: string,
): Promise<{ id: string; name: string; areaHa: number }[]> {
  await authorise(db, actor, 'read', farmId);
  return (await fieldsOf(db, [farmId])).map(({ id, name, areaHa }) => ({ id, name, areaHa }));
}
