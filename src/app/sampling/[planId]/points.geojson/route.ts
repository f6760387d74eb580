import { NotAllowed } from '@/server/authorise';
import { download, notFoundAnswer } from '@/server/download';
import { samplingGeojson, samplingToPrint } from '@/server/sampling';
import { session } from '@/server/session';

export async function GET(
  request: Request,
  { params }: { params: Promise<{ planId: string }> },
): Promise<Response> {
  const { db, actor } = await session();
  const found = await samplingToPrint(db, actor, (await params).planId).catch((e: unknown) => {
    if (e instanceof NotAllowed) return null;
    throw e;
  });
  if (!found?.field.outline) return notFoundAnswer();
  return download(request, {
    name: `${found.field.id}-sampling`,
    extension: 'geojson',
    type: 'application/geo+json',
    says: samplingGeojson(found),
  });
}
