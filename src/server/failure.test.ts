import { describe, expect, it } from 'vitest';
import { diskProblem, failureLine } from './failure';

const failed = (message: string, more: object = {}) => Object.assign(new Error(message), more);

describe('a failure inside', () => {
  it('is logged without the values of a query', () => {
    const e = failed('Failed query: update "fields" set "om_pct" = $1\nparams: 4.44,low-fleet', {
      query: 'update "fields" set "om_pct" = $1',
      params: [4.44, 'low-fleet'],
      cause: failed('value 4.44 of Low Fleet is wrong', { code: '23514' }),
    });
    expect(failureLine(e)).toContain('23514');
    expect(failureLine(e)).toContain('update "fields"');
    expect(failureLine(e)).not.toMatch(/4\.44|low-fleet|Low Fleet/);
    expect(failureLine('words')).toBe('Failure of an unknown kind');
  });
  it.each([
    [failed('x', { code: 'ENOSPC' }), 'The disk is full'],
    [failed('x', { cause: failed('y', { code: '53100' }) }), 'The disk is full'],
    [
      failed('x', { cause: failed('could not extend file: No space left on device') }),
      'The disk is full',
    ],
    [failed('x', { code: 'EROFS' }), 'The disk can’t be written'],
    [failed('x', { code: '58030' }), 'The disk does not answer as it should'],
    [failed('something else'), null],
  ])('of the disk is told as that: %#', (e, words) => expect(diskProblem(e)).toBe(words));
});
