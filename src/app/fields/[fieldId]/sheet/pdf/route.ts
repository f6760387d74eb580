import { sheetOfPlan } from '@/core/views/figures';
import { standingWords } from '@/core/views/standing';
import { notFoundAnswer, unitsAsked } from '@/server/download';
import { pdfResponse } from '@/server/pdf';
import { deskOf, standingOf } from '@/server/plans';
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
  const { plan } = desk.stored;
  return pdfResponse(
    request,
    sheetOfPlan(plan, unitsAsked(request)),
    standingWords(plan, await standingOf(db, desk.versions)),
  );
}
