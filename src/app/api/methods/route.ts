import { listedMethod } from '@/core/methods/openApi';
import { METHODS } from '@/core/methods/registry';
import { apiAnswer, onlyVerbs } from '@/server/apiAnswer';

/** All methods with the schemas of their input and output; quantities are in `/api/openapi.json`. */
export const GET = (): Response => apiAnswer(METHODS.map(listedMethod));
const other = onlyVerbs('GET');
export { other as POST, other as PUT, other as PATCH, other as DELETE };
