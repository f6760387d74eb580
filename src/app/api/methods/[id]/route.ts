import { run } from '@/core/methods/registry';
import { Refusal } from '@/core/quantity/refusal';
import { apiAnswer, apiRefusal, onlyVerbs } from '@/server/apiAnswer';
import { textWithin } from '@/server/body';

const MAX_BYTES = 200_000;

/** Runs one method: JSON in, JSON out; a refused input answers 422 with the typed error. */
export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  const { id } = await params;
  const body = await textWithin(request, MAX_BYTES);
  if (body === null)
    return apiRefusal(413, {
      code: 'out_of_range',
      field: 'body',
      allowed: 'up to 200 kB',
      message: 'The input is larger than 200 kB.',
    });
  let input: unknown;
  try {
    input = JSON.parse(body);
  } catch {
    return apiRefusal(400, {
      code: 'malformed',
      field: 'body',
      message: 'The input is not JSON.',
    });
  }
  try {
    return apiAnswer(await run(id, input));
  } catch (e) {
    if (e instanceof Refusal)
      return apiRefusal(e.detail.code === 'not_found' ? 404 : 422, e.detail);
    throw e;
  }
}
const other = onlyVerbs('POST');
export { other as GET, other as PUT, other as PATCH, other as DELETE };
