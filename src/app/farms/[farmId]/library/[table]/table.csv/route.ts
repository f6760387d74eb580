import { NotAllowed } from '@/server/authorise';
import { CSV_TYPE, download, notFoundAnswer } from '@/server/download';
import { libraryCsv, tableOf } from '@/server/library';
import { Refusal } from '@/core/quantity/refusal';
import { session } from '@/server/session';

export async function GET(
  request: Request,
  { params }: { params: Promise<{ farmId: string; table: string }> },
) {
  const { db, actor } = await session();
  const { farmId, table } = await params;
  try {
    return await download(request, {
      name: `${table}-library`,
      extension: 'csv',
      type: CSV_TYPE,
      says: await libraryCsv(db, actor, farmId, tableOf(table)),
    });
  } catch (e) {
    if (e instanceof NotAllowed || e instanceof Refusal) return notFoundAnswer();
    throw e;
  }
}
