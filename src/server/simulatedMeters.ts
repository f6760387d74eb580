import { z } from 'zod';
import { bookOf } from '@/core/book/book';
import { tissueCropOf } from '@/core/book/crops';
import { elementShare } from '@/core/quantity/forms';
import { refuse } from '@/core/quantity/refusal';
import { sapReading } from '@/core/tissue/sap';
import type { Db } from '@/data/client';
import { loadPlan } from '@/data/seasons';
import { simulateColour, simulateSap } from '@/demo/simulatedMeters';
import { authorise, type Actor } from './authorise';
import { today } from './clock';
import { parsed } from './input';

const asked = z.discriminatedUnion('meter', [
  z.strictObject({ meter: z.literal('colour'), date: z.iso.date() }),
  z.strictObject({
    meter: z.enum(['NO3', 'NO3-N', 'K']),
    date: z.iso.date(),
    bbch: z.number().min(0).max(99),
  }),
]);
export type MeterReading = { shows: number } | { field: number; strip: number };

/** A stand-in for a meter held to the crop of a season: nothing is written. */
export async function readSimulatedMeter(
  db: Db,
  actor: Actor,
  seasonId: string,
  raw: unknown,
): Promise<MeterReading> {
  const stored = await loadPlan(db, seasonId, today());
  if (!stored) refuse('unknown_id', 'season', 'This season does not exist.', { value: seasonId });
  await authorise(db, actor, 'sample', stored.farmId);
  const question = parsed(asked, raw);
  const { plan } = stored;
  const { cropKey, use } = plan.season;
  if (!cropKey) refuse('missing', 'crop', 'Choose a crop first: a meter is held to its leaves.');
  const of = `${plan.field.name}|${question.date}`;
  if (question.meter === 'colour') return simulateColour(of);
  const { meter, bbch } = question;
  const { low, high } = sapReading({
    crop: tissueCropOf(bookOf(plan.farm.library), cropKey, use) ?? cropKey,
    bbch,
    meterReads: meter,
    readingMgL: 0,
  });
  return {
    shows: simulateSap({
      of: `${of}|${meter}`,
      low,
      high,
      elementShare: meter === 'NO3' ? elementShare('no3') : 1,
    }),
  };
}
