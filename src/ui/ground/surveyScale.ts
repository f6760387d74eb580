'use client';

import { stratification } from '@/core/ground/secondary';
import { layerRules } from '@/core/ground/secondaryRules';
import { type SurveyScale } from '@/core/ground/surveyReading';
import { judge } from '@/core/rules/rule';
import { extractantName, nutrientSymbol } from '@/core/book/soilTests';
import { words } from '../figure/fields';

export interface SurveySample {
  sample: {
    id: string;
    date: string;
    label: string | null;
    kind: 'composite' | 'point' | 'mean';
    samplingPlanId: string | null;
    depthFromCm: number;
    depthCm: number | null;
    nCores: number | null;
    nPoints: number | null;
    moisture: string | null;
    phWater: number | null;
  };
  readings: {
    nutrient: string;
    extractant: string;
    value: number;
    unit: string;
    belowDetection: boolean;
  }[];
}

export const keyOf = (s: SurveyScale) => `${s.nutrient}|${s.extractant}|${s.unit}`;
export const nameOf = (s: SurveyScale) =>
  s.nutrient === 'ph'
    ? 'pH in water'
    : `${nutrientSymbol(s.nutrient)}, ${extractantName(s.extractant)}, ${words(s.unit).replace(' ', '/')}`;
export const PH: SurveyScale = { nutrient: 'ph', extractant: 'water', unit: '' };
export const valueIn = (
  s: SurveySample,
  scale: SurveyScale,
): { value: number; below: boolean } | null => {
  if (scale.nutrient === 'ph')
    return s.sample.phWater === null ? null : { value: s.sample.phWater, below: false };
  const r = s.readings.find((x) => keyOf(x) === keyOf(scale));
  return r ? { value: r.value, below: r.belowDetection } : null;
};
export function scalesOf(samples: readonly SurveySample[]): SurveyScale[] {
  const found = new Map<string, SurveyScale>();
  if (samples.some((s) => s.sample.phWater !== null)) found.set(keyOf(PH), PH);
  for (const s of samples)
    for (const r of s.readings)
      if (!found.has(keyOf(r)))
        found.set(keyOf(r), { nutrient: r.nutrient, extractant: r.extractant, unit: r.unit });
  return [...found.values()];
}

export const stratified = (scale: SurveyScale, top: number, below: number) => {
  const s = stratification({ top, below });
  return {
    scale,
    ...s,
    warnings: judge(layerRules, { nutrient: nutrientSymbol(scale.nutrient), ratio: s.ratio }),
  };
};
