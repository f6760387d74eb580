import { PLAN_FORMAT, PLAN_VERSION, type Plan } from './document';
import { DEFAULT_SCHOOLS } from './schoolsDocument';
import { PLAIN_STAND } from './defaults';

export interface BlankPlanInput {
  asOf: string;
  farm: Plan['farm'];
  field: Plan['field'];
  label: string;
  startDate: string;
}

/** A season with nothing known yet: every unknown is null, never zero. */
export const blankPlan = (i: BlankPlanInput): Plan => ({
  format: PLAN_FORMAT,
  version: PLAN_VERSION,
  asOf: i.asOf,
  farm: i.farm,
  field: i.field,
  season: {
    label: i.label,
    startDate: i.startDate,
    cropKey: null,
    use: null,
    yieldGoalTHa: null,
    yieldHistoryTHa: [],
    harvestedTHa: null,
    proteinTargetPct: null,
    legumeShare: null,
    plantingYear: null,
    plantingDate: null,
    harvestDate: null,
    budBurst: null,
    leafFall: null,
    cuts: [],
    rainSinceSampleMm: null,
    strawRemovedFrac: 0,
    cropPricePerT: null,
    eatenRaw: false,
    touchesSoil: false,
    winterDrainageMm: 150,
    springDrainageMm: 30,
    moistureClass: 'rainfed_normal',
    soilTempSeasonC: null,
    releaseDays: null,
    depositionNKgHa: null,
    depositionSKgHa: null,
    stand: PLAIN_STAND,
  },
  ground: {
    sampleDate: null,
    laboratory: null,
    depthCm: null,
    nCores: null,
    nPoints: null,
    moisture: null,
    phWater: null,
    phCacl2: null,
    bufferKind: null,
    bufferPh: null,
    alCmolKg: null,
    boronLastYearKgHa: null,
    readings: [],
    nitrateSampleDate: null,
    nitrateLayers: [],
    sulphateLayers: [],
  },
  reads: { soil: null, nitrate: null },
  leaves: [],
  lime: null,
  schools: DEFAULT_SCHOOLS,
  residue: null,
  previous: null,
  manureHistory: 'unknown',
  organics: [],
  irrigation: null,
  cropN: null,
  passes: [],
  struck: [],
  left: [],
  assumed: [],
  jobs: [],
  answers: [],
});
