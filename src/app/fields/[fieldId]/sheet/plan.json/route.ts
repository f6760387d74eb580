import { writePlanFile } from '@/core/document/seasonFile';
import { download, JSON_TYPE, notFoundAnswer } from '@/server/download';
import { deskOf } from '@/server/plans';
import { session } from '@/server/session';

export async function GET(request: Request, { params }: { params: Promise<{ fieldId: string }> }) {
  const { db, actor } = await session();
  const { fieldId } = await params;
  const desk = await deskOf(db, actor, fieldId, new URL(request.url).searchParams.get('season'));
  if (!desk) return notFoundAnswer();
  return download(request, {
    name: `${fieldId}-${desk.stored.plan.season.label}`,
    extension: 'plan.json',
    type: JSON_TYPE,
    says: writePlanFile(desk.stored.plan, desk.stored.history),
  });
}
