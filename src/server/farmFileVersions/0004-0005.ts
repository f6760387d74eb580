import { objectOf, objectsOf, type Step } from '@/core/document/versions/step';
import { NEW_TERMS_7 } from '@/core/document/versions/0006-0007';

/**
 * Farm file 5 holds what was harvested, sulphate of the profiles, currency and own climate, and the
 * rows of laboratory files that wait.
 */
export const farmStep0004: Step = {
  from: 4,
  up: ({ rows: inFile, farm: farmInFile, ...file }) => {
    const rows = objectOf(inFile);
    const farm = objectOf(farmInFile);
    return {
      ...file,
      version: 5,
      farm: {
        ...farm,
        longitudeDeg: null,
        terms: farm.terms ? { ...objectOf(farm.terms), ...NEW_TERMS_7 } : null,
      },
      rows: {
        ...rows,
        soilSamples: objectsOf(rows.soilSamples).map((s) => ({
          ...s,
          ocPct: null,
          clayPct: null,
          stonesPct: null,
          at: null,
          earlier: [],
        })),
        seasons: objectsOf(rows.seasons).map((s) => ({ ...s, harvestedTHa: null })),
        nitrateProfiles: objectsOf(rows.nitrateProfiles).map((p) => ({
          ...p,
          sulphateLayers: [],
        })),
        waitingRows: [],
      },
    };
  },
};
