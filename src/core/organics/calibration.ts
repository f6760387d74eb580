import { mean, sampleStandardDeviation } from 'simple-statistics';
import { refuse } from '../quantity/refusal';
import { within } from '../quantity/range';
import { calibrationLimitOf } from '../book/organicTables';
import { judge, type Rule, type Warning } from '../rules/rule';

const positive = (label: string, unit: string, max: number) => ({
  label,
  unit,
  min: 0,
  max,
  above: true,
});
const SPEED = { min: 2, max: 15 };

/**
 * Rate from weigh sheets, t/ha (chapter 2, 7.1).
 *
 * @example weighSheet({ netKg: 21.6, n: 3, area: 3 }) // 24
 */
export const weighSheet = (i: { netKg: number; n: number; area: number }): number =>
  (within('net_kg', i.netKg, positive('Net on the sheets', 'kg', 2000)) /
    (within('n', i.n, positive('Sheets', '', 100)) *
      within('area', i.area, positive('Sheet', 'm2', 20)))) *
  10;
/**
 * Rate from a load and the ground it covered, t/ha, by the effective swath (chapter 2, 7.2).
 *
 * @example loadArea({ loadT: 13, distanceM: 450, swathM: 12 }) // 24.07
 */
export const loadArea = (i: { loadT: number; distanceM: number; swathM: number }): number =>
  within('load_t', i.loadT, positive('Load', 't', 60)) /
  ((within('distance_m', i.distanceM, positive('Distance', 'm', 50_000)) *
    within('swath_m', i.swathM, positive('Swath', 'm', 60))) /
    10_000);
/**
 * Rate of a tanker from its flow, m3/ha (chapter 2, 7.3).
 *
 * @example tankerRate({ flowM3H: 180, speed: 6, swath: 12 }) // 25
 */
export const tankerRate = (i: { flowM3H: number; speed: number; swath: number }): number =>
  (within('flow_m3_h', i.flowM3H, positive('Flow', 'm3/h', 2000)) * 10) /
  (within('speed', i.speed, positive('Speed', 'km/h', 30)) *
    within('swath', i.swath, positive('Swath', 'm', 60)));
/**
 * Speed for a wanted rate, km/h (chapter 2, 7.4).
 *
 * @throws Refusal outside 2 to 15 km/h: change the flow instead
 * @example speedFor({ flowM3H: 180, rateM3Ha: 25, swathM: 12 }) // 6
 */
export function speedFor(i: { flowM3H: number; rateM3Ha: number; swathM: number }): number {
  const speed =
    (within('flow_m3_h', i.flowM3H, positive('Flow', 'm3/h', 2000)) * 10) /
    (within('rate_m3_ha', i.rateM3Ha, positive('Rate', 'm3/ha', 400)) *
      within('swath_m', i.swathM, positive('Swath', 'm', 60)));
  if (speed < SPEED.min || speed > SPEED.max)
    refuse(
      'out_of_range',
      'speed_km_h',
      `speed_km_h = ${speed.toFixed(1)} km/h is outside ${SPEED.min} to ${SPEED.max} km/h: change the flow.`,
      { value: speed, allowed: `${SPEED.min} to ${SPEED.max} km/h` },
    );
  return speed;
}

/**
 * Evenness of a spreading test: coefficient of variation of the overlapped trays, % (chapter 2,
 * 7.5).
 *
 * @example spreadCv({ xs: [10, 12, 9, 11, 8] }) // 15.8
 */
export function spreadCv(i: { xs: readonly number[] }): number {
  i.xs.forEach((x, k) => within(`xs[${k}]`, x, { label: 'Tray', unit: '', min: 0, max: 1e6 }));
  if (i.xs.length < 2)
    refuse('missing', 'xs', 'xs: a spread needs two trays or more.', {
      value: i.xs.length,
      allowed: '2 or more',
    });
  const m = mean([...i.xs]);
  if (m === 0)
    refuse('out_of_range', 'xs', 'xs: nothing was caught.', { value: 0, allowed: 'above 0' });
  return (100 * sampleStandardDeviation([...i.xs])) / m;
}

/**
 * Overlapped pattern of a single pass at a swath of `m` pitches (chapter 2, 7.6); back and forth
 * mirrors every second pass, a racetrack does not.
 *
 * @example overlapCv({ a: [1, 3, 5, 6, 6, 5, 3, 1], m: 6 }).cvPct // 17.1
 */
export function overlapCv(i: { a: readonly number[]; m: number; racetrack?: boolean | null }): {
  pattern: number[];
  cvPct: number;
} {
  const trays = i.a.length;
  within('m', i.m, { label: 'Swath', unit: 'pitches', min: 1, max: 200 });
  if (!Number.isInteger(i.m))
    refuse('not_a_number', 'm', `m = ${i.m}: the swath is a whole number of pitches.`, {
      value: i.m,
      allowed: 'a whole number',
    });
  if (trays < 3)
    refuse('missing', 'a', 'a: a pattern needs three trays or more.', {
      value: trays,
      allowed: '3 or more',
    });
  const c = (trays - 1) / 2;
  const half = trays % 2 === 0 ? 0.5 : 0;
  const reach = Math.ceil(trays / i.m) + 2;
  const pattern = Array.from({ length: 2 * i.m }, (_, j) => {
    let sum = 0;
    for (let k = -reach; k <= 2 + reach; k++) {
      const off = j + half - k * i.m;
      const index = Math.round(!i.racetrack && k % 2 !== 0 ? c - off : c + off);
      sum += i.a[index] ?? 0;
    }
    return sum;
  });
  return { pattern, cvPct: spreadCv({ xs: pattern }) };
}

const DRIFT_CAUTION_PCT = 15;
/**
 * How much slower a tanker without control runs at the end of a load than at its beginning, %
 * (chapter 2, 7.7): above 15 the field is striped along its length.
 *
 * @param i.first flow over the first third of a load, m3/h; i.last over the last third
 * @example flowDrift({ first: 190, last: 150 }) // { driftPct: 21.1, caution: true }
 */
export function flowDrift(i: { first: number; last: number }): {
  driftPct: number;
  caution: boolean;
} {
  const flow = (field: string, v: number) => within(field, v, positive('Flow', 'm3/h', 2000));
  const [first, last] = [flow('first', i.first), flow('last', i.last)];
  const driftPct = (100 * Math.abs(first - last)) / Math.max(first, last);
  return { driftPct, caution: driftPct > DRIFT_CAUTION_PCT };
}

export interface CalibrationTest {
  machineKind: string;
  target: number;
  actual: number;
  cvPct: number | null;
  trays: number | null;
  /** Sheets that were weighed; null for another kind of test. */
  sheets?: number | null;
  date: string;
  /** Days since the test, and whether machine or material has changed since. */
  ageDays: number;
  changed: boolean;
  sightGlass: boolean;
}
const rule = (r: Omit<Rule<CalibrationTest>, 'module'>): Rule<CalibrationTest> => ({
  module: 'organics',
  ...r,
});
const limitOf = (t: CalibrationTest) => calibrationLimitOf(t.machineKind);
const off = (t: CalibrationTest): number => t.actual / t.target - 1;
/** 24 t/ha weighed on sheets is 24.000000000000004: at its bound a test still passes. */
const ROUNDING = 1e-9;
/** What a calibration is worth, and what to change (chapter 2, section 7). */
export const calibrationRules: readonly Rule<CalibrationTest>[] = [
  rule({
    id: 'C01',
    level: 'caution',
    when: 'calibration older than 12 months, or machine or material changed',
    message: 'Calibration of {date} no longer counts.',
    action: 'Repeat the sheet or load test.',
    test: (t) => (t.ageDays > 365 || t.changed ? { date: t.date } : null),
  }),
  rule({
    id: 'C02',
    level: 'caution',
    when: 'spread CV above the acceptable',
    message: 'Spread CV {cv} % is over the acceptable {lim} %.',
    action: 'Change overlap, speed or settings; test again.',
    test: (t) =>
      t.cvPct !== null && t.cvPct > limitOf(t).cvAcceptPct && t.cvPct <= limitOf(t).cvRejectPct
        ? { cv: t.cvPct, lim: limitOf(t).cvAcceptPct }
        : null,
  }),
  rule({
    id: 'C03',
    level: 'stop',
    when: 'spread CV above what is rejected',
    message: 'Spread CV {cv} %: the field will be striped.',
    action: 'Do not spread until it is fixed.',
    test: (t) => (t.cvPct !== null && t.cvPct > limitOf(t).cvRejectPct ? { cv: t.cvPct } : null),
  }),
  rule({
    id: 'C04',
    level: 'stop',
    when: 'rate found off the target by more than the machine’s limit',
    message: 'Real rate is {pct} % off the target.',
    action:
      'Change speed: new speed = old speed x actual/target (with a ground-driven feed change the gate).',
    test: (t) =>
      Math.abs(off(t)) > limitOf(t).rateErrorRejectPct / 100 + ROUNDING
        ? { pct: 100 * off(t) }
        : null,
  }),
  rule({
    id: 'C05',
    level: 'caution',
    when: 'too few trays, or one sheet alone',
    message: 'Too few trays for a trustworthy CV.',
    action: 'Use at least {n} trays, three runs.',
    test: (t) =>
      (t.trays !== null && t.trays < limitOf(t).minTrays) || t.sheets === 1
        ? { n: limitOf(t).minTrays }
        : null,
  }),
  rule({
    id: 'C06',
    level: 'info',
    when: 'volume read from a sight glass',
    message: 'Sight-glass volume is good to about 10 %.',
    action: 'Weigh one load or use a flow meter.',
    test: (t) => (t.sightGlass ? {} : null),
  }),
];
/** Rules C01 to C06 on a test. @throws Refusal where a rate is out of range */
export function judgeCalibration(t: CalibrationTest): Warning[] {
  within('actual', t.actual, positive('Actual rate', 't/ha', 400));
  within('target', t.target, positive('Target rate', 't/ha', 400));
  return judge(calibrationRules, t);
}
