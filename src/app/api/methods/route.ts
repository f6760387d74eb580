import { METHODS } from '@/core/methods/registry';
import { objectSchema } from '@/core/methods/openApi';
import { apiAnswer, onlyVerbs } from '@/server/apiAnswer';

/** All methods with the schemas of their input and output; quantities are in `/api/openapi.json`. */
export const GET = (): Response =>
  apiAnswer(
    METHODS.map(({ id, title, group, chapter, fields }) => ({
      id,
      title,
      group,
      chapter,
      input: objectSchema(fields.takes, false),
      output: objectSchema(fields.gives, true),
    })),
  );
const other = onlyVerbs('GET');
export { other as POST, other as PUT, other as PATCH, other as DELETE };
