import { run } from '@/core/methods/registry';
import { textWithin } from '@/server/body';
import { Refusal } from '@/core/quantity/refusal';

const MAX_BYTES = 200_000;

/** Runs one method: JSON in, JSON out; a refused input answers 422 with the typed error. */
export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }) {
  const { id } = await params;
  const body = await textWithin(request, MAX_BYTES);
  if (body === null)
    return Response.json(
      {
        error: { code: 'out_of_range', field: 'body', message: 'The input is larger than 200 kB.' },
      },
      { status: 413 },
    );
  let input: unknown;
  try {
    input = JSON.parse(body);
  } catch {
    return Response.json(
      { error: { code: 'not_a_number', field: 'body', message: 'The input is not JSON.' } },
      { status: 400 },
    );
  }
  try {
    return Response.json(await run(id, input));
  } catch (e) {
    if (e instanceof Refusal)
      return Response.json(
        { error: e.detail },
        { status: e.detail.field === 'method' ? 404 : 422 },
      );
    throw e;
  }
}
