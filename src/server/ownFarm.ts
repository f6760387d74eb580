import { z } from 'zod';
import { blankPlan } from '@/core/document/blank';
import { num, refusalOf } from '@/core/quantity/input';
import { RANGES } from '@/core/quantity/range';
import { Refusal, refuse } from '@/core/quantity/refusal';
import { soils } from '@/core/book/soils';
import type { Db } from '@/data/client';
import type { Plan } from '@/core/document/document';
import { addField, farmById, fieldNamed, libraryOf, record, termsOf } from '@/data/farms';
import { createSeason } from '@/data/savePlan';
import { authorise, type Actor } from './authorise';
import { newId, today } from './clock';

const newField = z.strictObject({
  farmId: z.string().min(1),
  name: z
    .string()
    .trim()
    .min(1, { error: '1 to 80 letters' })
    .max(80, { error: '1 to 80 letters' }),
  areaHa: num(RANGES.areaHa),
  soilTextureId: z.string().min(1),
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

/** Adds a field with an empty season. @returns the new field's id */
export async function createField(db: Db, actor: Actor, raw: unknown): Promise<string> {
  const parsed = newField.safeParse(raw);
  if (!parsed.success) throw new Refusal(refusalOf(parsed.error, raw));
  const { farmId, name, areaHa, soilTextureId } = parsed.data;
  await authorise(db, actor, 'edit', farmId);
  const farm = await farmById(db, farmId);
  if (!farm) refuse('unknown_id', 'farm', 'This farm does not exist.');
  if (!soils().some((s) => s.textureId === soilTextureId))
    refuse('unknown_id', 'soil', `soil = ${soilTextureId} is not known.`, { value: soilTextureId });
  if (await fieldNamed(db, farmId, name))
    refuse('inconsistent', 'name', `name = ${name}: this farm has a field of that name.`, {
      value: name,
    });
  const id = newId();
  const field = {
    name,
    areaHa,
    soilTextureId,
    omPct: null,
    omDepthCm: 20,
    cecCmolKg: null,
    clayPct: null,
    tillage: null,
    tenure: 'owned',
    certification: 'none',
    fixes: 'none',
    slopePct: null,
    near: [],
    forage: null,
  } satisfies Partial<Plan['field']>;
  const season = seasonOf(today(), farm.latitudeDeg);
  await db.transaction(async (tx) => {
    await addField(tx, { id, farmId, ...field });
    await createSeason(
      tx,
      newId(),
      id,
      blankPlan({
        asOf: today(),
        farm: termsOf(farm, await libraryOf(tx, [farmId])),
        field: { ...field, latitudeDeg: farm.latitudeDeg, climateId: farm.climateId },
        ...season,
      }),
      { author: actor.name, today: today(), newId },
    );
    await record(tx, { personId: actor.id, farmId, action: 'add_field', subject: name });
  });
  return id;
}
