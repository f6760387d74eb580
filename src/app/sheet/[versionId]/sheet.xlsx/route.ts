import { download, notFoundAnswer, XLSX_TYPE } from '@/server/download';
import { versionFor } from '@/server/plans';
import { session } from '@/server/session';
import { sheetTables, workbookOf } from '@/server/xlsx';

export async function GET(
  request: Request,
  { params }: { params: Promise<{ versionId: string }> },
) {
  const { db, actor } = await session();
  const version = await versionFor(db, actor, (await params).versionId);
  return version
    ? download(request, {
        name: `${version.sheet.field}-version-${version.number}`,
        extension: 'xlsx',
        type: XLSX_TYPE,
        says: JSON.stringify(version.sheet),
        body: () => workbookOf(sheetTables(version.sheet)),
      })
    : notFoundAnswer();
}
