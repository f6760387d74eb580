import { openApi } from '@/core/methods/openApi';
import { workedExamples } from '@/core/methods/workedExample';
import { apiAnswer, onlyVerbs, VERSION } from '@/server/apiAnswer';

/** The open edge described for programs. */
export const GET = async (): Promise<Response> =>
  apiAnswer(openApi(VERSION, await workedExamples()));
const other = onlyVerbs('GET');
export { other as POST, other as PUT, other as PATCH, other as DELETE };
