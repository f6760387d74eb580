import { choice, key, number, text } from './quantity';

// Quantities that more than one group of methods speaks of.

export const common = {
  crop_key: key('Crop', 'The crop, by its key in the library.'),
  product_id: key('Product', 'A fertiliser of the library, by its id.'),
  nutrient: text('Nutrient', 'Symbol of the nutrient, such as n, p, k, s or zn.'),
  growth_stage_bbch: number(
    'Growth stage',
    '',
    [0, 99],
    'Principal and secondary growth stage by the BBCH scale.',
    {
      symbol: 'BBCH',
    },
  ),
  yield_t_ha: number('Yield', 't/ha', [0, 300], 'Yield at market moisture.'),
  product_kg_ha: number('Product', 'kg/ha', [0, 5000], 'Weight of product on a hectare.'),
  product_l_ha: number('Product', 'L/ha', [0, 50_000], 'Volume of liquid product on a hectare.'),
  product_price_per_t: number(
    'Price of the product',
    'per t',
    [0, 100_000],
    'Price of a tonne of product, in the money of the farm.',
    {
      usual: [100, 2000],
    },
  ),
  product_cost_per_ha: number('Cost', 'money/ha', [0, 1e6], 'Price of the product on a hectare.'),
  n_price_per_kg: number('Price of N', 'per kg', [0, 1e5], 'Price of a kilogram of N, spread.'),
  n_kg_ha: number('N', 'kg/ha', [0, 2000], 'Nitrogen on a hectare.', { symbol: 'N' }),
  p_kg_ha: number('P', 'kg/ha', [0, 2000], 'Phosphorus on a hectare, as the element.', {
    symbol: 'P',
  }),
  k_kg_ha: number('K', 'kg/ha', [0, 2000], 'Potassium on a hectare, as the element.', {
    symbol: 'K',
  }),
  s_kg_ha: number('S', 'kg/ha', [0, 2000], 'Sulphur on a hectare, as the element.', {
    symbol: 'S',
  }),
  level: choice('Level', 'How grave it is.', {
    none: 'nothing to say',
    ok: 'nothing in the way',
    info: 'for information',
    caution: 'wants a look',
    stop: 'wants to be put right first',
  }),
  confidence: choice('Confidence', 'How far a figure can be trusted.', {
    low: 'low',
    medium: 'medium',
    high: 'high',
  }),
  source: text('Source', 'Where a figure comes from.'),
} as const;
