import type { RefusalDetail } from '@/core/quantity/refusal';

/** What a server action gives back: a value, or the reason why not. */
export type Answer<T> = { ok: true; value: T } | { ok: false; refusal: RefusalDetail };
