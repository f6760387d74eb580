import type { Book } from '../book/book';
import { refuse } from '../quantity/refusal';
import { oneOf, RANGES, within } from '../quantity/range';
import { LB_GAL_PER_KG_L } from '../quantity/units';
import { fertiliserOf, LABEL_NUTRIENTS, LABEL_PCT, type Fertiliser } from '../book/fertilisers';
import { foliarLimit, tankMixStatus } from '../book/mixes';

const VOLUME = { label: 'Volume', unit: 'L', min: 0, max: 1e6, above: true };
const liquid = (book: Book, id: string, field: string): Fertiliser & { densityKgL: number } => {
  const f = fertiliserOf(book, id, field);
  return f.densityKgL === null
    ? refuse('inconsistent', field, `${id} has no density: it is not a liquid.`, { value: id })
    : { ...f, densityKgL: f.densityKgL };
};
const MACRO_LABEL = {
  n: LABEL_PCT.n,
  p: LABEL_PCT.p,
  k: LABEL_PCT.k,
  s: LABEL_PCT.s,
  ca: LABEL_PCT.ca,
} as const;
const WORST = ['ok', 'jar_test', 'no'] as const;
type Status = (typeof WORST)[number];

/**
 * Density, analysis and compatibility of liquids in one tank (chapter 4, F2.5, F2.10). An unlisted
 * pair needs a jar test.
 *
 * @example tankMix(PRINTED, { components: [{ productId: 'uan_32', l: 900 }, { productId:
 * 'ammonium_thiosulphate_12_26s', l: 100 }] }).densityKgL // 1.321
 */
export function tankMix(
  book: Book,
  {
    components,
  }: {
    components: readonly { productId: string; l: number }[];
  },
) {
  if (components.length === 0)
    refuse('missing', 'components', 'components: give at least one liquid.');
  const parts = components.map((c, i) => ({
    f: liquid(book, c.productId, `components[${i}].product_id`),
    l: within(`components[${i}].l`, c.l, VOLUME),
  }));
  for (const [i, { f }] of parts.entries())
    if (f.hazards.split(';').includes('pressurised'))
      refuse(
        'inconsistent',
        `components[${i}].product_id`,
        `${f.name} is a gas under pressure: it goes into no open tank.`,
        { value: f.productId },
      );
  const volume = parts.reduce((s, p) => s + p.l, 0);
  const mass = parts.reduce((s, p) => s + p.l * p.f.densityKgL, 0);
  const load = (of: (f: Fertiliser) => number) =>
    parts.reduce((s, p) => s + (p.l * p.f.densityKgL * of(p.f)) / 100, 0);
  const each = <T>(map: (of: (f: Fertiliser) => number) => T) =>
    Object.fromEntries(Object.entries(MACRO_LABEL).map(([x, of]) => [x, map(of)])) as Record<
      keyof typeof MACRO_LABEL,
      T
    >;
  const pairs = parts.flatMap((a, i) =>
    parts
      .slice(i + 1)
      .map((b): [string, string, Status] => [
        a.f.productId,
        b.f.productId,
        tankMixStatus(a.f.mixClass, b.f.mixClass)?.status ?? 'jar_test',
      ]),
  );
  const worstPair = pairs.reduce<Status>(
    (w, [, , s]) => (WORST.indexOf(s) > WORST.indexOf(w) ? s : w),
    'ok',
  );
  const densities = parts.map((p) => p.f.densityKgL);
  const densityGapKgL = Math.max(...densities) - Math.min(...densities);
  const saltOuts = parts.map((p) => p.f.saltOutC);
  const known = saltOuts.every((c) => c !== null);
  const assumedSaltOutC =
    !known || worstPair === 'no'
      ? null
      : parts.length === 1
        ? (saltOuts[0] ?? null)
        : worstPair === 'ok'
          ? parts.reduce((s, p) => s + ((p.f.saltOutC ?? 0) * p.l) / volume, 0) + 5
          : Math.max(...saltOuts.map((c) => c ?? 0)) + 5;
  return {
    densityKgL: mass / volume,
    lbPerGal: (mass / volume) * LB_GAL_PER_KG_L,
    analysisPct: each((of) => (100 * load(of)) / mass),
    gPerL: each((of) => (1000 * load(of)) / volume),
    worstPair,
    pairs,
    densityGapKgL,
    separateTanks: worstPair === 'no' || (densityGapKgL > 0.1 && worstPair !== 'ok'),
    assumedSaltOutC,
  };
}

const LITRES_HA = { label: 'Liquid rate', unit: 'L/ha', min: 0, max: 20_000, above: true };
const MEANINGFUL = { macro: [0.02, 0.1], micro: [0.1, 0.25] } as const;
const MACRO = ['n', 'p', 'k', 's', 'ca', 'mg'];
const DEFAULT_LEAF_RECOVERY = 0.4;

export interface FoliarInput {
  productId: string;
  productLHa?: number | null;
  productKgHa?: number | null;
  nutrient: string;
  sprayVolumeLHa: number;
  remainingNeedKgHa: number;
  peakDailyUptakeKgHa?: number | null;
  leafRecoveryFrac?: number | null;
  cropGroup?: string | null;
}

/**
 * Whether a spray holds a meaningful amount, and whether it burns (chapter 4, F2.6).
 *
 * @example foliarLoad(PRINTED, { productId: 'foliar_npk_liquid_8_8_6', productLHa: 3, nutrient:
 * 'n', sprayVolumeLHa: 200, remainingNeedKgHa: 60, leafRecoveryFrac: 0.6 }).verdict //
 * 'not_meaningful'
 */
export function foliarLoad(book: Book, i: FoliarInput) {
  const f = fertiliserOf(book, i.productId);
  const content = LABEL_PCT[oneOf('nutrient', i.nutrient, LABEL_NUTRIENTS)];
  const water = within('spray_volume_l_ha', i.sprayVolumeLHa, {
    label: 'Spray volume',
    unit: 'L/ha',
    min: 10,
    max: 5000,
  });
  const need = within('remaining_need_kg_ha', i.remainingNeedKgHa, {
    label: 'Remaining need',
    unit: 'kg/ha',
    min: 0,
    max: 1000,
    above: true,
  });
  const productKgHa =
    i.productKgHa != null
      ? within('product_kg_ha', i.productKgHa, RANGES.productKgHa)
      : within('product_l_ha', i.productLHa, {
          label: 'Product',
          unit: 'L/ha',
          min: 0,
          max: 5000,
        }) * liquid(book, i.productId, 'product_id').densityKgL;
  const limit = i.cropGroup == null ? undefined : foliarLimit(f, i.cropGroup);
  const loadKgHa = (productKgHa * content(f)) / 100;
  const concPctWv = (100 * productKgHa) / water;
  const takenUpKgHa =
    loadKgHa *
    within(
      'leaf_recovery_frac',
      i.leafRecoveryFrac ?? limit?.leafRecoveryFrac ?? DEFAULT_LEAF_RECOVERY,
      { ...RANGES.share, label: 'Taken up by the leaf' },
    );
  const shareOfNeed = takenUpKgHa / need;
  const [low, high] = MACRO.includes(i.nutrient) ? MEANINGFUL.macro : MEANINGFUL.micro;
  const max = limit?.maxProductPctWv ?? null;
  return {
    productKgHa,
    loadKgHa,
    concPctWv,
    limitPctWv: max,
    burn:
      max === null
        ? 'unknown'
        : concPctWv > max
          ? 'stop'
          : concPctWv > 0.8 * max
            ? 'caution'
            : 'ok',
    takenUpKgHa,
    shareOfNeed,
    verdict: shareOfNeed < low ? 'not_meaningful' : shareOfNeed < high ? 'small' : 'meaningful',
    daysOfPeakUptake: i.peakDailyUptakeKgHa ? takenUpKgHa / i.peakDailyUptakeKgHa : null,
    spraysToCoverNeed: takenUpKgHa > 0 ? Math.ceil(need / takenUpKgHa) : null,
  };
}

export interface TwoTankInput {
  swathM: number;
  speedKmH: number;
  outlets: number;
  tanks: readonly {
    productId: string;
    nKgHa?: number | null;
    lHa?: number | null;
    tankL: number;
  }[];
}

/**
 * Flow, area per fill and orifice of two tanks on one toolbar (chapter 4, F2.7).
 *
 * @example twoTankPlan(PRINTED, { swathM: 9.144, speedKmH: 9.6, outlets: 12, tanks: [{ productId:
 * 'uan_28', nKgHa: 60, tankL: 3000 }] }).haPerStop // 17.92
 */
export function twoTankPlan(book: Book, i: TwoTankInput) {
  const swath = within('swath_m', i.swathM, { label: 'Swath', unit: 'm', min: 0.5, max: 60 });
  const speed = within('speed_km_h', i.speedKmH, { label: 'Speed', unit: 'km/h', min: 1, max: 40 });
  const outlets = within('outlets', i.outlets, { label: 'Outlets', unit: '', min: 1, max: 200 });
  const tanks = i.tanks.map((t, k) => {
    const f = liquid(book, t.productId, `tanks[${k}].product_id`);
    if (t.lHa == null && f.nTotalPct === 0)
      refuse(
        'inconsistent',
        `tanks[${k}].product_id`,
        `${t.productId} holds no N: give its rate in litres (l_ha).`,
        { value: t.productId },
      );
    const lHa =
      t.lHa != null
        ? within(`tanks[${k}].l_ha`, t.lHa, LITRES_HA)
        : (within(`tanks[${k}].n_kg_ha`, t.nKgHa, { ...RANGES.kgHa, above: true }) * 100) /
          f.nTotalPct /
          f.densityKgL;
    const lMinPerOutlet = (lHa * swath * speed) / 600 / outlets;
    return [
      t.productId,
      {
        lHa,
        haPerFill: within(`tanks[${k}].tank_l`, t.tankL, VOLUME) / lHa,
        lMinPerOutlet,
        waterEquivalentLMin: lMinPerOutlet * Math.sqrt(f.densityKgL),
      },
    ] as const;
  });
  return {
    tanks: Object.fromEntries(tanks),
    haPerStop: Math.min(...tanks.map(([, t]) => t.haPerFill)),
    workRateHaH: (swath * speed) / 10,
  };
}

/**
 * C in sugar, and what microbes would tie up of it: assimilation 0.40 at C:N 10 (chapter 4, F2.9).
 */
const SUGAR_C = 0.42;

/**
 * N that an additive must save to pay for itself (F2.9).
 *
 * @example additiveCheck({ costPerHa: 12, nPricePerKg: 1, sugarKgHa: 5 }) // { breakEvenNKgHa: 12 }
 */
export function additiveCheck(i: {
  costPerHa: number;
  nPricePerKg: number;
  sugarKgHa?: number | null;
}) {
  const price = within('n_price_per_kg', i.nPricePerKg, {
    label: 'N price',
    unit: 'per kg',
    min: 0,
    max: 100,
    above: true,
  });
  return {
    breakEvenNKgHa:
      within('cost_per_ha', i.costPerHa, { label: 'Cost', unit: 'per ha', min: 0, max: 10000 }) /
      price,
    nTiedUpKgHa:
      (within('sugar_kg_ha', i.sugarKgHa ?? 0, {
        label: 'Sugar',
        unit: 'kg/ha',
        min: 0,
        max: 10_000,
      }) *
        SUGAR_C *
        0.4) /
      10,
  };
}
