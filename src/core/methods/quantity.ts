import { z } from 'zod';
import { marketMoistureYield, usYieldToTHa } from '../quantity/cropYield';
import { convertForm } from '../quantity/forms';
import { cropOf } from '../book/crops';
import { method, type Method } from './method';

const n = z.number();

export const quantityMethods: readonly Method[] = [
  method({
    id: 'quantity.us_yield_to_t_ha',
    title: 'Yield per acre as t/ha',
    group: 'Units',
    chapter: '1, U1',
    input: z.strictObject({ crop_key: z.string(), yield_us_per_ac: n }),
    output: { yield_t_ha: n },
    run: (i, book) =>
      usYieldToTHa({
        yieldUsPerAc: i.yieldUsPerAc,
        kgPerUsUnit: cropOf(book, i.cropKey).kgPerUsUnit,
      }),
  }),
  method({
    id: 'quantity.market_moisture_yield',
    title: 'Yield at market moisture',
    group: 'Units',
    chapter: '1, U2',
    input: z.strictObject({ crop_key: z.string(), yield_wet_t_ha: n, moisture_wet_pct: n }),
    output: { yield_market_t_ha: n },
    run: (i, book) =>
      marketMoistureYield({ ...i, marketMoisturePct: cropOf(book, i.cropKey).marketMoisturePct }),
  }),
  method({
    id: 'quantity.convert_form',
    title: 'Oxide or ion to element',
    group: 'Units',
    chapter: '1, U3',
    input: z.strictObject({ from: z.string(), value: n }),
    output: { value: n },
    run: convertForm,
  }),
];
