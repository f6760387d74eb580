import { apiAnswer, onlyVerbs } from '@/server/apiAnswer';
import { schemas } from '@/server/schemas';

/** Schemas of the files, by name and version. */
export const GET = (): Response =>
  apiAnswer(
    schemas().map(({ name, title, version }) => ({
      name,
      title,
      version,
      href: `/api/schemas/${name}`,
    })),
  );
const other = onlyVerbs('GET');
export { other as POST, other as PUT, other as PATCH, other as DELETE };
