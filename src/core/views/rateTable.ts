import type { Book } from '../book/book';
import { cropOf } from '../book/crops';
import { pBasisRules } from '../organics/site';
import { rateByBasis, rateColour, type RateBasis, type RateColour } from '../organics/rates';
import { spreadingMethodOf } from '../book/organicMaterials';
import { aheadRules } from '../organics/rules';
import { judge, type Warning } from '../rules/rule';
import type { Assessment } from '../assessment/assess';
import type { Plan } from '../document/document';
import { planOfftake } from '../lines/planOfftake';

export interface RateRow {
  basis: RateBasis | 'planned';
  /** In the unit of the application, t/ha or m3/ha. */
  rate: number;
  /** What may be taken of it: never above what law, technique and machine allow. */
  take: number;
  /** What holds it back, where less than the rate may be taken. */
  cap: 'law' | 'technique' | 'machine' | null;
  binds: boolean;
  /**
   * kg/ha over (above 0) or short of what the field needs, by nutrient, in the sheet's one credit
   * and with the passes as planned; `colour` by the share of the need.
   */
  over: Record<'n' | 'p' | 'k', { kgHa: number; colour: RateColour }>;
}
export interface RateTable {
  unit: 't_ha' | 'm3_ha';
  rows: RateRow[];
  warnings: Warning[];
  /** It gives no N this year: by N it cannot be dosed. */
  tiesUp: boolean;
}

/**
 * What one application of this season may be, by each basis, and what each rate over- or
 * under-supplies (chapter 2, 6.1 and 6.2). The need is
 * what the sheet asks for without this application.
 *
 * @param pYears years of P off-take paid ahead by one dressing
 */
export function rateTable(
  book: Book,
  plan: Plan,
  a: Assessment,
  applicationId: string,
  pYears = 1,
): RateTable | null {
  const own = a.organics.find((x) => x.app.id === applicationId);
  if (!own || !plan.season.cropKey) return null;
  const { sums } = a;
  const mine = (x: 'n' | 'p' | 'k'): number =>
    ({ n: own.onField.nKgHa, p: own.onField.pKgHa, k: own.onField.kKgHa })[x];
  // What may not go out is not in the balance: nothing of it needs to be put back.
  const stands = a.lines.some((l) => l.id === `organic.${applicationId}` && l.struck === null);
  const need = (x: 'n' | 'p' | 'k'): number => sums[x].asked + (stands ? mine(x) : 0);
  const off = planOfftake(book, plan, cropOf(book, plan.season.cropKey));
  const perT = {
    n: own.rateTHa > 0 ? own.nKgHa / own.rateTHa : own.pan.panKgT,
    p: own.analysis.pKgT,
    k: own.analysis.kKgT,
  };
  const toUnit = own.app.rateUnit === 'm3_ha' ? 1000 / own.densityKgM3 : 1;
  const method = spreadingMethodOf(own.app.methodKey);
  const most =
    method.maxPracticalRate === null
      ? null
      : method.rateUnit === own.app.rateUnit
        ? method.maxPracticalRate / toUnit
        : null;
  const limit = ['cattle', 'pig', 'poultry', 'other_livestock', 'digestate'].includes(
    own.material.class,
  )
    ? plan.farm.manureNLimitKgHa
    : null;
  const grass = cropOf(book, plan.season.cropKey).grassland;
  const found = rateByBasis({
    needN: Math.max(0, need('n')),
    pan: perT.n,
    pOfftake: Math.min(400, off.offtakePKgHa),
    pT: perT.p,
    pYears,
    ...(grass ? { kOfftake: off.offtakeKKgHa, kT: perT.k } : {}),
    annualNLimit: limit,
    totalNT: own.analysis.totalNKgT,
    maxRate: most,
  });
  // The sheet's credit of a tonne over the whole field: of P and K what counts this year (W1.11).
  const counted = (x: 'n' | 'p' | 'k'): number =>
    own.rateTHa > 0 ? mine(x) / own.rateTHa : perT[x] * own.app.areaFrac;
  const over = (x: 'n' | 'p' | 'k', rateTHa: number): RateRow['over']['n'] => {
    const wanted = Math.max(0, need(x) - a.supply.applied[x] - a.supply.planned[x]);
    const supplied = Math.max(0, rateTHa * counted(x));
    // The rate that stands in the plan reads as the sheet does, to the kilogram.
    const kgHa =
      rateTHa === own.rateTHa && stands ? sums[x].over - sums[x].stillToApply : supplied - wanted;
    return { kgHa, colour: rateColour(supplied, wanted) };
  };
  const caps: [Exclude<RateRow['cap'], null>, number | null][] = [
    ['law', found.rateLaw],
    ['technique', found.rateMax],
    ['machine', own.app.machine ? own.app.machine.maxRate / toUnit : null],
  ];
  const row = (basis: RateRow['basis'], rateTHa: number): RateRow => {
    const [cap, most] = caps.reduce<[RateRow['cap'], number]>(
      (low, [name, max]) => (max !== null && max < low[1] - 1e-9 ? [name, max] : low),
      [null, rateTHa],
    );
    return {
      basis,
      rate: rateTHa * toUnit,
      take: most * toUnit,
      cap,
      binds: basis === found.mostLimiting,
      over: { n: over('n', rateTHa), p: over('p', rateTHa), k: over('k', rateTHa) },
    };
  };
  const rates: [RateBasis, number | null][] = [
    ['rate_n', perT.n > 0 ? found.rateN : null],
    ['rate_p', found.rateP],
    ['rate_k', found.rateK],
    ['rate_law', found.rateLaw],
    ['rate_max', found.rateMax],
  ];
  const extractant = a.ground.pTest?.extractant === 'olsen' ? 'olsen' : 'mehlich';
  return {
    unit: own.app.rateUnit,
    tiesUp: perT.n <= 0,
    rows: [
      row('planned', own.rateTHa),
      ...rates.flatMap(([basis, rate]) => (rate === null ? [] : [row(basis, rate)])),
    ],
    warnings: [
      ...judge(aheadRules, { pYears, overN: found.overN }),
      ...pBasisRules({
        soilTestP: a.ground.pTest?.value ?? null,
        basis: 'N',
        extractant,
        surplusPKgHa: perT.n > 0 ? Math.max(0, found.rateN * perT.p - off.offtakePKgHa) : null,
      }),
    ],
  };
}
