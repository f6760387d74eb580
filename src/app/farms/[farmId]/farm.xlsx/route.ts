import { download, notFoundAnswer, XLSX_TYPE } from '@/server/download';
import { session } from '@/server/session';
import { wholeFarm } from '@/server/summaries';
import { farmTables, workbookOf } from '@/server/xlsx';

export async function GET(request: Request, { params }: { params: Promise<{ farmId: string }> }) {
  const { db, actor } = await session();
  const farm = await wholeFarm(db, actor, (await params).farmId);
  if (!farm) return notFoundAnswer();
  return download(request, {
    name: `${farm.name}-fields`,
    extension: 'xlsx',
    type: XLSX_TYPE,
    says: JSON.stringify(farm),
    body: () => workbookOf(farmTables(farm.name, farm.rows, farm.totals)),
  });
}
