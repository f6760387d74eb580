import { sheetCsv } from '@/core/views/sheetCsv';
import { CSV_TYPE, download, notFoundAnswer } from '@/server/download';
import { versionFor } from '@/server/plans';
import { session } from '@/server/session';

export async function GET(
  request: Request,
  { params }: { params: Promise<{ versionId: string }> },
) {
  const { db, actor } = await session();
  const version = await versionFor(db, actor, (await params).versionId);
  return version
    ? download(request, {
        name: `${version.sheet.field}-version-${version.number}`,
        extension: 'csv',
        type: CSV_TYPE,
        says: sheetCsv(version.sheet),
      })
    : notFoundAnswer();
}
