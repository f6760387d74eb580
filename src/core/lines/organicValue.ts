import { breakevenKm, haul, replacementValue } from '../organics/rates';
import { mineralisationOf } from '../book/organicTables';
import type { Plan } from '../document/document';
import type { GroundAssessment } from './groundReading';
import type { PlanSums } from './line';
import type { AssessedApplication } from './organicLines';

/** Load that a trip carries where no machine is named, t. */
const LOAD_T = 14;
const FILLED = 0.95;
/** Yearly discount of nutrients that come later (chapter 2, 5.3). */
const DISCOUNT = 0.06;
/** Worth of P and K beyond the need as an asset of the soil, by what the soil test says. */
const BANK: Record<string, number> = { very_low: 1, low: 1, medium: 0.5 };
export interface DoseValue {
  /**
   * Money a hectare for what the field can use, and for everything in the load as if all of it
   * were needed.
   */
  valueHa: number;
  valuePerT: number;
  boughtOutrightHa: number;
  used: Record<string, number>;
  km: number;
  breakevenKm: number;
  /** Null until the distance is known. */
  trip: {
    loads: number;
    hours: number;
    days: number;
    cost: number;
    costPerT: number;
    loaderBound: boolean;
    totalT: number;
  } | null;
  costPerKgN: number | null;
  netPerT: number | null;
  /**
   * Outside the sum, money a hectare: organic N of years 2 to 4, discounted, and P and K beyond the
   * need where the soil test has room for them.
   */
  laterNHa: number;
  bankHa: number;
  /** Against buying the nutrients that are used, and spreading them. */
  advantageHa: number | null;
}

/**
 * What one dressing is worth on this field, and what bringing it out costs (chapter 2, 5.3, 6.4,
 * 6.5). Only what the field can use counts:
 * the need is what the sheet asks for without this dressing.
 */
export function doseValue(
  plan: Plan,
  { sums, ground }: { sums: PlanSums; ground: Pick<GroundAssessment, 'classes'> },
  a: AssessedApplication,
): DoseValue | null {
  const { farm, field } = plan;
  if (a.rateTHa <= 0) return null;
  const perT = {
    N: a.nKgHa / a.rateTHa,
    P: a.pKgHa / a.rateTHa,
    K: a.kKgHa / a.rateTHa,
    S: a.sKgHa / a.rateTHa,
  };
  const share = a.app.areaFrac;
  const need = {
    N: sums.n.asked + a.onField.nKgHa,
    P: sums.p.asked + a.onField.pKgHa,
    K: sums.k.asked + a.onField.kKgHa,
    S: sums.s.asked + a.onField.sKgHa,
  };
  const clip = (x: number) => Math.min(2000, Math.max(0, x));
  const value = replacementValue({
    rate: a.rateTHa,
    supplyPerT: perT,
    need: { N: clip(need.N), P: clip(need.P), K: clip(need.K), S: clip(need.S) },
    price: { N: farm.nPricePerKg, P: farm.pPricePerKg, K: farm.kPricePerKg, S: farm.sPricePerKg },
  });
  const { distanceKm: km, pricePerT, machine } = a.app;
  const { hourCost, roadSpeedKmH, loadMin, unloadMin, waitMin, hoursPerDay } = farm.haul;
  const loadT = (machine?.capacity ?? LOAD_T) * FILLED;
  const trip =
    km === null
      ? null
      : haul({
          rate: a.rateTHa,
          area: field.areaHa * share,
          capacity: machine?.capacity ?? LOAD_T,
          fill: FILLED,
          load: loadMin,
          unload: unloadMin,
          wait: waitMin,
          dist: km,
          speed: roadSpeedKmH,
          hourCost,
          pricePerT,
          pan: perT.N > 0 ? perT.N : null,
        });
  const m = mineralisationOf(a.material.mineralisationClass);
  const org = a.rateTHa * a.pan.orgNKgT;
  const bank = (x: 'P' | 'K', total: number, price: number) =>
    Math.max(0, total - (value.used[x] ?? 0)) * price * (BANK[ground.classes[x] ?? ''] ?? 0);
  return {
    laterNHa: [m.y2Frac, m.y3Frac, m.y4Frac].reduce(
      (s, y, k) => s + (org * y * farm.nPricePerKg) / (1 + DISCOUNT) ** (k + 1),
      0,
    ),
    bankHa: bank('P', a.pTotalKgHa, farm.pPricePerKg) + bank('K', a.kKgHa, farm.kPricePerKg),
    valueHa: value.valueHa,
    valuePerT: value.valuePerT,
    boughtOutrightHa: value.boughtOutright,
    used: value.used,
    km: km ?? 0,
    breakevenKm:
      hourCost > 0
        ? breakevenKm({
            valueT: value.valuePerT,
            priceT: pricePerT,
            loadT,
            hourCost,
            speed: roadSpeedKmH,
            fixedMin: loadMin + unloadMin + waitMin,
          })
        : 0,
    trip: trip && {
      loads: trip.loads,
      hours: trip.hours,
      days: trip.hours / hoursPerDay,
      cost: trip.cost,
      costPerT: trip.costPerT,
      loaderBound: trip.loaderBound,
      totalT: trip.total,
    },
    costPerKgN: trip?.costPerKgAvailableN ?? null,
    netPerT: trip ? value.valuePerT - trip.costPerT : null,
    advantageHa: trip ? value.valueHa + farm.spreadingCostHa - trip.costPerT * a.rateTHa : null,
  };
}
