import { bookOf } from '@/core/book/book';
import { farmTotals } from '@/core/farm/farmTotals';
import { farmFieldRow } from '@/core/farm/wholeFarm';
import { download, notFoundAnswer, XLSX } from '@/server/download';
import { farmDesk, storesNamed } from '@/server/farm';
import { farmPlans } from '@/server/plans';
import { session } from '@/server/session';
import { farmWorkbook } from '@/server/xlsx';

export async function GET(_: Request, { params }: { params: Promise<{ farmId: string }> }) {
  const { db, actor } = await session();
  const { farmId } = await params;
  const plans = await farmPlans(db, actor, farmId);
  const desk = plans ? await farmDesk(db, actor, farmId) : null;
  if (!plans || !desk) return notFoundAnswer();
  const book = bookOf(desk.terms.library);
  const rows = plans.map((p) => farmFieldRow(book, p));
  return download(
    await farmWorkbook(desk.terms.name, rows, farmTotals(rows, storesNamed(desk), desk.terms)),
    XLSX,
    `${desk.terms.name.toLowerCase()}-fields`,
    'xlsx',
  );
}
