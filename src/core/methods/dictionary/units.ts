import { choice, key, number } from './quantity';

/** Yields and forms, as they are written outside of the book. */
export const units = {
  yield_per_ac: number(
    'Yield per acre',
    '',
    [0, 100_000],
    'Yield per acre in the crop’s own customary unit, such as bushels.',
  ),
  yield_wet_t_ha: number(
    'Yield as harvested',
    't/ha',
    [0, 100_000],
    'Yield at the moisture of harvest.',
  ),
  moisture_at_harvest_pct: number(
    'Moisture at harvest',
    '%',
    [0, 99],
    'Water in the fresh harvest, by weight.',
  ),
  yield_at_market_moisture_t_ha: number(
    'Yield at market moisture',
    't/ha',
    [0, 300],
    'The same dry matter at the moisture that the market reckons with.',
  ),
  nutrient_form: key(
    'Form',
    'The oxide or ion that a figure is given in, such as p2o5, k2o or no3.',
  ),
  nutrient_amount: number('Amount', '', [0, 1e6], 'An amount in that form, in any unit.'),
  element_amount: number(
    'Amount of the element',
    '',
    [0, 1e6],
    'The same amount as the element, in the same unit.',
  ),
  element: choice('Element', 'What the form is told as.', {
    N: 'N',
    P: 'P',
    K: 'K',
    S: 'S',
    Ca: 'Ca',
    Mg: 'Mg',
    'NO3-N': 'nitrate-N',
    'NH4-N': 'ammonium-N',
    'SO4-S': 'sulphate-S',
  }),
} as const;
