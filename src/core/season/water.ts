import { clip } from '../quantity/curve';
import type { CropDays, SeasonCrop } from './cropDays';
import { warmthFactor, type SimParams } from './params';
import { LAYER_CM, type Site } from './site';
import type { Weather } from './weather';

// What of a season does not depend on the N that is spread: water, warmth, roots, and how far each
// first-order process goes in a day (chapter 4, S2 to S10 and S19). Laid out once for a weather
// year; the N of any number of plans runs over it.

/** Flat arrays: a figure for each day, or for each day and layer. */
export interface Physical {
  days: number;
  layers: number;
  // By day.
  tSoil: Float64Array;
  wTop: Float64Array;
  drain: Float64Array;
  runoff: Float64Array;
  evap: Float64Array;
  transp: Float64Array;
  /** How much a coat ages. */
  coatAge: Float64Array;
  /** Shares of what lies on top: washed in by the first rain, taken by run-off, washed in then. */
  washFirst: Float64Array;
  washOff: Float64Array;
  washThen: Float64Array;
  /** Rates of surface urea and ammonium: turning over, entering the soil, going to the air. */
  urease: Float64Array;
  ureaEnters: Float64Array;
  mineralEnters: Float64Array;
  airUrea: Float64Array;
  airSalt: Float64Array;
  uiLeft: Float64Array;
  niLeftOnTop: Float64Array;
  // By day and layer.
  hydrolysed: Float64Array;
  moved: Float64Array;
  somTurned: Float64Array;
  bioTurned: Float64Array;
  rotting: Float64Array;
  nitrify: Float64Array;
  nitrified: Float64Array;
  niLeft: Float64Array;
  denitrified: Float64Array;
  takesNo3: Float64Array;
  takesNh4: Float64Array;
  rooted: Float64Array;
  /** Water at the end of the run, and warmth of the ground, by layer. */
  waterMm: Float64Array;
  tLayersC: Float64Array;
  /** Water balance that does not close, mm; near 0. */
  waterError: number;
}
const BY_DAY = [
  'tSoil',
  'wTop',
  'drain',
  'runoff',
  'evap',
  'transp',
  'coatAge',
  'washFirst',
  'washOff',
  'washThen',
  'urease',
  'ureaEnters',
  'mineralEnters',
  'airUrea',
  'airSalt',
  'uiLeft',
  'niLeftOnTop',
] as const;
const BY_LAYER = [
  'hydrolysed',
  'moved',
  'somTurned',
  'bioTurned',
  'rotting',
  'nitrify',
  'nitrified',
  'niLeft',
  'denitrified',
  'takesNo3',
  'takesNh4',
  'rooted',
] as const;
/** Room for a run; used again from year to year. */
export function newPhysical(days: number, layers: number): Physical {
  const of = <K extends string>(names: readonly K[], size: number) =>
    Object.fromEntries(names.map((name) => [name, new Float64Array(size)])) as Record<
      K,
      Float64Array
    >;
  return {
    days,
    layers,
    ...of(BY_DAY, days),
    ...of(BY_LAYER, days * layers),
    waterMm: new Float64Array(layers),
    tLayersC: new Float64Array(layers),
    waterError: 0,
  };
}

/** What the water of a day needs, kept between days. */
interface Ground {
  w: Float64Array;
  ts: Float64Array;
  flux: Float64Array;
  wet: Float64Array;
  rf: Float64Array;
  rw: Float64Array;
  snow: number;
  cover: number;
}

/** Roots and leaves of a day (S5). */
function grow(p: SimParams, s: Site, c: SeasonCrop, g: number, on: boolean, ground: Ground): void {
  const { rf, rw } = ground;
  if (!on || g < c.emerge) {
    rf.fill(0);
    rw.fill(0);
    ground.cover = 0;
    return;
  }
  const zr = Math.min(c.rootMax, c.rootZ0 + c.rootRate * (g - c.emerge));
  for (let i = 0; i < s.layers; i++) {
    rf[i] = clip((zr - LAYER_CM * i) / LAYER_CM, 0, 1);
    rw[i] = (rf[i] as number) * Math.exp((-p.rootDecay * (s.depth[i] as number)) / zr);
  }
  ground.cover =
    g < c.senesce
      ? c.coverMax * clip((g - c.emerge) / (c.fullCover - c.emerge), 0, 1)
      : c.coverMax * (1 - 0.7 * clip((g - c.senesce) / (c.maturity - c.senesce), 0, 1));
}

/** Rain, melt and run-off, and what they do to what lies on top (S7); returns what enters. */
function waterIn(
  p: SimParams,
  s: Site,
  out: Physical,
  d: number,
  tMean: number,
  rain: number,
  irrigation: number,
  ground: Ground,
): number {
  let liquid = 0;
  if (tMean < 0) ground.snow += rain;
  else {
    const melt = Math.min(ground.snow, p.snowMeltMmCD * tMean);
    ground.snow -= melt;
    liquid = rain + melt;
  }
  let q = 0;
  let first = liquid;
  if (s.curveNumber > 0) {
    const store = 25400 / s.curveNumber - 254;
    const held = 0.2 * store;
    first = Math.min(liquid, held);
    if (liquid > held) q = (liquid - held) ** 2 / (liquid + 0.8 * store);
  }
  const infiltrates = liquid - q + irrigation;
  const fa = Math.min(1, first / p.washMm);
  const fb = Math.min(1, infiltrates / p.washMm);
  out.washFirst[d] = fa;
  out.washOff[d] = liquid > 0 ? (p.runoffSurfFrac * q) / liquid : 0;
  out.washThen[d] = fb > fa ? (fb - fa) / (1 - fa) : 0;
  out.runoff[d] = q;
  return infiltrates;
}

/** Water down through the layers, and back up where it stands (S8). */
function drainDown(s: Site, out: Physical, d: number, enters: number, ground: Ground): void {
  const { w, flux, wet } = ground;
  const n = s.layers;
  let down = enters;
  for (let i = 0; i < n; i++) {
    const [sat, fc] = [s.saturation[i] as number, s.capacity[i] as number];
    const full = (w[i] as number) + down;
    const wanted =
      Math.max(0, full - sat) + (s.drainCoef[i] as number) * Math.max(0, Math.min(full, sat) - fc);
    down = Math.min(wanted, s.mostOut[i] as number);
    w[i] = full - down;
    flux[i] = down;
  }
  for (let i = n - 1; i >= 1; i--) {
    const surplus = (w[i] as number) - (s.saturation[i] as number);
    if (surplus <= 0) continue;
    w[i] = s.saturation[i] as number;
    w[i - 1] = (w[i - 1] as number) + surplus;
    flux[i - 1] = (flux[i - 1] as number) - surplus;
  }
  const standing = (w[0] as number) - (s.saturation[0] as number);
  if (standing > 0) {
    w[0] = s.saturation[0] as number;
    out.runoff[d] = (out.runoff[d] as number) + standing;
  }
  const at = d * n;
  for (let i = 0; i < n; i++) {
    const f = flux[i] as number;
    out.moved[at + i] = f > 0 ? f / ((w[i] as number) + f) : 0;
    wet[i] = Math.min(
      s.saturation[i] as number,
      (w[i] as number) + (1 - (s.drainCoef[i] as number)) * f,
    );
  }
  out.drain[d] = flux[n - 1] as number;
}

/** Evaporation and what the crop drinks (S10). */
function dry(
  p: SimParams,
  s: Site,
  out: Physical,
  d: number,
  et0: number,
  kc: number,
  ground: Ground,
): void {
  const { w, rf, rw, cover } = ground;
  const n = s.layers;
  const air = 0.5 * (s.wilting[0] as number);
  const r1 = clip(((w[0] as number) - air) / ((s.capacity[0] as number) - air), 0, 1);
  const evap = Math.min(
    et0 * (1 - cover) * p.evapCoef * (1 - p.residueEvap * s.residue) * r1 * r1,
    (w[0] as number) - air,
  );
  w[0] = (w[0] as number) - evap;
  out.evap[d] = evap;
  let [taw, aw, sum] = [0, 0, 0];
  for (let i = 0; i < n; i++) {
    const [wp, fc, wi] = [s.wilting[i] as number, s.capacity[i] as number, w[i] as number];
    taw += (rf[i] as number) * (fc - wp);
    aw += (rf[i] as number) * clip(wi - wp, 0, fc - wp);
    sum += (rw[i] as number) * Math.max(0, wi - wp);
  }
  let transp = 0;
  if (sum > 0 && taw > 0) {
    const wanted = et0 * cover * kc * Math.min(1, aw / taw / (1 - p.pRaw));
    for (let i = 0; i < n; i++) {
      const free = (w[i] as number) - (s.wilting[i] as number);
      if (free <= 0) continue;
      const t = Math.min((wanted * (rw[i] as number) * free) / sum, free);
      w[i] = (w[i] as number) - t;
      transp += t;
    }
  }
  out.transp[d] = transp;
}

/** How far the processes of each layer go in this day. */
function layerRates(p: SimParams, s: Site, out: Physical, d: number, ground: Ground): void {
  const { w, ts, wet, rf, rw } = ground;
  const n = s.layers;
  const at = d * n;
  const acid = clip((s.ph - 4) / 2, 0.2, 1);
  for (let i = 0; i < n; i++) {
    const [wp, fc, sat, wi] = [
      s.wilting[i] as number,
      s.capacity[i] as number,
      s.saturation[i] as number,
      w[i] as number,
    ];
    const r = clip((wi - 0.5 * wp) / (fc - 0.5 * wp), 0, 1);
    const ex = clip((wi - fc) / (sat - fc), 0, 1);
    const t2 = warmthFactor(p, ts[i] as number, p.q10Min);
    const t25 = warmthFactor(p, ts[i] as number, p.q10Nit);
    const f = t2 * r * (1 - 0.5 * ex);
    const nitrify = p.kNitD * t25 * r * (1 - ex) * acid;
    const low = fc + p.denThresh * (sat - fc);
    const over = ((wet[i] as number) - low) / (sat - low);
    const moist = clip((wi - wp) / (p.uptakeMoistHalf * (fc - wp)), 0, 1);
    const root = (rw[i] as number) * moist;
    const k = at + i;
    out.hydrolysed[k] = 1 - Math.exp(-p.kHydD * t2 * r);
    out.rotting[k] = f;
    out.somTurned[k] = f > 0 ? 1 - Math.exp(-(s.kSom[i] as number) * f) : 0;
    out.bioTurned[k] = f > 0 ? 1 - Math.exp(-p.kBioD * f) : 0;
    out.nitrify[k] = nitrify;
    out.nitrified[k] = nitrify > 0 ? 1 - Math.exp(-nitrify) : 0;
    out.niLeft[k] = Math.exp(-t2 / p.niTauD);
    out.denitrified[k] =
      over > 0 ? 1 - Math.exp(-p.kDenD * t25 * (s.carbon[i] as number) * over * over) : 0;
    out.takesNo3[k] = p.kappaNo3 * root;
    out.takesNh4[k] = p.kappaNh4 * root;
    out.rooted[k] = rf[i] as number;
  }
}

/** Rates of what lies on top (S11, S12). */
function surfaceRates(
  p: SimParams,
  s: Site,
  out: Physical,
  d: number,
  tMean: number,
  ground: Ground,
): void {
  const air = 0.5 * (s.wilting[0] as number);
  const r1 = clip(((ground.w[0] as number) - air) / ((s.capacity[0] as number) - air), 0, 1);
  const fm = 0.3 + 0.7 * r1;
  const t2 = warmthFactor(p, ground.ts[0] as number, p.q10Min);
  const c =
    p.volQ10 ** ((tMean - p.volTRefC) / 10) *
    s.fCec *
    (1 + p.volResidue * s.residue) *
    (1 - p.volCanopy * ground.cover) *
    fm;
  out.urease[d] = p.kHydD * t2 * r1;
  out.ureaEnters[d] = p.kDiffUreaD * fm;
  out.mineralEnters[d] = p.kDiffMinD * fm;
  out.airUrea[d] = p.kvUreaD * Math.exp(p.volPhSlopeUrea * (s.ph - 6.5)) * c;
  out.airSalt[d] = p.kvSaltD * Math.exp(p.volPhSlopeSalt * (s.ph - 6.5)) * c;
  out.uiLeft[d] = Math.exp(-t2 / p.uiTauD);
  out.niLeftOnTop[d] = Math.exp(-t2 / p.niTauD);
}

const sumOf = (x: Float64Array): number => {
  let s = 0;
  for (let i = 0; i < x.length; i++) s += x[i] as number;
  return s;
};

/**
 * Runs water, warmth and roots over the days of some weather.
 *
 * @param irrigation mm by day
 */
export function physicalPass(
  p: SimParams,
  s: Site,
  crop: SeasonCrop | null,
  days: CropDays,
  weather: Weather,
  irrigation: Float64Array,
  tSoilInitC: number | null,
  out: Physical,
): void {
  const n = s.layers;
  const ground: Ground = {
    w: out.waterMm,
    ts: out.tLayersC,
    flux: new Float64Array(n),
    wet: new Float64Array(n),
    rf: new Float64Array(n),
    rw: new Float64Array(n),
    snow: 0,
    cover: 0,
  };
  let warmth = tSoilInitC ?? 0;
  if (tSoilInitC === null) {
    const first = Math.min(10, weather.days);
    for (let d = 0; d < first; d++)
      warmth += ((weather.tMinC[d] as number) + (weather.tMaxC[d] as number)) / 2 / first;
  }
  for (let i = 0; i < n; i++) {
    const wp = s.wilting[i] as number;
    ground.w[i] = wp + s.initWaterFrac * ((s.capacity[i] as number) - wp);
    ground.ts[i] = warmth;
  }
  const before = sumOf(ground.w);
  let came = 0;
  let went = 0;
  for (let d = 0; d < weather.days; d++) {
    const tMean = ((weather.tMinC[d] as number) + (weather.tMaxC[d] as number)) / 2;
    for (let i = 0; i < n; i++)
      ground.ts[i] =
        (ground.ts[i] as number) +
        (tMean - (ground.ts[i] as number)) / (p.tSoilA + p.tSoilB * (s.depth[i] as number));
    if (crop) grow(p, s, crop, days.g[d] as number, days.on[d] === 1, ground);
    out.coatAge[d] =
      (ground.w[0] as number) > (s.wilting[0] as number)
        ? warmthFactor(p, ground.ts[0] as number, p.q10Min)
        : 0;
    const enters = waterIn(
      p,
      s,
      out,
      d,
      tMean,
      weather.rainMm[d] as number,
      irrigation[d] as number,
      ground,
    );
    drainDown(s, out, d, enters, ground);
    dry(p, s, out, d, weather.et0Mm[d] as number, crop?.kc ?? 0, ground);
    layerRates(p, s, out, d, ground);
    surfaceRates(p, s, out, d, tMean, ground);
    out.tSoil[d] = ground.ts[0] as number;
    out.wTop[d] = ground.w[0] as number;
    came += (weather.rainMm[d] as number) + (irrigation[d] as number);
    went +=
      (out.drain[d] as number) +
      (out.runoff[d] as number) +
      (out.evap[d] as number) +
      (out.transp[d] as number);
  }
  out.waterError = sumOf(ground.w) + ground.snow - before - came + went;
}
