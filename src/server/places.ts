import { z } from 'zod';
import { bookOf } from '@/core/book/book';
import { runMethod } from '@/core/methods/method';
import { placeLines, usedIn, type PlacedFigures, type UsesInField } from '@/core/methods/places';
import { methodOf } from '@/core/methods/registry';
import { refusalOf } from '@/core/quantity/input';
import { Refusal, refuse } from '@/core/quantity/refusal';
import type { Db } from '@/data/client';
import { fieldById } from '@/data/farms';
import { loadPlan, seasonsOfField, type StoredPlan } from '@/data/seasons';
import { authorise, type Actor } from './authorise';
import { newId, today } from './clock';
import { saveEdit } from './plans';

const asked = z.strictObject({
  method: z.string().max(100),
  input: z.record(z.string().max(100), z.unknown()),
  fieldId: z.string().max(60),
});
const chosen = asked.extend({
  /** The plan that the person saw. */
  version: z.int(),
  places: z.array(z.string().max(60)).min(1, { error: 'one place or more' }).max(40),
  /** The day of what gets one: a pass, a sample. */
  date: z.iso.date({ error: 'a calendar date, YYYY-MM-DD' }).nullable(),
});
const checked = <S extends z.ZodType>(schema: S, raw: unknown): z.infer<S> => {
  const parsed = schema.safeParse(raw);
  if (parsed.success) return parsed.data;
  throw new Refusal(refusalOf(parsed.error, raw));
};

interface Desk {
  stored: StoredPlan;
  figures: PlacedFigures;
}
/** The plan, and the figures reckoned anew: the browser's are not taken on trust. */
async function deskFor(db: Db, actor: Actor, request: z.infer<typeof asked>): Promise<Desk> {
  const field = await fieldById(db, request.fieldId);
  if (!field)
    refuse('unknown_id', 'field_id', 'This field does not exist.', { value: request.fieldId });
  await authorise(db, actor, 'edit', field.farmId);
  const [season] = await seasonsOfField(db, field.id);
  const stored = season && (await loadPlan(db, season.id, today()));
  if (!stored) refuse('missing', 'season', `${field.name} has no season yet: begin one first.`);
  const result = await runMethod(
    methodOf(request.method),
    request.input,
    bookOf(stored.plan.farm.library),
  );
  return { stored, figures: { ...request.input, ...result } };
}
const usesOf = ({ stored, figures }: Desk): UsesInField => ({
  season: stored.plan.season.label,
  version: stored.version,
  lines: placeLines(stored.plan, figures),
});

/** Places of a field's plan for the figures of a calculation, with what stands there now. */
export const usesInField = async (db: Db, actor: Actor, raw: unknown): Promise<UsesInField> =>
  usesOf(await deskFor(db, actor, checked(asked, raw)));

/**
 * Puts figures of a calculation into the places chosen, as one edit of the plan. What somebody else
 * changed since the person looked is shown first.
 */
export async function putInField(db: Db, actor: Actor, raw: unknown): Promise<UsesInField> {
  const request = checked(chosen, raw);
  const { version, places, date, ...rest } = request;
  const desk = await deskFor(db, actor, rest);
  const { stored, figures } = desk;
  if (stored.version !== version)
    refuse(
      'conflict',
      'plan',
      'The plan of this field was changed meanwhile. Nothing was put in: look at what stands there now.',
    );
  const wanted = placeLines(stored.plan, figures).filter((l) => places.includes(l.id));
  const unknown = places.find((p) => !wanted.some((l) => l.id === p));
  if (unknown !== undefined)
    refuse('unknown_id', 'places', `The plan has no place ${unknown} for these figures.`, {
      value: unknown,
    });
  if (date === null && wanted.some((l) => l.dated))
    refuse('missing', 'date', 'Say on which day: a pass or a sample has one.');
  const mine = usedIn(stored.plan, figures, places, { id: newId(), date: date ?? today() });
  const saved = await saveEdit(db, actor, stored.seasonId, stored.plan, mine);
  if (!saved.ok)
    refuse('conflict', 'plan', 'Somebody saved this field at the same moment: try again.');
  return usesOf({ figures, stored: { ...stored, plan: saved.plan, version: saved.version } });
}
