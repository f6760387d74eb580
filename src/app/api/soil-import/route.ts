import { answer } from '@/server/answer';
import { apiRefusal, onlyVerbs } from '@/server/apiAnswer';
import { importFile } from '@/server/laboratory';
import { session } from '@/server/session';
import { revalidatePath } from 'next/cache';

const text = (form: FormData, key: string): string => {
  const v = form.get(key);
  return typeof v === 'string' ? v : '';
};
const MAX_FORM_BYTES = 12 * 1024 * 1024;

/**
 * Imports a laboratory file and tells, line by line, how far it is; the last line is the answer.
 * All or nothing.
 */
export async function POST(request: Request): Promise<Response> {
  if (Number(request.headers.get('content-length') ?? 0) > MAX_FORM_BYTES)
    return apiRefusal(413, {
      code: 'out_of_range',
      field: 'file',
      message: 'The file is too large: at most 10 MB are read.',
    });
  const { db, actor } = await session();
  const form = await request.formData();
  const file = form.get('file');
  const bytes = file instanceof File ? new Uint8Array(await file.arrayBuffer()) : new Uint8Array();
  const stream = new ReadableStream<Uint8Array>({
    async start(controller) {
      const say = (line: unknown) => {
        controller.enqueue(new TextEncoder().encode(`${JSON.stringify(line)}\n`));
      };
      const reply = await answer(() =>
        importFile(
          db,
          actor,
          text(form, 'farmId'),
          text(form, 'laboratory'),
          text(form, 'fileName'),
          bytes,
          {
            answers: JSON.parse(text(form, 'answers') || '{}') as unknown,
            anew: text(form, 'anew') === 'true',
          },
          async (progress) => {
            say({ progress });
            // The database works in this thread: without a turn of the loop no progress would
            // leave the house.
            await new Promise((resolve) => {
              setImmediate(resolve);
            });
          },
        ),
      );
      say(reply);
      controller.close();
    },
  });
  revalidatePath('/', 'layout');
  return new Response(stream, {
    headers: { 'content-type': 'application/x-ndjson; charset=utf-8', 'cache-control': 'no-store' },
  });
}
const other = onlyVerbs('POST');
export { other as GET, other as PUT, other as PATCH, other as DELETE };
