import { Refusal } from '@/core/quantity/refusal';
import { NotAllowed } from '@/server/authorise';
import { download, notFoundAnswer, ZIP_TYPE } from '@/server/download';
import { libraryPackage } from '@/server/openTables';
import { session } from '@/server/session';

/** The tables of a farm's library, described, as one data package. */
export async function GET(request: Request, { params }: { params: Promise<{ farmId: string }> }) {
  const { db, actor } = await session();
  try {
    const packed = await libraryPackage(db, actor, (await params).farmId);
    return await download(request, {
      name: 'library',
      extension: 'zip',
      type: ZIP_TYPE,
      says: Buffer.from(packed).toString('base64'),
      body: () => Promise.resolve(packed),
    });
  } catch (e) {
    if (e instanceof NotAllowed || e instanceof Refusal) return notFoundAnswer();
    throw e;
  }
}
