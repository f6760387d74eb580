import { sheetCsv } from '@/core/views/sheetCsv';
import { download, notFoundAnswer } from '@/server/download';
import { versionFor } from '@/server/plans';
import { session } from '@/server/session';

export async function GET(_: Request, { params }: { params: Promise<{ versionId: string }> }) {
  const { db, actor } = await session();
  const version = await versionFor(db, actor, (await params).versionId);
  return version
    ? download(
        sheetCsv(version.sheet),
        'text/csv; charset=utf-8',
        `${version.sheet.field.toLowerCase()}-version-${version.number}`,
        'csv',
      )
    : notFoundAnswer();
}
