import { sheetOfPlan } from '@/core/views/figures';
import { sheetCsv } from '@/core/views/sheetCsv';
import { CSV_TYPE, download, notFoundAnswer, unitsAsked } from '@/server/download';
import { deskOf } from '@/server/plans';
import { session } from '@/server/session';

export async function GET(request: Request, { params }: { params: Promise<{ fieldId: string }> }) {
  const { db, actor } = await session();
  const { fieldId } = await params;
  const desk = await deskOf(db, actor, fieldId, new URL(request.url).searchParams.get('season'));
  if (!desk) return notFoundAnswer();
  return download(request, {
    name: `${fieldId}-${desk.stored.plan.season.label}-sheet`,
    extension: 'csv',
    type: CSV_TYPE,
    says: sheetCsv(sheetOfPlan(desk.stored.plan, unitsAsked(request))),
  });
}
