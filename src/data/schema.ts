import {
  bigint,
  bigserial,
  boolean,
  date,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  pgSequence,
  primaryKey,
  text,
  timestamp,
  uniqueIndex,
} from 'drizzle-orm/pg-core';
import type { Outline } from '../core/ground/outline';
import type { SamplingPlan } from '../core/ground/samplingPlan';
import { READ_BECAUSE, type ReadBecause } from '../core/facts/head';
import { SOIL_UNITS, type EarlierSample } from '../core/facts/soilSample';
import type { LeafSampleFact } from '../core/facts/leafSample';
import type { NitrateLayer, SulphateLayer } from '../core/facts/nitrateProfile';
import type { Plan } from '../core/document/document';
import type { LibraryTable } from '../core/book/book';
import type { FarmTerms } from '../core/document/farmTerms';
import type { DressingDocument, ManureLab, PlannedMachine } from '../core/document/organicDocument';
import type { SheetDocument } from '../core/views/sheet';
import type { FieldSummary } from '../core/farm/fieldSummary';
import type { RowSums } from '../core/farm/farmTotals';

// Numbers keep the unit in their name, as in core. A null is "not known", never zero.
const day = (name: string) => date(name, { mode: 'string' });
const num = doublePrecision;
const version = () => integer('version').notNull().default(1);
/**
 * History of a fact: how often it changed, who wrote it down and when. Null: from before anybody
 * kept it.
 */
const history = () => ({
  version: version(),
  author: text('author'),
  recordedOn: day('recorded_on'),
});

/** Terms of a farm that have no column of their own. Null: the shown defaults. */
export type StoredTerms = Omit<
  FarmTerms,
  'name' | 'closedPeriods' | 'legalNCapKgHa' | 'nPricePerKg' | 'library'
>;

export const people = pgTable('people', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
});

export const farms = pgTable('farms', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  place: text('place').notNull(),
  latitudeDeg: num('latitude_deg').notNull(),
  /** Null: nobody said; outlines and maps then begin nowhere. */
  longitudeDeg: num('longitude_deg'),
  climateId: text('climate_id').notNull(),
  closedPeriods: jsonb('closed_periods').$type<Plan['farm']['closedPeriods']>().notNull(),
  legalNCapKgHa: num('legal_n_cap_kg_ha'),
  nPricePerKg: num('n_price_per_kg').notNull(),
  terms: jsonb('terms').$type<StoredTerms>(),
  demo: boolean('demo').notNull().default(false),
  version: version(),
});

/** Who may do what on which farm: an advisor proposes, a farmer decides, an owner does both. */
export const memberships = pgTable(
  'memberships',
  {
    personId: text('person_id')
      .notNull()
      .references(() => people.id),
    farmId: text('farm_id')
      .notNull()
      .references(() => farms.id),
    role: text('role', { enum: ['advisor', 'farmer', 'owner'] }).notNull(),
  },
  (t) => [primaryKey({ columns: [t.personId, t.farmId] })],
);

/** A heap or tank of the farm, with what laboratories found in it, newest first. */
export const stores = pgTable(
  'stores',
  {
    id: text('id').primaryKey(),
    farmId: text('farm_id')
      .notNull()
      .references(() => farms.id),
    name: text('name').notNull(),
    materialKey: text('material_key').notNull(),
    amountT: num('amount_t'),
    pricePerT: num('price_per_t').notNull().default(0),
    labs: jsonb('labs').$type<ManureLab[]>().notNull(),
    position: integer('position').notNull().default(0),
  },
  (t) => [index('stores_farm').on(t.farmId)],
);
/** A spreader, tanker or injector, with its calibrations, newest first. */
export const machines = pgTable(
  'machines',
  {
    id: text('id').primaryKey(),
    farmId: text('farm_id')
      .notNull()
      .references(() => farms.id),
    name: text('name').notNull(),
    kind: text('kind').notNull(),
    minRate: num('min_rate').notNull(),
    maxRate: num('max_rate').notNull(),
    capacity: num('capacity').notNull(),
    calibrations: jsonb('calibrations')
      .$type<NonNullable<PlannedMachine['calibration']>[]>()
      .notNull(),
    position: integer('position').notNull().default(0),
  },
  (t) => [index('machines_farm').on(t.farmId)],
);
/**
 * Values of the library that a farm has put its own in place of: who, when and why stay with them.
 */
export const libraryChanges = pgTable(
  'library_changes',
  {
    farmId: text('farm_id')
      .notNull()
      .references(() => farms.id),
    table: text('table').$type<LibraryTable>().notNull(),
    key: text('key').notNull(),
    like: text('like').notNull(),
    values: jsonb('values').$type<Record<string, number | string | null>>().notNull(),
    by: text('by').notNull(),
    on: day('on').notNull(),
    why: text('why').notNull(),
  },
  (t) => [primaryKey({ columns: [t.farmId, t.table, t.key] })],
);

export const fields = pgTable(
  'fields',
  {
    id: text('id').primaryKey(),
    farmId: text('farm_id')
      .notNull()
      .references(() => farms.id),
    name: text('name').notNull(),
    areaHa: num('area_ha').notNull(),
    outline: jsonb('outline').$type<Outline | null>(),
    soilTextureId: text('soil_texture_id').notNull(),
    omPct: num('om_pct'),
    omDepthCm: num('om_depth_cm').notNull().default(20),
    cecCmolKg: num('cec_cmol_kg'),
    clayPct: num('clay_pct'),
    tillage: text('tillage', { enum: ['ploughed', 'mixed', 'no_till', 'grass'] }),
    tenure: text('tenure', {
      enum: ['owned', 'lease_8_years_or_more', 'lease_3_to_7_years', 'yearly_lease'],
    }).notNull(),
    certification: text('certification', { enum: ['none', 'in_conversion', 'organic'] }).notNull(),
    fixes: text('fixes', { enum: ['none', 'p', 'k'] })
      .notNull()
      .default('none'),
    drainageClass: text('drainage_class'),
    slopePct: num('slope_pct'),
    near: jsonb('near').$type<Plan['field']['near']>(),
    forage: jsonb('forage').$type<Plan['field']['forage']>(),
    position: integer('position').notNull().default(0),
    version: version(),
  },
  (t) => [index('fields_in_order').on(t.farmId, t.position, t.name, t.id)],
);

/**
 * Where to sample a field, with which cores and to which depth; points carry the labels under which
 * results come back.
 */
export const samplingPlans = pgTable(
  'sampling_plans',
  {
    id: text('id').primaryKey(),
    fieldId: text('field_id')
      .notNull()
      .references(() => fields.id, { onDelete: 'cascade' }),
    createdOn: day('created_on').notNull(),
    name: text('name').notNull(),
    document: jsonb('document').$type<SamplingPlan>().notNull(),
    version: version(),
  },
  (t) => [index('sampling_plans_field').on(t.fieldId)],
);
/** Products that were weighed against the field's need, kept with what was found. */
export const claims = pgTable(
  'claims',
  {
    id: text('id').primaryKey(),
    fieldId: text('field_id')
      .notNull()
      .references(() => fields.id, { onDelete: 'cascade' }),
    checkedOn: day('checked_on').notNull(),
    product: text('product').notNull(),
    input: jsonb('input').$type<Record<string, unknown>>().notNull(),
    verdict: text('verdict').notNull(),
    message: text('message').notNull(),
  },
  (t) => [index('claims_field').on(t.fieldId)],
);

export const soilSamples = pgTable(
  'soil_samples',
  {
    id: text('id').primaryKey(),
    fieldId: text('field_id')
      .notNull()
      .references(() => fields.id, { onDelete: 'cascade' }),
    date: day('date'),
    label: text('label'),
    laboratory: text('laboratory'),
    depthCm: num('depth_cm'),
    nCores: num('n_cores'),
    nPoints: num('n_points'),
    moisture: text('moisture', { enum: ['dry', 'moist', 'wet'] }),
    phWater: num('ph_water'),
    phCacl2: num('ph_cacl2'),
    bufferKind: text('buffer_kind', { enum: ['adams_evans', 'smp', 'sikora', 'mehlich'] }),
    bufferPh: num('buffer_ph'),
    alCmolKg: num('al_cmol_kg'),
    omPct: num('om_pct'),
    cecCmolKg: num('cec_cmol_kg'),
    depthFromCm: num('depth_from_cm').notNull().default(0),
    kind: text('kind', { enum: ['composite', 'point', 'mean'] })
      .notNull()
      .default('composite'),
    samplingPlanId: text('sampling_plan_id').references(() => samplingPlans.id, {
      onDelete: 'set null',
    }),
    /** What a report tells of the ground beside nutrients; offered to the field, not put there. */
    ocPct: num('oc_pct'),
    clayPct: num('clay_pct'),
    stonesPct: num('stones_pct'),
    /** Where it was taken, longitude and latitude, with or without a sampling plan. */
    at: jsonb('at').$type<[number, number] | null>(),
    /** As it stood before each change, the oldest first. */
    earlier: jsonb('earlier').$type<EarlierSample[]>().notNull().default([]),
    ...history(),
  },
  (t) => [index('soil_samples_field').on(t.fieldId)],
);
export const soilResults = pgTable(
  'soil_results',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    sampleId: text('sample_id')
      .notNull()
      .references(() => soilSamples.id, { onDelete: 'cascade' }),
    position: integer('position').notNull(),
    nutrient: text('nutrient').$type<Plan['ground']['readings'][number]['nutrient']>().notNull(),
    extractant: text('extractant').notNull(),
    value: num('value').notNull(),
    unit: text('unit', { enum: SOIL_UNITS }).notNull(),
    belowDetection: boolean('below_detection').notNull(),
  },
  (t) => [index('soil_results_sample').on(t.sampleId)],
);

/** Nitrate of a field on one day, by layers: typed, or out of a laboratory's file. */
export const nitrateProfiles = pgTable(
  'nitrate_profiles',
  {
    id: text('id').primaryKey(),
    fieldId: text('field_id')
      .notNull()
      .references(() => fields.id, { onDelete: 'cascade' }),
    date: day('date'),
    laboratory: text('laboratory'),
    layers: jsonb('layers').$type<NitrateLayer[]>().notNull(),
    sulphateLayers: jsonb('sulphate_layers').$type<SulphateLayer[]>().notNull().default([]),
    ...history(),
  },
  (t) => [index('nitrate_profiles_field').on(t.fieldId)],
);

export const fieldSeasons = pgTable(
  'field_seasons',
  {
    id: text('id').primaryKey(),
    fieldId: text('field_id')
      .notNull()
      .references(() => fields.id, { onDelete: 'cascade' }),
    label: text('label').notNull(),
    startDate: day('start_date').notNull(),
    /** The facts that this season reads, and why they. */
    soilSampleId: text('soil_sample_id').references(() => soilSamples.id),
    soilBecause: text('soil_because', { enum: READ_BECAUSE }),
    nitrateProfileId: text('nitrate_profile_id').references(() => nitrateProfiles.id),
    nitrateBecause: text('nitrate_because', { enum: READ_BECAUSE }),
    cropKey: text('crop_key'),
    use: text('use'),
    yieldGoalTHa: num('yield_goal_t_ha'),
    yieldHistoryTHa: jsonb('yield_history_t_ha').$type<number[]>().notNull(),
    harvestedTHa: num('harvested_t_ha'),
    proteinTargetPct: num('protein_target_pct'),
    legumeShare: num('legume_share'),
    plantingYear: num('planting_year'),
    plantingDate: day('planting_date'),
    harvestDate: day('harvest_date'),
    budBurst: day('bud_burst'),
    leafFall: day('leaf_fall'),
    cuts: jsonb('cuts').$type<Plan['season']['cuts']>().notNull().default([]),
    rainSinceSampleMm: num('rain_since_sample_mm'),
    residueCoverFrac: num('residue_cover_frac'),
    observedStages: jsonb('observed_stages')
      .$type<Plan['season']['observedStages']>()
      .notNull()
      .default([]),
    rowCm: num('row_cm'),
    openerId: text('opener_id'),
    sidedressTest: jsonb('sidedress_test').$type<Plan['season']['sidedressTest']>(),
    richStrip: jsonb('rich_strip').$type<Plan['season']['richStrip']>(),
    symptoms: jsonb('symptoms').$type<Plan['season']['symptoms']>(),
    sap: jsonb('sap').$type<Plan['season']['sap']>().notNull().default([]),
    fruitBlock: jsonb('fruit_block').$type<Plan['season']['fruitBlock']>(),
    fruitDrop: jsonb('fruit_drop').$type<Plan['season']['fruitDrop']>(),
    soilLeafAnswers: jsonb('soil_leaf_answers')
      .$type<Plan['season']['soilLeafAnswers']>()
      .notNull()
      .default([]),
    nextSeason: jsonb('next_season').$type<Plan['season']['nextSeason']>().notNull().default([]),
    strawRemovedFrac: num('straw_removed_frac').notNull(),
    cropPricePerT: num('crop_price_per_t'),
    eatenRaw: boolean('eaten_raw').notNull(),
    touchesSoil: boolean('touches_soil').notNull(),
    winterDrainageMm: num('winter_drainage_mm').notNull(),
    springDrainageMm: num('spring_drainage_mm').notNull(),
    moistureClass: text('moisture_class').notNull(),
    soilTempSeasonC: num('soil_temp_season_c'),
    releaseDays: num('release_days'),
    depositionNKgHa: num('deposition_n_kg_ha'),
    depositionSKgHa: num('deposition_s_kg_ha'),
    manureHistory: text('manure_history', { enum: ['unknown', 'none', 'yes'] }).notNull(),
    irrigation: jsonb('irrigation').$type<Plan['irrigation']>(),
    cropN: jsonb('crop_n').$type<Plan['cropN']>(),
    others: jsonb('others').$type<Plan['others']>().notNull().default([]),
    struck: jsonb('struck').$type<Plan['struck']>().notNull(),
    left: jsonb('left').$type<Plan['left']>().notNull().default([]),
    assumed: jsonb('assumed').$type<Plan['assumed']>().notNull().default([]),
    jobs: jsonb('jobs').$type<Plan['jobs']>().notNull().default([]),
    answers: jsonb('answers').$type<Plan['answers']>().notNull().default([]),
    lime: jsonb('lime').$type<Plan['lime']>(),
    schools: jsonb('schools').$type<Plan['schools']>(),
    residue: jsonb('residue').$type<Plan['residue']>(),
    boronLastYearKgHa: num('boron_last_year_kg_ha'),
    stand: jsonb('stand').$type<Plan['season']['stand']>(),
    version: version(),
  },
  (t) => [uniqueIndex('field_seasons_label').on(t.fieldId, t.label)],
);

export const previousCrops = pgTable('previous_crops', {
  seasonId: text('season_id')
    .primaryKey()
    .references(() => fieldSeasons.id, { onDelete: 'cascade' }),
  kind: text('kind', { enum: ['legume', 'green_manure', 'other'] }).notNull(),
  detail: jsonb('detail').$type<NonNullable<Plan['previous']>>().notNull(),
});

export const organicApplications = pgTable(
  'organic_applications',
  {
    /** Belongs to its season: two seasons may hold the same id. */
    id: text('id').notNull(),
    seasonId: text('season_id')
      .notNull()
      .references(() => fieldSeasons.id, { onDelete: 'cascade' }),
    position: integer('position').notNull(),
    date: day('date').notNull(),
    materialKey: text('material_key').notNull(),
    status: text('status', { enum: ['planned', 'done'] }).notNull(),
    storeId: text('store_id'),
    /** As it was written: what it could not say then has its default today. */
    document: jsonb('document').$type<DressingDocument>().notNull(),
  },
  (t) => [primaryKey({ columns: [t.seasonId, t.id] })],
);
export const fertiliserPasses = pgTable(
  'fertiliser_passes',
  {
    /** Belongs to its season: two seasons may hold the same id. */
    id: text('id').notNull(),
    seasonId: text('season_id')
      .notNull()
      .references(() => fieldSeasons.id, { onDelete: 'cascade' }),
    position: integer('position').notNull(),
    date: day('date').notNull(),
    productId: text('product_id').notNull(),
    productKgHa: num('product_kg_ha').notNull(),
    placementId: text('placement_id').notNull(),
    status: text('status', { enum: ['planned', 'done'] }).notNull(),
    pricePerT: num('price_per_t'),
  },
  (t) => [primaryKey({ columns: [t.seasonId, t.id] })],
);

export const tissueSamples = pgTable(
  'tissue_samples',
  {
    id: text('id').primaryKey(),
    fieldId: text('field_id')
      .notNull()
      .references(() => fields.id, { onDelete: 'cascade' }),
    cropKey: text('crop_key').notNull(),
    date: day('date').notNull(),
    part: text('part').notNull(),
    bbch: num('bbch').notNull(),
    system: text('system'),
    nOrgans: num('n_organs'),
    washed: text('washed', { enum: ['no', 'distilled', 'tap'] }).notNull(),
    sprayElements: jsonb('spray_elements').$type<string[]>().notNull(),
    daysSinceSpray: num('days_since_spray'),
    role: text('role', { enum: ['survey', 'affected', 'unaffected'] }).notNull(),
    hour: num('hour'),
    place: text('place'),
    takenBy: text('taken_by'),
    biomassTHa: num('biomass_t_ha'),
    tenPlantsG: num('ten_plants_g'),
    laboratoryNumber: text('laboratory_number'),
    sentOn: day('sent_on'),
    ...history(),
  },
  (t) => [index('tissue_samples_field').on(t.fieldId)],
);
export const tissueResults = pgTable(
  'tissue_results',
  {
    sampleId: text('sample_id')
      .notNull()
      .references(() => tissueSamples.id, { onDelete: 'cascade' }),
    nutrient: text('nutrient').notNull(),
    reported: text('reported').notNull(),
    unit: text('unit').notNull(),
  },
  (t) => [primaryKey({ columns: [t.sampleId, t.nutrient] })],
);

/**
 * A plan version is frozen: the document as it was on that day, and the sheet that was shown with
 * it.
 */
export const planVersions = pgTable(
  'plan_versions',
  {
    id: text('id').primaryKey(),
    seasonId: text('season_id')
      .notNull()
      .references(() => fieldSeasons.id, { onDelete: 'cascade' }),
    number: integer('number').notNull(),
    status: text('status', { enum: ['proposed', 'change_asked', 'agreed'] }).notNull(),
    seasonVersion: integer('season_version').notNull(),
    plan: jsonb('plan').$type<Plan>().notNull(),
    sheet: jsonb('sheet').$type<SheetDocument>().notNull(),
    proposedBy: text('proposed_by')
      .notNull()
      .references(() => people.id),
    proposedAt: timestamp('proposed_at', { withTimezone: true, mode: 'string' }).notNull(),
    decidedBy: text('decided_by').references(() => people.id),
    decidedAt: timestamp('decided_at', { withTimezone: true, mode: 'string' }),
    comment: text('comment'),
  },
  (t) => [uniqueIndex('plan_versions_number').on(t.seasonId, t.number)],
);

export const summaryRevision = pgSequence('summary_revision');
/**
 * What lists show of a field's newest season. `touched` counts every write to what it is reckoned
 * from (triggers of the database keep it, whichever door wrote); a summary is fresh while
 * `reckoned`
 * equals it, on the same day and by the same program.
 */
export const fieldSummaries = pgTable(
  'field_summaries',
  {
    fieldId: text('field_id')
      .primaryKey()
      .references(() => fields.id, { onDelete: 'cascade' }),
    farmId: text('farm_id')
      .notNull()
      .references(() => farms.id, { onDelete: 'cascade' }),
    touched: integer('touched').notNull().default(1),
    reckoned: integer('reckoned'),
    reckonedOn: day('reckoned_on'),
    reckonedBy: text('reckoned_by'),
    /**
     * Which of all the summaries ever written it is: sums over a farm know by it whether they are
     * of today.
     */
    revision: bigint('revision', { mode: 'number' }),
    seasonId: text('season_id'),
    document: jsonb('document').$type<FieldSummary>(),
  },
  (t) => [index('field_summaries_farm').on(t.farmId)],
);
/** Sums over the summaries of a farm, with the stamp of the summaries that they were made of. */
export const farmSums = pgTable('farm_sums', {
  farmId: text('farm_id')
    .primaryKey()
    .references(() => farms.id, { onDelete: 'cascade' }),
  stamp: text('stamp').notNull(),
  document: jsonb('document').$type<RowSums>().notNull(),
});

export const labMappings = pgTable(
  'lab_mappings',
  {
    farmId: text('farm_id')
      .notNull()
      .references(() => farms.id),
    laboratory: text('laboratory').notNull(),
    mapping: jsonb('mapping').$type<Record<string, unknown>>().notNull(),
  },
  (t) => [primaryKey({ columns: [t.farmId, t.laboratory] })],
);
/** What an import brought, and what seasons read before it: enough to take it back as a whole. */
export interface ImportDocument {
  samples: string[];
  profiles: string[];
  waiting: string[];
  /** Leaves, and the sample that waited for the values of each; not there: from before they were kept. */
  leaves?: { fieldId: string; id: string; before: LeafSampleFact | null }[];
  before: {
    seasonId: string;
    soilSampleId: string | null;
    soilBecause: ReadBecause | null;
    nitrateProfileId: string | null;
    nitrateBecause: ReadBecause | null;
  }[];
}
/** Laboratory files that were brought in, each as one. */
export const imports = pgTable(
  'imports',
  {
    id: text('id').primaryKey(),
    farmId: text('farm_id')
      .notNull()
      .references(() => farms.id, { onDelete: 'cascade' }),
    laboratory: text('laboratory').notNull(),
    fileName: text('file_name').notNull(),
    author: text('author').notNull(),
    importedOn: day('imported_on').notNull(),
    document: jsonb('document').$type<ImportDocument>().notNull(),
  },
  (t) => [index('imports_farm').on(t.farmId)],
);
/** Rows of a laboratory file that were refused: kept, to be put right and imported later. */
export const waitingRows = pgTable('waiting_rows', {
  id: text('id').primaryKey(),
  farmId: text('farm_id')
    .notNull()
    .references(() => farms.id),
  laboratory: text('laboratory').notNull(),
  fileName: text('file_name').notNull(),
  row: integer('row').notNull(),
  cells: jsonb('cells').$type<Record<string, string>>().notNull(),
  problems: jsonb('problems')
    .$type<{ column: string; value: string; reason: string }[]>()
    .notNull(),
});

export const audit = pgTable(
  'audit',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    at: timestamp('at', { withTimezone: true, mode: 'string' }).notNull().defaultNow(),
    personId: text('person_id').notNull(),
    farmId: text('farm_id').notNull(),
    action: text('action').notNull(),
    subject: text('subject').notNull(),
    detail: jsonb('detail').$type<unknown>(),
  },
  (t) => [index('audit_farm').on(t.farmId)],
);

/** What was taken away, whole, until somebody brings it back. */
export const removed = pgTable(
  'removed',
  {
    id: text('id').primaryKey(),
    farmId: text('farm_id')
      .notNull()
      .references(() => farms.id, { onDelete: 'cascade' }),
    kind: text('kind', { enum: ['field', 'store', 'machine', 'sample'] }).notNull(),
    name: text('name').notNull(),
    author: text('author').notNull(),
    removedOn: day('removed_on').notNull(),
    rows: jsonb('rows').$type<Record<string, Record<string, unknown>[]>>().notNull(),
  },
  (t) => [index('removed_farm').on(t.farmId)],
);
