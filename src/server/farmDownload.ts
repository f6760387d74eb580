import { Refusal } from '@/core/quantity/refusal';
import { NotAllowed } from './authorise';
import { notFoundAnswer } from './download';
import { farmOpenTables } from './openTables';
import { session } from './session';

type Found = NonNullable<Awaited<ReturnType<typeof farmOpenTables>>>;
/** A download of a farm's tables: 404 also for who may not see it, and for what is no table. */
export async function ofFarmTables(
  params: Promise<{ farmId: string }>,
  work: (found: Found) => Promise<Response>,
): Promise<Response> {
  const { db, actor } = await session();
  try {
    const found = await farmOpenTables(db, actor, (await params).farmId);
    return found ? await work(found) : notFoundAnswer();
  } catch (e) {
    if (e instanceof NotAllowed || e instanceof Refusal) return notFoundAnswer();
    throw e;
  }
}
