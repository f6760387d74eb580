import { z } from 'zod';
import { factRead } from '../facts/head';
import { leafSampleFact } from '../facts/leafSample';
import { nitrateLayers, sulphateLayers } from '../facts/nitrateProfile';
import { soilFindings } from '../facts/soilSample';
import { num } from '../quantity/input';
import { RANGES } from '../quantity/range';
import { cautionAnswer, forageCut, jobTaken } from './answerDocument';
import { farmTerms } from './farmTerms';
import { assumedCredit, leftOut, UNKNOWN_CREDITS } from './leftDocument';
import { limePlan } from './limeDocument';
import { MOST_PASSES } from './most';
import { organicApplication, type OrganicApplication } from './organicDocument';
import { previousCrop } from './previousDocument';
import { observedStage, richStrip, sidedressTest } from './seenDocument';
import { schools } from './schoolsDocument';
import {
  forNextSeason,
  fruitBlock,
  fruitDrop,
  sapMeasured,
  soilLeafAnswer,
  symptoms,
} from './tissueDocument';
import { STEPS } from './versions/steps';

export const PLAN_FORMAT = 'patient-furrow-plan';
/** Today's version: the one that the last step of the chain leads to. */
export const PLAN_VERSION = STEPS.length + 1;

const date = z.iso.date({ error: 'a calendar date, YYYY-MM-DD' });
const maybeDate = date.nullable();
const name = z
  .string({ error: 'text' })
  .trim()
  .min(1, { error: '1 to 120 letters' })
  .max(120, { error: '1 to 120 letters' });
const text = z.string({ error: 'text' }).max(500, { error: 'at most 500 letters' });
const key = z.string({ error: 'a key of the library' }).min(1).max(60);
const maybeKey = key.nullable();
const id = z.string({ error: 'an id' }).min(1).max(60);
const share = (label: string) => num({ ...RANGES.share, label });

const fertiliserPass = z.strictObject({
  id,
  date,
  productId: key,
  productKgHa: num(RANGES.productKgHa),
  placementId: key,
  status: z.enum(['planned', 'done']),
  pricePerT: num(RANGES.pricePerT).nullable(),
});

const residue = z.strictObject({
  leftTDmHa: num({ label: 'Residue left', unit: 't DM/ha', min: 0, max: 25 }),
  nKgTDm: num({ label: 'N of the residue', unit: 'kg/t DM', min: 0, max: 60, above: true }),
  placement: key,
  leadWeeks: num({ label: 'Weeks before planting', unit: 'weeks', min: 0, max: 52 }),
});
/** The field plan: everything that the assessment needs, and nothing of the database. */
export const planSchema = z.strictObject({
  format: z.literal(PLAN_FORMAT),
  version: z.literal(PLAN_VERSION),
  asOf: date,
  farm: farmTerms,
  field: z.strictObject({
    name,
    areaHa: num(RANGES.areaHa),
    soilTextureId: key,
    omPct: num(RANGES.omPct).nullable(),
    omDepthCm: num({ label: 'Depth of the organic-matter test', unit: 'cm', min: 5, max: 60 }),
    cecCmolKg: num(RANGES.cecCmolKg).nullable(),
    clayPct: num(RANGES.clayPct).nullable(),
    tillage: z.enum(['ploughed', 'mixed', 'no_till', 'grass']).nullable(),
    latitudeDeg: num(RANGES.latitudeDeg),
    climateId: key,
    tenure: z.enum(['owned', 'lease_8_years_or_more', 'lease_3_to_7_years', 'yearly_lease']),
    certification: z.enum(['none', 'in_conversion', 'organic']),
    /** A soil that binds P (volcanic ash, oxides) or K (some clays) for good. */
    fixes: z.enum(['none', 'p', 'k']),
    /** How fast water leaves the ground; the simulator takes it as well drained until it is said. */
    drainageClass: maybeKey,
    slopePct: num({ label: 'Slope', unit: '%', min: 0, max: 60 }).nullable(),
    /** What lies beside the field and how far the spreading keeps from it, m. */
    near: z
      .array(
        z.strictObject({
          feature: key,
          situation: key,
          metres: num({ label: 'Kept clear', unit: 'm', min: 0, max: 2000 }),
        }),
      )
      .max(12),
    /** Years of hay, silage or greenfeed behind this season, and what was brought back. */
    forage: z
      .strictObject({
        cropKey: key,
        yieldsTHa: z.array(num({ label: 'Yield', unit: 't/ha', min: 0, max: 500 })).max(15),
        returnedPKgHa: num({ label: 'P brought back', unit: 'kg/ha', min: 0, max: 3000 }),
        returnedKKgHa: num({ label: 'K brought back', unit: 'kg/ha', min: 0, max: 3000 }),
      })
      .nullable(),
  }),
  season: z.strictObject({
    label: name,
    startDate: date,
    cropKey: maybeKey,
    use: maybeKey,
    yieldGoalTHa: num({ label: 'Yield goal', unit: 't/ha', min: 0, max: 500 }).nullable(),
    yieldHistoryTHa: z.array(num({ label: 'Yield', unit: 't/ha', min: 0, max: 500 })).max(15),
    /** What was harvested in this season, once it is known. */
    harvestedTHa: num({ label: 'Yield harvested', unit: 't/ha', min: 0, max: 500 }).nullable(),
    proteinTargetPct: num(RANGES.proteinPct).nullable(),
    legumeShare: share('Legume share').nullable(),
    plantingYear: num({ label: 'Planting year', unit: '', min: 1, max: 100 }).nullable(),
    plantingDate: maybeDate,
    harvestDate: maybeDate,
    /** Of a standing crop: when it begins and ceases to take up N, where somebody said so. */
    budBurst: maybeDate,
    leafFall: maybeDate,
    /** Of a forage crop: its cuts, the last on the day of harvest. */
    cuts: z.array(forageCut).max(12),
    /** Rain since the nitrate sample, from the gauge; the normals stand in where nobody read one. */
    rainSinceSampleMm: num({
      label: 'Rain since the nitrate sample',
      unit: 'mm',
      min: 0,
      max: 3000,
    }).nullable(),
    /** Share of the ground that residues cover when the first N goes out. */
    residueCoverFrac: share('Residue cover').nullable(),
    /** Growth stages that were seen. */
    observedStages: z.array(observedStage).max(12),
    /** Of what is drilled or planted: how far the rows lie apart and how wide the opener spreads. */
    rowCm: num({ label: 'Row spacing', unit: 'cm', min: 10, max: 150 }).nullable(),
    openerId: maybeKey,
    sidedressTest: sidedressTest.nullable(),
    richStrip: richStrip.nullable(),
    symptoms: symptoms.nullable(),
    sap: z.array(sapMeasured).max(40),
    fruitBlock: fruitBlock.nullable(),
    fruitDrop: fruitDrop.nullable(),
    soilLeafAnswers: z.array(soilLeafAnswer).max(30),
    /** What the next season begins with, by what was found in this one. */
    nextSeason: z.array(forNextSeason).max(12),
    strawRemovedFrac: share('Straw removed'),
    cropPricePerT: num(RANGES.pricePerT).nullable(),
    eatenRaw: z.boolean(),
    touchesSoil: z.boolean(),
    winterDrainageMm: num(RANGES.drainageMm),
    springDrainageMm: num({
      label: 'Drainage from the first pass to half uptake',
      unit: 'mm',
      min: 0,
      max: 1500,
    }),
    moistureClass: key,
    soilTempSeasonC: num(RANGES.soilTempC).nullable(),
    releaseDays: num(RANGES.seasonDays).nullable(),
    depositionNKgHa: num(RANGES.depositionN).nullable(),
    depositionSKgHa: num(RANGES.depositionS).nullable(),
    /** What is known of the stand beside its yield. */
    stand: z.strictObject({
      companionLegume: z.boolean(),
      firstTimeHere: z.boolean(),
      nodulesFailed: z.boolean(),
      afterBareFallow: z.boolean(),
      stressed: z.boolean(),
      /** A well-grown cover crop stood over winter and held nitrate back. */
      winterCover: z.boolean(),
      /**
       * More than 25 mm fell on the straw before it was carried off; prunings that leave, of crops
       * without straw.
       */
      strawWashed: z.boolean(),
      pruningsTDmHa: num({ label: 'Prunings carried off', unit: 't DM/ha', min: 0, max: 25 }),
      otherLimitRy: share('Yield that water or stand allow').nullable(),
    }),
  }),
  /**
   * The soil sample and the nitrate profile that this season reads, laid open. They are facts of
   * the field: a change of one is saved there.
   */
  ground: z.strictObject({
    sampleDate: maybeDate,
    ...soilFindings,
    /** Boron put on in the last 12 months, from all routes, kg B/ha. */
    boronLastYearKgHa: num({
      label: 'Boron of the last year',
      unit: 'kg/ha',
      min: 0,
      max: 20,
    }).nullable(),
    nitrateSampleDate: maybeDate,
    nitrateLayers,
    sulphateLayers,
  }),
  /** Which facts those are, and why they. */
  reads: z.strictObject({ soil: factRead, nitrate: factRead }),
  /** Leaves of the field, newest first: the assessment reads those of the season. */
  leaves: z.array(leafSampleFact).max(60),
  lime: limePlan.nullable(),
  schools,
  residue: residue.nullable(),
  previous: previousCrop,
  manureHistory: z.enum(['unknown', 'none', 'yes']),
  organics: z.array(organicApplication).max(40),
  irrigation: z
    .strictObject({
      mm: num(RANGES.irrigationMm),
      no3nMgL: num(RANGES.waterNo3n).nullable(),
      shareBeforeRunDown: share('Share before run-down'),
      so4sMgL: num({ label: 'Sulphate-S in the water', unit: 'mg/L', min: 0, max: 500 }).nullable(),
      kMgL: num({ label: 'K in the water', unit: 'mg/L', min: 0, max: 500 }).nullable(),
      clMgL: num({ label: 'Chloride in the water', unit: 'mg/L', min: 0, max: 5000 }).nullable(),
      /** Day of the water's analysis; null: nobody said. */
      sampledOn: maybeDate,
    })
    .nullable(),
  cropN: z
    .strictObject({
      cropNKgHa: num({ label: 'N in the crop', unit: 'kg/ha', min: 0, max: 200 }).nullable(),
      shootsM2: num({ label: 'Shoots', unit: 'per m2', min: 0, max: 3000 }).nullable(),
      gai: num({ label: 'Green area index', unit: 'm2/m2', min: 0, max: 6 }).nullable(),
    })
    .nullable(),
  passes: z.array(fertiliserPass).max(MOST_PASSES),
  /** Other supplies for the same season, held beside this one to weigh them in the same years. */
  others: z
    .array(
      z.strictObject({
        id,
        name,
        passes: z.array(fertiliserPass).max(MOST_PASSES),
        organics: z.array(organicApplication).max(40),
      }),
    )
    .max(3),
  /** Credits struck out, each with its reason; they stay visible. */
  struck: z
    .array(z.strictObject({ line: key, reason: text.min(3, { error: '3 letters or more' }) }))
    .max(20),
  /** Nutrients left out on purpose. */
  left: z.array(leftOut).max(12),
  /** Unknown credits that are reckoned with all the same. */
  assumed: z.array(assumedCredit).max(UNKNOWN_CREDITS.length),
  /** Who does what. */
  jobs: z.array(jobTaken).max(80),
  /** What became of cautions. */
  answers: z.array(cautionAnswer).max(80),
});

export type Plan = z.infer<typeof planSchema>;
export type { OrganicApplication };
export type FertiliserPass = z.infer<typeof fertiliserPass>;
