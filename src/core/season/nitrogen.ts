import type { CropDays, SeasonCrop } from './cropDays';
import type { NitrogenEvent, RunEvent } from './events';
import { organicPools, workedIn, type SimParams } from './params';
import type { Site } from './site';
import type { Physical } from './water';

// The N of one plan over the days of a weather year (chapter 4, S3 to S17). Each process is a small
// function over flat arrays; nothing is made anew within the day.

const DEPOSITION_D = 365;
const BALANCE_KG = 1e-6;

/** What a plan comes to over a season, kg/ha unless it says otherwise. */
export interface SeasonSummary {
  volatilised: number;
  denitrified: number;
  leached: number;
  runoffN: number;
  netMin: number;
  drainMm: number;
  runoffMm: number;
  evapMm: number;
  transpMm: number;
  uptake: number;
  demand: number;
  /** N of the plant to what it asks for; null where it asks for none. */
  plantNFrac: number | null;
  stressDays: number;
  /** First day of the run on which it was short; null where none was. */
  firstStressDay: number | null;
  maxDeficit: number;
  /** N beyond what the crop still takes when it has nearly all; null where that is not reached. */
  lateExcess: number | null;
  lateExcessIndex: number | null;
  residualNo3: number;
  harvestDay: number | null;
  maxBalanceError: number;
}
/** Figures of each day, for charts and for the chapter's check values. */
export interface Trace {
  demandDay: Float64Array;
  uptakeDay: Float64Array;
  fixedDay: Float64Array;
  uptakeCum: Float64Array;
  netMin: Float64Array;
  nitrified: Float64Array;
  volatilised: Float64Array;
  denitrified: Float64Array;
  leached: Float64Array;
  runoffN: Float64Array;
  ureaTop: Float64Array;
  nh4Top: Float64Array;
  no3Top: Float64Array;
  urea: Float64Array;
  nh4: Float64Array;
  no3: Float64Array;
  rootZoneN: Float64Array;
  coated: Float64Array;
}
const TRACED: readonly (keyof Trace)[] = [
  'demandDay',
  'uptakeDay',
  'fixedDay',
  'uptakeCum',
  'netMin',
  'nitrified',
  'volatilised',
  'denitrified',
  'leached',
  'runoffN',
  'ureaTop',
  'nh4Top',
  'no3Top',
  'urea',
  'nh4',
  'no3',
  'rootZoneN',
  'coated',
];
export const newTrace = (days: number): Trace =>
  Object.fromEntries(TRACED.map((k) => [k, new Float64Array(days)])) as unknown as Trace;

/** Coated N that is spread: how much of it is left, and how old its coat is. */
interface Coat {
  total: number;
  left: number;
  t80: number;
  age: number;
  weights: Float64Array;
}
/** All N of a field. */
export interface NitrogenState {
  urea: Float64Array;
  nh4: Float64Array;
  no3: Float64Array;
  /** How much of the nitrification inhibitor still works in each layer, 0 to 1. */
  act: Float64Array;
  som: Float64Array;
  bio: Float64Array;
  /** By pool and layer. */
  poolC: Float64Array;
  poolN: Float64Array;
  poolHeld: Uint8Array;
  ureaTop: number;
  nh4UreaTop: number;
  nh4SaltTop: number;
  no3Top: number;
  uiTop: number;
  niTop: number;
  coats: Coat[];
  leaf: number;
  // What has gone and come, in all and on this day.
  cumU: number;
  fixed: number;
  volatilised: number;
  denitrified: number;
  leached: number;
  runoffN: number;
  netMin: number;
  brought: number;
  nitrifiedDay: number;
  fixedDay: number;
  takenDay: number;
}
export const newState = (layers: number): NitrogenState => ({
  urea: new Float64Array(layers),
  nh4: new Float64Array(layers),
  no3: new Float64Array(layers),
  act: new Float64Array(layers),
  som: new Float64Array(layers),
  bio: new Float64Array(layers),
  poolC: new Float64Array(layers * organicPools().length),
  poolN: new Float64Array(layers * organicPools().length),
  poolHeld: new Uint8Array(organicPools().length),
  ureaTop: 0,
  nh4UreaTop: 0,
  nh4SaltTop: 0,
  no3Top: 0,
  uiTop: 0,
  niTop: 0,
  coats: [],
  leaf: 0,
  cumU: 0,
  fixed: 0,
  volatilised: 0,
  denitrified: 0,
  leached: 0,
  runoffN: 0,
  netMin: 0,
  brought: 0,
  nitrifiedDay: 0,
  fixedDay: 0,
  takenDay: 0,
});
function reset(st: NitrogenState): void {
  for (const a of [st.urea, st.nh4, st.no3, st.act, st.som, st.bio, st.poolC, st.poolN]) a.fill(0);
  st.poolHeld.fill(0);
  st.coats = [];
  st.ureaTop = st.nh4UreaTop = st.nh4SaltTop = st.no3Top = st.uiTop = st.niTop = st.leaf = 0;
  st.cumU = st.fixed = st.volatilised = st.denitrified = st.leached = st.runoffN = 0;
  st.netMin = st.brought = st.nitrifiedDay = st.fixedDay = st.takenDay = 0;
}

const sumOf = (x: Float64Array): number => {
  let s = 0;
  for (let i = 0; i < x.length; i++) s += x[i] as number;
  return s;
};
const add = (x: Float64Array, i: number, by: number): void => {
  x[i] = (x[i] as number) + by;
};
/** Activities mix by mass wherever N joins a store. */
const mixed = (a: number, held: number, joining: number, added: number): number =>
  added <= 0 || held + added <= 0 ? a : (a * held + joining * added) / (held + added);

/** N on top goes into a layer, with what works of its inhibitor. */
function enterLayer(st: NitrogenState, i: number, urea: number, nh4: number, no3: number): void {
  const held = (st.urea[i] as number) + (st.nh4[i] as number);
  st.act[i] = mixed(st.act[i] as number, held, st.niTop, urea + nh4);
  add(st.urea, i, urea);
  add(st.nh4, i, nh4);
  add(st.no3, i, no3);
}

function putDown(st: NitrogenState, e: NitrogenEvent, layers: number, emerged: boolean): void {
  const leafFrac = emerged ? e.leafFrac : 0;
  st.brought += e.broughtKgHa;
  st.volatilised += e.lostAtOnce;
  st.leaf += leafFrac * (e.no3 + e.nh4 + e.urea);
  const [no3, nh4, urea] = [e.no3, e.nh4, e.urea].map((x) => x * (1 - leafFrac)) as [
    number,
    number,
    number,
  ];
  const surf = e.surfFrac;
  const ni = e.ni ? 1 : 0;
  if (surf > 0 && !e.retained) {
    const held = st.ureaTop + st.nh4UreaTop + st.nh4SaltTop;
    st.uiTop = mixed(st.uiTop, st.ureaTop, e.ui ? 1 : 0, surf * urea);
    st.niTop = mixed(st.niTop, held, ni, surf * (urea + nh4));
    st.ureaTop += surf * urea;
    if (e.ureaLike) st.nh4UreaTop += surf * nh4;
    else st.nh4SaltTop += surf * nh4;
  }
  st.no3Top += surf * no3;
  const down = 1 - surf;
  for (let i = 0; i < layers; i++) {
    const share = e.shares[i] as number;
    // Ammonium that chapter 2 keeps goes straight into the ground.
    const direct = i === 0 && e.retained ? surf : 0;
    const joins = (urea + nh4) * (down * share + direct);
    if (joins > 0) {
      const held = (st.urea[i] as number) + (st.nh4[i] as number);
      st.act[i] = mixed(st.act[i] as number, held, ni, joins);
      add(st.urea, i, urea * (down * share + direct));
      add(st.nh4, i, nh4 * (down * share + direct));
    }
    if (share > 0) add(st.no3, i, no3 * down * share);
    if (e.pool) {
      const part = e.pool.nKgHa * (down * share + (i === 0 ? surf : 0));
      add(st.poolN, e.pool.at * layers + i, part);
      add(st.poolC, e.pool.at * layers + i, part * e.pool.cToN);
      st.poolHeld[e.pool.at] = 1;
    }
  }
  if (e.coat) {
    const weights = Float64Array.from(e.shares, (s) => down * s);
    add(weights, 0, surf);
    st.coats.push({ total: e.coat.kgHa, left: e.coat.kgHa, t80: e.coat.t80, age: 0, weights });
  }
}

function average(x: Float64Array, from: number, k: number): void {
  let sum = 0;
  for (let i = 0; i < k; i++) sum += x[from + i] as number;
  for (let i = 0; i < k; i++) x[from + i] = sum / k;
}
/** Tillage: what lies on top goes in, and the tilled layers become alike. */
function till(st: NitrogenState, k: number, layers: number): void {
  const nh4 = st.nh4UreaTop + st.nh4SaltTop;
  for (let i = 0; i < k; i++) enterLayer(st, i, st.ureaTop / k, nh4 / k, st.no3Top / k);
  st.ureaTop = st.nh4UreaTop = st.nh4SaltTop = st.no3Top = 0;
  const becomes = workedIn();
  becomes.forEach((to, from) => {
    if (to === from || st.poolHeld[from] === 0) return;
    for (let i = 0; i < layers; i++) {
      add(st.poolC, to * layers + i, st.poolC[from * layers + i] as number);
      add(st.poolN, to * layers + i, st.poolN[from * layers + i] as number);
      st.poolC[from * layers + i] = 0;
      st.poolN[from * layers + i] = 0;
    }
    st.poolHeld[to] = 1;
    st.poolHeld[from] = 0;
  });
  let [active, mass] = [0, 0];
  for (let i = 0; i < k; i++) {
    const m = (st.urea[i] as number) + (st.nh4[i] as number);
    active += (st.act[i] as number) * m;
    mass += m;
  }
  for (const x of [st.urea, st.nh4, st.no3, st.som, st.bio]) average(x, 0, k);
  for (let q = 0; q < st.poolHeld.length; q++) {
    if (st.poolHeld[q] === 0) continue;
    average(st.poolC, q * layers, k);
    average(st.poolN, q * layers, k);
  }
  if (mass > 0) for (let i = 0; i < k; i++) st.act[i] = active / mass;
}

/** Coats open (S6), faster in warm ground. */
function openCoats(st: NitrogenState, ph: Physical, p: SimParams, d: number): void {
  const age = ph.coatAge[d] as number;
  if (age === 0) return;
  for (const c of st.coats) {
    if (c.left <= 0) continue;
    c.age += age;
    const open = 1 - Math.exp(-Math.log(5) * (c.age / c.t80) ** p.coatPower);
    const out = Math.min(c.left, c.left - c.total * (1 - open));
    c.left -= out;
    for (let i = 0; i < c.weights.length; i++) add(st.urea, i, out * (c.weights[i] as number));
  }
}
const coated = (st: NitrogenState): number => {
  let left = 0;
  for (const c of st.coats) left += c.left;
  return left;
};

function washIn(st: NitrogenState, share: number): void {
  if (share <= 0) return;
  const nh4 = st.nh4UreaTop + st.nh4SaltTop;
  enterLayer(st, 0, share * st.ureaTop, share * nh4, share * st.no3Top);
  const stays = 1 - share;
  st.ureaTop *= stays;
  st.nh4UreaTop *= stays;
  st.nh4SaltTop *= stays;
  st.no3Top *= stays;
}
/** Rain on what lies on top: some goes in, some runs off (S7). */
function rainOn(st: NitrogenState, ph: Physical, d: number): void {
  if (st.ureaTop + st.nh4UreaTop + st.nh4SaltTop + st.no3Top <= 0) return;
  washIn(st, ph.washFirst[d] as number);
  const off = ph.washOff[d] as number;
  if (off > 0) {
    st.runoffN += off * (st.ureaTop + st.nh4UreaTop + st.nh4SaltTop + st.no3Top);
    st.ureaTop *= 1 - off;
    st.nh4UreaTop *= 1 - off;
    st.nh4SaltTop *= 1 - off;
    st.no3Top *= 1 - off;
  }
  washIn(st, ph.washThen[d] as number);
}

/** Solutes go down with the water (S9). */
function moveDown(st: NitrogenState, ph: Physical, s: Site, d: number): void {
  const n = s.layers;
  const at = d * n;
  let [urea, no3, nh4] = [0, 0, 0];
  for (let i = 0; i < n; i++) {
    const share = ph.moved[at + i] as number;
    const u = (st.urea[i] as number) + urea;
    const o = (st.no3[i] as number) + no3;
    const a = (st.nh4[i] as number) + nh4;
    urea = u * share;
    no3 = o * share;
    nh4 = a * share * (s.nh4Mobile[i] as number);
    st.urea[i] = u - urea;
    st.no3[i] = o - no3;
    st.nh4[i] = a - nh4;
  }
  st.leached += urea + no3 + nh4;
}

/** Urea turns to ammonium, on top and in the ground (S11). */
function hydrolyse(st: NitrogenState, ph: Physical, p: SimParams, d: number, n: number): void {
  const at = d * n;
  for (let i = 0; i < n; i++) {
    const u = st.urea[i] as number;
    if (u === 0) continue;
    const x = u * (ph.hydrolysed[at + i] as number);
    st.urea[i] = u - x;
    add(st.nh4, i, x);
  }
  if (st.ureaTop > 0) {
    const kh = (ph.urease[d] as number) * (1 - p.uiEff * st.uiTop);
    const kd = ph.ureaEnters[d] as number;
    const x = st.ureaTop * (1 - Math.exp(-(kh + kd)));
    const enters = kh + kd > 0 ? (x * kd) / (kh + kd) : 0;
    st.ureaTop -= x;
    enterLayer(st, 0, enters, 0, 0);
    st.nh4UreaTop += x - enters;
  }
  st.uiTop *= ph.uiLeft[d] as number;
}

function toAir(st: NitrogenState, held: number, kv: number, kd: number): number {
  const x = held * (1 - Math.exp(-(kv + kd)));
  const lost = kv + kd > 0 ? (x * kv) / (kv + kd) : 0;
  st.volatilised += lost;
  enterLayer(st, 0, 0, x - lost, 0);
  return held - x;
}
/** Ammonium on top goes to the air or into the ground (S12). */
function volatilise(st: NitrogenState, ph: Physical, d: number): void {
  const kd = ph.mineralEnters[d] as number;
  if (st.nh4UreaTop > 0) st.nh4UreaTop = toAir(st, st.nh4UreaTop, ph.airUrea[d] as number, kd);
  if (st.nh4SaltTop > 0) st.nh4SaltTop = toAir(st, st.nh4SaltTop, ph.airSalt[d] as number, kd);
  if (st.no3Top > 0) {
    const x = st.no3Top * (1 - Math.exp(-kd));
    st.no3Top -= x;
    add(st.no3, 0, x);
  }
  st.niTop *= ph.niLeftOnTop[d] as number;
}

/** One pool of one layer rots: what its decomposers need is tied up, the rest is set free. */
function rot(
  st: NitrogenState,
  p: SimParams,
  k: number,
  i: number,
  rate: number,
  assimilates: number,
): number {
  const c = st.poolC[k] as number;
  if (c <= 0) return 0;
  const n = st.poolN[k] as number;
  let dC = c * (1 - Math.exp(-rate));
  let dN = (dC * n) / c;
  let assim = (assimilates * dC) / p.cToNNew;
  let net = dN - assim;
  const free = p.immobMaxFrac * ((st.nh4[i] as number) + (st.no3[i] as number));
  if (net < 0 && -net > free) {
    const share = free / -net;
    dC *= share;
    dN *= share;
    assim *= share;
    net *= share;
  }
  st.poolC[k] = c - dC;
  st.poolN[k] = n - dN;
  add(st.bio, i, assim);
  if (net >= 0) add(st.nh4, i, net);
  else {
    const fromNh4 = Math.min(st.nh4[i] as number, -net);
    add(st.nh4, i, -fromNh4);
    add(st.no3, i, net + fromNh4);
  }
  return net;
}
/** Organic N turns over: humus, decomposers, then the pools in the table's order (S13). */
function mineralise(st: NitrogenState, ph: Physical, p: SimParams, d: number, n: number): void {
  const at = d * n;
  const pools = organicPools();
  let net = 0;
  for (let i = 0; i < n; i++) {
    const f = ph.rotting[at + i] as number;
    if (f === 0) continue;
    const som = (st.som[i] as number) * (ph.somTurned[at + i] as number);
    add(st.som, i, -som);
    add(st.nh4, i, som);
    const bio = (st.bio[i] as number) * (ph.bioTurned[at + i] as number);
    add(st.bio, i, -bio);
    add(st.nh4, i, p.bioMinFrac * bio);
    add(st.som, i, (1 - p.bioMinFrac) * bio);
    net += som + p.bioMinFrac * bio;
    for (let q = 0; q < st.poolHeld.length; q++) {
      if (st.poolHeld[q] === 0) continue;
      const pool = pools[q] as (typeof pools)[number];
      net += rot(st, p, q * n + i, i, pool.k20cD * f, pool.assimilationFrac);
    }
  }
  st.netMin += net;
}

/** Ammonium becomes nitrate (S14), and nitrate gas where the ground is wet (S15). */
function nitrifyAndLose(st: NitrogenState, ph: Physical, p: SimParams, d: number, n: number): void {
  const at = d * n;
  let made = 0;
  for (let i = 0; i < n; i++) {
    const a = st.act[i] as number;
    const nh4 = st.nh4[i] as number;
    if (nh4 > 0) {
      const x =
        nh4 *
        (a > 0
          ? 1 - Math.exp(-(ph.nitrify[at + i] as number) * (1 - p.niEff * a))
          : (ph.nitrified[at + i] as number));
      st.nh4[i] = nh4 - x;
      add(st.no3, i, x);
      made += x;
    }
    if (a > 0) st.act[i] = a * (ph.niLeft[at + i] as number);
    const lost = (st.no3[i] as number) * (ph.denitrified[at + i] as number);
    if (lost > 0) {
      add(st.no3, i, -lost);
      st.denitrified += lost;
    }
  }
  st.nitrifiedDay = made;
}

/** The crop takes what it asks for and can reach (S16); returns what it asked for. */
function takeUp(
  st: NitrogenState,
  ph: Physical,
  p: SimParams,
  crop: SeasonCrop,
  days: CropDays,
  d: number,
  n: number,
): number {
  const at = d * n;
  const before = (days.demand[d] as number) - (days.newDemand[d] as number);
  const gap = before - st.cumU;
  const wanted =
    (days.g[d] as number) < crop.curveEnd
      ? Math.max(
          0,
          Math.min(
            crop.uDayMax,
            (days.newDemand[d] as number) + (gap > 0 ? p.catchUpD * gap : gap),
          ),
        )
      : 0;
  const need = Math.max(0, wanted - st.leaf);
  let offered = 0;
  for (let i = 0; i < n; i++)
    offered +=
      (ph.takesNo3[at + i] as number) * (st.no3[i] as number) +
      (ph.takesNh4[at + i] as number) * (st.nh4[i] as number);
  const taken = Math.min(need, offered);
  if (taken > 0) {
    const share = taken / offered;
    for (let i = 0; i < n; i++) {
      add(st.no3, i, -share * (ph.takesNo3[at + i] as number) * (st.no3[i] as number));
      add(st.nh4, i, -share * (ph.takesNh4[at + i] as number) * (st.nh4[i] as number));
    }
  }
  const fixed = Math.min(need - taken, crop.fixationMax * need);
  st.cumU += st.leaf + taken + fixed;
  st.fixed += fixed;
  st.fixedDay = fixed;
  st.takenDay = taken + st.leaf;
  st.leaf = 0;
  return wanted;
}

const storedN = (st: NitrogenState): number =>
  sumOf(st.urea) +
  sumOf(st.nh4) +
  sumOf(st.no3) +
  sumOf(st.som) +
  sumOf(st.bio) +
  sumOf(st.poolN) +
  st.ureaTop +
  st.nh4UreaTop +
  st.nh4SaltTop +
  st.no3Top +
  coated(st);
function rootZone(st: NitrogenState, ph: Physical, d: number, n: number, up: boolean): number {
  let sum = 0;
  const at = d * n;
  for (let i = 0; i < n; i++)
    sum +=
      (up ? (ph.rooted[at + i] as number) : 1) *
      ((st.no3[i] as number) + (st.nh4[i] as number) + (st.urea[i] as number));
  return sum;
}

/** What a plan is run with: everything but the N is the same for all plans of a weather year. */
export interface NitrogenRun {
  params: SimParams;
  site: Site;
  crop: SeasonCrop | null;
  days: CropDays;
  physical: Physical;
  events: readonly RunEvent[];
  no3Init: Float64Array;
  nh4Init: Float64Array;
}

function notice(out: SeasonSummary, r: NitrogenRun, st: NitrogenState, d: number): void {
  const { crop, days, params: p, physical } = r;
  if (!crop || days.on[d] !== 1) return;
  const cumD = days.demand[d] as number;
  const g = days.g[d] as number;
  out.maxDeficit = Math.max(out.maxDeficit, cumD - st.cumU);
  if (
    cumD >= p.stressMinFrac * crop.uTotalKgHa &&
    g < crop.curveEnd &&
    st.cumU < p.stressFrac * cumD
  ) {
    out.stressDays += 1;
    out.firstStressDay ??= d;
  }
  if (d === days.lateDay) {
    const up = g >= crop.emerge;
    const excess =
      rootZone(st, physical, d, r.site.layers, up) +
      coated(st) -
      Math.max(0, crop.uTotalKgHa - st.cumU);
    out.lateExcess = Math.max(0, excess);
    out.lateExcessIndex = out.lateExcess / crop.uTotalKgHa;
  }
  if (d === days.harvestDay) {
    out.harvestDay = d;
    out.residualNo3 = sumOf(st.no3);
  }
}

function record(
  trace: Trace,
  st: NitrogenState,
  r: NitrogenRun,
  d: number,
  wanted: number,
  before: {
    volatilised: number;
    denitrified: number;
    leached: number;
    runoffN: number;
    netMin: number;
  },
): void {
  const { crop, days } = r;
  const up = crop !== null && days.on[d] === 1 && (days.g[d] as number) >= crop.emerge;
  trace.demandDay[d] = wanted;
  trace.uptakeDay[d] = st.takenDay;
  trace.fixedDay[d] = st.fixedDay;
  trace.uptakeCum[d] = st.cumU;
  trace.netMin[d] = st.netMin - before.netMin;
  trace.nitrified[d] = st.nitrifiedDay;
  trace.volatilised[d] = st.volatilised - before.volatilised;
  trace.denitrified[d] = st.denitrified - before.denitrified;
  trace.leached[d] = st.leached - before.leached;
  trace.runoffN[d] = st.runoffN - before.runoffN;
  trace.ureaTop[d] = st.ureaTop;
  trace.nh4Top[d] = st.nh4UreaTop + st.nh4SaltTop;
  trace.no3Top[d] = st.no3Top;
  trace.urea[d] = sumOf(st.urea);
  trace.nh4[d] = sumOf(st.nh4);
  trace.no3[d] = sumOf(st.no3);
  trace.rootZoneN[d] = rootZone(st, r.physical, d, r.site.layers, up);
  trace.coated[d] = coated(st);
}

/**
 * Runs the N of one plan over a weather year whose water and warmth stand ready.
 *
 * @param trace filled day by day where somebody looks at days
 * @throws Error where the balance does not close: that is a fault of the program, not of the plan
 */
export function nitrogenPass(
  r: NitrogenRun,
  st: NitrogenState,
  trace: Trace | null,
  everyDay = false,
): SeasonSummary {
  const { params: p, site: s, crop, days, physical: ph } = r;
  const n = s.layers;
  reset(st);
  st.no3.set(r.no3Init);
  st.nh4.set(r.nh4Init);
  st.som.set(s.somN);
  const cumD0 = crop ? (days.demand[0] as number) - (days.newDemand[0] as number) : 0;
  st.cumU = cumD0;
  const startN = storedN(st);
  const deposition = p.depositionKgHaYr / DEPOSITION_D / 2;
  const out: SeasonSummary = {
    volatilised: 0,
    denitrified: 0,
    leached: 0,
    runoffN: 0,
    netMin: 0,
    drainMm: 0,
    runoffMm: 0,
    evapMm: 0,
    transpMm: 0,
    uptake: 0,
    demand: 0,
    plantNFrac: null,
    stressDays: 0,
    firstStressDay: null,
    maxDeficit: 0,
    lateExcess: null,
    lateExcessIndex: null,
    residualNo3: 0,
    harvestDay: null,
    maxBalanceError: 0,
  };
  const before = { volatilised: 0, denitrified: 0, leached: 0, runoffN: 0, netMin: 0 };
  let next = 0;
  while (next < r.events.length && (r.events[next] as RunEvent).day < 0) next++;
  for (let d = 0; d < ph.days; d++) {
    if (trace) {
      before.volatilised = st.volatilised;
      before.denitrified = st.denitrified;
      before.leached = st.leached;
      before.runoffN = st.runoffN;
      before.netMin = st.netMin;
    }
    for (let e = r.events[next]; e && e.day === d; e = r.events[++next]) {
      if (e.kind === 'nitrogen') putDown(st, e, n, days.emerged[d] === 1);
      else if (e.kind === 'till') till(st, e.layers, n);
      else {
        st.brought += e.no3;
        add(st.no3, 0, e.no3);
      }
    }
    st.brought += 2 * deposition;
    add(st.no3, 0, deposition);
    add(st.nh4, 0, deposition);
    openCoats(st, ph, p, d);
    rainOn(st, ph, d);
    moveDown(st, ph, s, d);
    hydrolyse(st, ph, p, d, n);
    volatilise(st, ph, d);
    mineralise(st, ph, p, d, n);
    nitrifyAndLose(st, ph, p, d, n);
    st.takenDay = st.fixedDay = 0;
    const wanted = crop && days.on[d] === 1 ? takeUp(st, ph, p, crop, days, d, n) : 0;
    notice(out, r, st, d);
    if (trace) record(trace, st, r, d, wanted, before);
    out.drainMm += ph.drain[d] as number;
    out.runoffMm += ph.runoff[d] as number;
    out.evapMm += ph.evap[d] as number;
    out.transpMm += ph.transp[d] as number;
    if (everyDay || d === ph.days - 1) {
      const error =
        storedN(st) -
        startN -
        (st.brought -
          st.volatilised -
          st.denitrified -
          st.leached -
          st.runoffN -
          (st.cumU - cumD0 - st.fixed) -
          st.leaf);
      out.maxBalanceError = Math.max(out.maxBalanceError, Math.abs(error));
    }
  }
  if (!(out.maxBalanceError < BALANCE_KG))
    throw new Error(`The balance of N is off by ${out.maxBalanceError} kg/ha.`);
  out.volatilised = st.volatilised;
  out.denitrified = st.denitrified;
  out.leached = st.leached;
  out.runoffN = st.runoffN;
  out.netMin = st.netMin;
  out.uptake = st.cumU;
  out.demand = crop ? (days.demand[ph.days - 1] as number) : 0;
  out.plantNFrac = out.demand > 0 ? out.uptake / out.demand : null;
  if (out.harvestDay === null) out.residualNo3 = sumOf(st.no3);
  return out;
}
