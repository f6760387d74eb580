import { objectOf, objectsOf, type Step } from './step';

/**
 * Version 7 knows what was harvested, sulphate of the profile's layers beside its nitrate, and the
 * farm's currency and own climate.
 */
export const step0006: Step = {
  from: 6,
  up: ({ facts: inFile, ...plan }) => {
    const facts = objectOf(inFile);
    return {
      ...plan,
      version: 7,
      farm: { ...objectOf(plan.farm), ...NEW_TERMS_7 },
      season: { ...objectOf(plan.season), harvestedTHa: null },
      facts: {
        ...facts,
        nitrate: objectsOf(facts.nitrate).map((n) => ({ ...n, sulphateLayers: [] })),
      },
    };
  },
};
export const NEW_TERMS_7 = { currency: null, climate: null };
