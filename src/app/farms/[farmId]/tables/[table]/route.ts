import { CSV_TYPE, download } from '@/server/download';
import { ofFarmTables } from '@/server/farmDownload';
import { openCsv, openTableOf } from '@/server/openTables';

/** One table of a farm as a CSV file; the address ends in the table's name, with .csv or not. */
export async function GET(
  request: Request,
  { params }: { params: Promise<{ farmId: string; table: string }> },
) {
  const { table } = await params;
  return ofFarmTables(params, (found) => {
    const wanted = openTableOf(found, table.replace(/\.csv$/u, ''));
    return download(request, {
      name: `${found.name}-${wanted.name}`,
      extension: 'csv',
      type: CSV_TYPE,
      says: openCsv(wanted),
    });
  });
}
