import type { FieldDescription } from './describe';
import type { Method } from './method';

/**
 * What a field is in a sentence, and whether it can be without: the same words on screen, in the
 * reference and on the command line.
 */
export const aboutField = (
  { quantity, optional }: Pick<FieldDescription, 'quantity' | 'optional'>,
  side: 'takes' | 'gives',
): string =>
  `${quantity.about}${optional ? (side === 'takes' ? ' May be left out.' : ' May be missing.') : ''}`;

/** Which fields say the same in several ways, in a sentence each. */
export const aboutAlternatives = ({ either }: Pick<Method, 'either'>): string[] =>
  either.map((names) => `Give one of ${names.join(', ')}.`);
