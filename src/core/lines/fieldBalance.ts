import { perHaField, sumField, type PerHaField } from '../quantity/basis';
import type { Book } from '../book/book';
import { fixedFromAir, nitrogenUse } from '../budget/accounts';
import { creditGreenManureFixed } from '../budget/greenManure';
import type { Crop } from '../book/crops';
import { entered, step, type Step } from '../why/step';
import type { Plan } from '../document/document';
import type { Supply } from './supply';
import type { AssessedApplication } from './organicLines';
import { planOfftake } from './planOfftake';
import { attempt } from './problem';

/** N from the air in the crop of this season, kg/ha: of a mixture the share that is legume. */
function fixedByCrop(book: Book, plan: Plan, crop: Crop): number {
  const { yieldGoalTHa, legumeShare, stand } = plan.season;
  return stand.nodulesFailed
    ? 0
    : fixedFromAir(book, { cropKey: crop.key, yieldTHa: yieldGoalTHa ?? 0, legumeShare });
}
function fixedByGreenManure({ previous }: Plan): number {
  if (previous?.kind !== 'green_manure') return 0;
  return (
    attempt(
      [],
      'crop',
      () =>
        creditGreenManureFixed({ gmTotalTDmHa: previous.dmTHa, gmSpecies: previous.species })
          .fixedTotalKgHa,
    ) ?? 0
  );
}

export interface FieldBalance {
  inputs: { key: string; label: string; kgHa: number }[];
  nInKgHa: number;
  nOutKgHa: number;
  /** Share of the N brought that leaves again, %; null where nothing was brought. */
  nuePct: number | null;
  surplusKgHa: number;
  reading: 'undefined' | 'low' | 'normal' | 'mining';
  /** P and K brought less what leaves, kg/ha. */
  pKgHa: number;
  kKgHa: number;
  why: Step;
}
/**
 * What comes into the field in the season of the plan and what leaves it (chapter 1, E1). Manure
 * counts by all its N, not by what this crop can use; soil N is a
 * stock, not an input. One year after a ley or a drought says little: the honest figure is a
 * rotation's.
 */
export function fieldBalance(
  book: Book,
  plan: Plan,
  crop: Crop,
  a: { supply: Pick<Supply, 'total'>; organics: readonly AssessedApplication[] },
): FieldBalance {
  const manure = (contentKgT: (x: AssessedApplication) => number): PerHaField =>
    sumField(a.organics.map((x) => perHaField(x.onField.rateTHa * contentKgT(x))));
  const water = (mgL: number | null) =>
    plan.irrigation && mgL !== null ? (plan.irrigation.mm * mgL) / 100 : 0;
  const inputs = [
    { key: 'fertiliser', label: 'Fertiliser passes', kgHa: a.supply.total.n },
    {
      key: 'manureTotalN',
      label: 'Manure and compost, all their N',
      kgHa: manure((x) => x.analysis.totalNKgT),
    },
    { key: 'fixation', label: 'From the air, by this crop', kgHa: fixedByCrop(book, plan, crop) },
    {
      key: 'greenManure',
      label: 'From the air, by the green manure before it',
      kgHa: fixedByGreenManure(plan),
    },
    { key: 'irrigation', label: 'Irrigation water', kgHa: water(plan.irrigation?.no3nMgL ?? null) },
    {
      key: 'deposition',
      label: 'Deposition, the whole year',
      kgHa: plan.season.depositionNKgHa ?? 0,
    },
  ];
  const off = planOfftake(book, plan, crop);
  const use = nitrogenUse({
    inputs: Object.fromEntries(inputs.map((x) => [x.key, x.kgHa])),
    nOutKgHa: off.offtakeNKgHa,
  });
  return {
    inputs: inputs.filter((x) => x.kgHa > 0),
    nInKgHa: use.nInKgHa,
    nOutKgHa: off.offtakeNKgHa,
    nuePct: use.nuePct,
    surplusKgHa: use.nSurplusKgHa,
    reading: use.reading,
    pKgHa: a.supply.total.p + manure((x) => x.analysis.pKgT) - off.offtakePKgHa,
    kKgHa:
      a.supply.total.k +
      manure((x) => x.analysis.kKgT) +
      water(plan.irrigation?.kMgL ?? null) -
      off.offtakeKKgHa,
    why: step('balance.field.n', 'N in less N out', use.nSurplusKgHa, 'kg/ha', {
      formula: 'all N brought - N that leaves with product, straw and prunings',
      source: 'chapter 1, E1',
      confidence: 'medium',
      note: 'Soil N is a stock, not an input.',
      inputs: [
        ...inputs
          .filter((x) => x.kgHa > 0)
          .map((x) => entered(`balance.field.n.${x.key}`, x.label, x.kgHa, 'kg/ha')),
        step('balance.field.n.out', 'Leaves with the harvest', off.offtakeNKgHa, 'kg/ha', {
          source: crop.source,
          confidence: crop.confidence,
        }),
      ],
    }),
  };
}
