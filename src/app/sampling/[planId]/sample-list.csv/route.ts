import { NotAllowed } from '@/server/authorise';
import { samplingCsv, samplingToPrint } from '@/server/sampling';
import { session } from '@/server/session';

export async function GET(
  _: Request,
  { params }: { params: Promise<{ planId: string }> },
): Promise<Response> {
  const { db, actor } = await session();
  const found = await samplingToPrint(db, actor, (await params).planId).catch((e: unknown) => {
    if (e instanceof NotAllowed) return null;
    throw e;
  });
  if (!found) return new Response('Not found', { status: 404 });
  return new Response(samplingCsv(found), {
    headers: {
      'content-type': 'text/csv; charset=utf-8',
      'content-disposition': `attachment; filename="${found.field.id}-samples.csv"`,
    },
  });
}
