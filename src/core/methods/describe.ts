import type { Book } from '../book/book';
import { DICTIONARY } from './dictionary/dictionary';
import { choicesOf, type Choice } from './dictionary/keys';
import type { Quantity } from './dictionary/quantity';
import type { Field, Fields, QuantityName } from './fields';

/** A field with all that a screen or a page says of it. */
export interface FieldDescription {
  name: string;
  quantity: Quantity;
  optional: boolean;
  many: boolean;
  of: FieldDescription[] | null;
  /** What may be chosen, where that is a list. */
  choices: Choice[] | null;
}

/** Fields in the order in which a method names them. */
export const describeFields = (book: Book, fields: Fields): FieldDescription[] =>
  (Object.entries(fields) as [QuantityName, Field][]).map(([name, f]) => {
    const quantity: Quantity = DICTIONARY[name];
    return {
      name,
      quantity,
      optional: f.optional,
      many: f.many,
      of: f.of && describeFields(book, f.of),
      choices:
        quantity.kind === 'choice'
          ? Object.entries(quantity.choices).map(([value, label]) => ({ value, label }))
          : choicesOf(book, name),
    };
  });
