import { NEW_SEASON_9 } from '@/core/document/versions/0008-0009';
import { objectOf, objectsOf, type Step } from '@/core/document/versions/step';

/** Farm file 7 holds growth and cuts of standing crops, who does each job, and answers to cautions. */
export const farmStep0006: Step = {
  from: 6,
  up: ({ rows: inFile, ...file }) => {
    const rows = objectOf(inFile);
    return {
      ...file,
      version: 7,
      rows: {
        ...rows,
        seasons: objectsOf(rows.seasons).map((s) => ({
          ...s,
          ...NEW_SEASON_9,
          jobs: [],
          answers: [],
        })),
      },
    };
  },
};
