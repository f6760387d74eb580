import { onlyVerbs } from '@/server/apiAnswer';
import { importFile } from '@/server/laboratory';
import { session } from '@/server/session';
import { formBytes, formText, toldByLines, tooLarge } from '@/server/toldByLines';
import { revalidatePath } from 'next/cache';

/**
 * Imports a laboratory file and tells, line by line, how far it is; the last line is the answer.
 * All or nothing.
 */
export async function POST(request: Request): Promise<Response> {
  const refused = tooLarge(request);
  if (refused) return refused;
  const { db, actor } = await session();
  const form = await request.formData();
  const bytes = await formBytes(form);
  const told = toldByLines((progress) =>
    importFile(
      db,
      actor,
      formText(form, 'farmId'),
      formText(form, 'laboratory'),
      formText(form, 'fileName'),
      bytes,
      {
        answers: JSON.parse(formText(form, 'answers') || '{}') as unknown,
        anew: formText(form, 'anew') === 'true',
      },
      progress,
    ),
  );
  revalidatePath('/', 'layout');
  return told;
}
const other = onlyVerbs('POST');
export { other as GET, other as PUT, other as PATCH, other as DELETE };
