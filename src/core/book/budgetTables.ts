import type { z } from 'zod';
import { refuse } from '../quantity/refusal';
import type { SoilClass } from './crops';
import type {
  creditMatrixRow,
  curveMetaRow,
  lateNRow,
  limitingYieldRow,
  omRow,
  phYieldRow,
  pkReplacementRow,
  uptakeCurveRow,
} from './rows';
import { byKey, groupedBy, lazily, rowsOf } from './table';
import matrixFile from './tables/credit_matrix.json';
import lateNFile from './tables/late_n.json';
import limitingFile from './tables/limiting_relative_yield.json';
import omFile from './tables/om_mineralisation.json';
import phYieldFile from './tables/ph_relative_yield.json';
import pkFile from './tables/pk_replacement_factors.json';
import curveFile from './tables/uptake_curves.json';
import metaFile from './tables/uptake_curve_meta.json';

export type UptakeKnot = z.infer<typeof uptakeCurveRow>;

const knots = lazily(() => groupedBy(rowsOf<UptakeKnot>(curveFile), (k) => k.curveKey));
export const uptakeKnots = (curveKey: string): readonly UptakeKnot[] =>
  knots().get(curveKey) ??
  refuse('unknown_id', 'curve_key', `Unknown uptake curve ${curveKey}.`, { value: curveKey });

const curveMeta = lazily(() =>
  byKey(rowsOf<z.infer<typeof curveMetaRow>>(metaFile), (r) => r.curveKey),
);
/** Temperature above which the warmth of an uptake curve counts, °C. */
export const curveBaseC = (curveKey: string): number => curveMeta().get(curveKey)?.baseTempC ?? 0;

const lateNIndex = lazily(() =>
  byKey(rowsOf<z.infer<typeof lateNRow>>(lateNFile), (r) => r.cropKey),
);
export const lateNOf = (crop: { bookKey: string }) => lateNIndex().get(crop.bookKey);

const matrix = lazily(() =>
  byKey(rowsOf<z.infer<typeof creditMatrixRow>>(matrixFile), (r) => r.line),
);
const creditMatrixLines = (): string[] => [...matrix().keys()];
export const creditMatrixRowOf = (line: string) =>
  matrix().get(line) ??
  refuse(
    'unknown_id',
    'line',
    `Unknown credit line ${line}: use one of ${creditMatrixLines().join(', ')}.`,
    { value: line },
  );

const pkFactors = lazily(() =>
  byKey(rowsOf<z.infer<typeof pkReplacementRow>>(pkFile), (r) => r.soilClass),
);
export const pkFactorOf = (soilClass: SoilClass) =>
  pkFactors().get(soilClass) ??
  refuse('unknown_id', 'soil_class', `Unknown soil class ${soilClass}.`, { value: soilClass });

const limiting = lazily(() => rowsOf<z.infer<typeof limitingYieldRow>>(limitingFile));
export const limitingRow = (responseGroup: string, nutrient: string) =>
  limiting().find((r) => r.nutrient === nutrient && r.responseGroup === responseGroup);

const phYields = lazily(() =>
  groupedBy(rowsOf<z.infer<typeof phYieldRow>>(phYieldFile), (r) => r.phGroup),
);
export const phYieldKnots = (phGroup: string) => phYields().get(phGroup) ?? [];

const om = lazily(() => rowsOf<z.infer<typeof omRow>>(omFile));
export const omParameter = (parameter: string, level = 'all') =>
  om().find((r) => r.parameter === parameter && r.level === level) ??
  refuse(
    'unknown_id',
    parameter,
    `${parameter} = ${level} is not in the organic-matter table: use one of ${om()
      .filter((r) => r.parameter === parameter)
      .map((r) => r.level)
      .join(', ')}.`,
    { value: level },
  );
export const moistureClasses = (): string[] =>
  om()
    .filter((r) => r.parameter === 'f_moisture')
    .map((r) => r.level);
