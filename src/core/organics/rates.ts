import { refuse } from '../quantity/refusal';
import { within, type Range } from '../quantity/range';
import { ammoniaLoss } from './ammonia';

const span = (label: string, unit: string, min: number, max: number, above = false): Range => ({
  label,
  unit,
  min,
  max,
  above,
});
const KG_HA = (label: string) => span(label, 'kg/ha', 0, 3000);
const RATE = span('Rate', 't/ha', 0, 400);
const MONEY = (label: string) => span(label, 'currency', 0, 100_000);

export type RateBasis = 'rate_n' | 'rate_p' | 'rate_k' | 'rate_law' | 'rate_max';
export interface RateInput {
  /** What the crop still needs in available N, kg/ha. */
  needN: number;
  /** Available N of the material by the planned method, kg/t; below 0 it ties N up. */
  pan: number;
  /** P that leaves with the crop, kg/ha; null leaves the P basis out. */
  pOfftake?: number | null;
  pT?: number | null;
  /** Years of off-take that one dressing pays ahead. */
  pYears?: number | null;
  kOfftake?: number | null;
  kT?: number | null;
  annualNLimit?: number | null;
  totalNT?: number | null;
  maxRate?: number | null;
}
export interface CandidateRates {
  rateN: number;
  rateP: number | null;
  rateK: number | null;
  rateLaw: number | null;
  rateMax: number | null;
  mostLimiting: RateBasis;
  rate: number;
  /** R16: a multi-year P rate that exceeds the N need of its own year. */
  overN: boolean;
}
/**
 * The rates that N, P, K, the law and the machine allow, and which of them binds (chapter 2,
 * 6.1), t/ha.
 *
 * A material that gives no N this year is dosed by P where that basis is active; without one its
 * rate is 0, never negative or infinite.
 *
 * @example rateByBasis({ needN: 120, pan: 1.8, pOfftake: 22, pT: 0.52, annualNLimit: 170,
 * totalNT: 2.6, maxRate: 60 }).mostLimiting // 'rate_p', 42.3 t/ha
 */
export function rateByBasis(i: RateInput): CandidateRates {
  const need = within('need_n', i.needN, span('N still needed', 'kg/ha', -2000, 2000));
  const pan = within('pan', i.pan, span('Available N', 'kg/t', -50, 250));
  const years = within('p_years', i.pYears ?? 1, span('Years of off-take', 'years', 1, 5));
  const rateN = pan > 0 && need > 0 ? need / pan : 0;
  const share = (
    offtake: number | null | undefined,
    content: number | null | undefined,
    times: number,
    name: string,
  ) =>
    offtake == null || content == null || content === 0
      ? null
      : (times * within(`${name}_offtake`, offtake, KG_HA('Off-take'))) /
        within(`${name}_t`, content, span('Content', 'kg/t', 0, 500));
  const wanted = share(i.pOfftake, i.pT, years, 'p');
  // Several years of P at once never bring more N than its own year can use (6.1, R16).
  const overN = years > 1 && wanted !== null && pan > 0 && wanted > rateN + 1e-9;
  const rateP = overN ? rateN : wanted;
  const rateK = share(i.kOfftake, i.kT, 1, 'k');
  const rateLaw =
    i.annualNLimit == null || i.totalNT == null || i.totalNT === 0
      ? null
      : within('annual_n_limit', i.annualNLimit, span('Yearly N limit', 'kg/ha', 50, 500)) /
        within('total_n_t', i.totalNT, span('Total N', 'kg/t', 0, 250));
  const rateMax =
    i.maxRate == null
      ? null
      : within(
          'max_rate',
          i.maxRate,
          span('Most that the machine or the soil takes', 't/ha', 0.05, 400),
        );
  const soilBuilder = pan <= 0 && (rateP !== null || rateK !== null);
  const active = (
    [
      ['rate_n', soilBuilder ? null : rateN],
      ['rate_p', rateP],
      ['rate_k', rateK],
      ['rate_law', rateLaw],
      ['rate_max', rateMax],
    ] as [RateBasis, number | null][]
  ).flatMap(([k, v]) => (v === null ? [] : [[k, v] as const]));
  const [mostLimiting, rate] = active.reduce((least, x) => (x[1] < least[1] ? x : least));
  return {
    rateN,
    rateP,
    rateK,
    rateLaw,
    rateMax,
    mostLimiting,
    rate,
    overN,
  };
}

const MOST_YEARS = 5;
/**
 * Whether the machine can put a rate on evenly (chapter 2, 6.1 step 7): below its least R05 with
 * the years of P that would fit, above its most R06 with the passes.
 *
 * @example machineRate({ rate: 75, mn: 8, mx: 60 }) // { rule: 'R06', passes: 2, rateSet: 37.5 }
 */
export function machineRate(i: { rate: number; mn: number; mx: number; rateN?: number | null }): {
  rule: 'R05' | 'R06' | null;
  passes: number;
  rateSet: number;
  pYearsNeeded: number | null;
  multiYearPossible: boolean | null;
} {
  const rate = within('rate', i.rate, { ...RATE, above: true });
  const [least, most] = [
    within('mn', i.mn, span('Least of the machine', 't/ha', 0.1, 400)),
    within('mx', i.mx, span('Most of the machine', 't/ha', 0.1, 400)),
  ];
  if (least > most)
    refuse(
      'inconsistent',
      'mn',
      `Least of the machine (mn) = ${least} lies above its most, ${most}.`,
      { value: least, allowed: `up to ${most}` },
    );
  if (rate < least) {
    const years = Math.ceil(least / rate - 1e-9);
    return {
      rule: 'R05',
      passes: 1,
      rateSet: rate,
      pYearsNeeded: years,
      multiYearPossible: years <= MOST_YEARS && least <= (i.rateN ?? Infinity),
    };
  }
  const passes = Math.ceil(rate / most - 1e-9);
  return {
    rule: rate > most ? 'R06' : null,
    passes,
    rateSet: rate / passes,
    pYearsNeeded: null,
    multiYearPossible: null,
  };
}

/**
 * What a rate over- or under-supplies (chapter 2, 6.2).
 *
 * @example rateBalance({ supplied: 56, need: 22 }).overPct // 154.5
 */
export function rateBalance(i: { supplied: number; need: number; tolerancePct?: number | null }): {
  balanceKgHa: number;
  overPct: number | null;
  colour: RateColour;
} {
  const balanceKgHa =
    within('supplied', i.supplied, KG_HA('Supplied')) - within('need', i.need, KG_HA('Need'));
  const tolerance = within('tolerance_pct', i.tolerancePct ?? 10, span('Tolerance', '%', 0, 50));
  return {
    balanceKgHa,
    overPct: i.need === 0 ? null : (100 * balanceKgHa) / i.need,
    colour: rateColour(i.supplied, i.need, tolerance),
  };
}
export type RateColour = 'grey' | 'green' | 'yellow' | 'red' | 'kg_only';
/** How a supply stands to its need, however large: an absurd rate is over, not refused. */
export function rateColour(supplied: number, need: number, tolerancePct = 10): RateColour {
  if (need === 0) return 'kg_only';
  const overPct = (100 * (supplied - need)) / need;
  if (overPct < -tolerancePct) return 'grey';
  if (overPct <= tolerancePct) return 'green';
  return overPct <= 25 ? 'yellow' : 'red';
}

/**
 * What a yearly rate does to the soil test of P, and the years to the water-protection screen
 * (chapter 2, 6.3): say "at least".
 *
 * @param i.perMgKg kg P/ha for one mg/kg: 9 for Mehlich-3 or Bray-1, 18 for Olsen; the larger
 *   draw-down figure where P falls
 * @example pBuildup({ rate: 9, pT: 10.5, offtake: 24, perMgKg: 9, stp: 38, screen: 100
 * }).yearsToScreen // 7.9
 */
export function pBuildup(i: {
  rate: number;
  pT: number;
  offtake: number;
  perMgKg: number;
  stp: number;
  screen: number;
}): { surplusPKgHa: number; riseMgKgYr: number; yearsToScreen: number | null } {
  const surplusPKgHa =
    within('rate', i.rate, RATE) * within('p_t', i.pT, span('P', 'kg/t', 0, 200)) -
    within('offtake', i.offtake, KG_HA('P off-take'));
  const riseMgKgYr =
    surplusPKgHa / within('per_mg_kg', i.perMgKg, span('P for one mg/kg', 'kg/ha', 4, 60));
  const gap =
    within('screen', i.screen, span('Screen', 'mg/kg', 20, 300)) -
    within('stp', i.stp, span('P test', 'mg/kg', 0, 2000));
  return {
    surplusPKgHa,
    riseMgKgYr,
    yearsToScreen: riseMgKgYr > 0 ? Math.max(0, gap / riseMgKgYr) : null,
  };
}

export interface HaulInput {
  rate: number;
  area: number;
  capacity: number;
  fill?: number | null;
  load?: number | null;
  unload?: number | null;
  wait?: number | null;
  dist: number;
  speed?: number | null;
  hourCost?: number | null;
  units?: number | null;
  setupCost?: number | null;
  pricePerT?: number | null;
  pan?: number | null;
}
/**
 * Loads, hours and cost of bringing a material out (chapter 2, 6.4). With more tractors than the
 * loader can fill, the loader decides.
 *
 * @example haul({ rate: 40, area: 12, capacity: 14, dist: 3, load: 10, unload: 12, wait: 5,
 * speed: 25, hourCost: 90, pan: 1.5 }).costPerT // 4.79
 */
export function haul(i: HaulInput): {
  total: number;
  loads: number;
  minPerLoad: number;
  hours: number;
  cost: number;
  costPerT: number;
  costPerKgAvailableN: number | null;
  loaderBound: boolean;
} {
  const total =
    within('rate', i.rate, { ...RATE, above: true }) *
    within('area', i.area, span('Area', 'ha', 0, 5000, true));
  const loads = Math.ceil(
    total /
      (within('capacity', i.capacity, span('Load', 't', 0.1, 60)) *
        within('fill', i.fill ?? 0.95, span('Share filled', '', 0.5, 1))) -
      1e-9,
  );
  const minutes = span('Minutes', 'min', 0, 240);
  const load = within('load', i.load ?? 10, minutes);
  const minPerLoad =
    load +
    within('unload', i.unload ?? 12, minutes) +
    within('wait', i.wait ?? 5, minutes) +
    ((2 * within('dist', i.dist, span('Distance', 'km', 0, 150))) /
      within('speed', i.speed ?? 25, span('Road speed', 'km/h', 5, 80))) *
      60;
  const units = within('units', i.units ?? 1, span('Tractors', '', 1, 20));
  const loaderBound = load * units > minPerLoad;
  const hours = loaderBound ? (loads * load) / 60 : (loads * minPerLoad) / 60 / units;
  const cost =
    hours * units * within('hour_cost', i.hourCost ?? 90, MONEY('Cost of an hour')) +
    within('setup_cost', i.setupCost ?? 0, MONEY('Setting up')) +
    total *
      within('price_per_t', i.pricePerT ?? 0, span('Price of the material', 'per t', -1000, 1000));
  return {
    total,
    loads,
    minPerLoad,
    hours,
    cost,
    costPerT: cost / total,
    costPerKgAvailableN: i.pan != null && i.pan > 0 ? cost / (i.pan * total) : null,
    loaderBound,
  };
}

/**
 * How far a material may travel before the trip costs what it is worth, one way, km (chapter 2,
 * 6.5); 0: not worth moving even next door.
 *
 * @example breakevenKm({ valueT: 6, priceT: 1, loadT: 13, hourCost: 90, speed: 25, fixedMin: 27
 * }) // 3.4 km
 */
export function breakevenKm(i: {
  valueT: number;
  priceT?: number | null;
  loadT: number;
  hourCost: number;
  speed: number;
  fixedMin: number;
}): number {
  const perLoad =
    (within('value_t', i.valueT, span('Value', 'per t', -1000, 10_000)) -
      within('price_t', i.priceT ?? 0, span('Price of the material', 'per t', -1000, 1000))) *
    within('load_t', i.loadT, span('Load', 't', 0.1, 60));
  const hours =
    perLoad / within('hour_cost', i.hourCost, { ...MONEY('Cost of an hour'), above: true });
  return Math.max(
    0,
    (within('speed', i.speed, span('Road speed', 'km/h', 5, 80)) / 2) *
      (hours -
        within('fixed_min', i.fixedMin, span('Loading, unloading, waiting', 'min', 0, 720)) / 60),
  );
}

/**
 * Water in slurry costs haulage and saves ammonia (chapter 2, 6.6): money for a kilogram of
 * ammonium kept, before and after, splash plate and no cover.
 *
 * @example dilutionEconomics({ nh4C: 1.2, dm: 8, water: 0.5, baseCostM3: 4 }).costPerKgAfter //
 * 9.42, from 8.44
 */
export function dilutionEconomics(i: {
  nh4C: number;
  dm: number;
  water: number;
  baseCostM3: number;
  method?: string | null;
}): { costPerKgBefore: number; costPerKgAfter: number } {
  const c = within('nh4_c', i.nh4C, span('Ammonium-N', 'kg/m3', 0, 50, true));
  const dm = within('dm', i.dm, span('Dry matter', '%', 0.05, 15));
  const water = within('water', i.water, span('Water added', 'm3 per m3', 0, 10));
  const cost = within('base_cost_m3', i.baseCostM3, MONEY('Cost of a cubic metre'));
  const kept = (dmPct: number) =>
    ammoniaLoss({ method: i.method ?? 'splash_low', dmPct, coverings: [] }).retainedFrac;
  return {
    costPerKgBefore: cost / (c * kept(dm)),
    costPerKgAfter: (cost * (1 + water)) / (c * kept(dm / (1 + water))),
  };
}

/**
 * What a material replaces of bought nutrients (chapter 2, 5.3): only what the field can use
 * counts; what evaporates or is not needed pays nobody.
 *
 * @param i.supplyPerT available kg/t by nutrient; i.need kg/ha; i.price per kg of the element
 * @example replacementValue({ rate: 40, supplyPerT: { N: 1.5, P: 0.52, K: 2.1 }, need: { N: 80,
 * P: 0, K: 60 }, price: { N: 1.2, P: 2.8, K: 1 } }).valueHa // 132
 */
export function replacementValue(i: {
  rate: number;
  supplyPerT: Record<string, number>;
  need: Record<string, number>;
  price: Record<string, number>;
}): { used: Record<string, number>; valueHa: number; valuePerT: number; boughtOutright: number } {
  const rate = within('rate', i.rate, { ...RATE, above: true });
  const names = Object.keys(i.supplyPerT);
  const amount = (field: string, x: string, of: Record<string, number>, range: Range) =>
    within(`${field}.${x}`, of[x] ?? 0, range);
  const supplied = (x: string) =>
    amount('supply_per_t', x, i.supplyPerT, span(`${x} available`, 'kg/t', -50, 500)) * rate;
  const used = Object.fromEntries(
    names.map((x) => [
      x,
      Math.min(
        Math.max(0, supplied(x)),
        Math.max(0, amount('need', x, i.need, span(`${x} needed`, 'kg/ha', -2000, 2000))),
      ),
    ]),
  );
  const worth = (kg: (x: string) => number) =>
    names.reduce((sum, x) => sum + kg(x) * amount('price', x, i.price, MONEY(`Price of ${x}`)), 0);
  const valueHa = worth((x) => used[x] ?? 0);
  return {
    used,
    valueHa,
    valuePerT: valueHa / rate,
    boughtOutright: worth((x) => Math.max(0, supplied(x))),
  };
}
