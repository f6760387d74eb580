import {
  labOfVersion5,
  NEW_RECORDS,
  NEW_STAND,
  NEW_TERMS,
} from '@/core/document/versions/0004-0005';
import { objectOf, objectsOf, type Step } from '@/core/document/versions/step';

/**
 * Farm file 2 goes with plan file 5: schools of manure, dressings of part of a field, N as a
 * report names it.
 */
export const farmStep0001: Step = {
  from: 1,
  up: (file) => {
    const [farm, rows] = [objectOf(file.farm), objectOf(file.rows)];
    return {
      ...file,
      version: 2,
      farm: { ...farm, terms: farm.terms ? { ...objectOf(farm.terms), ...NEW_TERMS } : null },
      rows: {
        ...rows,
        organicApplications: objectsOf(rows.organicApplications).map((o) => ({
          ...o,
          acidified: false,
          materialPh: null,
          areaFrac: 1,
          lab: labOfVersion5(o.lab),
          records: o.records ? { ...objectOf(o.records), ...NEW_RECORDS } : null,
        })),
        stores: objectsOf(rows.stores).map((s) => ({
          ...s,
          labs: objectsOf(s.labs).map(labOfVersion5),
        })),
        seasons: objectsOf(rows.seasons).map((s) => ({
          ...s,
          stand: s.stand ? { ...objectOf(s.stand), ...NEW_STAND } : null,
        })),
      },
    };
  },
};
