import { notFoundAnswer } from '@/server/download';
import { pdfResponse } from '@/server/pdf';
import { versionFor } from '@/server/plans';
import { session } from '@/server/session';

export async function GET(
  request: Request,
  { params }: { params: Promise<{ versionId: string }> },
) {
  const { db, actor } = await session();
  const version = await versionFor(db, actor, (await params).versionId);
  if (!version) return notFoundAnswer();
  return pdfResponse(
    request,
    version.sheet,
    `Version ${version.number}, ${version.status === 'agreed' ? 'agreed by advisor and farmer' : 'not agreed'}`,
  );
}
