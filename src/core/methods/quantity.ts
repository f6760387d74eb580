import { marketMoistureYield, usYieldToTHa } from '../quantity/cropYield';
import { convertForm } from '../quantity/forms';
import { cropOf } from '../book/crops';
import { need } from './fields';
import { calculation, type Method } from './method';

export const quantityMethods: readonly Method[] = [
  calculation({
    id: 'quantity.us_yield_to_t_ha',
    title: 'Yield per acre as t/ha',
    group: 'Units',
    chapter: '1, U1',
    takes: { crop_key: need(), yield_per_ac: need('yield_us_per_ac') },
    gives: { yield_t_ha: need() },
    run: (i, book) =>
      usYieldToTHa({
        yieldUsPerAc: i.yieldUsPerAc,
        kgPerUsUnit: cropOf(book, i.cropKey).kgPerUsUnit,
      }),
  }),
  calculation({
    id: 'quantity.market_moisture_yield',
    title: 'Yield at market moisture',
    group: 'Units',
    chapter: '1, U2',
    takes: {
      crop_key: need(),
      yield_wet_t_ha: need(),
      moisture_at_harvest_pct: need('moisture_wet_pct'),
    },
    gives: { yield_at_market_moisture_t_ha: need('yield_market_t_ha') },
    run: (i, book) =>
      marketMoistureYield({ ...i, marketMoisturePct: cropOf(book, i.cropKey).marketMoisturePct }),
  }),
  calculation({
    id: 'quantity.convert_form',
    title: 'Oxide or ion to element',
    group: 'Units',
    chapter: '1, U3',
    takes: { nutrient_form: need('from'), nutrient_amount: need('value') },
    gives: { element_amount: need('value'), element: need() },
    run: convertForm,
  }),
];
