import { notFoundAnswer } from '@/server/download';
import { farmPlans } from '@/server/plans';
import { session } from '@/server/session';

/** The plans of a farm's season, for the table that reckons the whole farm in a worker. */
export async function GET(_: Request, { params }: { params: Promise<{ farmId: string }> }) {
  const { db, actor } = await session();
  const plans = await farmPlans(db, actor, (await params).farmId);
  return plans ? Response.json(plans) : notFoundAnswer();
}
