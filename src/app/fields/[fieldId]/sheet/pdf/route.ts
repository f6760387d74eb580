import { sheetOfPlan } from '@/core/views/figures';
import { notFoundAnswer } from '@/server/download';
import { pdfResponse } from '@/server/pdf';
import { deskOf } from '@/server/plans';
import { session } from '@/server/session';

export async function GET(request: Request, { params }: { params: Promise<{ fieldId: string }> }) {
  const { db, actor } = await session();
  const desk = await deskOf(
    db,
    actor,
    (await params).fieldId,
    new URL(request.url).searchParams.get('season'),
  );
  if (!desk) return notFoundAnswer();
  return pdfResponse(request, sheetOfPlan(desk.stored.plan), 'Working sheet, not agreed');
}
