import { assess } from '@/core/assessment/assess';
import { buildSheet } from '@/core/views/sheet';
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
  if (!desk) return new Response('Not found', { status: 404 });
  return pdfResponse(
    buildSheet(desk.stored.plan, assess(desk.stored.plan)),
    'Working sheet, not agreed',
  );
}
