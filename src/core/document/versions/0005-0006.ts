import { objectOf, type Raw, type Step } from './step';

const FINDINGS = [
  'laboratory',
  'depthCm',
  'nCores',
  'nPoints',
  'moisture',
  'phWater',
  'phCacl2',
  'bufferKind',
  'bufferPh',
  'alCmolKg',
  'readings',
];
const blank = (v: unknown): boolean =>
  v === null || v === undefined || (Array.isArray(v) && v.length === 0);

/**
 * Version 6 keeps facts apart from the plan: soil sample, nitrate profile and leaves stand beside
 * it, and it says which it reads.
 */
export const step0005: Step = {
  from: 5,
  up: ({ ground: inPlan, ...plan }) => {
    const ground = objectOf(inPlan);
    const head = { version: 1, author: null, recordedOn: null };
    const found: Raw = Object.fromEntries(FINDINGS.map((k) => [k, ground[k] ?? null]));
    const sampled = !blank(ground.sampleDate) || Object.values(found).some((v) => !blank(v));
    const layered = !blank(ground.nitrateSampleDate) || !blank(ground.nitrateLayers);
    return {
      ...plan,
      version: 6,
      season: {
        ...objectOf(plan.season),
        boronLastYearKgHa: ground.boronLastYearKgHa ?? null,
      },
      facts: {
        soil: sampled ? [{ id: 'soil-1', ...head, date: ground.sampleDate ?? null, ...found }] : [],
        nitrate: layered
          ? [
              {
                id: 'nitrate-1',
                ...head,
                date: ground.nitrateSampleDate ?? null,
                laboratory: null,
                layers: ground.nitrateLayers ?? [],
              },
            ]
          : [],
        leaves: [],
      },
      reads: {
        soil: sampled ? { id: 'soil-1', because: 'entered' } : null,
        nitrate: layered ? { id: 'nitrate-1', because: 'entered' } : null,
      },
    };
  },
};
