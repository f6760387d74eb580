import { deepEqual } from 'fast-equals';
import { planSchema, type Plan } from '@/core/document/document';
import { checkKeys, checkNewKeys } from '@/core/document/keys';
import { holdsNul, readPlanFile, storedPlan } from '@/core/document/seasonFile';
import { holdSeason, savePlanChanges } from '@/data/savePlan';
import { inTransaction } from '@/data/transaction';
import { mergePlans, type Conflict } from '@/core/document/merge';
import { planChanges, type PlanFileLook } from '@/core/document/planChanges';
import { sheetOfPlan } from '@/core/views/figures';
import type { SheetDocument } from '@/core/views/sheet';
import type { PlanStanding } from '@/core/views/standing';
import { storedSheet } from '@/core/views/sheetVersions/chain';
import { refusalOf } from '@/core/quantity/input';
import { Refusal, refuse } from '@/core/quantity/refusal';
import type { Db } from '@/data/client';
import { fieldById, fieldsOf, neighboursOf, record, type Role } from '@/data/farms';
import {
  loadNewestPlans,
  loadPlan,
  seasonById,
  seasonsOfField,
  type StoredPlan,
} from '@/data/seasons';
import {
  addVersion,
  decideVersion,
  versionById,
  versionsOf,
  type ListedVersion,
} from '@/data/versions';
import { authorise, farmsAllowed, NotAllowed, type Actor } from './authorise';
import { newId, now, today } from './clock';

/**
 * The season being planned of each field of a farm; null where the farm is not the person's to
 * see.
 */
export async function farmPlans(
  db: Db,
  actor: Actor,
  farmId: string,
): Promise<{ fieldId: string; plan: Plan }[] | null> {
  if (!(await farmsAllowed(db, actor, 'read')).includes(farmId)) return null;
  const ids = (await fieldsOf(db, [farmId])).map((f) => f.id);
  const plans = new Map((await loadNewestPlans(db, ids, today())).map((p) => [p.fieldId, p.plan]));
  return ids.flatMap((fieldId) => {
    const plan = plans.get(fieldId);
    return plan ? [{ fieldId, plan }] : [];
  });
}

export interface Workspace {
  stored: StoredPlan;
  role: Role;
  seasons: { id: string; label: string }[];
  siblings: { id: string; name: string }[];
  versions: ListedVersion[];
}

/**
 * One field season to work on; the newest unless another is named. Null when there is no such
 * field, or no such season of it.
 */
async function workspace(
  db: Db,
  actor: Actor,
  fieldId: string,
  label?: string,
): Promise<Workspace | null> {
  const field = await fieldById(db, fieldId);
  if (!field) return null;
  const role = await authorise(db, actor, 'read', field.farmId);
  const seasons = await seasonsOfField(db, fieldId);
  const season = label === undefined ? seasons[0] : seasons.find((s) => s.label === label);
  const stored = season ? await loadPlan(db, season.id, today()) : undefined;
  if (!stored) return null;
  return {
    stored,
    role,
    seasons: seasons.map(({ id, label: l }) => ({ id, label: l })),
    siblings: (await neighboursOf(db, field)).map(({ id, name }) => ({ id, name })),
    versions: await versionsOf(db, [stored.seasonId]),
  };
}

/** How the plan of a desk stands with advisor and farmer. */
export async function standingOf(
  db: Db,
  versions: readonly ListedVersion[],
): Promise<PlanStanding> {
  const [newest] = versions;
  const agreed = versions.find((v) => v.status === 'agreed');
  const kept = agreed ? await versionById(db, agreed.id) : undefined;
  return {
    agreed:
      agreed && kept
        ? {
            number: agreed.number,
            on: (agreed.decidedAt ?? agreed.proposedAt).slice(0, 10),
            names: [agreed.proposer, ...(agreed.decider ? [agreed.decider] : [])],
            plan: storedPlan(kept.plan),
          }
        : null,
    waiting:
      newest?.status === 'proposed'
        ? { number: newest.number, since: newest.proposedAt.slice(0, 10) }
        : null,
  };
}

/** The same for downloads: null also when the person may not see it. */
export const deskOf = (
  db: Db,
  actor: Actor,
  fieldId: string,
  label: string | null,
): Promise<Workspace | null> =>
  workspace(db, actor, fieldId, label ?? undefined).catch((e: unknown) => {
    if (e instanceof NotAllowed) return null;
    throw e;
  });

export type SaveResult =
  | { ok: true; version: number; plan: Plan; mergedFromOthers: boolean }
  | { ok: false; conflicts: Conflict[]; theirs: Plan; version: number };

const validPlan = (raw: unknown): Plan => {
  if (holdsNul(raw)) refuse('malformed', 'plan', 'A text of the plan holds a NUL character.');
  const parsed = planSchema.safeParse(raw);
  if (parsed.success) return parsed.data;
  throw new Refusal(refusalOf(parsed.error, raw));
};

/** What the farm says and what the day is belong to nobody's edit. */
const onGround = (plan: Plan, of: Plan): Plan => ({
  ...plan,
  asOf: of.asOf,
  farm: of.farm,
});

/** Who answered a caution or left something out is who saves it. */
function signed(plan: Plan, current: Plan, actor: Actor): Plan {
  // What stands there already keeps its name; what is new cannot be signed with another's.
  const sign = <T extends { by: string | null }>(list: T[], had: readonly T[]): T[] =>
    list.map((x) => (had.some((h) => deepEqual(h, x)) ? x : { ...x, by: actor.name }));
  return {
    ...plan,
    answers: sign(plan.answers, current.answers),
    left: sign(plan.left, current.left),
  };
}

/**
 * Saves an edit: what changed between `base` and `mine` is brought together with what stands there
 * now, and only that is written. Where
 * somebody else changed the same figure nothing is written and both values come back, field by
 * field. The season and its field are held
 * until the end, so that two saves at the same moment follow each other.
 */
export async function saveEdit(
  db: Db,
  actor: Actor,
  seasonId: string,
  base: unknown,
  mine: unknown,
): Promise<SaveResult> {
  const [basePlan, minePlan] = [validPlan(base), validPlan(mine)];
  return inTransaction(db, async (tx): Promise<SaveResult> => {
    await holdSeason(tx, seasonId);
    const current = await loadPlan(tx, seasonId, today());
    if (!current)
      refuse('unknown_id', 'season_id', 'This season no longer exists.', { value: seasonId });
    await authorise(tx, actor, 'edit', current.farmId);
    const [from, to] = [
      onGround(basePlan, current.plan),
      signed(onGround(minePlan, current.plan), current.plan, actor),
    ];
    const { plan, conflicts } = mergePlans(from, to, current.plan);
    if (conflicts.length > 0)
      return { ok: false, conflicts, theirs: current.plan, version: current.version };
    checkNewKeys(current.plan, plan);
    const version = await savePlanChanges(tx, current, plan, writerOf(actor));
    if (version !== current.version)
      await record(tx, {
        personId: actor.id,
        farmId: current.farmId,
        action: 'edit',
        subject: `season ${seasonId}`,
        detail: { version },
      });
    const saved = await loadPlan(tx, seasonId, today());
    return {
      ok: true,
      version,
      plan: saved?.plan ?? plan,
      mergedFromOthers: !deepEqual(from, current.plan),
    };
  });
}
const writerOf = (actor: Actor) => ({ author: actor.name, today: today(), newId });

/** The plan that a season would have with a plan file taken over. @throws Refusal */
async function planWithFile(
  db: Db,
  actor: Actor,
  seasonId: string,
  text: string,
): Promise<{ current: StoredPlan; file: Plan; plan: Plan }> {
  const current = await loadPlan(db, seasonId, today());
  if (!current) refuse('unknown_id', 'season_id', 'This season no longer exists.');
  await authorise(db, actor, 'edit', current.farmId);
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch (e) {
    refuse(
      'inconsistent',
      'file',
      `The file is not JSON: ${e instanceof Error ? e.message : String(e)}.`,
    );
  }
  const file = readPlanFile(json);
  // Ids belong to their season: an imported line is a new line here.
  const fresh = <T extends { id: string }>(rows: T[]) => rows.map((r) => ({ ...r, id: newId() }));
  const renamed = new Map<string, string>();
  const organics = file.organics.map((o) => {
    const id = newId();
    renamed.set(`organic.${o.id}`, `organic.${id}`);
    return { ...o, id };
  });
  const plan: Plan = {
    ...file,
    asOf: today(),
    farm: current.plan.farm,
    // The facts of the file become facts of this field; its leaves stay where they were taken.
    reads: { soil: null, nitrate: null },
    leaves: current.plan.leaves,
    field: {
      ...file.field,
      name: current.plan.field.name,
      latitudeDeg: current.plan.field.latitudeDeg,
      climateId: current.plan.field.climateId,
    },
    season: {
      ...file.season,
      label: current.plan.season.label,
      startDate: current.plan.season.startDate,
    },
    organics,
    passes: fresh(file.passes),
    struck: file.struck.map((s) => ({ ...s, line: renamed.get(s.line) ?? s.line })),
  };
  checkKeys(plan);
  return { current, file, plan };
}

/** Looks at a plan file without writing anything. */
export async function lookAtPlanFile(
  db: Db,
  actor: Actor,
  seasonId: string,
  text: string,
): Promise<PlanFileLook> {
  const { current, file, plan } = await planWithFile(db, actor, seasonId, text);
  const where = ({ field, season }: Plan) => ({ field: field.name, season: season.label });
  return {
    of: where(file),
    here: where(current.plan),
    version: current.version,
    changes: planChanges(current.plan, plan),
  };
}

/**
 * Takes over the season, ground and inputs of a plan file into a season; the farm and the field
 * keep their own names.
 *
 * @param looked version of the season when somebody looked at what would change
 */
export async function importPlanFile(
  db: Db,
  actor: Actor,
  seasonId: string,
  text: string,
  looked: number,
): Promise<StoredPlan> {
  const { current, file, plan } = await planWithFile(db, actor, seasonId, text);
  await inTransaction(db, async (tx) => {
    await holdSeason(tx, seasonId);
    const now = await loadPlan(tx, seasonId, today());
    if (!now || now.version !== looked)
      refuse(
        'conflict',
        'plan',
        'Somebody saved this season since the file was looked at. Nothing was taken over: bring it in again.',
      );
    await savePlanChanges(tx, now, plan, writerOf(actor));
    await record(tx, {
      personId: actor.id,
      farmId: current.farmId,
      action: 'import',
      subject: `season ${seasonId}`,
      detail: { format: file.format, version: file.version },
    });
  });
  return (await loadPlan(db, seasonId, today())) as StoredPlan;
}

/**
 * The advisor puts the plan before the farmer. The document and the sheet are frozen as they are
 * now.
 */
export async function propose(db: Db, actor: Actor, seasonId: string): Promise<void> {
  const current = await loadPlan(db, seasonId, today());
  if (!current) refuse('unknown_id', 'season_id', 'This season no longer exists.');
  await authorise(db, actor, 'propose', current.farmId);
  if (!current.plan.season.cropKey)
    refuse('missing', 'crop_key', 'Choose a crop before the plan is proposed.');
  checkKeys(current.plan);
  const earlier = await versionsOf(db, [seasonId]);
  if (earlier[0]?.status === 'proposed')
    refuse(
      'inconsistent',
      'plan',
      `Version ${earlier[0].number} waits for the farmer’s answer already.`,
    );
  await db.transaction(async (tx) => {
    await addVersion(tx, {
      id: newId(),
      seasonId,
      number: (earlier[0]?.number ?? 0) + 1,
      status: 'proposed',
      seasonVersion: current.version,
      plan: current.plan,
      sheet: sheetOfPlan(current.plan),
      proposedBy: actor.id,
      proposedAt: now(),
    });
    await record(tx, {
      personId: actor.id,
      farmId: current.farmId,
      action: 'propose',
      subject: `season ${seasonId}`,
    });
  });
}

/** The farmer agrees, or asks for a change with a comment. */
export async function decide(
  db: Db,
  actor: Actor,
  versionId: string,
  agree: boolean,
  comment: string,
): Promise<void> {
  const version = await versionById(db, versionId);
  const season = version ? await seasonById(db, version.seasonId) : undefined;
  const field = season ? await fieldById(db, season.fieldId) : undefined;
  if (!version || !field) refuse('unknown_id', 'version', 'This version does not exist.');
  await authorise(db, actor, 'decide', field.farmId);
  if (!agree && comment.trim().length < 3)
    refuse('missing', 'comment', 'Comment: say what should change, in 3 letters or more.', {
      value: comment,
      allowed: '3 letters or more',
    });
  const done = await db.transaction(async (tx) => {
    const changed = await decideVersion(tx, versionId, {
      status: agree ? 'agreed' : 'change_asked',
      decidedBy: actor.id,
      decidedAt: now(),
      comment: comment.trim() || null,
    });
    if (changed)
      await record(tx, {
        personId: actor.id,
        farmId: field.farmId,
        action: agree ? 'agree' : 'ask_change',
        subject: `version ${versionId}`,
        detail: { comment },
      });
    return changed;
  });
  if (!done)
    refuse('inconsistent', 'version', `Version ${version.number} has been decided already.`);
}

export interface ReadableVersion {
  sheet: SheetDocument;
  number: number;
  status: string;
  proposedAt: string;
  decidedAt: string | null;
  comment: string | null;
  fieldId: string;
}
/** The same for pages and downloads: null also when the person may not see it. */
export const versionFor = (
  db: Db,
  actor: Actor,
  versionId: string,
): Promise<ReadableVersion | null> =>
  readVersion(db, actor, versionId).catch((e: unknown) => {
    if (e instanceof NotAllowed) return null;
    throw e;
  });

/** A frozen version, as it was on the day. */
export async function readVersion(
  db: Db,
  actor: Actor,
  versionId: string,
): Promise<ReadableVersion | null> {
  const version = await versionById(db, versionId);
  const season = version ? await seasonById(db, version.seasonId) : undefined;
  const field = season ? await fieldById(db, season.fieldId) : undefined;
  if (!version || !field) return null;
  await authorise(db, actor, 'read', field.farmId);
  return {
    sheet: storedSheet(version.sheet),
    number: version.number,
    status: version.status,
    proposedAt: version.proposedAt,
    decidedAt: version.decidedAt,
    comment: version.comment,
    fieldId: field.id,
  };
}
