import type { Rule } from '../rules/rule';

/** A compost or mulch as its rules see it. */
export interface CompostFacts {
  cToN: number | null;
  mixed: boolean;
  preAmendKgHa: number;
  nh4MgKgDm: number | null;
  no3ToNh4: number | null;
  heapHot: boolean;
  /** What its tests beyond their stop are, in words; and whether it smells sour. */
  beyond: string[];
  sour: boolean;
  compost: boolean;
  bioassayScore: number | null;
  /** Hay, straw or manure in it, nobody asked about herbicide, and the crop is one that it cups. */
  herbicideOpen: boolean;
  pKgHa: number;
  pYears: number | null;
  salt: { ec: number; limit: number; sharePct: number } | null;
  layerCm: number | null;
  maxLayerCm: number;
  touchesStem: boolean;
  clearCm: number;
}
const compost = (r: Omit<Rule<CompostFacts>, 'module'>): Rule<CompostFacts> => ({
  module: 'organics',
  ...r,
});
/** Compost, mulch and herbicide carry-over (chapter 2, section 9). */
export const compostRules: readonly Rule<CompostFacts>[] = [
  compost({
    id: 'K01',
    level: 'caution',
    when: 'C:N above 28, mixed into the soil',
    message: 'C:N {cn} will lock up N.',
    action: 'Use as surface mulch only, or pre-amend with {n} kg soluble N/ha.',
    test: (f) =>
      f.cToN !== null && f.cToN > 28 && f.mixed ? { cn: f.cToN, n: f.preAmendKgHa } : null,
  }),
  compost({
    id: 'K02',
    level: 'caution',
    when: 'much ammonium, little nitrate, or a heap still hot',
    message: 'The compost is immature.',
    action: 'Store 4-8 weeks with turning; run cress and bean tests.',
    test: (f) =>
      f.compost && ((f.nh4MgKgDm ?? 0) > 1000 || (f.no3ToNh4 ?? 1) < 0.15 || f.heapHot) ? {} : null,
  }),
  compost({
    id: 'K02b',
    level: 'caution',
    when: 'another test of a compost beyond its stop',
    message: 'The compost fails: {list}.',
    action: 'Store it 4-8 weeks with turning and test again; glass and plastic: send it back.',
    test: (f) => (f.compost && f.beyond.length > 0 ? { list: f.beyond.join(', ') } : null),
  }),
  compost({
    id: 'K02c',
    level: 'stop',
    when: 'a heap that smells sour',
    message: 'The heap smells sour: it rotted without air, and its acids harm roots.',
    action: 'Do not use it; turn and air it for 3-4 weeks.',
    test: (f) => (f.compost && f.sour ? {} : null),
  }),
  compost({
    id: 'K03',
    level: 'caution',
    when: 'bean test 1',
    message: 'Slight herbicide symptoms.',
    action:
      'Only for grass or cereals; repeat the test after more composting; do not use on nightshades, legumes, daisies, carrots, cucurbits, beet.',
    test: (f) =>
      f.bioassayScore !== null && f.bioassayScore >= 1 && f.bioassayScore < 2 ? {} : null,
  }),
  compost({
    id: 'K04',
    level: 'stop',
    when: 'bean test 2 or more',
    message: 'Herbicide carry-over in the material.',
    action: 'Do not use on broad-leaved crops.',
    test: (f) => (f.bioassayScore !== null && f.bioassayScore >= 2 ? {} : null),
  }),
  compost({
    id: 'K05',
    level: 'caution',
    when: 'hay, straw or manure of unknown origin before a sensitive crop',
    message: 'Ask whether the source ground was treated with a persistent pyridine herbicide.',
    action: 'Run the bean bioassay (3 weeks) first.',
    test: (f) => (f.herbicideOpen && f.bioassayScore === null ? {} : null),
  }),
  compost({
    id: 'K06',
    level: 'caution',
    when: 'P of one dressing above four years of off-take',
    message: '{kg} kg P/ha is {years} years of off-take.',
    action: 'Repeat only after that many years or use a lower-P material.',
    test: (f) =>
      f.pYears !== null && f.pYears > 4 ? { kg: f.pKgHa, years: f.pYears.toFixed(1) } : null,
  }),
  compost({
    id: 'K07',
    level: 'stop',
    when: 'salt of the mixed layer above what the crop bears',
    message: 'Salt {ec} dS/m: seedlings may die.',
    action: 'Dilute to under {pct} % of the root zone, or leach with 100-150 mm.',
    test: (f) =>
      f.salt && f.salt.ec > f.salt.limit
        ? { ec: f.salt.ec.toFixed(1), pct: f.salt.sharePct.toFixed(0) }
        : null,
  }),
  compost({
    id: 'K08',
    level: 'caution',
    when: 'layer too thick, or against the trunk',
    message: 'Layer {cm} cm is too thick or touches the stem: rot and voles.',
    action: 'Keep {clear} cm clear; 2-8 cm depth.',
    test: (f) =>
      f.layerCm !== null && (f.layerCm > f.maxLayerCm || f.touchesStem)
        ? { cm: f.layerCm.toFixed(1), clear: f.clearCm.toFixed(0) }
        : null,
  }),
];

/** A tree or bush that gets a dressing. */
export interface TreeFacts {
  woody: boolean;
  givesN: boolean;
  afterLateSummer: boolean;
  dormant: boolean;
  ring: boolean;
  rain48hMm: number | null;
  trunkClearM: number | null;
  needClearM: number | null;
  ericaceous: boolean;
  animalOrLimy: boolean;
  enoughN: boolean;
}
const tree = (r: Omit<Rule<TreeFacts>, 'module'>): Rule<TreeFacts> => ({
  module: 'organics',
  ...r,
});
/** Trees and bushes (chapter 2, section 10). */
export const treeRules: readonly Rule<TreeFacts>[] = [
  tree({
    id: 'T01',
    level: 'caution',
    when: 'N for a woody plant after late summer, not yet dormant',
    message: 'Late N makes soft wood.',
    action: 'Wait until dormancy or next spring.',
    test: (f) => (f.woody && f.givesN && f.afterLateSummer && !f.dormant ? {} : null),
  }),
  tree({
    id: 'T02',
    level: 'stop',
    when: 'ring and more than 12 mm of rain within 48 h',
    message: '{mm} mm of rain within 48 h on a loose, unincorporated ring: nutrients wash away.',
    action: 'Wait.',
    test: (f) => (f.ring && (f.rain48hMm ?? 0) > 12 ? { mm: f.rain48hMm ?? 0 } : null),
  }),
  tree({
    id: 'T03',
    level: 'stop',
    when: 'nearer to the trunk than its clear ring',
    message: 'Keep {clear} m clear of the trunk.',
    action: 'Move the ring outward.',
    test: (f) =>
      f.ring && f.trunkClearM !== null && f.needClearM !== null && f.trunkClearM < f.needClearM
        ? { clear: f.needClearM }
        : null,
  }),
  tree({
    id: 'T04',
    level: 'stop',
    takesOut: true,
    when: 'manure, digestate or lime-rich material for blueberries',
    message: 'Blueberries need acid soil and low salt.',
    action: 'Use ammonium-form N with acid mulch.',
    test: (f) => (f.ericaceous && f.animalOrLimy ? {} : null),
  }),
  tree({
    id: 'T05',
    level: 'info',
    when: 'a woody plant that needs no N from manure',
    message: 'Nothing is asked of this dressing: no N from manure this year.',
    action: 'Use mulch for moisture only.',
    test: (f) => (f.woody && f.givesN && f.enoughN ? {} : null),
  }),
];
