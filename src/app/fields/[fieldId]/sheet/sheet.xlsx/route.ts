import { sheetOfPlan } from '@/core/views/figures';
import { download, notFoundAnswer, XLSX_TYPE, unitsAsked } from '@/server/download';
import { deskOf } from '@/server/plans';
import { session } from '@/server/session';
import { sheetTables, workbookOf } from '@/server/xlsx';

export async function GET(request: Request, { params }: { params: Promise<{ fieldId: string }> }) {
  const { db, actor } = await session();
  const { fieldId } = await params;
  const desk = await deskOf(db, actor, fieldId, new URL(request.url).searchParams.get('season'));
  if (!desk) return notFoundAnswer();
  const { plan } = desk.stored;
  const sheet = sheetOfPlan(plan, unitsAsked(request));
  return download(request, {
    name: `${fieldId}-${plan.season.label}-sheet`,
    extension: 'xlsx',
    type: XLSX_TYPE,
    says: JSON.stringify(sheet),
    body: () => workbookOf(sheetTables(sheet)),
  });
}
