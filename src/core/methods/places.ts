import { deepEqual } from 'fast-equals';
import { PLAIN_WATER } from '../document/defaults';
import type { Plan } from '../document/document';
import type { NitrateLayer } from '../facts/nitrateProfile';
import type { QuantityName } from './fields';

/** Figures of a calculation by their names, those that go in and those that come out. */
export type PlacedFigures = Readonly<Record<string, unknown>>;

/** A station of the field on which a place is seen. */
export type PlaceStation = 'ground' | 'crop' | 'budget' | 'supply';

/** Where figures of a calculation belong in the plan of a field. */
export interface Place {
  id: string;
  /** What the plan calls it. */
  label: string;
  station: PlaceStation;
  /** Figures that it holds: without all of them there is nothing to use. */
  holds: readonly QuantityName[];
  /** What stands there now, by the same names; null where nobody has said. */
  read: (plan: Plan) => PlacedFigures | null;
  put: (plan: Plan, figures: PlacedFigures, line: { id: string; date: string }) => Plan;
  /** A new line on a day, which has to be said. */
  dated: boolean;
  /** Depends on the crop that was reckoned with. */
  ofCrop: boolean;
}

type Season = Plan['season'];
type Field = Plan['field'];
type Numbers<T> = {
  [K in keyof T]: T[K] extends number | null ? K : never;
}[keyof T];

const told = (name: QuantityName, v: unknown): PlacedFigures | null =>
  v === null ? null : { [name]: v };
const single = (
  at: Pick<Place, 'id' | 'label' | 'station' | 'read' | 'put'>,
  name: QuantityName,
  ofCrop = false,
): Place => ({ ...at, holds: [name], dated: false, ofCrop });
const ofSeason = (
  label: string,
  station: PlaceStation,
  name: QuantityName,
  k: Numbers<Season>,
  ofCrop = false,
): Place =>
  single(
    {
      id: `season.${k}.${name}`,
      label,
      station,
      read: (p) => told(name, p.season[k]),
      put: (p, f) => ({ ...p, season: { ...p.season, [k]: f[name] as number } }),
    },
    name,
    ofCrop,
  );
const ofField = (label: string, name: QuantityName, k: Numbers<Field>): Place =>
  single(
    {
      id: `field.${k}`,
      label,
      station: 'ground',
      read: (p) => told(name, p.field[k]),
      put: (p, f) => ({ ...p, field: { ...p.field, [k]: f[name] as number } }),
    },
    name,
  );
const ofSample = (
  label: string,
  name: QuantityName,
  k: 'phWater' | 'phCacl2' | 'alCmolKg',
): Place =>
  single(
    {
      id: `ground.${k}`,
      label,
      station: 'ground',
      read: (p) => told(name, p.ground[k]),
      put: (p, f) => ({ ...p, ground: { ...p.ground, [k]: f[name] as number } }),
    },
    name,
  );

interface LayerRow {
  layer_top_cm: number;
  layer_bottom_cm: number;
  nitrate_n_mg_kg: number;
  bulk_density_g_cm3?: number | null;
  stones_volume_frac?: number | null;
}
const layerOf = (r: LayerRow): NitrateLayer => ({
  topCm: r.layer_top_cm,
  bottomCm: r.layer_bottom_cm,
  no3nMgKg: r.nitrate_n_mg_kg,
  bulkDensityGCm3: r.bulk_density_g_cm3 ?? null,
  stonesVolFrac: r.stones_volume_frac ?? null,
});
const rowOf = (l: NitrateLayer): LayerRow => ({
  layer_top_cm: l.topCm,
  layer_bottom_cm: l.bottomCm,
  nitrate_n_mg_kg: l.no3nMgKg,
  bulk_density_g_cm3: l.bulkDensityGCm3,
  stones_volume_frac: l.stonesVolFrac,
});

const GOAL = ['realistic_yield_t_ha', 'yield_goal_t_ha', 'yield_t_ha'] as const;

/** Every place of a plan that figures of a calculation can take, the better one first. */
const PLACES: readonly Place[] = [
  ...GOAL.map((name) => ofSeason('Yield goal', 'crop', name, 'yieldGoalTHa', true)),
  single(
    {
      id: 'season.yieldHistoryTHa',
      label: 'Yields of earlier years',
      station: 'crop',
      read: ({ season: { yieldHistoryTHa: years } }) =>
        years.length === 0 ? null : { yield_history_t_ha: years },
      put: (p, f) => ({
        ...p,
        season: { ...p.season, yieldHistoryTHa: f.yield_history_t_ha as number[] },
      }),
    },
    'yield_history_t_ha',
    true,
  ),
  single(
    {
      id: 'season.yieldHistoryTHa.more',
      label: 'One more year among the yields of earlier years',
      station: 'crop',
      read: () => null,
      put: (p, f) => ({
        ...p,
        season: {
          ...p.season,
          yieldHistoryTHa: [...p.season.yieldHistoryTHa, f.yield_at_market_moisture_t_ha as number],
        },
      }),
    },
    'yield_at_market_moisture_t_ha',
    true,
  ),
  ofSeason('Protein wanted', 'crop', 'protein_target_pct', 'proteinTargetPct', true),
  ofSeason('Share of legumes', 'crop', 'legume_share_frac', 'legumeShare', true),
  ofSeason('Year of the stand', 'crop', 'planting_year', 'plantingYear', true),
  ofSeason('Straw removed', 'crop', 'straw_removed_frac', 'strawRemovedFrac', true),
  ofSeason('Price of the crop', 'crop', 'crop_price_per_t', 'cropPricePerT', true),
  ofSeason('Soil temperature of the season', 'budget', 'soil_temp_season_c', 'soilTempSeasonC'),
  ofSeason('Days of release', 'budget', 'release_days', 'releaseDays'),
  ofSeason('Winter drainage', 'budget', 'winter_drainage_mm', 'winterDrainageMm'),
  ofSeason('S from the air', 'budget', 'deposition_s_kg_ha', 'depositionSKgHa'),
  ofField('Organic matter', 'om_pct', 'omPct'),
  ofField('CEC', 'cec_cmol_kg', 'cecCmolKg'),
  ofField('Clay', 'clay_pct', 'clayPct'),
  ofField('Slope', 'slope_pct', 'slopePct'),
  ofSample('pH in water of the soil sample', 'ph_water', 'phWater'),
  ofSample('pH in calcium chloride of the soil sample', 'ph_cacl2', 'phCacl2'),
  ofSample('Aluminium of the soil sample', 'al_cmol_kg', 'alCmolKg'),
  {
    id: 'ground.nitrateLayers',
    label: 'Nitrate by layers',
    station: 'ground',
    holds: ['nitrate_layers'],
    read: ({ ground: { nitrateLayers: layers } }) =>
      layers.length === 0 ? null : { nitrate_layers: layers.map(rowOf) },
    put: (p, f, { date }) => ({
      ...p,
      ground: {
        ...p.ground,
        nitrateSampleDate: date,
        nitrateLayers: (f.nitrate_layers as LayerRow[]).map(layerOf),
      },
    }),
    dated: true,
    ofCrop: false,
  },
  {
    id: 'irrigation',
    label: 'Irrigation water',
    station: 'budget',
    holds: ['nitrate_n_mg_l', 'irrigation_mm', 'share_before_run_down_frac'],
    read: ({ irrigation: w }) =>
      w && {
        irrigation_mm: w.mm,
        ...(w.no3nMgL === null ? {} : { nitrate_n_mg_l: w.no3nMgL }),
        share_before_run_down_frac: w.shareBeforeRunDown,
      },
    put: (p, f) => ({
      ...p,
      irrigation: {
        ...PLAIN_WATER,
        ...p.irrigation,
        mm: f.irrigation_mm as number,
        no3nMgL: f.nitrate_n_mg_l as number,
        shareBeforeRunDown: f.share_before_run_down_frac as number,
      },
    }),
    dated: false,
    ofCrop: false,
  },
  {
    id: 'residue',
    label: 'Residues of the crop before',
    station: 'budget',
    holds: [
      'residue_left_t_dm_ha',
      'residue_n_kg_t_dm',
      'residue_placement',
      'incorporation_lead_weeks',
    ],
    read: ({ residue: r }) =>
      r && {
        residue_left_t_dm_ha: r.leftTDmHa,
        residue_n_kg_t_dm: r.nKgTDm,
        residue_placement: r.placement,
        incorporation_lead_weeks: r.leadWeeks,
      },
    put: (p, f) => ({
      ...p,
      residue: {
        leftTDmHa: f.residue_left_t_dm_ha as number,
        nKgTDm: f.residue_n_kg_t_dm as number,
        placement: f.residue_placement as string,
        leadWeeks: f.incorporation_lead_weeks as number,
      },
    }),
    dated: false,
    ofCrop: false,
  },
  {
    id: 'cropN',
    label: 'N in the standing crop',
    station: 'crop',
    holds: ['crop_n_kg_ha'],
    read: ({ cropN }) => told('crop_n_kg_ha', cropN?.cropNKgHa ?? null),
    put: (p, f) => ({
      ...p,
      cropN: {
        ...(p.cropN ?? { shootsM2: null, gai: null }),
        cropNKgHa: f.crop_n_kg_ha as number,
      },
    }),
    dated: false,
    ofCrop: true,
  },
  {
    id: 'passes',
    label: 'A planned pass, broadcast and worked in',
    station: 'supply',
    holds: ['product_kg_ha', 'product_id'],
    read: () => null,
    put: (p, f, { id, date }) => ({
      ...p,
      passes: [
        ...p.passes,
        {
          id,
          date,
          productId: f.product_id as string,
          productKgHa: f.product_kg_ha as number,
          placementId: 'broadcast_incorporated',
          status: 'planned',
          pricePerT: (f.product_price_per_t as number | undefined) ?? null,
        },
      ],
    }),
    dated: true,
    ofCrop: false,
  },
];

const isThere = (v: unknown): boolean => v !== null && v !== undefined;

/**
 * Places of a plan that the figures of a calculation can take. Two figures for one place: what was
 * worked out goes before what was put in.
 *
 * @param figures what went into the calculation and what came out, by name
 * @example placesFor({ om_pct: 2.4, credit_kg_ha: 40 }).map((p) => p.label) // ['Organic matter']
 */
export function placesFor(figures: PlacedFigures): Place[] {
  const there = PLACES.filter((p) => p.holds.every((name) => isThere(figures[name])));
  return there.filter((p, i) => there.findIndex((q) => q.label === p.label) === i);
}

/** One place with what stands in it now and what would. */
export interface PlaceLine {
  id: string;
  label: string;
  station: PlaceStation;
  dated: boolean;
  names: QuantityName[];
  now: PlacedFigures | null;
  then: PlacedFigures;
  /** Nothing would change. */
  same: boolean;
  /** Reckoned for another crop than the field grows. */
  otherCrop: boolean;
}

/** What one field's plan would take of a calculation. */
export interface UsesInField {
  season: string;
  version: number;
  lines: PlaceLine[];
}

/** What using the figures in a plan would change, place by place. */
export function placeLines(plan: Plan, figures: PlacedFigures): PlaceLine[] {
  const crop = figures.crop_key;
  const other = isThere(crop) && crop !== plan.season.cropKey;
  return placesFor(figures).map(({ id, label, station, dated, holds, read, ofCrop }) => {
    const then = Object.fromEntries(holds.map((name) => [name, figures[name]]));
    const now = read(plan);
    return {
      id,
      label,
      station,
      dated,
      names: [...holds],
      now,
      then,
      same: deepEqual(now, then),
      otherCrop: ofCrop && other,
    };
  });
}

/** The plan with the figures in the places that were chosen. */
export const usedIn = (
  plan: Plan,
  figures: PlacedFigures,
  places: readonly string[],
  line: { id: string; date: string },
): Plan =>
  placesFor(figures)
    .filter((p) => places.includes(p.id))
    .reduce((p, place) => place.put(p, figures, line), plan);
