import { download, notFoundAnswer, XLSX } from '@/server/download';
import { versionFor } from '@/server/plans';
import { session } from '@/server/session';
import { sheetTables, workbookOf } from '@/server/xlsx';

export async function GET(_: Request, { params }: { params: Promise<{ versionId: string }> }) {
  const { db, actor } = await session();
  const version = await versionFor(db, actor, (await params).versionId);
  return version
    ? download(
        await workbookOf(sheetTables(version.sheet)),
        XLSX,
        `${version.sheet.field.toLowerCase()}-version-${version.number}`,
        'xlsx',
      )
    : notFoundAnswer();
}
