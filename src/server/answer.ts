import { Refusal, type RefusalDetail } from '@/core/quantity/refusal';
import { NotAllowed } from './authorise';

/** What a server action gives back: a value, or the reason why not. What the user typed stays on the screen. */
export type Answer<T> = { ok: true; value: T } | { ok: false; refusal: RefusalDetail };

export async function answer<T>(work: () => Promise<T>): Promise<Answer<T>> {
  try {
    return { ok: true, value: await work() };
  } catch (e) {
    if (e instanceof Refusal) return { ok: false, refusal: e.detail };
    if (e instanceof NotAllowed)
      return { ok: false, refusal: { code: 'inconsistent', field: 'actor', message: e.message } };
    console.error(e);
    return {
      ok: false,
      refusal: {
        code: 'infeasible',
        field: 'server',
        message: 'The server could not do this. Nothing was changed; try again.',
      },
    };
  }
}
