import { refuse } from './refusal';

/**
 * Divisors from the named form to the element (chapter 1, U3): the one table of them. A
 * laboratory's value in that form is divided by it.
 */
const FORM_DIVISORS = {
  p2o5: { divisor: 2.2914, element: 'P' },
  k2o: { divisor: 1.2046, element: 'K' },
  so4: { divisor: 2.9961, element: 'S' },
  so3: { divisor: 2.4972, element: 'S' },
  no3: { divisor: 4.4268, element: 'NO3-N' },
  nh4: { divisor: 1.2878, element: 'NH4-N' },
  mgo: { divisor: 1.6583, element: 'Mg' },
  cao: { divisor: 1.3992, element: 'Ca' },
  nh3: { divisor: 1.2159, element: 'NH3-N' },
} as const;
export type NamedForm = keyof typeof FORM_DIVISORS;

/**
 * How much of its element one unit of a form holds.
 *
 * @example elementShare('k2o') // 0.8302
 */
export const elementShare = (form: NamedForm): number => 1 / FORM_DIVISORS[form].divisor;

/**
 * Element contained in a named form (U3).
 *
 * @param value amount of the form, any mass or concentration unit, 0 or more
 * @throws Refusal for an unknown form or a negative value
 * @example convertForm({ from: 'p2o5', value: 60 }).value // 26.1849 kg P
 */
export function convertForm({ from, value }: { from: string; value: number }): {
  value: number;
  element: string;
} {
  if (!Number.isFinite(value) || value < 0)
    refuse('out_of_range', 'value', `value = ${value} is outside 0 and above.`, {
      value,
      allowed: '0 and above',
    });
  const form = FORM_DIVISORS[from as NamedForm];
  if (!form)
    refuse(
      'unknown_id',
      'from',
      `from = ${from} is not a form this table converts: use one of ${Object.keys(FORM_DIVISORS).join(', ')}.`,
      { value: from },
    );
  return { value: value / form.divisor, element: form.element };
}
