import type { z } from 'zod';
import { refuse } from '../quantity/refusal';
import type {
  buildDrawdownRow,
  criticalLevelRow,
  groundParameterRow,
  microTriggerRow,
  samplingDepthRow,
  samplingSchemeRow,
  secondaryRateRow,
  variabilityRow,
} from './rows';
import { byKey, lazily, rowsOf } from './table';
import buildFile from './tables/build_drawdown.json';
import criticalFile from './tables/critical_levels.json';
import parameterFile from './tables/ground_parameters.json';
import triggerFile from './tables/micronutrient_triggers.json';
import depthFile from './tables/sampling_depths.json';
import schemeFile from './tables/sampling_schemes.json';
import variabilityFile from './tables/sampling_variability.json';
import rateFile from './tables/secondary_micro_rates.json';

export type SamplingDepth = z.infer<typeof samplingDepthRow>;
export type Variability = z.infer<typeof variabilityRow>;
export type SecondaryRate = z.infer<typeof secondaryRateRow>;

const missing = (field: string, value: string, keys: Iterable<string>): never => {
  const all = [...keys].join(', ');
  return refuse('unknown_id', field, `${field} = ${value} is not known: use one of ${all}.`, {
    value,
    allowed: all,
  });
};

const depths = lazily(() => byKey(rowsOf<SamplingDepth>(depthFile), (r) => r.purpose));
export const samplingPurposes = (): SamplingDepth[] => [...depths().values()];
export const samplingDepthOf = (purpose: string): SamplingDepth =>
  depths().get(purpose) ?? missing('purpose', purpose, depths().keys());

const schemes = lazily(() =>
  byKey(rowsOf<z.infer<typeof samplingSchemeRow>>(schemeFile), (r) => r.key),
);
export const samplingSchemeOf = (key: string) =>
  schemes().get(key) ?? missing('scheme', key, schemes().keys());

const variability = lazily(() => byKey(rowsOf<Variability>(variabilityFile), (r) => r.property));
export const variabilityOf = (property: string): Variability =>
  variability().get(property) ?? missing('property', property, variability().keys());
/** The row of a reading, where the chapter has one: iron has none. */
export const variabilityOfReading = (nutrient: string): Variability | undefined =>
  variability().get(nutrient === 's' ? 'so4_s' : nutrient === 'ph' ? 'ph_water' : nutrient);

const parameters = lazily(() =>
  byKey(rowsOf<z.infer<typeof groundParameterRow>>(parameterFile), (r) => r.name),
);
/** Default of a parameter of chapter 3, with its source. */
export function groundParameter(name: string) {
  const row = parameters().get(name) ?? missing('parameter', name, parameters().keys());
  if (row.default === null) refuse('missing', name, `${name} has no default.`);
  return { ...row, default: row.default };
}

const critical = lazily(() => rowsOf<z.infer<typeof criticalLevelRow>>(criticalFile));
/**
 * Critical level of a crop group by extractant; Mehlich-3 K reads the ammonium-acetate row and
 * Mehlich-3 by colour the Bray-1 row (chapter 3, 4.3).
 */
export function criticalLevelOf(cropGroup: string, nutrient: string, extractant: string) {
  const read =
    nutrient === 'k' && extractant === 'mehlich_3'
      ? 'ammonium_acetate'
      : nutrient === 'p' && extractant === 'mehlich_3_col'
        ? 'bray_1'
        : extractant;
  return critical().find(
    (r) => r.cropGroup === cropGroup && r.nutrient === nutrient && r.extractant === read,
  );
}

export const microTriggers = lazily(() => rowsOf<z.infer<typeof microTriggerRow>>(triggerFile));
export const secondaryRates = lazily(() => rowsOf<SecondaryRate>(rateFile));

const buildUp = lazily(() => rowsOf<z.infer<typeof buildDrawdownRow>>(buildFile));
/** P or K that lifts a test by a mg/kg, by soil group; undefined where the chapter has none. */
export const buildDrawdownOf = (nutrient: 'p' | 'k', soilGroup: string) =>
  buildUp().find((r) => r.nutrient === nutrient && r.soilGroup === soilGroup);
