import type { Fertiliser } from '../book/fertilisers';
import type { Rule } from '../rules/rule';
import type { SeedRowLimit } from './seedRow';
import type { stopCheck } from './split';

/** One fertiliser pass as the rules see it. */
export interface PassFacts {
  product: Fertiliser;
  nKgHa: number;
  leftOnSurface: boolean;
  autumn: boolean;
  /** N after the harvest of a crop whose leaves are still green; null before it. */
  afterHarvest: { weeksLeft: number } | null;
  /** The leaf of a perennial is above its range: days to harvest, and what late N does. */
  leafAbove: { beforeHarvest: number | null; harm: string } | null;
  /** The crop should have run short of N by then; null where late N does it no harm. */
  pastRunDown: { date: string; worst: boolean; harm: string } | null;
  winterDrainageMm: number;
  splitClass: 'light' | 'medium' | 'heavy';
  maxDoseKgHa: number;
  warnAboveKgHa: number;
  stop: ReturnType<typeof stopCheck> | null;
  stageBbch: string | null;
  cropName: string;
  cereal: boolean;
  maize: boolean;
  mainDressing: boolean;
  shareOfPlan: number;
  beforeSowing: boolean;
  /** What lies beside the seed that day; null for a pass that does not, or without a table row. */
  seedRow: { limit: SeedRowLimit; ureaOnLight: boolean } | null;
  closedPeriod: { from: string; to: string } | null;
  chlorideSensitive: boolean;
  /** Of all passes of the season. */
  chlorideKgHa: number;
  certified: boolean;
}

const rule = (r: Omit<Rule<PassFacts>, 'module'>): Rule<PassFacts> => ({
  module: 'nitrogen',
  ...r,
});
const nitrateN = (f: PassFacts): number =>
  f.product.nTotalPct > 0 ? (f.nKgHa * f.product.nNitratePct) / f.product.nTotalPct : 0;
const hazard = (f: PassFacts, token: string): boolean =>
  f.product.hazards.split(';').includes(token);

/** Chloride that a sensitive crop bears in a season, kg/ha (chapter 4, T08). */
const MOST_CHLORIDE_KG = 60;
/** A spray of calcium nitrate brings less N than this: it is given for its calcium, kg/ha. */
const SPRAY_N = 5;
export const passRules: readonly Rule<PassFacts>[] = [
  rule({
    id: 'N01',
    level: 'stop',
    takesOut: true,
    when: 'nitrate-N in autumn ahead of more than 50 mm winter drainage',
    message:
      '{n} kg nitrate-N ahead of about {drain} mm winter drainage: most of it may be below the roots by spring.',
    action: 'Move it to spring; local closed periods win.',
    test: (f) =>
      f.autumn && nitrateN(f) >= 1 && f.winterDrainageMm > 50
        ? { n: nitrateN(f), drain: f.winterDrainageMm }
        : null,
  }),
  rule({
    id: 'N02',
    level: 'caution',
    when: 'ammonium or urea in autumn',
    message:
      'Autumn ammonium turns to nitrate while soil is above 10 °C, then leaches or denitrifies.',
    action:
      'Wait until soil stays below 10 °C and is falling; medium or heavy, well drained land only; better: spring.',
    test: (f) => (f.autumn && f.nKgHa > 0 && nitrateN(f) === 0 ? {} : null),
  }),
  rule({
    id: 'S04',
    level: 'stop',
    when: 'boron, thiosulphate, free ammonia or acid beside the seed',
    message: '{product} is toxic beside the seed at any useful rate.',
    action: 'Band it away from the seed, or spray it later.',
    test: (f) =>
      f.seedRow?.limit.forbidden.includes(f.product.productId) ? { product: f.product.name } : null,
  }),
  rule({
    id: 'S03',
    level: 'stop',
    when: 'urea beside the seed on light soil',
    message: 'Urea beside the seed kills seedlings where light soil is dry.',
    action: 'None with the seed: band it away, or choose another product.',
    test: (f) => (f.seedRow?.ureaOnLight && f.product.nUreaPct > 0 ? {} : null),
  }),
  rule({
    id: 'S01',
    level: 'stop',
    when: 'more beside the seed than the crop bears',
    message:
      '{load} kg/ha N + K2O beside the seed, each product by its harm; {crop} bears {allowed} kg/ha in these rows on moist ground.',
    action: 'Cut the rate, move it to a band beside and below, or change the product.',
    test: (f) =>
      f.seedRow && f.seedRow.limit.ratio > 1
        ? {
            load: Math.round(f.seedRow.limit.loadKgHa),
            crop: f.cropName,
            allowed: Math.round(f.seedRow.limit.allowedKgHa),
          }
        : null,
  }),
  rule({
    id: 'S02',
    level: 'caution',
    when: 'within a fifth of what the crop bears beside the seed',
    message:
      '{load} kg/ha N + K2O beside the seed is near the {allowed} kg/ha that {crop} bears: in dry soil it will hurt.',
    action: 'Reduce it, or look at the moisture of the seedbed before sowing.',
    test: (f) =>
      f.seedRow && f.seedRow.limit.ratio > 0.8 && f.seedRow.limit.ratio <= 1
        ? {
            load: Math.round(f.seedRow.limit.loadKgHa),
            crop: f.cropName,
            allowed: Math.round(f.seedRow.limit.allowedKgHa),
          }
        : null,
  }),
  rule({
    id: 'N05',
    level: 'stop',
    when: 'dose above the largest single dose for the soil',
    message:
      '{n} kg N/ha in one pass is above the {max} kg/ha that {soil} soil should get at once.',
    action: 'Add a pass, or move part of the dose to another.',
    test: (f) =>
      f.nKgHa > f.maxDoseKgHa ? { n: f.nKgHa, max: f.maxDoseKgHa, soil: f.splitClass } : null,
  }),
  rule({
    id: 'N04',
    level: 'caution',
    when: 'dose near the largest single dose',
    message: '{n} kg N/ha in one pass is more than {warn} kg/ha on {soil} soil.',
    action: 'Split it if rain threatens before the crop has taken it up.',
    test: (f) =>
      f.nKgHa > f.warnAboveKgHa && f.nKgHa <= f.maxDoseKgHa
        ? { n: f.nKgHa, warn: f.warnAboveKgHa, soil: f.splitClass }
        : null,
  }),
  rule({
    id: 'N06',
    level: 'stop',
    takesOut: true,
    when: 'later than the crop’s last stage, where that decides the market',
    message: 'N at BBCH {stage} is too late for {crop} (last BBCH {last}): {harm}.',
    action: 'Bring it forward, or leave it out.',
    test: (f) =>
      f.nKgHa > 0 && f.stop?.level === 'stop'
        ? {
            stage: f.stageBbch ?? '',
            crop: f.cropName,
            last: f.stop.lastBbch ?? '',
            harm: f.stop.harm,
          }
        : null,
  }),
  rule({
    id: 'N07',
    level: 'caution',
    when: 'later than the crop’s last stage',
    message: 'N at BBCH {stage} is late for {crop} (last BBCH {last}): {harm}.',
    action: 'Bring it forward unless quality asks for it.',
    test: (f) =>
      f.nKgHa > 0 && f.stop?.level === 'caution'
        ? {
            stage: f.stageBbch ?? '',
            crop: f.cropName,
            last: f.stop.lastBbch ?? '',
            harm: f.stop.harm,
          }
        : null,
  }),
  rule({
    id: 'N16',
    level: 'caution',
    when: 'N after harvest with less than four weeks of warmth left, or with a leaf above its range',
    message:
      '{n} kg N/ha after harvest with {weeks} weeks above 8 °C left{leaf}: the tree stores little of it.',
    action: 'Leave it out, or give it earlier next year.',
    test: (f) =>
      f.afterHarvest && f.nKgHa > 0 && (f.afterHarvest.weeksLeft < 4 || f.leafAbove !== null)
        ? {
            n: f.nKgHa,
            weeks: Math.floor(f.afterHarvest.weeksLeft),
            leaf: f.leafAbove ? ' and leaf N above its range' : '',
          }
        : null,
  }),
  rule({
    id: 'N17',
    level: 'stop',
    takesOut: true,
    when: 'N within six weeks before harvest on a leaf above its range',
    message:
      'Leaf N is above its range and harvest is {days} days away: {n} kg N/ha more means {harm}.',
    action: 'No N this year; take the leaf again next season.',
    test: (f) =>
      f.nKgHa > SPRAY_N && f.leafAbove?.beforeHarvest != null && f.leafAbove.beforeHarvest <= 42
        ? { days: f.leafAbove.beforeHarvest, n: f.nKgHa, harm: f.leafAbove.harm }
        : null,
  }),
  rule({
    id: 'N18',
    level: 'caution',
    when: 'a planned pass brings N although the leaf of a perennial is above its range',
    message: '{n} kg N/ha although leaf N is above its range: {harm}.',
    action: 'Leave N out this year; take the leaf again next season.',
    test: (f) =>
      f.nKgHa > 0 && f.leafAbove?.beforeHarvest != null && f.leafAbove.beforeHarvest > 42
        ? { n: f.nKgHa, harm: f.leafAbove.harm }
        : null,
  }),
  rule({
    id: 'N19',
    level: 'stop',
    takesOut: true,
    when: 'N after the day on which a crop that late N spoils most should run short of it',
    message: '{n} kg N/ha after {date}, when {crop} should run short of N: {harm}.',
    action: 'Bring it forward, or leave it out.',
    test: (f) =>
      f.pastRunDown?.worst && f.nKgHa > SPRAY_N
        ? { n: f.nKgHa, date: f.pastRunDown.date, crop: f.cropName, harm: f.pastRunDown.harm }
        : null,
  }),
  rule({
    id: 'N20',
    level: 'caution',
    when: 'N after the day on which a crop that late N harms should run short of it',
    message: '{n} kg N/ha after {date}, when {crop} should run short of N: {harm}.',
    action: 'Bring it forward unless a leaf or petiole test asks for it.',
    test: (f) =>
      f.pastRunDown && !f.pastRunDown.worst && f.nKgHa > SPRAY_N
        ? { n: f.nKgHa, date: f.pastRunDown.date, crop: f.cropName, harm: f.pastRunDown.harm }
        : null,
  }),
  rule({
    id: 'N08',
    level: 'caution',
    when: 'main dressing of a cereal after BBCH 32',
    message: 'The main dressing falls after the second node: tillers are dying.',
    action: 'Put it at BBCH 30-31.',
    test: (f) => (f.cereal && f.mainDressing && Number(f.stageBbch ?? 0) > 32 ? {} : null),
  }),
  rule({
    id: 'N10',
    level: 'caution',
    when: 'more than half of maize N before V5 on light soil',
    message: 'More than half of the N lies on light soil before the maize can use it.',
    action: 'Starter and sidedress.',
    test: (f) =>
      f.maize && f.splitClass === 'light' && f.shareOfPlan > 0.5 && Number(f.stageBbch ?? 0) < 15
        ? {}
        : null,
  }),
  rule({
    id: 'A01',
    level: 'caution',
    when: 'urea or UAN left on the surface',
    message:
      '{n} kg N/ha as urea stays on the surface: part may go to the air as ammonia in warm, dry weather.',
    action: 'Work it in, wait for 6 mm of rain, or use a urease inhibitor.',
    test: (f) =>
      f.leftOnSurface && f.product.nUreaPct > 0 && !f.product.ureaseInhibitor && f.nKgHa >= 15
        ? { n: (f.nKgHa * f.product.nUreaPct) / Math.max(1, f.product.nTotalPct) }
        : null,
  }),
  rule({
    id: 'H01',
    level: 'stop',
    when: 'anhydrous ammonia',
    message: 'Anhydrous ammonia is toxic and under pressure: eyes and lungs first.',
    action:
      'Trained operators only, upwind, goggles and gloves, at least 20 L of clean water at hand; local law decides.',
    test: (f) => (f.product.anhydrousAmmonia ? {} : null),
  }),
  rule({
    id: 'H03',
    level: 'info',
    when: 'oxidiser',
    message: '{product} is an oxidiser; storage and sale are regulated.',
    action: 'Keep it away from fuel, hay, heat and acids.',
    test: (f) => (hazard(f, 'oxidiser') ? { product: f.product.name } : null),
  }),
  rule({
    id: 'W01',
    level: 'stop',
    takesOut: true,
    when: 'pass inside a closed period entered for the farm',
    message: 'The pass falls into the closed period {from} to {to}.',
    action: 'Move it out of the period; the local rule beats the app.',
    test: (f) => (f.closedPeriod ? { from: f.closedPeriod.from, to: f.closedPeriod.to } : null),
  }),
  rule({
    id: 'C05',
    level: 'caution',
    when: 'more than 60 kg/ha chloride in the passes of a chloride-sensitive crop',
    message: '{product} brings chloride to {crop}, which bears it badly.',
    action: 'Use a sulphate form, or put it on in autumn.',
    test: (f) =>
      f.chlorideSensitive && f.product.clPct > 2 && f.chlorideKgHa > MOST_CHLORIDE_KG
        ? { product: f.product.name, crop: f.cropName }
        : null,
  }),
  rule({
    id: 'O01',
    level: 'stop',
    takesOut: true,
    when: 'product not permitted on certified land',
    message: '{product} is not permitted on certified organic land.',
    action: 'Choose another product; the certifier’s list decides.',
    test: (f) =>
      f.certified && f.product.organicStatus === 'not_permitted'
        ? { product: f.product.name }
        : null,
  }),
];
