import type { Book } from '../book/book';
import { cropOf } from '../book/crops';
import { pBasisRules } from '../organics/site';
import { rateBalance, rateByBasis, type RateBasis } from '../organics/rates';
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
  binds: boolean;
  /**
   * kg/ha over (above 0) or short of what the field needs, by nutrient; `colour` by the share of
   * the need.
   */
  over: Record<'n' | 'p' | 'k', { kgHa: number; colour: ReturnType<typeof rateBalance>['colour'] }>;
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
  const need = (x: 'n' | 'p' | 'k', mine: number) => sums[x].asked + mine;
  const [needN, needP, needK] = [
    need('n', own.onField.nKgHa),
    need('p', own.onField.pKgHa),
    need('k', own.onField.kKgHa),
  ];
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
    needN,
    pan: perT.n,
    pOfftake: Math.min(400, off.offtakePKgHa),
    pT: perT.p,
    pYears,
    ...(grass ? { kOfftake: off.offtakeKKgHa, kT: perT.k } : {}),
    annualNLimit: limit,
    totalNT: own.analysis.totalNKgT,
    maxRate: most,
  });
  const row = (basis: RateRow['basis'], rateTHa: number): RateRow => {
    const over = (x: 'n' | 'p' | 'k', wanted: number) => {
      const supplied = Math.max(0, rateTHa * perT[x]);
      const b = rateBalance({ supplied, need: Math.max(0, wanted) });
      return { kgHa: supplied - Math.max(0, wanted), colour: b.colour };
    };
    return {
      basis,
      rate: rateTHa * toUnit,
      binds: basis === found.mostLimiting,
      over: { n: over('n', needN), p: over('p', needP), k: over('k', needK) },
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
      ...judge(aheadRules, {
        pYears,
        rateP: found.rateP ?? 0,
        rateN: perT.n > 0 ? found.rateN : Infinity,
      }),
      ...pBasisRules({
        soilTestP: a.ground.pTest?.value ?? null,
        basis: 'N',
        extractant,
        surplusPKgHa: perT.n > 0 ? Math.max(0, found.rateN * perT.p - off.offtakePKgHa) : null,
      }),
    ],
  };
}
