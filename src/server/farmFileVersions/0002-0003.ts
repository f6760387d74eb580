import { objectOf, objectsOf, type Raw, type Step } from '@/core/document/versions/step';

const HISTORY = { version: 1, author: null, recordedOn: null };

/**
 * Farm file 3 goes with plan file 6: facts have a history of their own, and nitrate is one of
 * them.
 */
export const farmStep0002: Step = {
  from: 2,
  up: (file) => {
    const { nitrateLayers, ...rows } = objectOf(file.rows);
    const layers = objectsOf(nitrateLayers);
    const profiles: Raw[] = [];
    const seasons = objectsOf(rows.seasons).map(({ nitrateSampleDate, ...s }) => {
      const own = layers
        .filter((l) => l.seasonId === s.id)
        .toSorted((a, b) => Number(a.position) - Number(b.position))
        .map(({ seasonId: _, position: __, ...l }) => l);
      const known = own.length > 0 || (nitrateSampleDate ?? null) !== null;
      const id = `nitrate-${String(s.id)}`;
      if (known)
        profiles.push({
          id,
          fieldId: s.fieldId,
          date: nitrateSampleDate ?? null,
          laboratory: null,
          layers: own,
          ...HISTORY,
        });
      return {
        ...s,
        soilBecause: s.soilSampleId ? 'entered' : null,
        nitrateProfileId: known ? id : null,
        nitrateBecause: known ? 'entered' : null,
      };
    });
    return {
      ...file,
      version: 3,
      rows: {
        ...rows,
        seasons,
        nitrateProfiles: profiles,
        fields: objectsOf(rows.fields).map((f) => ({ ...f, version: 1 })),
        soilSamples: objectsOf(rows.soilSamples).map((s) => ({ ...s, ...HISTORY })),
        tissueSamples: objectsOf(rows.tissueSamples).map((s) => ({ ...s, ...HISTORY })),
      },
    };
  },
};
