import { writePlanFile } from '@/core/document/seasonFile';
import { deskOf } from '@/server/plans';
import { session } from '@/server/session';

export async function GET(request: Request, { params }: { params: Promise<{ fieldId: string }> }) {
  const { db, actor } = await session();
  const { fieldId } = await params;
  const desk = await deskOf(db, actor, fieldId, new URL(request.url).searchParams.get('season'));
  if (!desk) return new Response('Not found', { status: 404 });
  return new Response(writePlanFile(desk.stored.plan, desk.stored.history), {
    headers: {
      'content-type': 'application/json; charset=utf-8',
      'content-disposition': `attachment; filename="${fieldId.replace(/[^a-z0-9-]/gi, '')}-${desk.stored.plan.season.label.replace('/', '-')}.plan.json"`,
    },
  });
}
