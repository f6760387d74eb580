import { within } from '../quantity/range';
import { incropWindowsOf } from '../book/organicTables';
import { judge, type Rule, type Warning } from '../rules/rule';

/** Crops that fill gaps lose half of what maize loses (chapter 2, section 8). */
const FILLS_GAPS = ['winter_cereal', 'spring_cereal', 'grass_cut', 'canola'];

/**
 * Yield lost with a share of the stand, % (chapter 2, section 8).
 *
 * @example standLoss({ stand: 3 }) // 0.9
 */
export function standLoss(i: { stand: number; crop?: string | null }): number {
  const stand = within('stand', i.stand, { label: 'Stand lost', unit: '%', min: 0, max: 100 });
  return (
    (stand <= 10 ? 0.3 * stand : 3 + 0.8 * (stand - 10)) *
    (i.crop && FILLS_GAPS.includes(i.crop) ? 0.5 : 1)
  );
}

/**
 * Whether slurry in a standing crop pays: N brought against plants lost (chapter 2, section 8). I06
 * where the loss is larger.
 *
 * @example incropBenefit({ pan: 3, rate: 35, needN: 90, priceN: 1.2, stand: 3, yieldT: 11,
 * priceCrop: 180, costHa: 60 }).netHa // 30.18
 */
export function incropBenefit(i: {
  pan: number;
  rate: number;
  needN: number;
  priceN: number;
  stand: number;
  yieldT: number;
  priceCrop: number;
  costHa: number;
  savedPassHa?: number | null;
  crop?: string | null;
}): { gainHa: number; lossHa: number; netHa: number; tooDear: boolean } {
  const money = (label: string) => ({ label, unit: 'currency', min: 0, max: 100_000 });
  const supplied =
    within('pan', i.pan, { label: 'Available N', unit: 'kg/m3', min: 0, max: 50 }) *
    within('rate', i.rate, { label: 'Rate', unit: 'm3/ha', min: 0, max: 400 });
  const gainHa =
    Math.min(
      supplied,
      within('need_n', i.needN, { label: 'N needed', unit: 'kg/ha', min: 0, max: 600 }),
    ) *
      within('price_n', i.priceN, money('Price of N')) +
    within('saved_pass_ha', i.savedPassHa ?? 0, money('Pass saved'));
  const lossHa =
    (standLoss(i) / 100) *
    within('yield_t', i.yieldT, { label: 'Yield', unit: 't/ha', min: 0, max: 200 }) *
    within('price_crop', i.priceCrop, money('Price of the crop'));
  return {
    gainHa,
    lossHa,
    netHa: gainHa - lossHa - within('cost_ha', i.costHa, money('Cost')),
    tooDear: lossHa > gainHa,
  };
}

export interface WindowInput {
  crop: string;
  technique: string;
  /** Leaf collars, which decide where they are known; the BBCH code otherwise. */
  vStage?: number | null;
  bbch?: number | null;
  dmPct?: number | null;
  nh4Share?: number | null;
}
/** Where a technique stands against its window in a crop. */
export interface InCropFacts {
  crop: string;
  technique: string;
  past: string | null;
  outside: string | null;
  stage: string;
  unsuited: boolean;
  dm: number | null;
  share: number | null;
  rawCrop: boolean;
  wheelPan: boolean;
  money: { loss: number; worth: number } | null;
  scorch: boolean;
}
const rule = (r: Omit<Rule<InCropFacts>, 'module'>): Rule<InCropFacts> => ({
  module: 'organics',
  ...r,
});
/** Manure and slurry in a standing crop (chapter 2, section 8). */
export const inCropRules: readonly Rule<InCropFacts>[] = [
  rule({
    id: 'I01',
    level: 'caution',
    when: 'stage outside the window of the technique',
    message: '{crop} at {stage} is outside the window {words} for {technique}.',
    action: 'Look for another technique.',
    test: (f) =>
      f.past === null && f.outside !== null
        ? { crop: f.crop, stage: f.stage, words: f.outside, technique: f.technique }
        : null,
  }),
  rule({
    id: 'I02',
    level: 'stop',
    takesOut: true,
    when: 'past the hard stop of the technique',
    message: 'Too late for {technique} in {crop}: {reason}.',
    action:
      'Use injection between rows with enough clearance, dry fertiliser, or wait until after harvest.',
    test: (f) =>
      f.past !== null ? { technique: f.technique, crop: f.crop, reason: f.past } : null,
  }),
  rule({
    id: 'I03',
    level: 'caution',
    when: 'material too thick or too poor in ammonium',
    message: 'This material does not suit in-crop use: DM {dm} %, ammonium share {share}.',
    action: 'Use a thinner liquid or separated liquid with a higher ammonium share.',
    test: (f) =>
      f.unsuited
        ? { dm: f.dm ?? 'not known', share: f.share === null ? 'not known' : f.share.toFixed(2) }
        : null,
  }),
  rule({
    id: 'I04',
    level: 'stop',
    takesOut: true,
    when: 'raw manure into a crop eaten raw',
    message: 'Raw manure may not go into a growing crop that is eaten raw.',
    action: 'See the intervals to harvest.',
    test: (f) => (f.rawCrop ? {} : null),
  }),
  rule({
    id: 'I05',
    level: 'stop',
    when: 'soil too wet for wheels',
    message: 'Soil is too wet: ruts cost more than the N.',
    action: 'Wait or use a drag-hose on a firm surface.',
    test: (f) => (f.wheelPan ? {} : null),
  }),
  rule({
    id: 'I06',
    level: 'caution',
    when: 'loss of stand dearer than the N',
    message: 'Stand loss costs {a}, the N is worth {b}.',
    action: 'Leave it, or apply before emergence.',
    test: (f) =>
      f.money && f.money.loss > f.money.worth
        ? { a: f.money.loss.toFixed(0), b: f.money.worth.toFixed(0) }
        : null,
  }),
  rule({
    id: 'I07',
    level: 'caution',
    when: 'wet leaves with thick slurry, or splashing above 25 °C',
    message: 'Leaf scorch and smothering likely.',
    action: 'Apply on dry leaves, band under the canopy, follow with water.',
    test: (f) => (f.scorch ? {} : null),
  }),
];

/** Where a technique stands against its window; the rest of the facts is for who knows the plan. */
export function incropFacts(i: WindowInput): InCropFacts {
  const rows = incropWindowsOf(i.crop, i.technique);
  const v =
    i.vStage == null
      ? null
      : within('v_stage', i.vStage, { label: 'Leaf collars', unit: '', min: 0, max: 25 });
  const bbch =
    i.bbch == null
      ? null
      : within('bbch', i.bbch, { label: 'Growth stage (BBCH)', unit: '', min: 0, max: 99 });
  const most = (get: (r: (typeof rows)[number]) => number | null): number | null =>
    rows.reduce<number | null>((m, r) => {
      const x = get(r);
      return x === null ? m : m === null ? x : Math.max(m, x);
    }, null);
  const [vTo, vStop, stop] = [
    most((r) => r.vStageTo),
    most((r) => r.vStageHardStop),
    most((r) => r.hardStopBbch),
  ];
  const byCollars = v !== null && vTo !== null;
  const past = byCollars
    ? vStop !== null && v >= vStop
    : bbch !== null && stop !== null && bbch >= stop;
  const windows = rows.flatMap((r) =>
    r.bbchFrom !== null && r.bbchTo !== null ? [[r.bbchFrom, r.bbchTo] as const] : [],
  );
  const outside = byCollars
    ? v > vTo
    : bbch !== null &&
      windows.length > 0 &&
      !windows.some(([from, to]) => bbch >= from && bbch <= to);
  const last = rows[rows.length - 1];
  return {
    crop: i.crop.replaceAll('_', ' '),
    technique: i.technique.replaceAll('_', ' '),
    stage: byCollars ? `${v} collars` : `BBCH ${bbch}`,
    past: past
      ? (rows.find((r) => r.hardStopReason)?.hardStopReason ?? 'past its hard stop')
      : null,
    outside: outside
      ? windows.map(([from, to]) => `${from}-${to}`).join(', ') || (rows[0]?.localStage ?? '')
      : null,
    dm: i.dmPct ?? null,
    share: i.nh4Share ?? null,
    unsuited:
      last !== undefined &&
      ((i.dmPct != null && last.maxDmPct !== null && i.dmPct > last.maxDmPct) ||
        (i.nh4Share != null && last.minNh4ShareFrac !== null && i.nh4Share < last.minNh4ShareFrac)),
    rawCrop: false,
    wheelPan: false,
    money: null,
    scorch: false,
  };
}
/**
 * Whether a technique may still go into a standing crop (chapter 2, section 8): I01 outside its
 * window, I02 past its hard stop, I03 a material that does not suit.
 *
 * @example incropWindow({ crop: 'maize', technique: 'drag_hose', vStage: 6 })[0].id // 'I02'
 */
export const incropWindow = (i: WindowInput): Warning[] => judge(inCropRules, incropFacts(i));
