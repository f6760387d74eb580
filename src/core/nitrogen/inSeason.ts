import { clip } from '../quantity/curve';
import { RANGES, within, type Range } from '../quantity/range';
import { refuse } from '../quantity/refusal';
import { KG_HA_PER_LB_AC } from '../quantity/units';

// What is decided while the crop stands (chapter 4, section 6): tests that replace the pre-season
// credits, a strip that was fed richly, a second dressing after rain.

const span = (label: string, unit: string, min: number, max: number): Range => ({
  label,
  unit,
  min,
  max,
});
const KG = (label: string, max = 600): Range => span(label, 'kg/ha', 0, max);

const LB_AC_PER_MG_KG = 8;
const SIDEDRESS_CAP_KG_HA = 180;
const SHORTEST_CM = 15;
const TALLEST_CM = 35;
/**
 * N to sidedress maize by its nitrate test, 0-30 cm (F6.1; Magdoff, Ross & Amadon 1984, Soil
 * Science Society of America Journal 48:1301-1304). It replaces the pre-season nitrate credit.
 *
 * @throws Refusal where the maize is not 15 to 35 cm tall
 * @example sidedressNitrateTest({ no3NMgKg: 14, plantHeightCm: 28 }).nKgHa // 98.63
 */
export function sidedressNitrateTest(i: {
  no3NMgKg: number;
  plantHeightCm: number;
  criticalMgKg?: number | null;
}): { nKgHa: number; nLbAc: number } {
  const found = within('no3_n_mg_kg', i.no3NMgKg, span('Nitrate-N', 'mg/kg', 0, 200));
  if (!(i.plantHeightCm >= SHORTEST_CM && i.plantHeightCm <= TALLEST_CM))
    refuse(
      'out_of_range',
      'plant_height_cm',
      `plant_height_cm = ${i.plantHeightCm}: the sidedress test is calibrated for maize ${SHORTEST_CM} to ${TALLEST_CM} cm tall.`,
      { value: i.plantHeightCm, allowed: `${SHORTEST_CM} to ${TALLEST_CM} cm` },
    );
  const critical = within(
    'critical_mg_kg',
    i.criticalMgKg ?? 25,
    span('Critical', 'mg/kg', 20, 30),
  );
  const nLbAc = clip(
    (critical - found) * LB_AC_PER_MG_KG,
    0,
    SIDEDRESS_CAP_KG_HA / KG_HA_PER_LB_AC,
  );
  return { nLbAc, nKgHa: nLbAc * KG_HA_PER_LB_AC };
}

const DELTA_SI = 0.3;
const FED_FROM = 0.95;
const STRIP_WRONG_ABOVE = 1.05;
const OTHER_CAUSE_BELOW = 0.7;
/**
 * N by a field's reading against a strip that was fed richly (F6.2; Holland & Schepers 2010,
 * Agronomy Journal 102:1415-1424).
 *
 * @example sufficiencyIndex({ fieldReading: 0.66, referenceReading: 0.75, nOptKgHa: 180,
 * nAppliedKgHa: 60 }).nKgHa // 75.89
 */
export function sufficiencyIndex(i: {
  fieldReading: number;
  referenceReading: number;
  nOptKgHa: number;
  nAppliedKgHa: number;
  nCreditKgHa?: number | null;
}): { si: number; nKgHa: number; flag: 'ok' | 'strip_not_best' | 'other_cause' } {
  const above = { above: true };
  const field = within('field_reading', i.fieldReading, {
    ...span('Reading of the field', '', 0, 1000),
    ...above,
  });
  const reference = within('reference_reading', i.referenceReading, {
    ...span('Reading of the strip', '', 0, 1000),
    ...above,
  });
  const left =
    within('n_opt_kg_ha', i.nOptKgHa, KG('Best dose', 500)) -
    within('n_applied_kg_ha', i.nAppliedKgHa, KG('N applied')) -
    within('n_credit_kg_ha', i.nCreditKgHa ?? 0, KG('Credits'));
  const si = field / reference;
  return {
    si,
    nKgHa: si >= FED_FROM ? 0 : Math.max(0, left) * Math.sqrt(Math.min(1, (1 - si) / DELTA_SI)),
    flag: si > STRIP_WRONG_ABOVE ? 'strip_not_best' : si < OTHER_CAUSE_BELOW ? 'other_cause' : 'ok',
  };
}

const MINERAL_USABLE = 0.75;
const RELEASE_USABLE = 0.6;
const LEAST_DEFICIT_KG_HA = 20;
const DEFICIT_SHARE = 0.1;
const YIELD_LOSS = 1.6;
const STEP_KG = 5;
/** Share of the yield at a share of the N (M6); of low confidence below 0.6. */
const yieldAt = (share: number): number => 1 - YIELD_LOSS * (1 - Math.min(1, share)) ** 2;
const upTo5 = (kg: number): number => STEP_KG * Math.ceil(kg / STEP_KG - 1e-9);
/** What a second dressing is decided from. */
export interface SecondDressingInput {
  uTotalKgHa: number;
  uptakeSoFarKgHa: number;
  rootZoneMineralNKgHa: number;
  expectedMineralisationKgHa: number;
  unreleasedCoatedKgHa?: number | null;
  recoveryFrac?: number | null;
  maxDoseKgHa?: number | null;
}
/**
 * How much a second dressing is short of, and its dose (F6.4, steps 1 to 5).
 *
 * @example secondDressingDose({ uTotalKgHa: 220, uptakeSoFarKgHa: 40, rootZoneMineralNKgHa: 70,
 * expectedMineralisationKgHa: 40 }).deficitKgHa // 103.5
 */
export function secondDressingDose(i: SecondDressingInput): {
  remainingDemandKgHa: number;
  usableSupplyKgHa: number;
  deficitKgHa: number;
  thresholdKgHa: number;
  doseKgHa: number;
  relYieldBefore: number;
  relYieldAfter: number;
} {
  const u = within('u_total_kg_ha', i.uTotalKgHa, { ...KG('N in the crop'), above: true });
  const taken = within('uptake_so_far_kg_ha', i.uptakeSoFarKgHa, KG('Taken up so far'));
  const recovery = within('recovery_frac', i.recoveryFrac ?? 0.65, {
    ...RANGES.share,
    label: 'Recovery',
    above: true,
  });
  const remaining = Math.max(0, u - taken);
  const usable =
    MINERAL_USABLE *
      within('root_zone_mineral_n_kg_ha', i.rootZoneMineralNKgHa, KG('Mineral N', 1000)) +
    RELEASE_USABLE *
      (within('expected_mineralisation_kg_ha', i.expectedMineralisationKgHa, KG('Release')) +
        within('unreleased_coated_kg_ha', i.unreleasedCoatedKgHa ?? 0, KG('Coated N')));
  const deficit = Math.max(0, remaining - usable);
  const threshold = Math.max(LEAST_DEFICIT_KG_HA, DEFICIT_SHARE * u);
  const most = within('max_dose_kg_ha', i.maxDoseKgHa ?? 100, KG('Largest dose', 400));
  const dose = deficit >= threshold ? Math.min(most, upTo5(deficit / recovery)) : 0;
  return {
    remainingDemandKgHa: remaining,
    usableSupplyKgHa: usable,
    deficitKgHa: deficit,
    thresholdKgHa: threshold,
    doseKgHa: dose,
    relYieldBefore: yieldAt((u - deficit) / u),
    relYieldAfter: yieldAt((u - deficit + dose * recovery) / u),
  };
}
/**
 * Whether a second dressing pays after rain, and how much (F6.4). A measured nitrate test stands
 * before the simulator's.
 *
 * @example redress({ uTotalKgHa: 220, uptakeSoFarKgHa: 40, rootZoneMineralNKgHa: 70,
 * expectedMineralisationKgHa: 40, yieldTHa: 11, grainPricePerT: 180, nPricePerKg: 1, passCostHa: 14
 * }).doseKgHa // 100
 */
export function redress(
  i: SecondDressingInput & {
    yieldTHa: number;
    grainPricePerT: number;
    nPricePerKg: number;
    passCostHa: number;
  },
): ReturnType<typeof secondDressingDose> & { marginHa: number } {
  const found = secondDressingDose(i);
  const { doseKgHa: dose, relYieldAfter, relYieldBefore } = found;
  return {
    ...found,
    marginHa:
      dose === 0
        ? 0
        : (relYieldAfter - relYieldBefore) * i.yieldTHa * i.grainPricePerT -
          dose * i.nPricePerKg -
          i.passCostHa,
  };
}
