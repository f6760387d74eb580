import type { Rule } from '../rules/rule';
import type { LeafClass } from './classify';

// What is told of a leaf beside its classes: soil, pairs, ratios, years, and what is done about it
// (chapter 5, section 17).

const rule = <F>(r: Omit<Rule<F>, 'module'>): Rule<F> => ({ module: 'tissue', ...r });

/** What stands beside the classes of a sample. */
export interface BesideFacts {
  biomassKnown: boolean;
  nClass: LeafClass | null;
  /** Chloride or sodium above its injury level. */
  salt: readonly string[];
  /** Nutrients whose soil is adequate or high while the leaf is low. */
  uptake: readonly string[];
  /** Nutrients whose soil is low while the leaf is high. */
  concentrated: readonly string[];
  /** N to S beyond its alert while N is not deficient. */
  nToS: number | null;
  cuToMo: number | null;
  moMgKg: number | null;
  /** Nitrate-N in dry feed, mg/kg; null where it is no feed. */
  feedNitrateN: number | null;
  /** A pair was compared and nothing differed. */
  pairSame: boolean;
  /** Crop that more N makes leaf in place of fruit, and how it shows; null: not such a crop. */
  lessFruit: { crop: string; harm: string } | null;
  /** Crop that is read by the general group although its fruit is large or was pitted. */
  group: string | null;
  lowKGroup: boolean;
  kAboveSkip: boolean;
  skipYears: number;
  leafK: number | null;
  falling: readonly { nutrient: string; slope: number }[];
  manured: readonly string[];
}
const WELL_FED: readonly LeafClass[] = ['ample', 'high', 'toxic_risk'];
const NITRATE_STOP = 2300;
const NITRATE_CAUTION = 1000;

export const besideRules: readonly Rule<BesideFacts>[] = [
  rule({
    id: 'R16',
    level: 'info',
    when: 'N low and the biomass known',
    message: 'The biomass gives the N nutrition index: it stands before the range of N.',
    action: 'Read N by the index, not by its class.',
    test: (f) => (f.biomassKnown && (f.nClass === 'low' || f.nClass === 'deficient') ? {} : null),
  }),
  rule({
    id: 'R20',
    level: 'caution',
    when: 'chloride or sodium above the level of injury',
    message: 'Salt in the leaf: {list}.',
    action: 'Conductivity of water and soil; plan the leaching; no potassium chloride.',
    test: (f) => (f.salt.length > 0 ? { list: f.salt.join(', ') } : null),
  }),
  rule({
    id: 'R23',
    level: 'caution',
    when: 'leaf low on a soil that has enough',
    message: '{list}: the soil has enough and the leaf is low. That is a problem of uptake.',
    action: 'Roots, pH, water, antagonists; no more of it to the soil.',
    test: (f) => (f.uptake.length > 0 ? { list: f.uptake.join(', ') } : null),
  }),
  rule({
    id: 'R24',
    level: 'caution',
    when: 'leaf high on a poor soil',
    message: '{list}: a high leaf on a poor soil comes of a small crop, or of residue.',
    action: 'Biomass; spray record.',
    test: (f) => (f.concentrated.length > 0 ? { list: f.concentrated.join(', ') } : null),
  }),
  rule({
    id: 'R25',
    level: 'caution',
    when: 'N to S beyond its alert while N is not deficient',
    message: 'N:S is {ratio}: sulphur holds back the use of nitrogen.',
    action: 'A sulphate top dressing within its window.',
    test: (f) => (f.nToS !== null ? { ratio: f.nToS.toFixed(1) } : null),
  }),
  rule({
    id: 'R27',
    level: 'caution',
    when: 'herbage with Cu to Mo below 2, or Mo above 5 mg/kg',
    message: 'Copper may be short for cattle and sheep that eat this (Cu:Mo {ratio}).',
    action: 'A feed adviser before any copper; copper is poison to sheep.',
    test: (f) =>
      (f.cuToMo !== null && f.cuToMo < 2) || (f.moMgKg !== null && f.moMgKg > 5)
        ? { ratio: f.cuToMo?.toFixed(1) ?? 'not known' }
        : null,
  }),
  rule({
    id: 'R28',
    level: 'stop',
    when: 'nitrate-N in feed above 2300 mg/kg',
    message: 'Nitrate-N in the feed is {value} mg/kg: it can kill cattle.',
    action: 'Test again; blend it; never feed it alone. Ask the veterinarian.',
    test: (f) =>
      f.feedNitrateN !== null && f.feedNitrateN > NITRATE_STOP ? { value: f.feedNitrateN } : null,
  }),
  rule({
    id: 'R28a',
    level: 'caution',
    when: 'nitrate-N in feed above 1000 mg/kg',
    message: 'Nitrate-N in the feed is {value} mg/kg.',
    action: 'Blend it, and let stock get used to it; ask a feed adviser.',
    test: (f) =>
      f.feedNitrateN !== null && f.feedNitrateN > NITRATE_CAUTION && f.feedNitrateN <= NITRATE_STOP
        ? { value: f.feedNitrateN }
        : null,
  }),
  rule({
    id: 'R30',
    level: 'info',
    when: 'a pair was compared and no nutrient differs',
    message: 'No nutrient differs between the two areas: look elsewhere.',
    action: 'Dig; records, disease, soil structure, herbicide.',
    test: (f) => (f.pairSame ? {} : null),
  }),
  rule({
    id: 'R41',
    level: 'info',
    when: 'orchard leaf K above its skip line',
    message: 'Leaf K is {k} %: skip K for {n} seasons.',
    action: 'Test every year.',
    test: (f) => (f.skipYears > 0 && f.leafK !== null ? { k: f.leafK, n: f.skipYears } : null),
  }),
  rule({
    id: 'R42',
    level: 'caution',
    when: 'pit-prone group with leaf K above its skip line',
    message: 'High K raises the risk of bitter pit.',
    action: 'No K and no potassium nitrate; a calcium programme on the fruit.',
    test: (f) => (f.lowKGroup && f.kAboveSkip ? {} : null),
  }),
  rule({
    id: 'R44',
    level: 'caution',
    when: 'fruit large or pitted before, and the leaf read by the general group',
    message:
      '{crop} is read by the general group, and its fruit is large or was pitted. Choose the low-K group?',
    action: 'If the cultivar is prone to bitter pit, choose that use on Crop: K is then read anew.',
    test: (f) => (f.group !== null ? { crop: f.group } : null),
  }),
  rule({
    id: 'L01',
    level: 'caution',
    when: 'N above its range, in a crop that more N makes leaf in place of fruit',
    message: 'More N means less fruit in {crop}: {harm}. N of the leaf is {cls}.',
    action:
      'Leave N out until the leaf is back in its range; look at fruit set, light and pruning.',
    test: (f) =>
      f.lessFruit !== null && f.nClass !== null && WELL_FED.includes(f.nClass)
        ? { ...f.lessFruit, cls: f.nClass.replace('_', ' ') }
        : null,
  }),
  rule({
    id: 'R43',
    level: 'info',
    when: 'a value falls over the years, surely',
    message: '{nutrient} falls by {slope} a year.',
    action: 'Find the reason before it reaches the limit.',
    test: (f) => {
      const first = f.falling[0];
      return first
        ? { nutrient: first.nutrient, slope: Number(Math.abs(first.slope).toPrecision(2)) }
        : null;
    },
  }),
  rule({
    id: 'R50',
    level: 'info',
    when: 'a nutrient is high and manure stands in the budget',
    message: '{list} high: the manure of the plan supplies it already.',
    action: 'Credit it; buy less of it.',
    test: (f) => (f.manured.length > 0 ? { list: f.manured.join(', ') } : null),
  }),
];

/** What is done about one nutrient that is short. */
export interface CorrectionFacts {
  nutrient: string;
  foliarWorks: 'yes' | 'partial' | 'rescue' | 'no';
  needKgHa: number | null;
  /** Strength of the spray and the strongest that is allowed, %. */
  strength: { concPct: number; maxPct: number; leastWaterLHa: number } | null;
  tmaxC: number | null;
  /** `not_known`: the stage of today is not. */
  window: 'open' | 'to_come' | 'past' | 'no_use' | 'not_known';
  opensBbch: number | null;
  /** Yield that can still be reached to a normal one; null: nobody said. */
  potentialFrac: number | null;
  /** Share of the need that all sprays bring, %; of N, P, K, S, Ca and Mg. */
  sharePct: number | null;
}
const LEAST_SHARE_PCT = 10;
const POOR_STAND = 0.7;
export const correctionRules: readonly Rule<CorrectionFacts>[] = [
  rule({
    id: 'R34',
    level: 'stop',
    when: 'the leaf cannot take up what is missing',
    message: 'Leaves cannot take up the {nutrient} that is missing.',
    action: 'The soil, fertigation, or next season.',
    test: (f) => (f.foliarWorks === 'no' ? { nutrient: f.nutrient } : null),
  }),
  rule({
    id: 'R35',
    level: 'stop',
    when: 'a spray above the strongest for the crop',
    message: '{conc} % is too strong (at most {max} %).',
    action: 'At least {water} L/ha of water.',
    test: (f) =>
      f.strength && f.strength.concPct > f.strength.maxPct
        ? {
            conc: Number(f.strength.concPct.toPrecision(3)),
            max: f.strength.maxPct,
            water: Math.ceil(f.strength.leastWaterLHa),
          }
        : null,
  }),
  rule({
    id: 'R36',
    level: 'caution',
    when: 'spraying at 27 °C or more',
    message: 'Leaves burn above about 27 °C.',
    action: 'In the evening, weaker; not at all from 30 °C on.',
    test: (f) => (f.tmaxC !== null && f.tmaxC >= 27 ? {} : null),
  }),
  rule({
    id: 'R37',
    level: 'stop',
    when: 'all windows of this season are past',
    message: 'Too late for this crop.',
    action: 'It belongs into next season’s budget.',
    test: (f) => (f.window === 'past' ? {} : null),
  }),
  rule({
    id: 'R37a',
    level: 'info',
    when: 'the window of the spray is still to come',
    message: 'Its window opens at BBCH {from}.',
    action: 'Wait for it.',
    test: (f) => (f.window === 'to_come' && f.opensBbch !== null ? { from: f.opensBbch } : null),
  }),
  rule({
    id: 'R38',
    level: 'info',
    when: 'less than seven tenths of a normal yield is in reach',
    message: 'A poor stand: a spray seldom pays.',
    action: 'Mend the cause first.',
    test: (f) => (f.potentialFrac !== null && f.potentialFrac < POOR_STAND ? {} : null),
  }),
  rule({
    id: 'R46',
    level: 'caution',
    when: 'boron is corrected',
    message: 'Between too little and too much boron lies a narrow margin.',
    action: 'Never in a band; the exact rate; clean the sprayer.',
    test: (f) => (f.nutrient === 'B' ? {} : null),
  }),
  rule({
    id: 'R47',
    level: 'caution',
    when: 'copper is corrected',
    message: 'Copper stays in the soil for decades and is poison to sheep.',
    action: 'Prove the need first.',
    test: (f) => (f.nutrient === 'Cu' ? {} : null),
  }),
  rule({
    id: 'R51',
    level: 'caution',
    when: 'sprays that bring less than a tenth of the need',
    message: 'These sprays bring only {share} % of what the crop needs.',
    action: 'A bridge at most; add the soil or fertigation.',
    test: (f) =>
      f.sharePct !== null && f.sharePct < LEAST_SHARE_PCT
        ? { share: Number(f.sharePct.toPrecision(2)) }
        : null,
  }),
];

/** What is told of a picture of symptoms. */
export interface DiagnosisFacts {
  verdict: 'not_enough_evidence' | 'leading' | 'short_list';
  nextTest: string | null;
  /** Hypotheses that stand out and nutrients that were not measured. */
  notMeasured: readonly string[];
  tipburn: boolean;
  caClass: LeafClass | null;
  virusLikely: boolean;
  herbicideLikely: boolean;
  feClass: LeafClass | null;
  feLikely: boolean;
}
const enough = (c: LeafClass | null): boolean =>
  c !== null && c !== 'deficient' && c !== 'low' && c !== 'marginal';
export const diagnosisRules: readonly Rule<DiagnosisFacts>[] = [
  rule({
    id: 'R33',
    level: 'stop',
    when: 'virus or a like disease stands out',
    message: 'It may be a disease that has to be notified.',
    action: 'Move no plants; ask the plant-health authority.',
    test: (f) => (f.virusLikely ? {} : null),
  }),
  rule({
    id: 'R33a',
    level: 'caution',
    when: 'a herbicide stands out',
    message: 'It looks like a herbicide: that is no question of nutrition.',
    action: 'Spray records, the neighbour’s too; a licensed adviser.',
    test: (f) => (f.herbicideLikely ? {} : null),
  }),
  rule({
    id: 'R31',
    level: 'info',
    when: 'fewer than three features answered',
    message: 'Answer at least three questions.',
    action: 'Look at old and young leaves, at the pattern in the field, at roots.',
    test: (f) => (f.verdict === 'not_enough_evidence' ? {} : null),
  }),
  rule({
    id: 'R32',
    level: 'info',
    when: 'several causes fit',
    message: 'Several causes fit.',
    action: 'Next test: {test}.',
    test: (f) => (f.verdict === 'short_list' && f.nextTest ? { test: f.nextTest } : null),
  }),
  rule({
    id: 'R14a',
    level: 'caution',
    when: 'a nutrient is suspected that was not measured',
    message: '{list} suspected, but not measured.',
    action: 'Order it.',
    test: (f) => (f.notMeasured.length > 0 ? { list: f.notMeasured.join(', ') } : null),
  }),
  rule({
    id: 'R29',
    level: 'info',
    when: 'tipburn or the like with enough Ca in the leaf',
    message: 'The leaf holds enough Ca: it does not reach the tissue that fails.',
    action: 'Even water, a slower pace of N, the cultivar.',
    test: (f) => (f.tipburn && enough(f.caClass) ? {} : null),
  }),
  rule({
    id: 'R48',
    level: 'info',
    when: 'iron suspected while the leaf holds enough of it',
    message: 'Total iron misleads: leaves can be yellow with normal iron.',
    action: 'A test strip; pH and bicarbonate.',
    test: (f) => (f.feLikely && enough(f.feClass) ? {} : null),
  }),
];

/** What is told of sap readings and of a programme of calcium. */
export const sapRules: readonly Rule<{ readings: number; act: boolean }>[] = [
  rule({
    id: 'R49',
    level: 'info',
    when: 'fewer than three readings of sap',
    message: 'One reading is weather.',
    action: 'Read again in four to seven days, at the same hour.',
    test: (f) => (f.readings > 0 && f.readings < 3 && !f.act ? {} : null),
  }),
];
export const calciumRules: readonly Rule<{
  effectiveKgHa: number;
  belowMinimum: boolean;
  extraSprays: number;
  cacl2KgHa: number;
  overCap: boolean;
}>[] = [
  rule({
    id: 'R39',
    level: 'caution',
    when: 'less calcium than the least that helps',
    message: '{ca} kg/ha Ca is too little.',
    action: '{n} sprays more like these, or a stronger salt.',
    test: (f) =>
      f.belowMinimum ? { ca: Number(f.effectiveKgHa.toPrecision(2)), n: f.extraSprays } : null,
  }),
  rule({
    id: 'R40',
    level: 'caution',
    when: 'a spray above its burn cap',
    message: '{eq} kg/ha calcium chloride in one spray: it may burn.',
    action: 'Weaker, and more often.',
    test: (f) => (f.overCap ? { eq: Number(f.cacl2KgHa.toPrecision(2)) } : null),
  }),
];
