import { Refusal } from '@/core/quantity/refusal';
import { NotAllowed } from '@/server/authorise';
import { CSV_TYPE, download, notFoundAnswer } from '@/server/download';
import { ownLeafCsv } from '@/server/leafBlocks';
import { session } from '@/server/session';

/** The farm's own leaf standards, or its norms, as a CSV file. */
export async function GET(
  request: Request,
  { params }: { params: Promise<{ farmId: string; which: string }> },
) {
  const { farmId, which } = await params;
  if (which !== 'standards' && which !== 'norms') return notFoundAnswer();
  const { db, actor } = await session();
  try {
    return await download(request, {
      name: `own-leaf-${which}`,
      extension: 'csv',
      type: CSV_TYPE,
      says: await ownLeafCsv(db, actor, farmId, which),
    });
  } catch (e) {
    if (e instanceof NotAllowed || e instanceof Refusal) return notFoundAnswer();
    throw e;
  }
}
