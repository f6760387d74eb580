import { download, ZIP_TYPE } from '@/server/download';
import { ofFarmTables } from '@/server/farmDownload';
import { farmPackage } from '@/server/openTables';

/** All tables of a farm, described, as one data package. */
export async function GET(request: Request, { params }: { params: Promise<{ farmId: string }> }) {
  return ofFarmTables(params, (found) =>
    download(request, {
      name: `${found.name}-data`,
      extension: 'zip',
      type: ZIP_TYPE,
      says: JSON.stringify(found),
      body: () => Promise.resolve(farmPackage(found)),
    }),
  );
}
