import type { RefusalDetail } from '@/core/quantity/refusal';
import packageFile from '../../package.json';

export const VERSION = packageFile.version;

/** An answer of the open edge: JSON, with the version of the program that gave it. */
export const apiAnswer = (body: unknown, init: ResponseInit = {}): Response =>
  Response.json(body, {
    ...init,
    headers: { 'x-patient-furrow-version': VERSION, ...(init.headers as Record<string, string>) },
  });
/** A refusal of the open edge, as every door tells it. */
export const apiRefusal = (
  status: number,
  error: RefusalDetail,
  headers: Record<string, string> = {},
): Response => apiAnswer({ error }, { status, headers });

/** A door that knows the path but not the verb says which verbs it knows. */
export const onlyVerbs =
  (...verbs: string[]) =>
  (): Response =>
    apiRefusal(
      405,
      {
        code: 'not_allowed',
        field: 'verb',
        allowed: verbs.join(', '),
        message: `This path answers ${verbs.join(' and ')} only.`,
      },
      { allow: verbs.join(', ') },
    );
