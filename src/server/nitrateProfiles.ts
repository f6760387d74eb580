import { deepEqual } from 'fast-equals';
import { mean } from 'simple-statistics';
import type { NitrateLayer, SulphateLayer } from '@/core/facts/nitrateProfile';
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
  sulphateLayers: SulphateLayer[];
  /** Several samples of one layer were brought together. */
  because: 'newest' | 'mean';
}

/** Layers of one day with the mean of what was found in each; those that say nothing are none. */
function layersOf(group: readonly ParsedSample[], of: (r: ParsedSample) => number | null) {
  const byLayer = groupedBy(
    group.filter((r) => of(r) !== null),
    (r) => `${r.depthFromCm}-${r.depthCm}`,
  );
  return [...byLayer.values()]
    .map((same) => ({
      topCm: same[0]?.depthFromCm ?? 0,
      bottomCm: same[0]?.depthCm ?? 0,
      value: Number(mean(same.map((r) => of(r) ?? 0)).toFixed(2)),
      samples: same.length,
      bulkDensityGCm3: null,
      stonesVolFrac: null,
    }))
    .toSorted((a, b) => a.topCm - b.topCm);
}

/**
 * Nitrate and sulphate of a laboratory's rows, brought together by field and day: a layer that was
 * sampled several times is their mean.
 */
function profilesIn(fields: readonly Field[], rows: readonly ParsedSample[]): Profile[] {
  const found = groupedBy(
    rows.filter((r) => (r.no3nMgKg ?? r.so4sMgKg) !== null && r.depthCm !== null),
    (r) => `${r.fieldName}|${r.date}`,
  );
  return [...found.values()].map((group): Profile => {
    const first = group[0] as ParsedSample;
    const nitrate = layersOf(group, (r) => r.no3nMgKg);
    const sulphate = layersOf(group, (r) => r.so4sMgKg);
    return {
      fieldId: (fields.find((f) => f.name === first.fieldName) as Field).id,
      date: first.date,
      layers: nitrate.map(({ value: no3nMgKg, samples: _, ...l }) => ({ ...l, no3nMgKg })),
      sulphateLayers: sulphate.map(({ value: so4sMgKg, samples: _, ...l }) => ({
        ...l,
        so4sMgKg,
      })),
      because: [...nitrate, ...sulphate].some((l) => l.samples > 1) ? 'mean' : 'newest',
    };
  });
}

/**
 * Keeps nitrate and sulphate of a laboratory's file as profiles of its fields, and lets the newest season of
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
  for (const { fieldId, date, layers, sulphateLayers, because } of profilesIn(fields, rows)) {
    const known = await nitrateProfilesOf(tx, fieldId);
    if (
      known.some(
        (p) =>
          p.date === date &&
          deepEqual(p.layers, layers) &&
          deepEqual(p.sulphateLayers, sulphateLayers),
      )
    )
      continue;
    const id = newId();
    added.push(id);
    await addNitrateProfile(tx, {
      id,
      fieldId,
      date,
      laboratory,
      layers,
      sulphateLayers,
      author: actor.name,
      recordedOn: today(),
    });
    const season = await newestSeasonOf(tx, fieldId);
    const now = known.find((p) => p.id === season?.nitrateProfileId);
    // Sulphate alone takes no season's nitrate away.
    const poorer = layers.length === 0 && (now?.layers.length ?? 0) > 0;
    if (season && !poorer && (now?.date == null || now.date <= date))
      await planWithProfile(tx, season.id, id, because);
  }
  return added;
}
