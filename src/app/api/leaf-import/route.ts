import { onlyVerbs } from '@/server/apiAnswer';
import { importLeaves } from '@/server/leafImport';
import { session } from '@/server/session';
import { formBytes, formText, toldByLines, tooLarge } from '@/server/toldByLines';
import { revalidatePath } from 'next/cache';

/** Imports the leaves of a laboratory file and tells how far it is. All or nothing. */
export async function POST(request: Request): Promise<Response> {
  const refused = tooLarge(request);
  if (refused) return refused;
  const { db, actor } = await session();
  const form = await request.formData();
  const bytes = await formBytes(form);
  const told = toldByLines((progress) =>
    importLeaves(
      db,
      actor,
      {
        farmId: formText(form, 'farmId'),
        laboratory: formText(form, 'laboratory'),
        fileName: formText(form, 'fileName'),
        bytes,
        answers: JSON.parse(formText(form, 'answers') || '{}') as unknown,
      },
      progress,
    ),
  );
  revalidatePath('/', 'layout');
  return told;
}
const other = onlyVerbs('POST');
export { other as GET, other as PUT, other as PATCH, other as DELETE };
