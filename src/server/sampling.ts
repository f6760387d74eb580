import { z } from 'zod';
import { claimCheck } from '@/core/ground/claim';
import { planGeojson } from '@/core/ground/fieldGeojson';
import {
  readOutlineFile,
  type FarmPoint,
  type OutlineFile,
  type OutlineFileAsked,
} from '@/core/ground/outlineFile';
import { checkOutline, outlineAreaHa, type Outline } from '@/core/ground/outline';
import { sampleListCsv } from '@/core/ground/sampleList';
import { checkPoints } from '@/core/ground/samplingLayout';
import { samplingPlanSchema, type SamplingPlan } from '@/core/ground/samplingPlan';
import { refusalOf } from '@/core/quantity/input';
import { Refusal, refuse } from '@/core/quantity/refusal';
import type { Db } from '@/data/client';
import { farmById, fieldById, fieldsOf, record, type Field } from '@/data/farms';
import {
  addClaim,
  addSamplingPlan,
  claimsOf,
  pointsOfFarm,
  removeClaim,
  removeSamplingPlan,
  samplingPlanById,
  samplingPlansOf,
  saveSamplingPlan,
  setOutline,
  surveyOf,
  type StoredClaim,
  type StoredSamplingPlan,
  type SurveyedSample,
} from '@/data/sampling';
import { outlineSchema } from './outlineSchema';
import { authorise, type Action, type Actor } from './authorise';
import { newId, today } from './clock';

async function fieldFor(db: Db, actor: Actor, action: Action, fieldId: string): Promise<Field> {
  const field = await fieldById(db, fieldId);
  if (!field) refuse('unknown_id', 'field', 'This field does not exist.', { value: fieldId });
  await authorise(db, actor, action, field.farmId);
  return field;
}

export interface SamplingDesk {
  outline: Outline | null;
  longitudeDeg: number | null;
  areaHa: number;
  plans: Pick<StoredSamplingPlan, 'id' | 'name' | 'createdOn' | 'document' | 'version'>[];
  samples: SurveyedSample[];
  claims: StoredClaim[];
}
/**
 * What the Ground station keeps of a field beside the plan: outline, sampling plans, every sample,
 * and claims that were checked.
 */
export async function samplingDesk(
  db: Db,
  actor: Actor,
  fieldId: string,
  withSamples = true,
): Promise<SamplingDesk> {
  const field = await fieldFor(db, actor, 'read', fieldId);
  return {
    outline: field.outline ?? null,
    longitudeDeg: (await farmById(db, field.farmId))?.longitudeDeg ?? null,
    areaHa: field.areaHa,
    plans: (await samplingPlansOf(db, fieldId)).map(
      ({ id, name, createdOn, document, version }) => ({ id, name, createdOn, document, version }),
    ),
    samples: withSamples ? await surveyOf(db, fieldId) : [],
    claims: await claimsOf(db, fieldId),
  };
}

/** An outline that changes the area of the field by more than this share is asked about first. */
const AREA_ASKED = 0.02;
export type SavedOutline =
  { saved: true; outline: Outline; areaHa: number } | { saved: false; was: number; areaHa: number };
/**
 * Stores an outline; the area of the field becomes what the outline encloses on the ellipsoid. Where
 * that is another area than the plans reckon with, nothing is written until it is said to be meant.
 */
export async function saveOutline(
  db: Db,
  actor: Actor,
  fieldId: string,
  raw: unknown,
  meant: boolean,
): Promise<SavedOutline> {
  const field = await fieldFor(db, actor, 'edit', fieldId);
  const parsed = outlineSchema.safeParse(raw);
  if (!parsed.success) throw new Refusal(refusalOf(parsed.error, raw));
  const outline = checkOutline(parsed.data);
  const areaHa = Number(outlineAreaHa(outline).toFixed(4));
  if (!meant && areaDiffers(field.areaHa, areaHa))
    return { saved: false, was: field.areaHa, areaHa };
  await db.transaction(async (tx) => {
    await setOutline(tx, fieldId, outline, areaHa);
    await record(tx, {
      personId: actor.id,
      farmId: field.farmId,
      action: 'outline',
      subject: `field ${fieldId}`,
      detail: { was: field.areaHa, areaHa },
    });
  });
  return { saved: true, outline, areaHa };
}
export const areaDiffers = (was: number, is: number): boolean =>
  Math.abs(is - was) > AREA_ASKED * was;
/** Outlines in a file, for the user to choose from; writes nothing. */
export async function outlinesInFile(
  db: Db,
  actor: Actor,
  fieldId: string,
  bytes: Uint8Array,
  asked: OutlineFileAsked,
): Promise<OutlineFile> {
  const field = await fieldFor(db, actor, 'edit', fieldId);
  return readOutlineFile(bytes, { ...asked, near: await placeOfFarm(db, field.farmId) });
}
/** Where a farm lies: outlines that lie elsewhere are doubted. */
export async function placeOfFarm(db: Db, farmId: string): Promise<FarmPoint | null> {
  const farm = await farmById(db, farmId);
  return farm ? { latitudeDeg: farm.latitudeDeg, longitudeDeg: farm.longitudeDeg } : null;
}

const planName = (name: unknown): string =>
  typeof name === 'string' && name.trim().length >= 2 && name.trim().length <= 80
    ? name.trim()
    : refuse('missing', 'name', 'Name of the sampling plan: give 2 to 80 letters.', {
        value: name,
        allowed: '2 to 80 letters',
      });

/** Labels name one bag on the farm: results come back under them, sometimes without the field. */
async function ownLabels(
  db: Db,
  field: Field,
  planId: string | null,
  plan: SamplingPlan,
): Promise<void> {
  const farmFields = await fieldsOf(db, [field.farmId]);
  const taken = new Map(
    (
      await pointsOfFarm(
        db,
        farmFields.map((f) => f.id),
      )
    )
      .filter((p) => p.samplingPlanId !== planId)
      .flatMap((p) => p.document.points.map((x) => [x.label.toLowerCase(), p.fieldId] as const)),
  );
  const clash = plan.points.find((p) => taken.has(p.label.toLowerCase()));
  if (clash)
    refuse(
      'inconsistent',
      'label',
      `The label ${clash.label} is used already in a sampling plan of ${farmFields.find((f) => f.id === taken.get(clash.label.toLowerCase()))?.name ?? 'this farm'}: take another prefix.`,
      { value: clash.label, allowed: 'labels that differ on the farm' },
    );
}
function readSamplingPlan(field: Field, raw: unknown): SamplingPlan {
  const parsed = samplingPlanSchema.safeParse(raw);
  if (!parsed.success) throw new Refusal(refusalOf(parsed.error, raw));
  if (!field.outline)
    refuse(
      'missing',
      'outline',
      'Draw or import the outline of the field before samples are laid on it.',
    );
  for (const l of parsed.data.layers)
    if (l.fromCm >= l.toCm)
      refuse(
        'inconsistent',
        'layers',
        `Layer ${l.fromCm}-${l.toCm} cm ends above where it begins.`,
        { value: l, allowed: 'from less than to' },
      );
  checkPoints(field.outline, parsed.data.points);
  if (parsed.data.points.length === 0)
    refuse('missing', 'points', 'The plan has no samples yet: lay them on the field first.');
  return parsed.data;
}

/** Stores a new sampling plan. */
export async function createSamplingPlan(
  db: Db,
  actor: Actor,
  fieldId: string,
  name: unknown,
  raw: unknown,
): Promise<{ id: string; version: number }> {
  const field = await fieldFor(db, actor, 'edit', fieldId);
  const document = readSamplingPlan(field, raw);
  const title = planName(name);
  await ownLabels(db, field, null, document);
  const id = newId();
  await db.transaction(async (tx) => {
    await addSamplingPlan(tx, { id, fieldId, createdOn: today(), name: title, document });
    await record(tx, {
      personId: actor.id,
      farmId: field.farmId,
      action: 'plan_sampling',
      subject: `sampling plan ${id}`,
      detail: { points: document.points.length },
    });
  });
  return { id, version: 1 };
}
/** Changes a sampling plan; one that somebody else changed in between is not overwritten. */
export async function changeSamplingPlan(
  db: Db,
  actor: Actor,
  planId: string,
  expected: number,
  name: unknown,
  raw: unknown,
): Promise<{ version: number }> {
  const stored = await samplingPlanById(db, planId);
  if (!stored) refuse('unknown_id', 'plan', 'This sampling plan does not exist.');
  const field = await fieldFor(db, actor, 'edit', stored.fieldId);
  const document = readSamplingPlan(field, raw);
  const title = planName(name);
  await ownLabels(db, field, planId, document);
  const version = await db.transaction(async (tx) => {
    const v = await saveSamplingPlan(tx, planId, expected, title, document);
    if (v !== null)
      await record(tx, {
        personId: actor.id,
        farmId: field.farmId,
        action: 'change_sampling',
        subject: `sampling plan ${planId}`,
        detail: { version: v },
      });
    return v;
  });
  if (version === null)
    refuse(
      'inconsistent',
      'version',
      'Somebody else has changed this sampling plan: reload it. Nothing was overwritten.',
    );
  return { version };
}
export async function dropSamplingPlan(db: Db, actor: Actor, planId: string): Promise<void> {
  const stored = await samplingPlanById(db, planId);
  if (!stored) return;
  const field = await fieldFor(db, actor, 'edit', stored.fieldId);
  await db.transaction(async (tx) => {
    await removeSamplingPlan(tx, planId);
    await record(tx, {
      personId: actor.id,
      farmId: field.farmId,
      action: 'remove_sampling',
      subject: `sampling plan ${planId}`,
    });
  });
}

export interface PrintableSampling {
  farmName: string;
  field: Field;
  plan: StoredSamplingPlan;
}
/** A sampling plan with its field, to print or to download. Null when there is none. */
export async function samplingToPrint(
  db: Db,
  actor: Actor,
  planId: string,
): Promise<PrintableSampling | null> {
  const plan = await samplingPlanById(db, planId);
  const field = plan ? await fieldById(db, plan.fieldId) : undefined;
  if (!plan || !field) return null;
  await authorise(db, actor, 'read', field.farmId);
  return { plan, field, farmName: (await farmById(db, field.farmId))?.name ?? '' };
}
export const samplingGeojson = (p: PrintableSampling): string =>
  `${JSON.stringify(planGeojson({ fieldName: p.field.name, outline: p.field.outline as Outline, areaHa: p.field.areaHa, plan: p.plan.document }), null, 1)}\n`;
export const samplingCsv = (p: PrintableSampling): string =>
  sampleListCsv({
    farm: p.farmName,
    field: p.field.name,
    sampledOn: today(),
    plan: p.plan.document,
  });

const claimInput = z.strictObject({
  compound: z.string().min(1).max(60),
  pct: z.number(),
  rate: z.number(),
  unit: z.enum(['kg', 'l']),
  density: z.number().nullish(),
  caPct: z.number().nullish(),
  mgPct: z.number().nullish(),
  lr: z.number(),
  gap: z.number(),
  claimedKgPerKg: z.number().nullish(),
  allowOxidation: z.boolean().nullish(),
});
/**
 * Checks a claim and keeps it with the field, so that the answer is at hand when the seller calls
 * again.
 */
export async function keepClaim(
  db: Db,
  actor: Actor,
  fieldId: string,
  product: unknown,
  raw: unknown,
): Promise<void> {
  const field = await fieldFor(db, actor, 'edit', fieldId);
  const parsed = claimInput.safeParse(raw);
  if (!parsed.success) throw new Refusal(refusalOf(parsed.error, raw));
  if (typeof product !== 'string' || product.trim().length < 2 || product.length > 80)
    refuse('missing', 'product', 'Product: give the name on the label, 2 to 80 letters.', {
      value: product,
      allowed: '2 to 80 letters',
    });
  const result = claimCheck(parsed.data);
  await db.transaction(async (tx) => {
    await addClaim(tx, {
      id: newId(),
      fieldId,
      checkedOn: today(),
      product: product.trim(),
      input: parsed.data,
      verdict: result.verdict,
      message: result.message,
    });
    await record(tx, {
      personId: actor.id,
      farmId: field.farmId,
      action: 'check_claim',
      subject: `field ${fieldId}`,
      detail: { product, verdict: result.verdict },
    });
  });
}
export async function dropClaim(db: Db, actor: Actor, fieldId: string, id: string): Promise<void> {
  const field = await fieldFor(db, actor, 'edit', fieldId);
  await db.transaction(async (tx) => {
    await removeClaim(tx, fieldId, id);
    await record(tx, {
      personId: actor.id,
      farmId: field.farmId,
      action: 'remove_claim',
      subject: `claim ${id}`,
    });
  });
}
