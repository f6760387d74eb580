import { fertiliserOf, placementOf, type Fertiliser } from '../book/fertilisers';
import type { Book } from '../book/book';
import { daysBetween, type IsoDate } from '../quantity/calendar';
import { within, type Range } from '../quantity/range';
import { poolIndex } from './params';
import type { SeasonEvent } from './record';
import { LAYER_CM, overLayers } from './site';

// What is done to a field, ready to be applied on its day (chapter 4, S3).

/** N of one event, by form and where it goes; all figures kg/ha. */
export interface NitrogenEvent {
  kind: 'nitrogen';
  day: number;
  /** N that is brought in all, by the label or the analysis. */
  broughtKgHa: number;
  organic: boolean;
  no3: number;
  nh4: number;
  urea: number;
  /** Lost at once where the slot of injected ammonia does not close. */
  lostAtOnce: number;
  /** Ammonium on top goes to the air as urea does, or as a salt does. */
  ureaLike: boolean;
  ui: boolean;
  ni: boolean;
  surfFrac: number;
  shares: Float64Array;
  /** Into the leaf, of what stands in soluble form, where the crop has emerged. */
  leafFrac: number;
  coat: { kgHa: number; t80: number } | null;
  pool: { at: number; nKgHa: number; cToN: number } | null;
  /** Manure whose loss to the air is reckoned elsewhere: all of it goes into the ground. */
  retained: boolean;
}
export interface TillEvent {
  kind: 'till';
  day: number;
  layers: number;
}
export interface WaterEvent {
  kind: 'water';
  day: number;
  mm: number;
  no3: number;
}
export type RunEvent = NitrogenEvent | TillEvent | WaterEvent;

const span = (label: string, unit: string, min: number, max: number): Range => ({
  label,
  unit,
  min,
  max,
});
const KG = (label: string): Range => span(label, 'kg/ha', 0, 400);
const UREA_LIKE = ['ammonia', 'alkaline'];

/** How a product's N is held, as shares of what its label says. */
function formsOf(f: Fertiliser): Record<'no3' | 'nh4' | 'urea' | 'slow', number> {
  const total = f.nTotalPct;
  const of = (pct: number) => (total > 0 ? pct / total : 0);
  return {
    no3: of(f.nNitratePct),
    nh4: of(f.nAmmoniumPct),
    urea: of(f.nUreaPct),
    slow: of(f.nSlowPct),
  };
}

function fertilised(
  book: Book,
  e: Extract<SeasonEvent, { type: 'fertilise' }>,
  field: string,
  day: number,
  layers: number,
  leafFrac: number,
): NitrogenEvent {
  const product = fertiliserOf(book, e.productId, `${field}.product_id`);
  const place = placementOf(e.placementId);
  const n = within(`${field}.n_kg_ha`, e.nKgHa, KG('N'));
  const closure = within(`${field}.closure_loss_frac`, e.closureLossFrac ?? 0, {
    ...span('Lost at the slot', '', 0, 1),
  });
  const forms = formsOf(product);
  const slow = n * forms.slow;
  return {
    kind: 'nitrogen',
    day,
    broughtKgHa: n,
    organic: false,
    no3: n * forms.no3,
    nh4: n * forms.nh4 * (1 - closure),
    urea: n * forms.urea,
    lostAtOnce: n * forms.nh4 * closure,
    ureaLike: UREA_LIKE.includes(product.nh4AnionClass),
    ui: product.ureaseInhibitor === 1,
    ni: product.nitrificationInhibitor === 1,
    surfFrac: place.surfFrac,
    shares: overLayers(layers, place.depthFromCm, place.depthToCm),
    leafFrac: place.onLeaf ? leafFrac : 0,
    coat:
      slow > 0 && product.slowType === 'coated'
        ? { kgHa: slow, t80: product.slowT80Days20c ?? 1 }
        : null,
    pool:
      slow > 0 && product.slowType === 'organic'
        ? {
            at: poolIndex(product.orgPool ?? '', `${field}.product_id`),
            nKgHa: slow,
            cToN: product.orgCToN ?? 10,
          }
        : null,
    retained: false,
  };
}

function dressed(
  e: Extract<SeasonEvent, { type: 'organic' }>,
  field: string,
  day: number,
  layers: number,
): NitrogenEvent {
  const place = placementOf(e.placementId);
  const org = within(`${field}.n_org_kg_ha`, e.nOrgKgHa, span('Organic N', 'kg/ha', 0, 2000));
  const nh4 = within(`${field}.nh4_n_kg_ha`, e.nh4NKgHa ?? 0, KG('Ammonium-N'));
  const no3 = within(`${field}.no3_n_kg_ha`, e.no3NKgHa ?? 0, KG('Nitrate-N'));
  return {
    kind: 'nitrogen',
    day,
    broughtKgHa: org + nh4 + no3,
    organic: true,
    no3,
    nh4,
    urea: 0,
    lostAtOnce: 0,
    ureaLike: true,
    ui: false,
    ni: false,
    surfFrac: place.surfFrac,
    shares: overLayers(layers, place.depthFromCm, place.depthToCm),
    leafFrac: 0,
    coat: null,
    pool: {
      at: poolIndex(e.poolId, `${field}.pool_id`),
      nKgHa: org,
      cToN: within(`${field}.c_to_n`, e.cToN, span('C:N', '', 1, 500)),
    },
    retained: e.nh4Retained === true,
  };
}

/**
 * The events of a run on their days, in the order of the list within a day.
 *
 * @throws Refusal that names the event and what of it is wrong
 */
export function eventsOf(
  book: Book,
  events: readonly SeasonEvent[],
  i: { start: IsoDate; layers: number; leafFrac: number },
): RunEvent[] {
  return events
    .map((e, k): RunEvent => {
      const field = `events[${k}]`;
      const day = daysBetween(i.start, e.date);
      switch (e.type) {
        case 'fertilise':
          return fertilised(book, e, field, day, i.layers, i.leafFrac);
        case 'organic':
          return dressed(e, field, day, i.layers);
        case 'till': {
          const depth = within(`${field}.depth_cm`, e.depthCm, span('Depth', 'cm', 1, 60));
          return {
            kind: 'till',
            day,
            layers: Math.min(i.layers, Math.max(1, Math.floor(depth / LAYER_CM + 0.5))),
          };
        }
        case 'irrigate': {
          const mm = within(`${field}.mm`, e.mm, span('Irrigation', 'mm', 0, 150));
          const nMgL = within(
            `${field}.n_mg_l`,
            e.nMgL ?? 0,
            span('N in the water', 'mg/L', 0, 100),
          );
          return { kind: 'water', day, mm, no3: (mm * nMgL) / 100 };
        }
      }
    })
    .sort((a, b) => a.day - b.day);
}
/** Irrigation of each day, mm. */
export function waterOf(events: readonly RunEvent[], days: number): Float64Array {
  const mm = new Float64Array(days);
  for (const e of events)
    if (e.kind === 'water' && e.day >= 0 && e.day < days) mm[e.day] = (mm[e.day] as number) + e.mm;
  return mm;
}
