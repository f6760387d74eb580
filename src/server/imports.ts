import type { ImportLine } from '@/core/laboratory/bringIn';
import { refuse } from '@/core/quantity/refusal';
import type { Db, Executor } from '@/data/client';
import { farmsById, record } from '@/data/farms';
import {
  importById,
  importsOfFarms,
  profilesByIds,
  readersOfProfiles,
  removeImport,
  removeProfiles,
  removeSamples,
  removeWaiting,
  samplesByIds,
  setReads,
  type StoredImport,
} from '@/data/imports';
import { addLeafSample, leafFactsOf, removeLeafSample } from '@/data/samples';
import { inTransaction } from '@/data/transaction';
import { authorise, farmsAllowed, type Actor } from './authorise';
import { remakeMeans } from './fieldMean';
import { unreadSamples, type Before } from './unread';

/** Files that the actor could take back, the newest first. */
export async function importLines(db: Db, actor: Actor): Promise<ImportLine[]> {
  const farmIds = await farmsAllowed(db, actor, 'edit');
  const names = new Map((await farmsById(db, farmIds)).map((f) => [f.id, f.name]));
  return (await importsOfFarms(db, farmIds)).map((i) => ({
    id: i.id,
    farm: names.get(i.farmId) ?? '',
    laboratory: i.laboratory,
    fileName: i.fileName,
    author: i.author,
    on: i.importedOn,
    samples: i.document.samples.length,
    leaves: i.document.leaves?.length ?? 0,
    profiles: i.document.profiles.length,
    waiting: i.document.waiting.length,
  }));
}

async function unreadProfiles(tx: Executor, ids: readonly string[], before: Before): Promise<void> {
  for (const season of await readersOfProfiles(tx, ids)) {
    const was = before.find((b) => b.seasonId === season.id);
    const kept =
      was?.nitrateProfileId && !ids.includes(was.nitrateProfileId)
        ? (await profilesByIds(tx, [was.nitrateProfileId])).length > 0
        : false;
    await setReads(tx, season, {
      nitrateProfileId: kept ? (was?.nitrateProfileId ?? null) : null,
      nitrateBecause: kept ? (was?.nitrateBecause ?? null) : null,
    });
  }
}

/** Leaves of a file go; a sample that had waited for its values waits again. @returns how many went */
async function takeBackLeaves(
  tx: Executor,
  leaves: NonNullable<StoredImport['document']['leaves']>,
): Promise<number> {
  const here = await leafFactsOf(tx, [...new Set(leaves.map((l) => l.fieldId))]);
  const standing = leaves.filter((l) => here.get(l.fieldId)?.some((x) => x.id === l.id));
  for (const { fieldId, id, before } of standing) {
    await removeLeafSample(tx, fieldId, id);
    if (before) await addLeafSample(tx, fieldId, before);
  }
  return standing.length;
}

/**
 * Takes an import back as a whole: its samples, profiles, leaves and waiting rows go, and each season
 * reads again what it read before.
 *
 * @returns how many samples and leaves went, and how many of them somebody had changed since
 */
export async function takeBackImport(
  db: Db,
  actor: Actor,
  id: string,
): Promise<{ samples: number; leaves: number; changed: number }> {
  return inTransaction(db, async (tx) => {
    const found = await importById(tx, id);
    if (!found)
      refuse('unknown_id', 'import', 'This import is not there any more: somebody took it back.', {
        value: id,
      });
    await authorise(tx, actor, 'edit', found.farmId);
    const { document } = found;
    const samples = await samplesByIds(tx, document.samples);
    const ids = samples.map((s) => s.id);
    await unreadSamples(tx, ids, document.before);
    await removeSamples(tx, ids);
    const vanished = await remakeMeans(tx, samples, (means) =>
      unreadSamples(tx, means, document.before),
    );
    await removeSamples(tx, vanished);
    await unreadProfiles(tx, document.profiles, document.before);
    await removeProfiles(tx, document.profiles);
    await removeWaiting(tx, document.waiting);
    const leaves = await takeBackLeaves(tx, document.leaves ?? []);
    await removeImport(tx, id);
    await record(tx, {
      personId: actor.id,
      farmId: found.farmId,
      action: 'take_back_import',
      subject: found.fileName,
      detail: { samples: ids.length, leaves },
    });
    return {
      samples: ids.length,
      leaves,
      changed: samples.filter((s) => s.version > 1).length,
    };
  });
}
