import { z } from 'zod';
import { carryOver, seasonAfter, takeOver, type FieldHandsOn } from '@/core/account/carryOver';
import { bookOf } from '@/core/book/book';
import { cropOf } from '@/core/book/crops';
import { blankPlan } from '@/core/document/blank';
import type { Plan } from '@/core/document/document';
import { refusalOf } from '@/core/quantity/input';
import { Refusal, refuse } from '@/core/quantity/refusal';
import type { Db, Executor } from '@/data/client';
import { farmById, fieldsOf, record } from '@/data/farms';
import { createSeason, holdSeason, savePlanChanges } from '@/data/savePlan';
import { loadPlan, loadPlansOf, seasonsOfField, type StoredPlan } from '@/data/seasons';
import { inTransaction } from '@/data/transaction';
import { authorise, type Actor } from './authorise';
import { newId, today } from './clock';

export interface NextSeasonDesk {
  farmId: string;
  farmName: string;
  mayEdit: boolean;
  fields: FieldHandsOn[];
}

const emptyAfter = (from: Plan): Plan =>
  blankPlan({
    asOf: from.asOf,
    farm: from.farm,
    field: from.field,
    ...seasonAfter(from.season),
  });

/**
 * Of a field's seasons the one that ends and the one after it: the season asked for, else the
 * newest that has begun.
 */
function pairOf(
  plans: readonly StoredPlan[],
  label: string | null,
): { from: StoredPlan; to: StoredPlan | undefined } | null {
  const ordered = plans.toSorted((a, b) =>
    a.plan.season.startDate.localeCompare(b.plan.season.startDate),
  );
  const begun = ordered.filter((p) => p.plan.season.startDate <= today());
  const from =
    label === null
      ? (begun.at(-1) ?? ordered[0])
      : ordered.find((p) => p.plan.season.label === label);
  if (!from) return null;
  return { from, to: ordered[ordered.indexOf(from) + 1] };
}

function handsOn({ from, to }: { from: StoredPlan; to: StoredPlan | undefined }): FieldHandsOn {
  const book = bookOf(from.plan.farm.library);
  const next = to?.plan ?? emptyAfter(from.plan);
  const { cropKey } = from.plan.season;
  return {
    fieldId: from.fieldId,
    name: from.plan.field.name,
    seasonId: from.seasonId,
    from: from.plan.season.label,
    cropName: cropKey === null ? null : cropOf(book, cropKey).name,
    to: next.season.label,
    opened: to !== undefined,
    lines: carryOver(book, from.plan, next),
  };
}

/**
 * What the fields of a farm, or one of them, hand to their next season. Null where there is no such
 * farm or it is not the person's to see.
 */
export async function nextSeasonDesk(
  db: Db,
  actor: Actor,
  farmId: string,
  fieldId: string | null,
  label: string | null,
): Promise<NextSeasonDesk | null> {
  const farm = await farmById(db, farmId);
  if (!farm) return null;
  const role = await authorise(db, actor, 'read', farmId);
  const plans = await loadPlansOf(db, [farmId], today());
  const ids = (await fieldsOf(db, [farmId])).map((f) => f.id);
  return {
    farmId,
    farmName: farm.name,
    mayEdit: role !== 'farmer',
    fields: ids
      .filter((id) => fieldId === null || id === fieldId)
      .flatMap((id) => {
        const pair = pairOf(
          plans.filter((p) => p.fieldId === id),
          label,
        );
        return pair ? [handsOn(pair)] : [];
      }),
  };
}

const picked = z
  .array(
    z.strictObject({
      seasonId: z.string().min(1).max(60),
      take: z.array(z.string().min(1).max(80)).max(200),
    }),
  )
  .min(1, { error: 'one field or more' })
  .max(500);

/** The season after one, as it stands or newly begun. The field is held by the caller. */
async function begun(
  tx: Executor,
  actor: Actor,
  from: StoredPlan,
): Promise<{ to: StoredPlan; opened: boolean }> {
  const seasons = await seasonsOfField(tx, from.fieldId);
  const next = seasons.findLast((s) => s.startDate > from.plan.season.startDate);
  const id = next?.id ?? newId();
  if (!next)
    await createSeason(tx, id, from.fieldId, emptyAfter(from.plan), {
      author: actor.name,
      today: today(),
      newId,
    });
  return { to: (await loadPlan(tx, id, today())) as StoredPlan, opened: !next };
}

/**
 * Opens the next season of some fields of one farm, or adds to it, with the lines that were taken.
 * All or nothing; what is there already is not taken twice.
 *
 * @returns how many seasons were opened and how many were added to
 */
export async function openNextSeason(
  db: Db,
  actor: Actor,
  farmId: string,
  raw: unknown,
): Promise<{ opened: number; added: number }> {
  const parsed = picked.safeParse(raw);
  if (!parsed.success) throw new Refusal(refusalOf(parsed.error, raw));
  await authorise(db, actor, 'edit', farmId);
  return inTransaction(db, async (tx) => {
    const done = { opened: 0, added: 0 };
    for (const { seasonId, take } of parsed.data) {
      await holdSeason(tx, seasonId);
      const from = await loadPlan(tx, seasonId, today());
      if (!from || from.farmId !== farmId)
        refuse('unknown_id', 'season_id', 'This season no longer exists.', { value: seasonId });
      const { to, opened } = await begun(tx, actor, from);
      const book = bookOf(from.plan.farm.library);
      const plan = takeOver(book, from.plan, to.plan, new Set(take));
      await savePlanChanges(tx, to, plan, { author: actor.name, today: today(), newId });
      done[opened ? 'opened' : 'added'] += 1;
      await record(tx, {
        personId: actor.id,
        farmId,
        action: 'next_season',
        subject: `${from.plan.field.name} ${to.plan.season.label}`,
        detail: { take },
      });
    }
    return done;
  });
}
