import { NotAllowed } from '@/server/authorise';
import { samplingGeojson, samplingToPrint } from '@/server/sampling';
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
  if (!found?.field.outline) return new Response('Not found', { status: 404 });
  return new Response(samplingGeojson(found), {
    headers: {
      'content-type': 'application/geo+json',
      'content-disposition': `attachment; filename="${found.field.id}-sampling.geojson"`,
    },
  });
}
