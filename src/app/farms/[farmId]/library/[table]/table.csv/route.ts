import { NotAllowed } from '@/server/authorise';
import { download, notFoundAnswer } from '@/server/download';
import { libraryCsv, tableOf } from '@/server/library';
import { Refusal } from '@/core/quantity/refusal';
import { session } from '@/server/session';

export async function GET(
  _: Request,
  { params }: { params: Promise<{ farmId: string; table: string }> },
) {
  const { db, actor } = await session();
  const { farmId, table } = await params;
  try {
    return download(
      await libraryCsv(db, actor, farmId, tableOf(table)),
      'text/csv; charset=utf-8',
      `${table}-library`,
      'csv',
    );
  } catch (e) {
    if (e instanceof NotAllowed || e instanceof Refusal) return notFoundAnswer();
    throw e;
  }
}
