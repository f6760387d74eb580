import { Refusal, type Answer } from '@/core/quantity/refusal';
import { NotAllowed } from './authorise';
import { diskProblem, failureLine } from './failure';

export async function answer<T>(work: () => Promise<T>): Promise<Answer<T>> {
  try {
    return { ok: true, value: await work() };
  } catch (e) {
    if (e instanceof Refusal) return { ok: false, refusal: e.detail };
    if (e instanceof NotAllowed)
      return { ok: false, refusal: { code: 'not_allowed', field: 'actor', message: e.message } };
    console.error(failureLine(e));
    const disk = diskProblem(e);
    return {
      ok: false,
      refusal: {
        code: 'server',
        field: disk ? 'disk' : 'server',
        message: disk
          ? `${disk}: nothing was saved. Free some space on this machine; what you typed stays here.`
          : 'The server could not do this. Nothing was changed; try again.',
      },
    };
  }
}
