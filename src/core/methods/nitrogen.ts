import { z } from 'zod';
import { acidity, compoundFit, liquidConvert, productRate } from '../nitrogen/product';
import { numberOfPasses, splitAllocate, stopCheck } from '../nitrogen/split';
import { degreeDays } from '../nitrogen/stageClock';
import { additiveCheck, foliarLoad, tankMix, twoTankPlan } from '../nitrogen/tank';
import { num } from '../quantity/input';
import { method, type Method } from './method';

const n = z.number();
const maybe = n.nullish();
const text = z.string();
const target = num({ label: 'Nutrient wanted', unit: 'kg/ha', min: 0, max: 1000 });

export const nitrogenMethods: readonly Method[] = [
  method({
    id: 'nitrogen.product_rate',
    title: 'Product for a wanted nutrient',
    group: 'Products',
    chapter: '4, F2.1',
    input: z.strictObject({
      product_id: text,
      nutrient: text.nullish(),
      target_kg_ha: target,
      price_per_t: maybe,
    }),
    output: { product_kg_ha: n, cost_ha: n },
    run: (i, book) => productRate(book, i),
  }),
  method({
    id: 'nitrogen.liquid_convert',
    title: 'Liquid rate in litres, gallons and kg',
    group: 'Products',
    chapter: '4, F2.2',
    input: z.strictObject({ product_id: text, gal_ac: maybe, l_ha: maybe }),
    output: { l_ha: n, product_kg_ha: n, n_kg_ha: n },
    run: (i, book) => liquidConvert(book, i),
  }),
  method({
    id: 'nitrogen.compound_fit',
    title: 'Compound and straights',
    group: 'Products',
    chapter: '4, F2.3',
    output: { cost_ha: n },
    input: z.strictObject({
      n_kg_ha: target,
      p_kg_ha: target,
      k_kg_ha: target,
      compound_id: text,
      n_share_max: maybe,
      mode: z.enum(['limit', 'cover']).nullish(),
      tolerance: num({ label: 'Tolerance', unit: '', min: 0, max: 0.5 }).nullish(),
      straight_n: text.nullish(),
      straight_p: text.nullish(),
      straight_k: text.nullish(),
    }),
    run: (i, book) => compoundFit(book, i),
  }),
  method({
    id: 'nitrogen.tank_mix',
    title: 'Tank mix',
    group: 'Products',
    chapter: '4, F2.5',
    input: z.strictObject({ components: z.array(z.strictObject({ product_id: text, l: n })) }),
    output: { density_kg_l: n, worst_pair: text },
    run: (i, book) => tankMix(book, i),
  }),
  method({
    id: 'nitrogen.foliar_load',
    title: 'Does this spray hold a meaningful amount',
    group: 'Products',
    chapter: '4, F2.6',
    output: { load_kg_ha: n, verdict: text, burn: text },
    input: z.strictObject({
      product_id: text,
      product_l_ha: maybe,
      product_kg_ha: maybe,
      nutrient: text,
      spray_volume_l_ha: n,
      remaining_need_kg_ha: n,
      peak_daily_uptake_kg_ha: maybe,
      leaf_recovery_frac: maybe,
      crop_group: text.nullish(),
    }),
    run: (i, book) => foliarLoad(book, i),
  }),
  method({
    id: 'nitrogen.two_tank_plan',
    title: 'Two tanks on one toolbar',
    group: 'Products',
    chapter: '4, F2.7',
    output: { ha_per_stop: n, work_rate_ha_h: n },
    input: z.strictObject({
      swath_m: n,
      speed_km_h: n,
      outlets: n,
      tanks: z.array(z.strictObject({ product_id: text, n_kg_ha: maybe, l_ha: maybe, tank_l: n })),
    }),
    run: (i, book) => twoTankPlan(book, i),
  }),
  method({
    id: 'nitrogen.acidity',
    title: 'Acid that a plan leaves',
    group: 'Products',
    chapter: '4, F2.8',
    input: z.strictObject({
      products: z.array(z.strictObject({ product_id: text, product_kg_ha: n })),
    }),
    output: { caco3_kg_ha: n },
    run: (i, book) => {
      const r = acidity(book, i);
      return {
        caco3_kg_ha: r.caco3KgHa,
        caco3_kg_ha_if_all_nitrate_leaches: r.caco3KgHaIfAllNitrateLeaches,
        years_per_t_lime: r.yearsPerTLime,
      };
    },
  }),
  method({
    id: 'nitrogen.additive_check',
    title: 'N that an additive must save',
    group: 'Products',
    chapter: '4, F2.9',
    input: z.strictObject({ cost_per_ha: n, n_price_per_kg: n, sugar_kg_ha: maybe }),
    output: { break_even_n_kg_ha: n, n_tied_up_kg_ha: n },
    run: additiveCheck,
  }),
  method({
    id: 'season.degree_days',
    title: 'Degree-days',
    group: 'Split',
    chapter: '4, F5.1',
    input: z.strictObject({ crop_id: text, days_tmin_tmax: z.array(z.tuple([n, n])) }),
    output: { gdd_by_day: z.array(n), gdd_sum: n },
    run: (i) => degreeDays({ cropId: i.cropId, daysTminTmax: i.daysTminTmax }),
  }),
  method({
    id: 'nitrogen.number_of_passes',
    title: 'Number of N passes',
    group: 'Split',
    chapter: '4, F5.3',
    input: z.strictObject({
      crop_id: text,
      n_total_kg_ha: n,
      expected_drainage_mm: n,
      split_class: text,
      coated_or_inhibited: z.boolean().nullish(),
    }),
    output: { wanted: n, n_passes: n, template_id: text },
    run: numberOfPasses,
  }),
  method({
    id: 'nitrogen.split_allocate',
    title: 'Size of each N pass',
    group: 'Split',
    chapter: '4, F5.4',
    output: { shares: z.array(n), doses_kg_ha: z.array(n), unplaced_kg_ha: n },
    input: z.strictObject({
      template_id: text,
      n_total_kg_ha: n,
      u_total_kg_ha: n,
      soil_supply_kg_ha: z.array(n),
      max_dose_kg_ha: z.array(n).nullish(),
      recovery_frac: z.array(n).nullish(),
    }),
    run: splitAllocate,
  }),
  method({
    id: 'nitrogen.stop_check',
    title: 'Is N still in time',
    group: 'Split',
    chapter: '4, F5.9',
    input: z.strictObject({
      crop_id: text,
      use: text.nullish(),
      bbch: text,
      foliar: z.boolean().nullish(),
    }),
    output: { last_bbch: text.nullable(), level: text, harm: text },
    run: stopCheck,
  }),
];
