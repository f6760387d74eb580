import { NotAllowed } from '@/server/authorise';
import { download, JSON_TYPE, notFoundAnswer } from '@/server/download';
import { exportFarm } from '@/server/farmFile';
import { session } from '@/server/session';

export async function GET(request: Request, { params }: { params: Promise<{ farmId: string }> }) {
  const { db, actor } = await session();
  try {
    const { name, text } = await exportFarm(db, actor, (await params).farmId);
    return await download(request, { name, extension: 'farm.json', type: JSON_TYPE, says: text });
  } catch (e) {
    if (e instanceof NotAllowed) return notFoundAnswer();
    throw e;
  }
}
