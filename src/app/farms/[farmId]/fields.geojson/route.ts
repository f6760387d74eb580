import { download } from '@/server/download';
import { ofFarmTables } from '@/server/farmDownload';

/** Outlines of a farm's fields. */
export async function GET(request: Request, { params }: { params: Promise<{ farmId: string }> }) {
  return ofFarmTables(params, (found) =>
    download(request, {
      name: `${found.name}-fields`,
      extension: 'geojson',
      type: 'application/geo+json; charset=utf-8',
      says: `${JSON.stringify(found.outlines, null, 1)}\n`,
    }),
  );
}
