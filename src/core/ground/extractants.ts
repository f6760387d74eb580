import { refuse } from '../quantity/refusal';
import { RANGES, within } from '../quantity/range';
import { conversionOf } from '../reference/soilTests';
import { entered, fromTable, step, type Step } from '../why/step';

/**
 * Indicative value on another extractant's scale, with its range (chapter 3, 4.2). Never for a rate without a tick.
 *
 * @throws Refusal where no conversion exists (Morgan, modified Morgan, CAL)
 * @example convertExtractant({ key: 'bray1_to_m3icp', value: 20 }) // 27, from 24 to 34
 */
export function convertExtractant({ key, value }: { key: string; value: number }): { value: number; lo: number; hi: number; indicative: true; why: Step } {
  within('value', value, RANGES.testMgKg);
  const row = conversionOf(key);
  const { factor, factorMin, factorMax, intercept } = row;
  if (factor == null || factorMin == null || factorMax == null) refuse('inconsistent', 'key', `no conversion between these extractants: ${row.fromExtractant.replaceAll('_', ' ')} to ${row.toExtractant.replaceAll('_', ' ')}.`, { value: key });
  const to = (f: number) => f * value + (intercept ?? 0);
  return {
    value: to(factor), lo: to(factorMin), hi: to(factorMax), indicative: true,
    why: step('ground.converted', `${row.nutrient.toUpperCase()} as ${row.toExtractant.replaceAll('_', ' ')}, estimate`, to(factor), 'mg/kg', {
      formula: 'test x factor', source: row.source, confidence: row.confidence, note: `${row.note}; valid when ${row.validWhen ?? 'any'}`,
      inputs: [entered('ground.converted.test', 'Test', value, 'mg/kg'), fromTable('ground.converted.factor', `Factor (${factorMin} to ${factorMax})`, factor, '', row)],
    }),
  };
}

/**
 * Nutrient in a layer of soil from its concentration (chapter 3, section 3).
 *
 * @example ppmToKgHa({ mgKg: 20, bulkDensityGCm3: 1.3, depthCm: 20 }).value // 52 kg/ha
 */
export function ppmToKgHa(i: { mgKg: number; bulkDensityGCm3: number; depthCm: number }): { value: number } {
  within('x', i.mgKg, RANGES.testMgKg);
  within('bd', i.bulkDensityGCm3, RANGES.bulkDensityGCm3);
  within('depth', i.depthCm, RANGES.sampleDepthCm);
  return { value: i.mgKg * i.bulkDensityGCm3 * i.depthCm * 0.1 };
}
