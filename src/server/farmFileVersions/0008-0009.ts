import { leaf11, NEW_SEASON_11 } from '@/core/document/versions/0010-0011';
import { objectOf, objectsOf, type Step } from '@/core/document/versions/step';

/**
 * Farm file 9 holds symptoms, sap, fruit blocks and what the next season begins with; of a leaf
 * sample who took it where, its biomass and its way to the laboratory.
 */
export const farmStep0008: Step = {
  from: 8,
  up: ({ rows: inFile, ...file }) => {
    const rows = objectOf(inFile);
    return {
      ...file,
      version: 9,
      rows: {
        ...rows,
        seasons: objectsOf(rows.seasons).map((s) => ({ ...s, ...NEW_SEASON_11 })),
        tissueSamples: objectsOf(rows.tissueSamples).map(leaf11),
      },
    };
  },
};
