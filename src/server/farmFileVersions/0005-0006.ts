import { objectOf, objectsOf, type Step } from '@/core/document/versions/step';
import { NEW_TERMS_8, NEW_WATER_8, withWeighing } from '@/core/document/versions/0007-0008';

/**
 * Farm file 6 holds the price list, what is left out on purpose, what is assumed, and more of the
 * water.
 */
export const farmStep0005: Step = {
  from: 5,
  up: ({ rows: inFile, farm: farmInFile, ...file }) => {
    const rows = objectOf(inFile);
    const farm = objectOf(farmInFile);
    return {
      ...file,
      version: 6,
      farm: { ...farm, terms: farm.terms ? { ...objectOf(farm.terms), ...NEW_TERMS_8 } : null },
      rows: {
        ...rows,
        seasons: objectsOf(rows.seasons).map((s) => ({
          ...s,
          irrigation: s.irrigation ? { ...objectOf(s.irrigation), ...NEW_WATER_8 } : null,
          left: [],
          assumed: [],
        })),
        previousCrops: objectsOf(rows.previousCrops).map((p) => ({
          ...p,
          detail: withWeighing(p.detail),
        })),
      },
    };
  },
};
