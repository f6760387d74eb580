import { NotAllowed } from '@/server/authorise';
import { CSV_TYPE, download, notFoundAnswer } from '@/server/download';
import { samplingCsv, samplingToPrint } from '@/server/sampling';
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
  if (!found) return notFoundAnswer();
  return download(request, {
    name: `${found.field.id}-samples`,
    extension: 'csv',
    type: CSV_TYPE,
    says: samplingCsv(found),
  });
}
