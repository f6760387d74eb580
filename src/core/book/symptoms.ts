import type { z } from 'zod';
import { byKey, groupedBy, lazily, rowsOf } from './table';
import testFile from './tables/discriminating_tests.json';
import indicatorFile from './tables/indicator_plants.json';
import modifierFile from './tables/prior_modifiers.json';
import featureFile from './tables/symptom_features.json';
import hypothesisFile from './tables/symptom_hypotheses.json';
import symptomFile from './tables/symptoms.json';
import type {
  discriminatingTestRow,
  featureRow,
  hypothesisRow,
  indicatorRow,
  priorModifierRow,
  symptomRow,
} from './tissueRows';

// What is seen on a plant, what it may be, and which test tells it apart (chapter 5, section 12).

export type Hypothesis = z.infer<typeof hypothesisRow>;
export type Feature = z.infer<typeof featureRow>;
export type Symptom = z.infer<typeof symptomRow>;
export type PriorModifier = z.infer<typeof priorModifierRow>;
export type DiscriminatingTest = z.infer<typeof discriminatingTestRow>;
export type Indicator = z.infer<typeof indicatorRow>;

export const hypotheses = lazily(() => rowsOf<Hypothesis>(hypothesisFile));
export const features = lazily(() => byKey(rowsOf<Feature>(featureFile), (r) => r.featureId));
const symptoms = lazily(() => rowsOf<Symptom>(symptomFile));
/** How often a feature is seen under each cause: cause -> feature -> share. */
export const seenUnder = lazily(() => {
  const by = new Map<string, Map<string, number>>();
  for (const s of symptoms())
    if (s.kind === 'generic' && s.pGivenH !== null)
      by.set(
        s.hypothesisId,
        (by.get(s.hypothesisId) ?? new Map<string, number>()).set(s.featureId, s.pGivenH),
      );
  return by;
});
const signatures = lazily(() =>
  groupedBy(
    symptoms().filter((s) => s.kind === 'signature'),
    (s) => s.crop,
  ),
);
/** Pictures that are telling for a crop, by the crop of the leaf ranges. */
export const signaturesOf = (crop: string): readonly Symptom[] => signatures().get(crop) ?? [];
export const priorModifiers = lazily(() => rowsOf<PriorModifier>(modifierFile));
/** Tests that tell causes apart, each with the chance of its outcomes under each cause. */
export const discriminatingTests = lazily(() =>
  groupedBy(rowsOf<DiscriminatingTest>(testFile), (r) => r.testId),
);
export const indicatorPlants = lazily(() => rowsOf<Indicator>(indicatorFile));
