import { session } from '@/server/session';
import { foundFields } from '@/server/summaries';

/** Fields by their name, for the palette: `?q=` words of it. */
export async function GET(request: Request) {
  const { db, actor } = await session();
  return Response.json(
    await foundFields(db, actor, new URL(request.url).searchParams.get('q') ?? ''),
  );
}
