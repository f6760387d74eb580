import type { FieldDescription } from '@/core/methods/describe';
import type { NumberQuantity } from '@/core/methods/dictionary/quantity';

/** What is entered, by the names of the fields. */
export type Values = Record<string, unknown>;

/** What a number of the quantity is taken as, in the form of the house's boxes. */
export const rangeOf = (q: Pick<NumberQuantity, 'label' | 'unit' | 'min' | 'max' | 'above'>) => ({
  label: q.label,
  unit: q.unit,
  min: q.min,
  max: q.max,
  ...(q.above ? { above: true } : {}),
});

/** A row with nothing in it yet. */
export const blankRow = (of: readonly FieldDescription[]): Values =>
  Object.fromEntries(of.filter((f) => f.many && f.of).map((f) => [f.name, []]));

/**
 * Numbers as somebody lists them. With semicolons between them a comma is a decimal one; else it
 * parts them, before a blank. A comma right between two digits could be either: it stays a text,
 * which is refused by name.
 */
export const numbersIn = (text: string): (number | string)[] => {
  const decimalComma = text.includes(';');
  return text
    .split(decimalComma ? /[;\s]+/u : /,\s+|\s+/u)
    .filter(Boolean)
    .map((t) => {
      const v = Number(decimalComma ? t.replace(',', '.') : t);
      return Number.isFinite(v) ? v : t;
    });
};

/** Entries without empty ones: what nobody gave is not sent. */
export const given = (values: Values): Values =>
  Object.fromEntries(
    Object.entries(values).filter(([, v]) => v !== null && v !== undefined && v !== ''),
  );

/** Whether a field of the form is the one that a refusal speaks of, or holds it. */
export const speaksOf = (refused: string, name: string): boolean =>
  refused === name || refused.startsWith(`${name}.`) || refused.startsWith(`${name}[`);
