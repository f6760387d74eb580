import { download, notFoundAnswer, XLSX } from '@/server/download';
import { session } from '@/server/session';
import { wholeFarm } from '@/server/summaries';
import { farmTables, workbookOf } from '@/server/xlsx';

export async function GET(_: Request, { params }: { params: Promise<{ farmId: string }> }) {
  const { db, actor } = await session();
  const farm = await wholeFarm(db, actor, (await params).farmId);
  if (!farm) return notFoundAnswer();
  return download(
    await workbookOf(farmTables(farm.name, farm.rows, farm.totals)),
    XLSX,
    `${farm.name.toLowerCase()}-fields`,
    'xlsx',
  );
}
