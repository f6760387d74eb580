import { NotAllowed } from '@/server/authorise';
import { pdfResponse } from '@/server/pdf';
import { readVersion } from '@/server/plans';
import { session } from '@/server/session';

export async function GET(_: Request, { params }: { params: Promise<{ versionId: string }> }) {
  const { db, actor } = await session();
  const version = await readVersion(db, actor, (await params).versionId).catch((e: unknown) => { if (e instanceof NotAllowed) return null; throw e; });
  if (!version) return new Response('Not found', { status: 404 });
  return pdfResponse(version.sheet, `Version ${version.number}, ${version.status === 'agreed' ? 'agreed by advisor and farmer' : 'not agreed'}`);
}
