import { asc, eq } from 'drizzle-orm';
import type { CorrectedSample, EarlierSample } from '../core/facts/soilSample';
import type { Executor } from './client';
import { soilResults, soilSamples } from './schema';
import { pick, READING, SAMPLE } from './seasonColumns';

export type SampleRow = typeof soilSamples.$inferSelect;
const MOST_KEPT = 50;

/** What can be corrected in a sample, as it stands. */
export const correctable = (
  sample: SampleRow,
  readings: readonly (typeof soilResults.$inferSelect)[],
): CorrectedSample => ({
  ...pick(sample, SAMPLE),
  ...pick(sample, [
    'date',
    'label',
    'depthFromCm',
    'omPct',
    'ocPct',
    'cecCmolKg',
    'clayPct',
    'stonesPct',
  ]),
  readings: readings.map((r) => pick(r, READING)),
});
export const readingsOf = (db: Executor, sampleId: string) =>
  db
    .select()
    .from(soilResults)
    .where(eq(soilResults.sampleId, sampleId))
    .orderBy(asc(soilResults.position));
export const sampleById = async (db: Executor, id: string): Promise<SampleRow | undefined> =>
  (await db.select().from(soilSamples).where(eq(soilSamples.id, id)))[0];

/**
 * The earlier states of a sample with the one that stands now: to be written by every change of it.
 */
export async function historyWithNow(tx: Executor, id: string): Promise<EarlierSample[]> {
  const sample = await sampleById(tx, id);
  if (!sample) return [];
  const now: EarlierSample = {
    ...correctable(sample, await readingsOf(tx, id)),
    ...pick(sample, ['version', 'author', 'recordedOn']),
  };
  return [...sample.earlier, now].slice(-MOST_KEPT);
}
