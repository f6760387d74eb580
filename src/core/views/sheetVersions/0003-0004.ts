import { objectsOf, type Step } from '../../document/versions/step';

const blank = { analysis: '', loads: null, notIf: '', who: null };
/** "22 t/ha" as it was frozen, as a figure with its unit. */
const shownOf = (text: unknown) => {
  const m = /^([\d.]+) (\S+)$/.exec(String(text));
  return m ? { value: Number(m[1]), unit: m[2] } : null;
};

/**
 * Sheet 4 has its jobs in one list by their days, and says its units. What was frozen before had
 * manure and passes apart, in metric units; manure told its N only.
 */
export const sheetStep0003: Step = {
  from: 3,
  up: ({ organics, passes, areaHa, costPerHa, ...sheet }) => ({
    ...sheet,
    version: 4,
    units: 'metric',
    area: { value: areaHa, unit: 'ha' },
    unknown: [],
    smaller: [],
    answered: [],
    cost: { fertiliser: Number(costPerHa) * Number(areaHa), lime: 0 },
    jobs: [
      ...objectsOf(organics).map((o, i) => ({
        ...blank,
        id: `organic.${i}`,
        kind: 'manure',
        date: String(o.date),
        stage: '',
        what: o.material,
        rate: shownOf(o.rate),
        total: null,
        n: o.n,
        p: null,
        k: null,
        s: null,
        how: o.detail,
        cost: null,
        status: o.status,
      })),
      ...objectsOf(passes).map((p, i) => ({
        ...blank,
        id: `pass.${i}`,
        kind: 'pass',
        date: String(p.date),
        stage: p.stage,
        what: p.product,
        rate: { value: p.rateKgHa, unit: 'kg/ha' },
        total: { value: p.totalKg, unit: 'kg' },
        n: p.n,
        p: p.p,
        k: p.k,
        s: p.s,
        how: p.placement,
        cost: p.cost,
        status: p.status,
      })),
    ].toSorted((x, y) => x.date.localeCompare(y.date)),
  }),
};
