import { notFoundAnswer } from '@/server/download';
import { session } from '@/server/session';
import { farmFreshness } from '@/server/summaries';

/** How many fields of the farm are reckoned as they stand now. */
export async function GET(_: Request, { params }: { params: Promise<{ farmId: string }> }) {
  const { db, actor } = await session();
  const found = await farmFreshness(db, actor, (await params).farmId);
  return found ? Response.json({ fields: found.fields, fresh: found.fresh }) : notFoundAnswer();
}
