import { apiRefusal } from '@/server/apiAnswer';

/** Whatever else is asked for under /api: told in JSON, as the rest of it. */
const nothing = (request: Request): Response =>
  apiRefusal(404, {
    code: 'not_found',
    field: 'path',
    value: new URL(request.url).pathname,
    message: 'There is nothing at this path. /api/openapi.json describes what there is.',
  });
export { nothing as GET, nothing as POST, nothing as PUT, nothing as PATCH, nothing as DELETE };
