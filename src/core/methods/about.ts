import type { FieldDescription } from './describe';

/**
 * What a field is in a sentence, and whether it can be without: the same words on screen, in the
 * reference and on the command line.
 */
export const aboutField = (
  { quantity, optional }: Pick<FieldDescription, 'quantity' | 'optional'>,
  side: 'takes' | 'gives',
): string =>
  `${quantity.about}${optional ? (side === 'takes' ? ' May be left out.' : ' May be missing.') : ''}`;
