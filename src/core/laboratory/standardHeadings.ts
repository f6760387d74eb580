import { extractantName, extractantsFor, labNutrients, nutrientSymbol } from '../book/soilTests';
import type { Choice } from './questions';

/** What a column of a soil report may be said to be: the answer is a heading that is understood. */
export const standardHeadings = (): Choice[] => [
  { answer: 'Remark', means: 'leave it out' },
  { answer: 'Field', means: 'field' },
  { answer: 'Sample', means: 'label of the sample' },
  { answer: 'Date sampled', means: 'day of sampling' },
  { answer: 'Depth', means: 'depth' },
  { answer: 'Depth from', means: 'depth, from' },
  { answer: 'Depth to', means: 'depth, to' },
  { answer: 'pH H2O', means: 'pH in water' },
  { answer: 'pH CaCl2', means: 'pH in calcium chloride' },
  ...['SMP', 'Sikora', 'Adams-Evans', 'Mehlich'].map((kind) => ({
    answer: `Buffer pH ${kind}`,
    means: `buffer pH, ${kind}`,
  })),
  { answer: 'Organic matter', means: 'organic matter' },
  { answer: 'Organic carbon', means: 'organic carbon' },
  { answer: 'CEC', means: 'CEC' },
  { answer: 'NO3-N', means: 'nitrate-N of the layer' },
  { answer: 'SO4-S', means: 'sulphate-S of the layer' },
  ...labNutrients().flatMap((nutrient) =>
    extractantsFor(nutrient).map((extractant) => ({
      answer: `${nutrientSymbol(nutrient)} ${extractant.replaceAll('_', ' ').replace(' so4', '')}`,
      means: `${nutrientSymbol(nutrient)}, ${extractantName(extractant)}`,
    })),
  ),
];
