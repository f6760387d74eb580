import {
  correctedSample,
  type CorrectedSample,
  type EarlierSample,
  type GroundOffer,
  type Spread,
} from '@/core/facts/soilSample';
import { fieldMean as meanOf } from '@/core/ground/survey';
import { refuse } from '@/core/quantity/refusal';
import type { Db, Executor } from '@/data/client';
import { changeField, fieldById, fieldsOf, record } from '@/data/farms';
import { removeSamples } from '@/data/imports';
import { takeSampleAway } from '@/data/removed';
import { correctable, readingsOf, sampleById, type SampleRow } from '@/data/sampleHistory';
import { replaceSample, seasonsRead, setSampleField, surveyOf, touchField } from '@/data/sampling';
import { inTransaction } from '@/data/transaction';
import { authorise, may, type Action, type Actor } from './authorise';
import { today } from './clock';
import { drawer } from './drawer';
import { meanOfTaking, planWithNewest, remakeMeans } from './fieldMean';
import { parsed } from './input';
import { unreadSamples } from './unread';

/** Organic matter that organic carbon stands for (van Bemmelen; chapter 1, C3). */
const OM_OF_CARBON = 1.724;

export interface SampleDesk {
  id: string;
  version: number;
  kind: SampleRow['kind'];
  farmId: string;
  fieldId: string;
  fieldName: string;
  author: string | null;
  recordedOn: string | null;
  at: [number, number] | null;
  sample: CorrectedSample;
  earlier: EarlierSample[];
  /** Seasons that plan with it. */
  readBy: { fieldId: string; label: string }[];
  offers: GroundOffer[];
  /** Samples that a mean is made of. */
  members: { id: string; label: string | null }[];
  spread: Spread[];
  fields: { id: string; name: string }[];
  mayEdit: boolean;
}

async function found(db: Executor, actor: Actor, action: Action, id: string) {
  const sample = await sampleById(db, id);
  const field = sample && (await fieldById(db, sample.fieldId));
  if (!sample || !field)
    refuse('unknown_id', 'sample', 'This sample is not there any more.', { value: id });
  return { sample, field, role: await authorise(db, actor, action, field.farmId) };
}

function offersOf(
  s: Pick<SampleRow, 'omPct' | 'ocPct' | 'cecCmolKg' | 'clayPct'>,
  now: { omPct: number | null; cecCmolKg: number | null; clayPct: number | null },
): GroundOffer[] {
  const om = s.omPct ?? (s.ocPct === null ? null : Number((s.ocPct * OM_OF_CARBON).toFixed(2)));
  const all: (Omit<GroundOffer, 'value'> & { value: number | null })[] = [
    {
      column: 'omPct',
      label: 'Organic matter',
      unit: '%',
      value: om,
      now: now.omPct,
      from: s.omPct === null ? `organic carbon ${s.ocPct} % x ${OM_OF_CARBON}` : null,
    },
    {
      column: 'cecCmolKg',
      label: 'CEC',
      unit: 'cmol/kg',
      value: s.cecCmolKg,
      now: now.cecCmolKg,
      from: null,
    },
    { column: 'clayPct', label: 'Clay', unit: '%', value: s.clayPct, now: now.clayPct, from: null },
  ];
  return all.flatMap(({ value, ...o }) =>
    value === null || value === o.now ? [] : [{ ...o, value }],
  );
}

/** Figures of several samples beside each other: mean, spread, lowest and highest. */
function spreadOf(members: Awaited<ReturnType<typeof surveyOf>>): Spread[] {
  const rows = new Map<string, { value: number; below: boolean }[]>();
  const add = (label: string, value: number | null, below = false) => {
    if (value !== null) rows.set(label, [...(rows.get(label) ?? []), { value, below }]);
  };
  for (const { sample, readings } of members) {
    add('pH in water', sample.phWater);
    add('pH in calcium chloride', sample.phCacl2);
    add('Organic matter, %', sample.omPct);
    for (const r of readings)
      add(
        `${r.nutrient.toUpperCase()}, ${r.extractant.replaceAll('_', ' ')}, ${r.unit.replace('_', '/')}`,
        r.value,
        r.belowDetection,
      );
  }
  return [...rows].flatMap(([label, list]) => {
    const m = meanOf(list.map((v) => ({ value: v.value, areaHa: 0, belowDetection: v.below })));
    return m && m.n > 1 ? [{ label, mean: m.mean, sd: m.sd, min: m.min, max: m.max, n: m.n }] : [];
  });
}

/** One sample with all that is known of it. Null where it is not there or not the person's. */
export async function sampleDesk(db: Db, actor: Actor, id: string): Promise<SampleDesk | null> {
  const sample = await sampleById(db, id);
  if (!sample) return null;
  const { field, role } = await found(db, actor, 'read', id);
  const members =
    sample.kind === 'mean'
      ? (await surveyOf(db, field.id)).filter(({ sample: s }) =>
          sample.samplingPlanId === null
            ? s.kind === 'composite' && s.depthFromCm === 0 && meanOfTaking(s) === id
            : s.kind === 'point' &&
              s.samplingPlanId === sample.samplingPlanId &&
              s.date === sample.date,
        )
      : [];
  return {
    id,
    version: sample.version,
    kind: sample.kind,
    farmId: field.farmId,
    fieldId: field.id,
    fieldName: field.name,
    author: sample.author,
    recordedOn: sample.recordedOn,
    at: sample.at,
    sample: correctable(sample, await readingsOf(db, id)),
    earlier: sample.earlier.toReversed(),
    readBy: await seasonsRead(db, id),
    offers: offersOf(sample, field),
    members: members.map(({ sample: s }) => ({ id: s.id, label: s.label })),
    spread: spreadOf(members),
    fields: (await fieldsOf(db, [field.farmId])).map((f) => ({ id: f.id, name: f.name })),
    mayEdit: may(role, 'edit') && sample.kind !== 'mean',
  };
}

const notAMean = (sample: SampleRow): void => {
  if (sample.kind === 'mean')
    refuse(
      'inconsistent',
      'sample',
      'A mean is worked out of its samples: correct, move or take away one of those.',
    );
};

/**
 * Corrects a sample: the old figures stay in its history, means are worked out anew, and every
 * season that reads it reckons with the new ones. Somebody else's change in between is refused.
 *
 * @returns the sample's new version
 */
export async function correctSample(
  db: Db,
  actor: Actor,
  id: string,
  expected: number,
  raw: unknown,
): Promise<number> {
  const next = parsed(correctedSample, raw);
  if (next.date !== null && next.date > today())
    refuse('out_of_range', 'date', `date = ${next.date} lies in the future.`, {
      value: next.date,
      allowed: `up to ${today()}`,
    });
  if (next.depthCm !== null && next.depthCm <= next.depthFromCm)
    refuse(
      'inconsistent',
      'depthCm',
      `depthCm = ${next.depthCm} ends above where it begins, ${next.depthFromCm} cm.`,
      { value: next.depthCm },
    );
  return inTransaction(db, async (tx) => {
    const { sample, field } = await found(tx, actor, 'edit', id);
    notAMean(sample);
    if (sample.version !== expected)
      refuse(
        'conflict',
        'version',
        `${sample.author ?? 'Somebody'} changed this sample meanwhile. Open it again: what you typed is still here to compare.`,
      );
    const version = await replaceSample(tx, id, next, actor.name, today());
    const vanished = await remakeMeans(tx, [sample, { ...sample, ...next }], (means) =>
      unreadSamples(tx, means, []),
    );
    await removeSamples(tx, vanished);
    if (next.date !== sample.date) await planWithNewest(tx, [{ ...sample, ...next }]);
    await record(tx, {
      personId: actor.id,
      farmId: field.farmId,
      action: 'correct_sample',
      subject: `sample ${id}`,
    });
    return version;
  });
}

/** A sample belongs to another field of the same farm. Seasons of the old one read another again. */
export async function moveSample(db: Db, actor: Actor, id: string, fieldId: string): Promise<void> {
  await inTransaction(db, async (tx) => {
    const { sample, field } = await found(tx, actor, 'edit', id);
    notAMean(sample);
    const to = await fieldById(tx, fieldId);
    if (!to || to.farmId !== field.farmId)
      refuse('unknown_id', 'field', 'This is no field of the same farm.', { value: fieldId });
    if (to.id === field.id) return;
    await unreadSamples(tx, [id], []);
    await setSampleField(tx, id, to.id, actor.name, today());
    await removeSamples(
      tx,
      await remakeMeans(tx, [sample], (means) => unreadSamples(tx, means, [])),
    );
    await planWithNewest(tx, [
      { ...sample, fieldId: to.id, kind: 'composite', samplingPlanId: null },
    ]);
    await record(tx, {
      personId: actor.id,
      farmId: field.farmId,
      action: 'move_sample',
      subject: `sample ${id}`,
      detail: { from: field.name, to: to.name },
    });
  });
}

/** Takes a sample away; it can be brought back. Each season that read it reads the newest that is left. */
export async function removeSample(db: Db, actor: Actor, id: string): Promise<void> {
  await inTransaction(db, async (tx) => {
    const { sample, field } = await found(tx, actor, 'edit', id);
    notAMean(sample);
    await unreadSamples(tx, [id], []);
    await takeSampleAway(tx, field.farmId, sample, {
      ...drawer(actor),
      name: `${field.name}, ${sample.label ?? 'sample'} of ${sample.date ?? 'an unknown day'}`,
    });
    await removeSamples(
      tx,
      await remakeMeans(tx, [sample], (means) => unreadSamples(tx, means, [])),
    );
    await record(tx, {
      personId: actor.id,
      farmId: field.farmId,
      action: 'remove_sample',
      subject: `sample ${id}`,
    });
  });
}

/** The field takes over a figure that a report tells of its ground. */
export async function takeOver(db: Db, actor: Actor, id: string, column: string): Promise<void> {
  await inTransaction(db, async (tx) => {
    const { sample, field } = await found(tx, actor, 'edit', id);
    const offer = offersOf(sample, field).find((o) => o.column === column);
    if (!offer)
      refuse(
        'unknown_id',
        'column',
        'The field says so already, or the report says nothing of it.',
        {
          value: column,
        },
      );
    await changeField(tx, field.id, {
      [offer.column]: offer.value,
      ...(offer.column === 'omPct' && sample.depthCm !== null
        ? { omDepthCm: Math.min(60, Math.max(5, sample.depthCm)) }
        : {}),
    });
    await touchField(tx, field.id);
    await record(tx, {
      personId: actor.id,
      farmId: field.farmId,
      action: 'take_over',
      subject: `field ${field.id}`,
      detail: { from: `sample ${id}`, was: offer.now, [offer.column]: offer.value },
    });
  });
}
