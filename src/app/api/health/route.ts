import { session } from '@/server/session';

export async function GET() {
  const { people } = await session();
  return Response.json({ ok: true, people: people.length });
}
