// Per hectare of what? A dressing's figures are per hectare that it is spread on; sums of a field,
// loads, offtake and yearly limits are per
// hectare of field. The two are different types, so that one is never taken for the other.

declare const BASIS: unique symbol;
/** A figure per hectare that is spread. */
export type PerHaSpread = number & { readonly [BASIS]: 'spread' };
/** A figure per hectare of field. */
export type PerHaField = number & { readonly [BASIS]: 'field' };

export const perHaSpread = (v: number): PerHaSpread => v as PerHaSpread;
export const perHaField = (v: number): PerHaField => v as PerHaField;

/**
 * A figure of a dressing as the mean over the field.
 *
 * @param areaFrac share of the field that it goes on, above 0 to 1
 * @example overField(perHaSpread(80), 0.25) // 20 kg/ha of field
 */
export const overField = (v: PerHaSpread, areaFrac: number): PerHaField => perHaField(v * areaFrac);
/** Sum of figures on one basis. @example sumField([perHaField(20), perHaField(5)]) // 25 */
export const sumField = (values: readonly PerHaField[]): PerHaField =>
  perHaField(values.reduce<number>((a, b) => a + b, 0));
