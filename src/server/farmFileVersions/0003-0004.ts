import { objectOf, objectsOf, type Step } from '@/core/document/versions/step';

/** Farm file 4 keeps a dressing as the plan writes it, and says by which version of the plan. */
export const farmStep0003: Step = {
  from: 3,
  up: ({ rows: inFile, ...file }) => {
    const rows = objectOf(inFile);
    return {
      ...file,
      version: 4,
      planVersion: 6,
      rows: {
        ...rows,
        organicApplications: objectsOf(rows.organicApplications).map(
          ({ id, seasonId, position, date, materialKey, status, storeId, use, ...document }) => ({
            id,
            seasonId,
            position,
            date,
            materialKey,
            status,
            storeId,
            document: { ...document, use: use ?? { kind: 'field' } },
          }),
        ),
      },
    };
  },
};
