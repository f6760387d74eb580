import type { z } from 'zod';
import type { organicPoolRow, simParamRow } from '../book/rows';
import { byKey, lazily, rowsOf } from '../book/table';
import poolFile from '../book/tables/organic_pools.json';
import paramFile from '../book/tables/sim_params.json';
import { refuse } from '../quantity/refusal';
import { within } from '../quantity/range';
import { frostedWarmth } from '../quantity/thermalTime';
import { toCamel } from '../quantity/names';

export type SimParamRow = z.infer<typeof simParamRow>;
export type OrganicPool = z.infer<typeof organicPoolRow>;

/** Constants of the simulator, by the chapter's names. */
export interface SimParams {
  nLayers: number;
  q10Min: number;
  q10Nit: number;
  tRefC: number;
  tRampC: number;
  tCapC: number;
  kSomD: number;
  somCFrac: number;
  somCToN: number;
  somFoldCm: number;
  somSubFactor: number;
  kBioD: number;
  bioMinFrac: number;
  cToNNew: number;
  immobMaxFrac: number;
  kHydD: number;
  kDiffUreaD: number;
  kDiffMinD: number;
  kvUreaD: number;
  kvSaltD: number;
  volPhSlopeUrea: number;
  volPhSlopeSalt: number;
  volQ10: number;
  volTRefC: number;
  volCecSlope: number;
  volResidue: number;
  volCanopy: number;
  uiEff: number;
  uiTauD: number;
  niEff: number;
  niTauD: number;
  kNitD: number;
  kDenD: number;
  denThresh: number;
  washMm: number;
  runoffSurfFrac: number;
  kappaNo3: number;
  kappaNh4: number;
  rootDecay: number;
  uptakeMoistHalf: number;
  winterCatchUp: number;
  catchUpD: number;
  stressFrac: number;
  stressMinFrac: number;
  lateFrac: number;
  shortFrac: number;
  evapCoef: number;
  residueEvap: number;
  pRaw: number;
  snowMeltMmCD: number;
  tSoilA: number;
  tSoilB: number;
  depositionKgHaYr: number;
  coatPower: number;
  foliarLeafFrac: number;
}

const simParamRows = lazily(() => rowsOf<SimParamRow>(paramFile));
/**
 * The table's constants, with somebody's own in their place.
 *
 * @throws Refusal for a name that the table does not know, or a value outside its span
 */
export function simParams(own: Readonly<Record<string, number>> = {}): SimParams {
  const rows = byKey(simParamRows(), (r) => r.param);
  const values = Object.fromEntries(simParamRows().map((r) => [toCamel(r.param), r.default]));
  for (const [name, value] of Object.entries(own)) {
    const row =
      rows.get(name) ??
      refuse('unknown_id', `params.${name}`, `params.${name} is no constant of the simulator.`);
    values[toCamel(name)] = within(`params.${name}`, value, {
      label: row.meaning,
      unit: row.unit === '-' ? '' : row.unit,
      min: row.min,
      max: row.max,
    });
  }
  return values as unknown as SimParams;
}

export const organicPools = lazily(() => rowsOf<OrganicPool>(poolFile));
/** Place of a pool in the table: pools turn over in that order. */
export function poolIndex(poolId: string, field = 'pool_id'): number {
  const at = organicPools().findIndex((p) => p.poolId === poolId);
  if (at < 0)
    refuse(
      'unknown_id',
      field,
      `${field} = ${poolId} is not known: use one of ${organicPools()
        .map((p) => p.poolId)
        .join(', ')}.`,
      { value: poolId },
    );
  return at;
}
/** What a pool on the surface becomes when it is worked in; each pool itself where it is mixed. */
export const workedIn = lazily(() =>
  organicPools().map((p) => poolIndex(p.poolId.replace(/_surface$/u, ''))),
);

/** How warmth moves a rate: nothing at 0 °C, a ramp where pores freeze (chapter 4, S1). */
export const warmthFactor = (p: SimParams, tempC: number, q10: number): number =>
  frostedWarmth(tempC, q10, p.tRefC, p.tRampC, p.tCapC);
