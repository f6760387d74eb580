import { NotAllowed } from '@/server/authorise';
import { download, notFoundAnswer } from '@/server/download';
import { exportFarm } from '@/server/farmFile';
import { session } from '@/server/session';

export async function GET(_: Request, { params }: { params: Promise<{ farmId: string }> }) {
  const { db, actor } = await session();
  try {
    const { name, text } = await exportFarm(db, actor, (await params).farmId);
    return download(text, 'application/json; charset=utf-8', name.toLowerCase(), 'farm.json');
  } catch (e) {
    if (e instanceof NotAllowed) return notFoundAnswer();
    throw e;
  }
}
