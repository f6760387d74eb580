/** Why an input was refused. The codes are the ones the open edge publishes. */
export type RefusalCode =
  | 'missing'
  | 'not_a_number'
  | 'out_of_range'
  | 'inconsistent'
  | 'unknown_id'
  | 'infeasible'
  | 'unknown_field'
  | 'newer_version'
  /** No such method, field or file. */
  | 'not_found'
  /** Somebody else changed the same thing first. */
  | 'conflict'
  | 'malformed'
  | 'not_allowed'
  | 'server';

export interface RefusalDetail {
  code: RefusalCode;
  /** Name of the input, as the caller wrote it. */
  field: string;
  value?: unknown;
  /** What would have been accepted, in words. */
  allowed?: string;
  message: string;
  /** Id of the chapter's rule, when a rule refuses. */
  rule?: string;
}

/**
 * What a door gives back: a value, or the reason why not. What the user typed stays on the screen.
 */
export type Answer<T> = { ok: true; value: T } | { ok: false; refusal: RefusalDetail };

/**
 * A refused input. Core never returns NaN or a silently clamped figure: it throws this,
 * naming the field, the value and what is allowed.
 *
 * @example refuse('inconsistent', 'product_id', 'urea_46 contains no k') // throws 'urea_46
 * contains no k'
 */
export class Refusal extends Error {
  readonly detail: RefusalDetail;
  constructor(detail: RefusalDetail) {
    super(detail.message);
    this.name = 'Refusal';
    this.detail = detail;
  }
}

export function refuse(
  code: RefusalCode,
  field: string,
  message: string,
  more: Partial<RefusalDetail> = {},
): never {
  throw new Refusal({ code, field, message, ...more });
}
