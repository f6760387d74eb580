import type { Answer } from '@/core/quantity/refusal';
import { answer } from './answer';
import { apiRefusal } from './apiAnswer';

const MAX_FORM_BYTES = 12 * 1024 * 1024;
export type Progress = (p: { done: number; of: number }) => Promise<void>;

/** A text field of a form; nothing where it is not there. */
export const formText = (form: FormData, key: string): string => {
  const v = form.get(key);
  return typeof v === 'string' ? v : '';
};
/** The file of a form. */
export async function formBytes(form: FormData): Promise<Uint8Array> {
  const file = form.get('file');
  return file instanceof File ? new Uint8Array(await file.arrayBuffer()) : new Uint8Array();
}
/** A form that is larger than a file may be, refused before it is read. */
export const tooLarge = (request: Request): Response | null =>
  Number(request.headers.get('content-length') ?? 0) > MAX_FORM_BYTES
    ? apiRefusal(413, {
        code: 'out_of_range',
        field: 'file',
        message: 'The file is too large: at most 10 MB are read.',
      })
    : null;

/** Work that tells, line by line, how far it is; the last line is its answer. */
export function toldByLines<T>(work: (progress: Progress) => Promise<T>): Response {
  const stream = new ReadableStream<Uint8Array>({
    async start(controller) {
      const say = (line: { progress: { done: number; of: number } } | Answer<T>) => {
        controller.enqueue(new TextEncoder().encode(`${JSON.stringify(line)}\n`));
      };
      say(
        await answer(() =>
          work(async (progress) => {
            say({ progress });
            // The database works in this thread: without a turn of the loop no progress would
            // leave the house.
            await new Promise((resolve) => {
              setImmediate(resolve);
            });
          }),
        ),
      );
      controller.close();
    },
  });
  return new Response(stream, {
    headers: { 'content-type': 'application/x-ndjson; charset=utf-8', 'cache-control': 'no-store' },
  });
}
