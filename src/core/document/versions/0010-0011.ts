import { objectOf, objectsOf, type Raw, type Step } from './step';

/**
 * Version 11 knows symptoms, sap, the fruit block, answers beside the soil, what the next season
 * begins with, and of a leaf sample who took it where, its biomass and its way to the laboratory.
 */
export const step0010: Step = {
  from: 10,
  up: (plan) => {
    const facts = objectOf(plan.facts);
    return {
      ...plan,
      version: 11,
      season: { ...objectOf(plan.season), ...NEW_SEASON_11 },
      facts: { ...facts, leaves: objectsOf(facts.leaves).map(leaf11) },
    };
  },
};
export const NEW_SEASON_11 = {
  symptoms: null,
  sap: [],
  fruitBlock: null,
  soilLeafAnswers: [],
  nextSeason: [],
};
export const leaf11 = (leaf: Raw): Raw => ({
  ...leaf,
  hour: null,
  place: null,
  takenBy: null,
  biomassTHa: null,
  tenPlantsG: null,
  laboratoryNumber: null,
  sentOn: null,
});
