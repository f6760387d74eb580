import { NEW_FIELD_10, NEW_SEASON_10 } from '@/core/document/versions/0009-0010';
import { objectOf, objectsOf, type Step } from '@/core/document/versions/step';

/**
 * Farm file 8 holds how a field drains, what lies on top, the stages that were seen, and the other
 * supplies that a plan is weighed against.
 */
export const farmStep0007: Step = {
  from: 7,
  up: ({ rows: inFile, ...file }) => {
    const rows = objectOf(inFile);
    return {
      ...file,
      version: 8,
      rows: {
        ...rows,
        fields: objectsOf(rows.fields).map((f) => ({ ...f, ...NEW_FIELD_10 })),
        seasons: objectsOf(rows.seasons).map((s) => ({ ...s, ...NEW_SEASON_10, others: [] })),
      },
    };
  },
};
