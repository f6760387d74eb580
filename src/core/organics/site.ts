import type { Book } from '../book/book';
import { RANGES, within } from '../quantity/range';
import { materialOf, type Material } from '../book/organicMaterials';
import { judge, type Rule, type Warning } from '../rules/rule';
import { nitrogenPools } from './release';

const of = (id: string, level: Warning['level'], message: string, action: string): Warning => ({
  module: 'organics',
  id,
  level,
  message,
  action,
});
/** Limits of the chapter's parameter table: each is a setting where local code asks for another. */
const RAIN_CAUTION_MM = 12;
const HEAVY_RAIN_MM = 25;
const SLOPE_WARN_PCT = 6;
const SLOPE_STOP_PCT = 15;
export const HOT_NH4_KG_HA = 80;
const HOT_NH4_KG_T = 3;
export const PLANTING_GAP_D = 14;
export const HOT_GAP_D = 7;
/** Poultry manure, or a solid rich in ammonium: it burns what it touches. */
export const isHot = (m: Material): boolean =>
  m.mineralisationClass.startsWith('poultry') ||
  (!['liquid', 'slurry'].includes(m.physicalForm) && m.nh4NKgT >= HOT_NH4_KG_T);

export interface GroundState {
  /** Forecast for 48 h; unknown is not dry. */
  rain48hMm?: number | null;
  ground?: 'ok' | 'frozen' | 'snow' | 'saturated' | null;
  slopePct?: number | null;
  surfaceLiquid?: boolean | null;
  /** Drains running, or cracks over them. */
  drainsOpen?: boolean | null;
}
const rule = (r: Omit<Rule<GroundState>, 'module'>): Rule<GroundState> => ({
  module: 'organics',
  ...r,
});
const stateOf = (i: GroundState) =>
  i.ground == null || i.ground === 'ok' ? null : i.ground === 'snow' ? 'snow-covered' : i.ground;
/** Weather, ground and slope on the day of spreading. */
export const siteRules: readonly Rule<GroundState>[] = [
  rule({
    id: 'S03',
    level: 'stop',
    when: '25 mm of rain or more within 48 h',
    message: '{mm} mm of rain within 48 h: run-off to water.',
    action: 'Do not spread.',
    test: (f) => ((f.rain48hMm ?? 0) >= HEAVY_RAIN_MM ? { mm: f.rain48hMm ?? 0 } : null),
  }),
  rule({
    id: 'S04',
    level: 'caution',
    when: '12 to 25 mm of rain within 48 h',
    message: '{mm} mm of rain within 48 h.',
    action:
      'Only with same-day incorporation or injection, away from water. A gentle 4-12 mm is welcome: it washes ammonium in.',
    test: (f) =>
      (f.rain48hMm ?? 0) >= RAIN_CAUTION_MM && (f.rain48hMm ?? 0) < HEAVY_RAIN_MM
        ? { mm: f.rain48hMm ?? 0 }
        : null,
  }),
  rule({
    id: 'S05',
    level: 'stop',
    when: 'ground frozen, snow-covered or saturated',
    message: 'Ground is {state}: manure runs off.',
    action: 'Store it; emergencies belong to the permitting authority and the licensed planner.',
    test: (f) => {
      const state = stateOf(f);
      return state ? { state } : null;
    },
  }),
  rule({
    id: 'S06',
    level: 'stop',
    when: 'surface liquid on a slope above 15 %',
    message: 'Slope {s} % with surface liquid: run-off risk.',
    action: 'Inject along the contour, or use another field.',
    test: (f) =>
      (f.slopePct ?? 0) > SLOPE_STOP_PCT && f.surfaceLiquid ? { s: f.slopePct ?? 0 } : null,
  }),
  rule({
    id: 'S07',
    level: 'caution',
    when: 'slope of 6 to 15 %, and above it where S06 does not stop it',
    message: 'Slope {s} %.',
    action: 'Half rate, contour, buffer.',
    test: (f) =>
      (f.slopePct ?? 0) > SLOPE_WARN_PCT &&
      ((f.slopePct ?? 0) <= SLOPE_STOP_PCT || !f.surfaceLiquid)
        ? { s: f.slopePct ?? 0 }
        : null,
  }),
  rule({
    id: 'S17',
    level: 'caution',
    when: 'drains running, or cracks open above them',
    message: 'Liquid can reach the drains within minutes through cracks and worm holes.',
    action:
      'Till shallowly first, halve the rate, inject shallow, watch and be ready to plug outlets; stop at the first colour in the drain.',
    test: (f) => (f.drainsOpen ? {} : null),
  }),
  rule({
    id: 'S18',
    level: 'caution',
    when: 'no forecast or ground state for a day within reach',
    message: 'No forecast or ground state entered: run-off rules could not be checked.',
    action: 'Look at the forecast and the field; unknown is never taken as dry.',
    test: (f) => (f.rain48hMm == null || f.ground == null ? {} : null),
  }),
];
/**
 * Rules of weather, ground and slope on the day of spreading (chapter 2, S03 to S07, S17, S18).
 *
 * @example groundRules({ rain48hMm: 30, ground: 'ok', slopePct: 8 }).map((w) => w.id) // ['S03',
 * 'S07']
 */
export function groundRules(i: GroundState): Warning[] {
  if (i.rain48hMm != null)
    within('rain_48h_mm', i.rain48hMm, { label: 'Rain within 48 h', unit: 'mm', min: 0, max: 400 });
  if (i.slopePct != null)
    within('slope_pct', i.slopePct, { label: 'Slope', unit: '%', min: 0, max: 60 });
  return judge(siteRules, i);
}

/** P screens of manure planning, mg/kg (chapter 2, parameters). */
const P_SCREENS = {
  mehlich: { caution: 50, screen: 100 },
  olsen: { caution: 30, screen: 60 },
} as const;
/**
 * Whether P lets a manure be dosed by N (chapter 2, R01 to R03).
 *
 * @example pBasisRules({ soilTestP: 100, basis: 'N' })[0].id // 'R01'
 */
export function pBasisRules(i: {
  soilTestP?: number | null;
  basis: 'N' | 'P';
  extractant?: 'mehlich' | 'olsen' | null;
  surplusPKgHa?: number | null;
}): Warning[] {
  if (i.soilTestP == null)
    return [
      of(
        'R03',
        'caution',
        'No soil-test P: the P basis cannot be judged.',
        'Take a soil sample before the second manure application.',
      ),
    ];
  const p = within('soil_test_p', i.soilTestP, {
    label: 'P test',
    unit: 'mg/kg',
    min: 0,
    max: 2000,
  });
  const { caution, screen } = P_SCREENS[i.extractant ?? 'mehlich'];
  if (i.basis !== 'N') return [];
  if (p >= screen)
    return [
      of(
        'R01',
        'stop',
        `Soil-test P is ${p} mg/kg: an N-based rate would add ${i.surplusPKgHa == null ? 'much' : i.surplusPKgHa.toFixed(0)} kg P/ha above off-take.`,
        'Use the P basis (off-take or less, or none), export the manure, or use a low-P material; the licensed planner may set a P index instead.',
      ),
    ];
  return p >= caution
    ? [
        of(
          'R02',
          'caution',
          `Soil-test P is ${p} mg/kg: P basis is advised.`,
          'Use the P rate, or document why N basis is used and retest in 2 years.',
        ),
      ]
    : [];
}

/**
 * Whether a material may go on certified land (chapter 2, O01 to O03): the certifier's letter
 * beats the table.
 *
 * @example organicRules(PRINTED, { mat: 'biosolids_cake', certified: true })[0].id // 'O01'
 */
export function organicRules(
  book: Book,
  i: {
    mat: string;
    certified: boolean;
    approval?: boolean | null;
    compostRecords?: boolean | null;
  },
): Warning[] {
  const m = materialOf(book, i.mat);
  if (!i.certified) return [];
  const name = m.name;
  return [
    m.organicStatus === 'not allowed'
      ? of(
          'O01',
          'stop',
          `${name} may not be used on certified organic land.`,
          'Choose another material; the certifier decides.',
        )
      : null,
    m.organicStatus === 'check certifier' && !i.approval
      ? of(
          'O02',
          'stop',
          `Ask the certifier in writing before buying ${name}.`,
          'Record the answer.',
        )
      : null,
    m.organicStatus === 'restricted'
      ? of(
          'O03',
          'caution',
          `${name}: raw manure interval, origin or rate limits apply.`,
          'Check interval, source farm and total N limit.',
        )
      : null,
    i.compostRecords === false && m.pathogenClass === 'treated_compost'
      ? of(
          'O05',
          'stop',
          'Without time-temperature records this is raw manure.',
          'Obtain the record or treat as raw.',
        )
      : null,
  ].filter((w): w is Warning => w !== null);
}

/**
 * Whether fresh manure lies too close to seed and roots (chapter 2, S01 and S16), from the
 * ammonia-forming N that it brings.
 *
 * @param i.sensitive small seeds, beans, onions or transplants
 * @example plantingRules(PRINTED, { mat: 'broiler_litter', rateTHa: 10, daysToPlanting: 4
 * })[0].id // 'S01'
 */
export function plantingRules(
  book: Book,
  i: {
    mat: string;
    rateTHa: number;
    daysToPlanting: number;
    sensitive?: boolean | null;
  },
): Warning[] {
  const m = materialOf(book, i.mat);
  const rate = within('rate_t_ha', i.rateTHa, RANGES.rateTHa);
  const days = within('days_to_planting', i.daysToPlanting, {
    label: 'Days to planting',
    unit: 'd',
    min: -400,
    max: 400,
  });
  const tan =
    rate *
    nitrogenPools({
      totalN: m.totalNKgT,
      nh4: m.nh4NKgT,
      no3: m.no3NKgT,
      klass: m.mineralisationClass,
    }).tan;
  if (tan <= HOT_NH4_KG_HA || days < 0 || days >= PLANTING_GAP_D) return [];
  if ((isHot(m) && days < HOT_GAP_D) || i.sensitive)
    return [
      of(
        'S01',
        'stop',
        `Fresh high-N manure ${days} days before planting: ${tan.toFixed(0)} kg/ha of ammonia-forming N can burn seed and roots.`,
        `Wait ${PLANTING_GAP_D} days with moist soil, mix through 10-15 cm, plant at least 15 cm beside the band, or use mature compost.`,
      ),
    ];
  return [
    of(
      'S16',
      'caution',
      `${tan.toFixed(0)} kg/ha of ammonium-N ${days} days before planting.`,
      'Safe for maize and cereals if mixed through moist soil; keep seed off the bands; longer gap in cold, dry or sandy soil.',
    ),
  ];
}
