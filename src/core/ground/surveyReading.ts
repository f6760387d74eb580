import { Refusal } from '../quantity/refusal';
import { variabilityOf } from '../book/sampling';
import { classify, type Classified, type KnownClass } from './classify';
import { phGate } from './ph';
import { classProbability } from './precision';
import { fieldMean, readingError, type FieldMean } from './survey';

export interface SurveyValue {
  label: string;
  areaHa: number;
  value: number;
  belowDetection: boolean;
}
export interface SurveyScale {
  nutrient: string;
  extractant: string;
  unit: string;
}
export interface SurveyContext {
  cropGroup: string | null;
  targetGroup: string | null;
  omPct: number | null;
  cecCmolKg: number | null;
  /** pH of each point, by label: some limits hold at some pH only. */
  ph: ReadonlyMap<string, number>;
  coresPerSample: number;
}
export interface PointReading extends SurveyValue {
  cls: KnownClass | null;
  /**
   * Colour step on the map, 1 to 5 from little to much; pH by its bands, so that a field that is
   * too acid everywhere still shows its pattern.
   */
  mapStep: number | null;
  refused: string | null;
  se: number | null;
  /** Chance of each class, given the error of the sample. */
  chance: Record<KnownClass, number> | null;
}
export interface SurveyReading {
  points: PointReading[];
  mean: FieldMean | null;
  meanClass: KnownClass | null;
  limits: Classified['limits'] | null;
  /** Ground in each class, ha. */
  areaByClass: Partial<Record<KnownClass, number>>;
  /** The same by step of the map. */
  areaByStep: ReadonlyMap<number, number>;
}
const CLASS_STEPS: readonly KnownClass[] = ['very_low', 'low', 'medium', 'high', 'very_high'];
/**
 * Upper ends of the first four pH steps (chapter 3, 5.1: very acid, acid, slightly acid, near
 * neutral).
 */
export const PH_STEP_ENDS = [5, 5.4, 6, 7.3] as const;
const phStep = (ph: number): number => 1 + PH_STEP_ENDS.filter((end) => ph >= end).length;

/**
 * pH in five steps around the target of the crop, so that the map has the same words for every
 * reading: lowest where the gate stops.
 */
function phClass(ph: number, targetGroup: string | null, omPct: number | null): KnownClass | null {
  if (!targetGroup) return null;
  const gate = phGate({ ph, crop: targetGroup, omPct });
  if (ph > gate.maxPreferredPh) return 'very_high';
  if (ph >= gate.targetPh) return 'high';
  if (ph >= gate.actBelowPh) return 'medium';
  return gate.level === 'stop' ? 'very_low' : 'low';
}

/**
 * Each point of a survey classed with the chance of its class, and the mean of the field (chapter
 * 3, 2.2 and 17.9): blocks, never contours.
 */
export function readSurvey(
  scale: SurveyScale,
  values: readonly SurveyValue[],
  c: SurveyContext,
): SurveyReading {
  let limits: Classified['limits'] | null = null;
  const classOf = (
    value: number,
    ph: number | null,
  ): { cls: KnownClass | null; refused: string | null } => {
    if (scale.nutrient === 'ph')
      return { cls: phClass(value, c.targetGroup, c.omPct), refused: null };
    try {
      const found = classify({
        nutrient: scale.nutrient,
        extractant: scale.extractant,
        unit: scale.unit,
        value,
        ph,
        cecCmolKg: c.cecCmolKg,
        cropGroup: c.cropGroup,
        omPct: c.omPct,
      });
      limits ??= found.limits;
      return { cls: found.cls, refused: null };
    } catch (e) {
      if (e instanceof Refusal) return { cls: null, refused: e.message };
      throw e;
    }
  };
  const veryUneven = scale.nutrient === 'p' && variabilityOf('p').fieldDefault > 60;
  const points = values.map((v): PointReading => {
    const { cls, refused } = classOf(v.value, c.ph.get(v.label) ?? null);
    const se = readingError(scale.nutrient, v.value, c.coresPerSample);
    return {
      ...v,
      cls,
      mapStep:
        scale.nutrient === 'ph' ? phStep(v.value) : cls ? CLASS_STEPS.indexOf(cls) + 1 : null,
      refused,
      se,
      chance:
        limits && se !== null && scale.nutrient !== 'ph'
          ? classProbability({ mean: v.value, se, limits, logNormal: veryUneven })
          : null,
    };
  });
  const mean = fieldMean(
    values.map((v) => ({ value: v.value, areaHa: v.areaHa, belowDetection: v.belowDetection })),
  );
  const areaByClass: SurveyReading['areaByClass'] = {};
  const areaByStep = new Map<number, number>();
  for (const p of points) {
    if (p.cls) areaByClass[p.cls] = (areaByClass[p.cls] ?? 0) + p.areaHa;
    if (p.mapStep !== null) areaByStep.set(p.mapStep, (areaByStep.get(p.mapStep) ?? 0) + p.areaHa);
  }
  return {
    points,
    mean,
    meanClass: mean
      ? classOf(
          mean.mean,
          c.ph.size > 0 ? [...c.ph.values()].reduce((a, b) => a + b, 0) / c.ph.size : null,
        ).cls
      : null,
    limits,
    areaByClass,
    areaByStep,
  };
}
