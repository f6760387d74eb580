import { NEW_SEASON_12, NEW_TERMS_12 } from '@/core/document/versions/0011-0012';
import { objectOf, objectsOf, type Step } from '@/core/document/versions/step';

/** Farm file 10 holds leaf standards and norms of the farm's own, and what is asked of fruit that drops. */
export const farmStep0009: Step = {
  from: 9,
  up: ({ rows: inFile, farm: farmInFile, ...file }) => {
    const [rows, farm] = [objectOf(inFile), objectOf(farmInFile)];
    return {
      ...file,
      version: 10,
      farm: {
        ...farm,
        terms: farm.terms === null ? null : { ...objectOf(farm.terms), ...NEW_TERMS_12 },
      },
      rows: {
        ...rows,
        seasons: objectsOf(rows.seasons).map((s) => ({ ...s, ...NEW_SEASON_12 })),
      },
    };
  },
};
