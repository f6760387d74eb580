import type { z } from 'zod';
import { refuse } from '../quantity/refusal';
import type { climateRow, cropParamRow, gddCurveRow, phenologyRow } from './rows';
import { byKey, groupedBy, lazily, rowsOf } from './table';
import climateFile from './tables/climate_normals.json';
import paramFile from './tables/crop_params.json';
import curveFile from './tables/n_uptake_curves_gdd.json';
import phenologyFile from './tables/phenology.json';

export type StageRow = z.infer<typeof phenologyRow>;
export type ClimateMonth = z.infer<typeof climateRow>;
/** A month of a normal year, of the book's climates or a farm's own. */
export type Normals = Pick<ClimateMonth, 'month' | 'tMeanC' | 'tRangeC' | 'rainMm'> & {
  /** Evaporation of the month where the farm knows it, mm. */
  et0Mm?: number | null;
};

const stages = lazily(() => groupedBy(rowsOf<StageRow>(phenologyFile), (r) => r.cropId));
export const stagesOf = (cropId: string): readonly StageRow[] =>
  stages().get(cropId) ??
  refuse(
    'unknown_id',
    'crop_id',
    `Unknown season crop ${cropId}: use one of ${[...stages().keys()].join(', ')}.`,
    { value: cropId },
  );

const curves = lazily(() =>
  groupedBy(rowsOf<z.infer<typeof gddCurveRow>>(curveFile), (r) => r.cropId),
);
export const gddCurveOf = (cropId: string): readonly (readonly [number, number])[] =>
  (curves().get(cropId) ?? []).map((r) => [r.gddCD, r.cumNUptakeFrac] as const);

const params = lazily(() =>
  byKey(rowsOf<z.infer<typeof cropParamRow>>(paramFile), (r) => r.cropId),
);
export const cropParamIds = (): string[] => [...params().keys()];
export const cropParamsOf = (cropId: string) => params().get(cropId);

const climates = lazily(() => groupedBy(rowsOf<ClimateMonth>(climateFile), (r) => r.climateId));
export const climateIds = (): string[] => [...climates().keys()];
export const climateOf = (id: string): readonly ClimateMonth[] =>
  climates().get(id) ??
  refuse(
    'unknown_id',
    'climate_id',
    `Unknown climate ${id}: use one of ${climateIds().join(', ')}.`,
    { value: id },
  );

export interface ClimateChoice {
  climateId: string;
  name: string;
  latitudeDeg: number;
}
/** Climates of the book, the nearest to a latitude first. */
export const climatesNear = (latitudeDeg: number): ClimateChoice[] =>
  [...climates().values()]
    .map((months) => {
      const { climateId, name, latitudeDeg: at } = months[0] as ClimateMonth;
      return { climateId, name, latitudeDeg: at };
    })
    .toSorted(
      (a, b) =>
        Math.abs(a.latitudeDeg - latitudeDeg) - Math.abs(b.latitudeDeg - latitudeDeg) ||
        a.climateId.localeCompare(b.climateId),
    );
