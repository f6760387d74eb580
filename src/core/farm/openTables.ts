import type { SoilSampleFact } from '../facts/soilSample';
import type { Plan } from '../document/document';

// A farm's records as tables that other programs read: one thing a row, one figure a cell, days as
// days and nothing where nothing is known.

type ColumnType = 'string' | 'number' | 'integer' | 'date' | 'boolean';
export interface OpenColumn {
  name: string;
  type: ColumnType;
  title: string;
  unit?: string;
}
export type OpenValue = string | number | boolean | null;
export interface OpenTable {
  name: string;
  title: string;
  columns: readonly OpenColumn[];
  /** Columns that together name a row. */
  key: readonly string[];
  rows: readonly (readonly OpenValue[])[];
}
/** A season of a field with what stands in it. */
export interface FieldSeason {
  fieldId: string;
  seasonId: string;
  plan: Plan;
}
/** A stored soil sample of a field. */
export interface FieldSample {
  fieldName: string;
  id: string;
  kind: string;
  label: string | null;
  depthFromCm: number;
  at: readonly [number, number] | null;
  sample: Pick<
    SoilSampleFact,
    'date' | 'laboratory' | 'depthCm' | 'nCores' | 'phWater' | 'phCacl2' | 'readings'
  > & { omPct: number | null; cecCmolKg: number | null; clayPct: number | null };
}

const text = (name: string, title: string): OpenColumn => ({ name, type: 'string', title });
const day = (name: string, title: string): OpenColumn => ({ name, type: 'date', title });
const num = (name: string, title: string, unit?: string): OpenColumn => ({
  name,
  type: 'number',
  title,
  ...(unit === undefined ? {} : { unit }),
});
const yes = (name: string, title: string): OpenColumn => ({ name, type: 'boolean', title });
const OF_SEASON = [text('field', 'Field'), text('season', 'Season')];

const seasonsTable = (seasons: readonly FieldSeason[]): OpenTable => ({
  name: 'seasons',
  title: 'Seasons of the fields',
  key: ['field', 'season'],
  columns: [
    ...OF_SEASON,
    day('start_date', 'Begins'),
    num('area_ha', 'Area', 'ha'),
    text('crop_key', 'Crop'),
    num('yield_goal_t_ha', 'Yield goal', 't/ha'),
    num('harvested_t_ha', 'Yield harvested', 't/ha'),
    day('planting_date', 'Planting or sowing'),
    day('harvest_date', 'First harvest'),
    num('om_pct', 'Organic matter', '%'),
    text('soil_texture_id', 'Texture'),
    text('tenure', 'Tenure'),
    text('certification', 'Certification'),
  ],
  rows: seasons.map(({ plan: { field, season } }) => [
    field.name,
    season.label,
    season.startDate,
    field.areaHa,
    season.cropKey,
    season.yieldGoalTHa,
    season.harvestedTHa,
    season.plantingDate,
    season.harvestDate,
    field.omPct,
    field.soilTextureId,
    field.tenure,
    field.certification,
  ]),
});

const passesTable = (seasons: readonly FieldSeason[]): OpenTable => ({
  name: 'passes',
  title: 'Fertiliser passes',
  key: ['field', 'season', 'number'],
  columns: [
    ...OF_SEASON,
    { name: 'number', type: 'integer', title: 'Number of the pass' },
    day('date', 'On'),
    text('status', 'planned or done'),
    text('product_id', 'Product'),
    num('product_kg_ha', 'Rate of product', 'kg/ha'),
    text('placement_id', 'Placement'),
    num('price_per_t', 'Price', 'currency/t'),
  ],
  rows: seasons.flatMap(({ plan }) =>
    plan.passes.map((p, i) => [
      plan.field.name,
      plan.season.label,
      i + 1,
      p.date,
      p.status,
      p.productId,
      p.productKgHa,
      p.placementId,
      p.pricePerT,
    ]),
  ),
});

const dressingsTable = (seasons: readonly FieldSeason[]): OpenTable => ({
  name: 'dressings',
  title: 'Manure and compost',
  key: ['field', 'season', 'number'],
  columns: [
    ...OF_SEASON,
    { name: 'number', type: 'integer', title: 'Number of the dressing' },
    day('date', 'On'),
    text('status', 'planned or done'),
    { name: 'crop_year', type: 'integer', title: 'Crop that it counts for, 1 is this one' },
    text('material_key', 'Material'),
    num('rate', 'Rate'),
    text('rate_unit', 't_ha or m3_ha'),
    text('method_key', 'Technique'),
    num('area_frac', 'Share of the field'),
    num('lab_total_n_kg_t', 'Total N by analysis', 'kg/t'),
    num('lab_nh4_n_kg_t', 'Ammonium-N by analysis', 'kg/t'),
    num('lab_p_kg_t', 'P by analysis', 'kg/t'),
    num('lab_k_kg_t', 'K by analysis', 'kg/t'),
  ],
  rows: seasons.flatMap(({ plan }) =>
    plan.organics.map((o, i) => [
      plan.field.name,
      plan.season.label,
      i + 1,
      o.date,
      o.status,
      o.cropYear,
      o.materialKey,
      o.rate,
      o.rateUnit,
      o.methodKey,
      o.areaFrac,
      o.lab?.totalNKgT ?? null,
      o.lab?.nh4NKgT ?? null,
      o.lab?.pKgT ?? null,
      o.lab?.kKgT ?? null,
    ]),
  ),
});

const samplesTable = (samples: readonly FieldSample[]): OpenTable => ({
  name: 'soil_samples',
  title: 'Soil samples',
  key: ['sample'],
  columns: [
    text('sample', 'Sample, as soil_results names it'),
    text('field', 'Field'),
    text('kind', 'composite, point or mean'),
    text('label', 'Label'),
    day('date', 'Sampled on'),
    text('laboratory', 'Laboratory'),
    num('depth_top_cm', 'Depth from', 'cm'),
    num('depth_bottom_cm', 'Depth to', 'cm'),
    num('cores', 'Cores'),
    num('ph_water', 'pH in water'),
    num('ph_cacl2', 'pH in calcium chloride'),
    num('om_pct', 'Organic matter', '%'),
    num('cec_cmol_kg', 'CEC', 'cmol/kg'),
    num('clay_pct', 'Clay', '%'),
    num('longitude_deg', 'Longitude', 'degrees'),
    num('latitude_deg', 'Latitude', 'degrees'),
  ],
  rows: samples.map((s) => [
    s.id,
    s.fieldName,
    s.kind,
    s.label,
    s.sample.date,
    s.sample.laboratory,
    s.depthFromCm,
    s.sample.depthCm,
    s.sample.nCores,
    s.sample.phWater,
    s.sample.phCacl2,
    s.sample.omPct,
    s.sample.cecCmolKg,
    s.sample.clayPct,
    s.at?.[0] ?? null,
    s.at?.[1] ?? null,
  ]),
});
const resultsTable = (samples: readonly FieldSample[]): OpenTable => ({
  name: 'soil_results',
  title: 'Results of the soil samples',
  key: ['sample', 'nutrient', 'extractant'],
  columns: [
    text('sample', 'Sample, as soil_samples names it'),
    text('field', 'Field'),
    day('date', 'Sampled on'),
    text('nutrient', 'Nutrient'),
    text('extractant', 'Extractant'),
    num('value', 'Value, in the unit beside it'),
    text('unit', 'mg_kg, mg_l or lb_ac'),
    yes('below_detection', 'Below detection: half the limit stands'),
  ],
  rows: samples.flatMap((s) =>
    s.sample.readings.map((r) => [
      s.id,
      s.fieldName,
      s.sample.date,
      r.nutrient,
      r.extractant,
      r.value,
      r.unit,
      r.belowDetection,
    ]),
  ),
});
/** Leaves stand with the field: each season of it holds the same ones, so the first is read. */
const leavesTable = (seasons: readonly FieldSeason[]): OpenTable => {
  const seen = new Set<string>();
  const own = seasons.filter(({ fieldId }) => !seen.has(fieldId) && seen.add(fieldId));
  return {
    name: 'leaf_results',
    title: 'Results of the leaf samples',
    key: ['sample', 'nutrient'],
    columns: [
      text('sample', 'Sample'),
      text('field', 'Field'),
      day('date', 'Sampled on'),
      text('crop_key', 'Crop'),
      text('part', 'Part'),
      num('bbch', 'Growth stage (BBCH)'),
      text('role', 'survey, affected or unaffected'),
      text('nutrient', 'Nutrient'),
      text('reported', 'As reported'),
      text('unit', 'Unit'),
    ],
    rows: own.flatMap(({ plan }) =>
      plan.leaves.flatMap((l) =>
        l.values.map((v) => [
          l.id,
          plan.field.name,
          l.date,
          l.cropKey,
          l.part,
          l.bbch,
          l.role,
          v.nutrient,
          v.reported,
          v.unit,
        ]),
      ),
    ),
  };
};

/** All tables of a farm. */
export const openTables = (
  seasons: readonly FieldSeason[],
  samples: readonly FieldSample[],
): OpenTable[] => [
  seasonsTable(seasons),
  passesTable(seasons),
  dressingsTable(seasons),
  samplesTable(samples),
  resultsTable(samples),
  leavesTable(seasons),
];

/** A package of tables, as Frictionless Data Package 1.0 describes one. */
export interface DataPackage {
  name: string;
  title: string;
  /** Day on which it was written. */
  created: string;
  licence: { name: string; title: string } | null;
  tables: readonly OpenTable[];
}
/**
 * The description that lies beside the tables of a package: each column with its type, unit and
 * what it means, and which columns name a row.
 */
export const packageDescriptor = (p: DataPackage): unknown => ({
  profile: 'tabular-data-package',
  name: p.name,
  title: p.title,
  created: `${p.created}T00:00:00Z`,
  ...(p.licence ? { licenses: [p.licence] } : {}),
  resources: p.tables.map((t) => ({
    profile: 'tabular-data-resource',
    name: t.name,
    path: `${t.name}.csv`,
    title: t.title,
    format: 'csv',
    mediatype: 'text/csv',
    encoding: 'utf-8',
    dialect: { delimiter: ',', lineTerminator: '\n', header: true },
    schema: {
      fields: t.columns.map(({ unit, ...c }) => ({
        ...c,
        ...(unit === undefined ? {} : { unit }),
        ...(c.type === 'date' ? { format: 'default' } : {}),
      })),
      missingValues: [''],
      primaryKey: t.key,
    },
  })),
});
