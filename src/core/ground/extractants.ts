import { refuse } from '../quantity/refusal';
import { RANGES, within } from '../quantity/range';
import { conversionOf, conversionsFrom, extractantName } from '../book/soilTests';
import { judge, type Rule, type Warning } from '../rules/rule';
import { entered, fromTable, step, type Step } from '../why/step';

/**
 * Indicative value on another extractant's scale, with its range (chapter 3, 4.2). Never for a
 * rate without a tick.
 *
 * @throws Refusal where no conversion exists (Morgan, modified Morgan, CAL)
 * @example convertExtractant({ key: 'bray1_to_m3icp', value: 20 }) // { value: 27, lo: 24, hi: 34 }
 */
export function convertExtractant({ key, value }: { key: string; value: number }): {
  value: number;
  lo: number;
  hi: number;
  indicative: true;
  why: Step;
} {
  within('value', value, RANGES.testMgKg);
  const row = conversionOf(key);
  const { factor, factorMin, factorMax, intercept } = row;
  if (factor == null || factorMin == null || factorMax == null)
    refuse(
      'inconsistent',
      'key',
      `no conversion between these extractants: ${row.fromExtractant.replaceAll('_', ' ')} to ${row.toExtractant.replaceAll('_', ' ')}.`,
      { value: key },
    );
  const to = (f: number) => f * value + (intercept ?? 0);
  return {
    value: to(factor),
    lo: to(factorMin),
    hi: to(factorMax),
    indicative: true,
    why: step(
      'ground.converted',
      `${row.nutrient.toUpperCase()} as ${row.toExtractant.replaceAll('_', ' ')}, estimate`,
      to(factor),
      'mg/kg',
      {
        formula: 'test x factor',
        source: row.source,
        confidence: row.confidence,
        note: `${row.note}; valid when ${row.validWhen ?? 'any'}`,
        inputs: [
          entered('ground.converted.test', 'Test', value, 'mg/kg'),
          fromTable(
            'ground.converted.factor',
            `Factor (${factorMin} to ${factorMax})`,
            factor,
            '',
            row,
          ),
        ],
      },
    ),
  };
}

export interface Estimate {
  to: string;
  value: number;
  lo: number;
  hi: number;
  /** R32: what the estimate is, and what to do before money is spent on it. */
  warning: Warning;
  why: Step;
}
/**
 * Whether the table's words on pH allow the conversion; where they ask for a pH and none is known
 * they do not.
 */
function holdsAt(validWhen: string | null, forbidWhen: string | null, ph: number | null): boolean {
  const window = /ph_water (\d[\d.]*)-(\d[\d.]*)/.exec(validWhen ?? '');
  const below = /ph_water < (\d[\d.]*)/.exec(validWhen ?? '');
  const forbidden = /ph_water >=? (\d[\d.]*)/.exec(forbidWhen ?? '');
  if (ph === null) return !window && !below && !forbidden;
  return (
    !(window && (ph < Number(window[1]) || ph > Number(window[2]))) &&
    !(below && ph >= Number(below[1])) &&
    !(forbidden && ph >= Number(forbidden[1]))
  );
}
export const estimateRules: readonly Rule<{
  from: string;
  value: number;
  lo: number;
  hi: number;
}>[] = [
  {
    module: 'ground',
    id: 'R32',
    level: 'caution',
    when: 'a reading is carried to another extractant',
    message: 'Converted from {from}: {value}, could be {lo}-{hi}.',
    action: 'Ask the lab for the right test before money is spent on it.',
    test: (f) => ({
      from: f.from,
      value: f.value.toFixed(0),
      lo: f.lo.toFixed(0),
      hi: f.hi.toFixed(0),
    }),
  },
];
/**
 * What a reading might be on other extractants' scales, each with its span: shown beside it, never
 * used for a class or a rate.
 */
export function estimatesOf(i: {
  nutrient: string;
  extractant: string;
  value: number;
  unit: string;
  ph: number | null;
}): Estimate[] {
  if (i.unit !== 'mg_kg') return [];
  return conversionsFrom(i.nutrient, i.extractant)
    .filter((r) => holdsAt(r.validWhen, r.forbidWhen, i.ph))
    .flatMap((r) => {
      const { value, lo, hi, why } = convertExtractant({ key: r.key, value: i.value });
      const [warning] = judge(estimateRules, {
        from: extractantName(r.fromExtractant),
        value,
        lo,
        hi,
      });
      return warning ? [{ to: r.toExtractant, value, lo, hi, why, warning }] : [];
    });
}

/**
 * Nutrient in a layer of soil from its concentration (chapter 3, section 3).
 *
 * @example ppmToKgHa({ mgKg: 20, bulkDensityGCm3: 1.3, depthCm: 20 }).value // 52 kg/ha
 */
export function ppmToKgHa(i: { mgKg: number; bulkDensityGCm3: number; depthCm: number }): {
  value: number;
} {
  within('x', i.mgKg, RANGES.testMgKg);
  within('bd', i.bulkDensityGCm3, RANGES.bulkDensityGCm3);
  within('depth', i.depthCm, RANGES.sampleDepthCm);
  return { value: i.mgKg * i.bulkDensityGCm3 * i.depthCm * 0.1 };
}
