import { clip } from '../quantity/curve';
import { normalFrom, randomStream } from '../quantity/random';
import { refuse } from '../quantity/refusal';
import { within } from '../quantity/range';
import {
  pkIndexOf,
  recBuildMaintain,
  recIndex,
  recSufficiency,
  type PkNutrient,
} from './pkSchools';

export const PK_STRATEGIES = ['none', 'sufficiency', 'build_maintain', 'replacement'] as const;
export type PkStrategy = (typeof PK_STRATEGIES)[number];
export interface PkSimulation {
  nutrient?: PkNutrient | null;
  yieldPot: number;
  price: number;
  /** Price of a kilogram of the element, and kg of it in a tonne of product. */
  cost: number;
  conc: number;
  start: number;
  crit95: number;
  ry0: number;
  rmax: number;
  build: number;
  draw: number;
  floor: number;
  l0: number;
  l1: number;
  l2: number;
  l3: number;
  /** Years in which the test is to be built up, and years looked at. */
  years: number;
  horizon: number;
  discount: number;
  passCost: number;
  tenure: number;
  phi: number;
  sigmaCrop: number;
  sigmaFert: number;
  rho: number;
  cvYield: number;
  runs: number;
  seed: number;
  shocks: boolean;
}
interface YearDraw {
  price: number;
  cost: number;
  yieldFactor: number;
}
export interface PkRun {
  npv: number;
  terminal: number;
  total: number;
  sEnd: number;
  /** Soil test at the end of each year, and the discounted net of each. */
  tests: number[];
  nets: number[];
  rates: number[];
}
export interface PkSpread {
  mean: number;
  p10: number;
  p50: number;
  p90: number;
}

function rateOf(
  strategy: PkStrategy,
  i: PkSimulation,
  test: number,
  year: number,
  removal: number,
): number {
  const nutrient = i.nutrient ?? 'p';
  if (strategy === 'none') return 0;
  if (strategy === 'sufficiency')
    return recSufficiency({ test, crit95: i.crit95, rmax: i.rmax, nutrient });
  if (strategy === 'build_maintain')
    return recBuildMaintain({
      test,
      l1: i.l1,
      l2: i.l2,
      l3: i.l3,
      removal,
      build: i.build,
      years: Math.max(1, i.years - year + 1),
      nutrient,
    });
  const idx = pkIndexOf(test, i.l0, i.l1, i.l2);
  return recIndex({ idx, removal, nutrient, cls: test < i.l3 ? 'high' : 'very_high' });
}

/** One run of one strategy through its years (chapter 3, section 11). */
function simulatePk(i: PkSimulation, strategy: PkStrategy, draws: readonly YearDraw[]): PkRun {
  const c = Math.log((100 - i.ry0) / 5) / i.crit95;
  const g = 3 / i.rmax;
  const removal = i.yieldPot * i.conc;
  const least = Math.min(i.start, i.floor);
  let test = i.start;
  let npv = 0;
  const run: PkRun = { npv: 0, terminal: 0, total: 0, sEnd: test, tests: [], nets: [], rates: [] };
  draws.forEach((d, k) => {
    const rate = rateOf(strategy, i, test, k + 1, removal);
    const ry = 100 - (100 - i.ry0) * Math.exp(-c * test);
    const fed = 100 - (100 - ry) * Math.exp(-g * rate);
    const grown = i.yieldPot * (fed / 100) * d.yieldFactor;
    const net =
      (grown * d.price - rate * d.cost - (rate > 0 ? i.passCost : 0)) / (1 + i.discount) ** (k + 1);
    const balance = rate - grown * i.conc;
    test = Math.max(
      least,
      test +
        (balance >= 0
          ? balance / i.build
          : (balance / i.draw) * clip((test - i.floor) / (i.crit95 - i.floor), 0, 1)),
    );
    npv += net;
    run.tests.push(test);
    run.nets.push(net);
    run.rates.push(rate);
  });
  const terminal =
    ((test - i.start) * i.build * i.cost * i.tenure) / (1 + i.discount) ** draws.length;
  return { ...run, npv, terminal, total: npv + terminal, sEnd: test };
}

/** Years without chance: prices at their means. */
const calm = (i: PkSimulation): YearDraw[] =>
  Array.from({ length: i.horizon }, () => ({ price: i.price, cost: i.cost, yieldFactor: 1 }));
/**
 * Years of one run: prices that wander together, and yields that vary; the same for every
 * strategy.
 */
function drawn(i: PkSimulation, run: number): YearDraw[] {
  const next = randomStream((i.seed + run) % 2 ** 32);
  let [crop, fert] = [0, 0];
  const keep = Math.sqrt(1 - i.phi ** 2);
  return Array.from({ length: i.horizon }, () => {
    const [z1, z2, z3] = [normalFrom(next), normalFrom(next), normalFrom(next)];
    crop = i.phi * crop + i.sigmaCrop * keep * z1;
    fert = i.phi * fert + i.sigmaFert * keep * (i.rho * z1 + Math.sqrt(1 - i.rho ** 2) * z2);
    return {
      price: i.price * Math.exp(crop - i.sigmaCrop ** 2 / 2),
      cost: i.cost * Math.exp(fert - i.sigmaFert ** 2 / 2),
      yieldFactor: clip(1 + i.cvYield * z3, 0.2, 1.8),
    };
  });
}
function check(i: PkSimulation): void {
  const positive = (field: string, value: number, label: string, unit: string, max: number) =>
    within(field, value, { label, unit, min: 0, max, above: true });
  positive('yield_pot', i.yieldPot, 'Yield', 't/ha', 200);
  positive('price', i.price, 'Price of the crop', 'per t', 100_000);
  positive('cost', i.cost, 'Price of the nutrient', 'per kg', 1000);
  positive('conc', i.conc, 'Nutrient in the product', 'kg/t', 200);
  positive('rmax', i.rmax, 'Largest rate', 'kg/ha', 1000);
  positive('build', i.build, 'Build-up', 'kg/ha per mg/kg', 80);
  positive('draw', i.draw, 'Draw-down', 'kg/ha per mg/kg', 80);
  within('start', i.start, { label: 'Soil test', unit: 'mg/kg', min: 0, max: 5000 });
  within('N', i.horizon, { label: 'Years looked at', unit: 'years', min: 1, max: 50 });
  within('runs', i.runs, { label: 'Runs', unit: '', min: 1, max: 20_000 });
  if (i.crit95 <= i.floor)
    refuse(
      'inconsistent',
      'floor',
      `Floor (floor) = ${i.floor} mg/kg must lie below the critical level, ${i.crit95}.`,
      { value: i.floor, allowed: `under ${i.crit95}` },
    );
  if (i.ry0 >= 95)
    refuse(
      'inconsistent',
      'ry0',
      `ry0 = ${i.ry0} % is bad data: a soil with nothing in it must yield under 95 %.`,
      { value: i.ry0, allowed: '0 to under 95 %' },
    );
}
/** Percentile between order statistics, position (R - 1) x p (chapter 3, section 11). */
const percentile = (sorted: readonly number[], p: number): number => {
  const at = (sorted.length - 1) * p;
  const low = Math.floor(at);
  const [a, b] = [sorted[low] ?? 0, sorted[low + 1] ?? sorted[low] ?? 0];
  return a + (b - a) * (at - low);
};

export interface PkOutlook {
  /** Each strategy in calm years, with its path. */
  calm: Record<PkStrategy, PkRun>;
  /** Each strategy over the runs; null without chance. */
  spread: Record<PkStrategy, PkSpread> | null;
  /** Share of the runs in which building up beats sufficiency. */
  buildBeatsSufficiency: number | null;
  /**
   * First year in which the discounted net of building up passes that of sufficiency; null: not
   * within the years looked at.
   */
  passesInYear: number | null;
}
/**
 * What the schools of P and K bring over years (chapter 3, section 11): one season hides most of
 * it, since P and K stay. The response curve,
 * not the price, is the main doubt.
 *
 * @param done told after each run, for a progress bar
 * A worked outlook of a loam, with what each strategy earns, stands in the chapter's examples
 * (`ground.pk_simulation`).
 */
export function pkOutlook(i: PkSimulation, done: (run: number) => void = () => {}): PkOutlook {
  check(i);
  const of = <T>(make: (s: PkStrategy) => T) =>
    Object.fromEntries(PK_STRATEGIES.map((s) => [s, make(s)])) as Record<PkStrategy, T>;
  const still = of((s) => simulatePk(i, s, calm(i)));
  let [ahead, passesInYear] = [0, null as number | null];
  still.build_maintain.nets.forEach((net, k) => {
    ahead += net - (still.sufficiency.nets[k] ?? 0);
    if (passesInYear === null && ahead > 0) passesInYear = k + 1;
  });
  if (!i.shocks) return { calm: still, spread: null, buildBeatsSufficiency: null, passesInYear };
  const totals = of<number[]>(() => []);
  for (let r = 0; r < i.runs; r++) {
    const years = drawn(i, r);
    for (const s of PK_STRATEGIES) totals[s].push(simulatePk(i, s, years).total);
    done(r + 1);
  }
  const wins = totals.build_maintain.filter((t, r) => t > (totals.sufficiency[r] ?? 0)).length;
  const spread = of((s): PkSpread => {
    const sorted = [...totals[s]].sort((a, b) => a - b);
    return {
      mean: sorted.reduce((a, b) => a + b, 0) / sorted.length,
      p10: percentile(sorted, 0.1),
      p50: percentile(sorted, 0.5),
      p90: percentile(sorted, 0.9),
    };
  });
  return { calm: still, spread, buildBeatsSufficiency: wins / i.runs, passesInYear };
}
