import type { Executor } from '@/data/client';
import {
  newestBeside,
  readersOfSamples,
  samplesByIds,
  setReads,
  type StoredImport,
} from '@/data/imports';

export type Before = StoredImport['document']['before'];
/**
 * Seasons that read samples which go read again what they read before; where that is not there any
 * more, the newest that is.
 */
export async function unreadSamples(
  tx: Executor,
  ids: readonly string[],
  before: Before,
): Promise<void> {
  for (const season of await readersOfSamples(tx, ids)) {
    const was = before.find((b) => b.seasonId === season.id);
    const kept =
      was?.soilSampleId && !ids.includes(was.soilSampleId)
        ? (await samplesByIds(tx, [was.soilSampleId])).length > 0
        : false;
    const other = kept ? undefined : await newestBeside(tx, season.fieldId, ids);
    await setReads(tx, season, {
      soilSampleId: kept ? (was?.soilSampleId ?? null) : (other?.id ?? null),
      soilBecause: kept
        ? (was?.soilBecause ?? null)
        : other
          ? other.kind === 'mean'
            ? 'mean'
            : 'newest'
          : null,
    });
  }
}
