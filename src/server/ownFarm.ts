import { z } from 'zod';
import { climateIds } from '@/core/book/stages';
import { DEFAULT_TERMS, farmTerms } from '@/core/document/farmTerms';
import { num } from '@/core/quantity/input';
import { RANGES } from '@/core/quantity/range';
import { refuse } from '@/core/quantity/refusal';
import type { Db, Executor } from '@/data/client';
import {
  addFarm,
  changeFarm,
  farmById,
  farmsById,
  fieldsOf,
  listPeople,
  putMember,
  record,
  renamePerson,
  rolesOf,
  type Role,
} from '@/data/farms';
import { inTransaction } from '@/data/transaction';
import { authorise, type Actor } from './authorise';
import { newId } from './clock';
import { named, parsed } from './input';
import { checkPair, personNamed, ROLES } from './people';

const place = {
  place: z.string({ error: 'text' }).trim().max(120, { error: 'at most 120 letters' }),
  latitudeDeg: num(RANGES.latitudeDeg),
  longitudeDeg: num({ label: 'Longitude', unit: 'degrees', min: -180, max: 180 }).nullable(),
  climateId: z.string({ error: 'a climate' }).min(1),
  climate: farmTerms.shape.climate,
  currency: farmTerms.shape.currency,
};
const newFarm = z.strictObject({
  ...place,
  name: named(120),
  /** The acting person's own name and part, and the other half of the pair, by name. */
  self: z.strictObject({ name: named(80), role: z.enum(ROLES) }),
  other: z.strictObject({ name: named(80), role: z.enum(ROLES) }).nullable(),
});
const changedPlace = z.strictObject({ ...place, version: z.int() });

const knownClimate = (climateId: string): void => {
  if (!climateIds().includes(climateId))
    refuse('unknown_id', 'climate', `climate = ${climateId} is not in the book.`, {
      value: climateId,
      allowed: climateIds().join(', '),
    });
};
/** A farm that the acting person has already under that name would be two for one. */
async function checkFarmName(tx: Executor, actor: Actor, name: string, but?: string) {
  const mine = await farmsById(
    tx,
    (await rolesOf(tx, actor.id)).map((r) => r.farmId),
  );
  if (mine.some((f) => f.name === name && f.id !== but))
    refuse('inconsistent', 'name', `name = ${name}: you have a farm of that name.`, {
      value: name,
    });
}
const partner = (role: Role, name: string, actor: Actor): void => {
  if (name === actor.name)
    refuse('inconsistent', 'other.name', `${name} is you: give the other person’s name.`, {
      value: name,
      allowed: role,
    });
};

/**
 * Makes a farm of the acting person: where it lies, with which climate and money, and who works with
 * it. `farmId` fills in the farm that an empty program begins with.
 *
 * @returns the farm's id
 */
export async function createFarm(
  db: Db,
  actor: Actor,
  raw: unknown,
  farmId: string | null = null,
): Promise<string> {
  const { name, self, other, currency, climate, ...where } = parsed(newFarm, raw);
  knownClimate(where.climateId);
  if (farmId !== null) await authorise(db, actor, 'edit', farmId);
  return inTransaction(db, async (tx) => {
    await checkFarmName(tx, actor, name, farmId ?? undefined);
    const begun = farmId === null ? undefined : await farmById(tx, farmId);
    const id = begun?.id ?? newId();
    const terms = { ...DEFAULT_TERMS, ...begun?.terms, currency, climate };
    const { library: _, ...stored } = terms;
    if (begun) await changeFarm(tx, id, begun.version, { name, ...where, terms: stored });
    else
      await addFarm(tx, {
        id,
        name,
        ...where,
        closedPeriods: [],
        legalNCapKgHa: null,
        nPricePerKg: 1.2,
        terms: stored,
      });
    if (self.name !== actor.name) {
      if ((await listPeople(tx)).some((p) => p.name === self.name && p.id !== actor.id))
        refuse('inconsistent', 'self.name', `${self.name} is known here already: act as them.`, {
          value: self.name,
        });
      await renamePerson(tx, actor.id, self.name);
    }
    await putMember(tx, id, actor.id, self.role);
    if (other) {
      partner(other.role, other.name, { id: actor.id, name: self.name });
      await putMember(tx, id, await personNamed(tx, other.name), other.role);
    }
    await checkPair(tx, id);
    await record(tx, {
      personId: actor.id,
      farmId: id,
      action: begun ? 'place_farm' : 'add_farm',
      subject: name,
      detail: where,
    });
    return id;
  });
}

/**
 * The farm that an empty program begins with, while nobody has said anything of it; null where a
 * farm stands already.
 */
export async function farmThatBegins(db: Db, actor: Actor): Promise<string | null> {
  const mine = await farmsById(
    db,
    (await rolesOf(db, actor.id)).map((r) => r.farmId),
  );
  const [only, second] = mine;
  return only && !second && only.place === '' && only.longitudeDeg === null && only.version === 1
    ? (await fieldsOf(db, [only.id])).length === 0
      ? only.id
      : null
    : null;
}

export interface FarmPlace {
  version: number;
  place: string;
  latitudeDeg: number;
  longitudeDeg: number | null;
  climateId: string;
}
export async function farmPlace(db: Db, actor: Actor, farmId: string): Promise<FarmPlace | null> {
  const farm = await farmById(db, farmId);
  if (!farm) return null;
  await authorise(db, actor, 'read', farmId);
  const { version, latitudeDeg, longitudeDeg, climateId } = farm;
  return { version, place: farm.place, latitudeDeg, longitudeDeg, climateId };
}

/** Moves a farm to where it lies, or gives it another climate; somebody else's save is refused. */
export async function saveFarmPlace(
  db: Db,
  actor: Actor,
  farmId: string,
  raw: unknown,
): Promise<number> {
  const { version, currency, climate, ...where } = parsed(changedPlace, raw);
  knownClimate(where.climateId);
  await authorise(db, actor, 'edit', farmId);
  return inTransaction(db, async (tx) => {
    const farm = await farmById(tx, farmId);
    if (!farm) refuse('unknown_id', 'farm', 'This farm does not exist.');
    const { library: _, ...stored } = { ...DEFAULT_TERMS, ...farm.terms, currency, climate };
    if (!(await changeFarm(tx, farmId, version, { ...where, terms: stored })))
      refuse(
        'conflict',
        'version',
        'Somebody else saved this farm meanwhile. Open it again: what you typed is still here to compare.',
      );
    await record(tx, {
      personId: actor.id,
      farmId,
      action: 'place_farm',
      subject: `farm ${farmId}`,
      detail: where,
    });
    return version + 1;
  });
}
