import { apiAnswer, apiRefusal, onlyVerbs } from '@/server/apiAnswer';
import { schemas } from '@/server/schemas';

/** One schema of a file. */
export async function GET(
  _: Request,
  { params }: { params: Promise<{ name: string }> },
): Promise<Response> {
  const { name } = await params;
  const all = schemas();
  const found = all.find((s) => s.name === name.replace(/\.json$/u, ''));
  return found
    ? apiAnswer(found.schema, { headers: { 'content-type': 'application/schema+json' } })
    : apiRefusal(404, {
        code: 'not_found',
        field: 'name',
        value: name,
        allowed: all.map((s) => s.name).join(', '),
        message: `There is no schema ${name}.`,
      });
}
const other = onlyVerbs('GET');
export { other as POST, other as PUT, other as PATCH, other as DELETE };
