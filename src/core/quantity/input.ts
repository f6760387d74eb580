import { z } from 'zod';
import { outsideOf, rangeText, type Range } from './range';
import type { RefusalDetail } from './refusal';

/** A number of the open edge, with the range that its guard refuses outside of. */
export const num = (r: Range) => {
  const allowed = { error: rangeText(r) };
  return (r.above ? z.number(allowed).gt(r.min, allowed) : z.number(allowed).min(r.min, allowed))
    .max(r.max, allowed)
    .meta({
      title: r.label,
      description: `${r.label}${r.unit ? `, ${r.unit}` : ''}: ${rangeText(r)}`,
      ...(r.unit ? { 'x-unit': r.unit } : {}),
    });
};

const at = (raw: unknown, path: readonly PropertyKey[]): unknown =>
  path.reduce<unknown>(
    (v, k) =>
      v !== null && typeof v === 'object' ? (v as Record<PropertyKey, unknown>)[k] : undefined,
    raw,
  );

/**
 * The range in words. A schema read from a file of JSON has no words of its own: then its limit
 * speaks.
 */
const allowedBy = (issue: z.core.$ZodIssueTooSmall | z.core.$ZodIssueTooBig): string =>
  !issue.message.startsWith('Too ')
    ? issue.message
    : issue.code === 'too_small'
      ? `${issue.inclusive === false ? 'above ' : ''}${issue.minimum}${issue.inclusive === false ? '' : ' or more'}`
      : `${issue.maximum} or less`;

const MOST_TOLD = 200;
/** A value as a message can bear it: a table or a list is told as that, a long text is cut. */
const brief = (value: unknown): unknown =>
  Array.isArray(value)
    ? 'a list'
    : value !== null && typeof value === 'object'
      ? 'a table'
      : typeof value === 'string' && value.length > MOST_TOLD
        ? `${value.slice(0, MOST_TOLD)} ...`
        : value;

/** The first problem that Zod found, as a typed error that names field, value and allowed range. */
export function refusalOf(error: z.ZodError, raw: unknown): RefusalDetail {
  const issue = error.issues[0] as z.core.$ZodIssue;
  const path =
    issue.code === 'unrecognized_keys' ? [...issue.path, issue.keys[0] ?? ''] : issue.path;
  const whole =
    path
      .map((k, i) => (typeof k === 'number' ? `[${k}]` : `${i ? '.' : ''}${String(k)}`))
      .join('') || 'input';
  const field = String(brief(whole));
  const value = brief(at(raw, path));
  if (issue.code === 'unrecognized_keys')
    return {
      code: 'unknown_field',
      field,
      value,
      message: `${field} is not a field of this input.`,
    };
  if (issue.code === 'invalid_value') {
    const allowed = issue.values.map(String).join(', ');
    return value === undefined
      ? { code: 'missing', field, allowed, message: `${field} is missing: use one of ${allowed}.` }
      : {
          code: 'unknown_id',
          field,
          value,
          allowed,
          message: `${field} = ${String(value)} is not known: use one of ${allowed}.`,
        };
  }
  if (issue.code === 'too_small' || issue.code === 'too_big') {
    const allowed = allowedBy(issue);
    return {
      code: 'out_of_range',
      field,
      value,
      allowed,
      message: `${field} = ${String(value)} is ${outsideOf(allowed)}.`,
    };
  }
  if (value === undefined) return { code: 'missing', field, message: `${field} is missing.` };
  return {
    code: 'not_a_number',
    field,
    value,
    allowed: issue.message,
    message: `${field} = ${String(value)} does not fit: ${issue.message}.`,
  };
}

/**
 * A decimal number as people write it, with point or comma; null for anything else, such as 0x10,
 * 1e999 or an empty box.
 *
 * @example readDecimal('3,5') // 3.5
 */
export const readDecimal = (text: string): number | null =>
  /^[+-]?(\d+([.,]\d*)?|[.,]\d+)$/.test(text.trim()) ? Number(text.trim().replace(',', '.')) : null;
