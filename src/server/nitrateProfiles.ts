import { deepEqual } from 'fast-equals';
import { mean } from 'simple-statistics';
import type { NitrateLayer } from '@/core/facts/nitrateProfile';
import type { ParsedSample } from '@/core/laboratory/bringIn';
import type { Executor } from '@/data/client';
import type { Field } from '@/data/farms';
import { addNitrateProfile, nitrateProfilesOf } from '@/data/nitrateProfiles';
import { newestSeasonOf, planWithProfile } from '@/data/seasons';
import { groupedBy } from '@/core/book/table';
import type { Actor } from './authorise';
import { newId, today } from './clock';

interface Profile {
  fieldId: string;
  date: string;
  layers: NitrateLayer[];
  /** Several samples of one layer were brought together. */
  because: 'newest' | 'mean';
}

/**
 * The nitrate of a laboratory's rows, brought together by field and day: a layer that was sampled
 * several times is their mean.
 */
function profilesIn(fields: readonly Field[], rows: readonly ParsedSample[]): Profile[] {
  const found = new Map<string, ParsedSample[]>();
  for (const r of rows)
    if (r.no3nMgKg !== null && r.depthCm !== null) {
      const key = `${r.fieldName}|${r.date}`;
      found.set(key, [...(found.get(key) ?? []), r]);
    }
  return [...found.values()].map((group): Profile => {
    const first = group[0] as ParsedSample;
    const byLayer = groupedBy(group, (r) => `${r.depthFromCm}-${r.depthCm}`);
    const layers = [...byLayer.values()].map((same): NitrateLayer => ({
      topCm: same[0]?.depthFromCm ?? 0,
      bottomCm: same[0]?.depthCm ?? 0,
      no3nMgKg: Number(mean(same.map((r) => r.no3nMgKg ?? 0)).toFixed(2)),
      bulkDensityGCm3: null,
      stonesVolFrac: null,
    }));
    return {
      fieldId: (fields.find((f) => f.name === first.fieldName) as Field).id,
      date: first.date,
      layers: layers.toSorted((a, b) => a.topCm - b.topCm),
      because: group.length > layers.length ? 'mean' : 'newest',
    };
  });
}

/**
 * Keeps the nitrate of a laboratory's file as profiles of its fields, and lets the newest season of
 * each read it where it is no older than what it reads.
 *
 * @returns ids of the profiles that are new
 */
export async function keepNitrate(
  tx: Executor,
  actor: Actor,
  laboratory: string,
  fields: readonly Field[],
  rows: readonly ParsedSample[],
): Promise<string[]> {
  const added: string[] = [];
  for (const { fieldId, date, layers, because } of profilesIn(fields, rows)) {
    const known = await nitrateProfilesOf(tx, fieldId);
    if (known.some((p) => p.date === date && deepEqual(p.layers, layers))) continue;
    const id = newId();
    added.push(id);
    await addNitrateProfile(tx, {
      id,
      fieldId,
      date,
      laboratory,
      layers,
      author: actor.name,
      recordedOn: today(),
    });
    const season = await newestSeasonOf(tx, fieldId);
    const now = known.find((p) => p.id === season?.nitrateProfileId);
    if (season && (now?.date == null || now.date <= date))
      await planWithProfile(tx, season.id, id, because);
  }
  return added;
}
