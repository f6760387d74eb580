import type { Book } from '../book/book';
import { cropOf, crops } from '../book/crops';
import { materials } from '../book/organicMaterials';
import type { Plan } from '../document/document';
import type { SeasonCalendar } from '../lines/calendar';
import type { Problem } from '../lines/problem';
import { looksOf } from '../lines/observed';
import { dateInWords } from '../quantity/calendar';

// Parts of a plan that cannot both be so: told once, by name, with both values; the rest goes on.

/** Dates of the season that can't stand together. */
function wrongDates({ season: { plantingDate, harvestDate, startDate } }: Plan): Problem[] {
  const harvest = (after: string, message: string): Problem => ({
    station: 'crop',
    code: 'inconsistent',
    field: 'harvest_date',
    value: harvestDate,
    allowed: `after ${after}`,
    message: `harvest_date = ${harvestDate} ${message}`,
  });
  return [
    ...(plantingDate && harvestDate && harvestDate <= plantingDate
      ? [harvest(plantingDate, `is not after planting on ${plantingDate}.`)]
      : []),
    ...(harvestDate && harvestDate <= startDate
      ? [harvest(startDate, `lies before the season, which begins on ${startDate}.`)]
      : []),
  ];
}

/** One material on one day over more than the whole field. */
function sharesAboveOne(book: Book, { organics }: Plan): Problem[] {
  const sums = new Map<string, { ids: number[]; shares: number[] }>();
  organics.forEach((o, i) => {
    const key = `${o.date} ${o.materialKey}`;
    const had = sums.get(key) ?? { ids: [], shares: [] };
    sums.set(key, { ids: [...had.ids, i], shares: [...had.shares, o.areaFrac] });
  });
  const nameOf = (key: string) => materials(book).find((m) => m.key === key)?.name ?? key;
  return [...sums.values()].flatMap(({ ids, shares }): Problem[] => {
    const sum = shares.reduce((a, b) => a + b, 0);
    const first = organics[ids[0] as number];
    if (shares.length < 2 || !first || sum <= 1 + 1e-9 || shares.every((x) => x === 1)) return [];
    return [
      {
        station: 'budget',
        code: 'inconsistent',
        field: `organics[${ids[0]}].area_frac`,
        value: sum,
        allowed: 'up to 1 together',
        message: `${nameOf(first.materialKey)} on ${dateInWords(first.date)} covers ${shares.map((x) => `${Math.round(100 * x)} %`).join(' and ')} of the field, together more than all of it.`,
      },
    ];
  });
}

/** Leaves taken within the season from another crop than the one that grows. */
function leavesOfAnother(book: Book, { leaves, season }: Plan): Problem[] {
  const { cropKey, startDate, harvestDate } = season;
  if (!cropKey || !harvestDate) return [];
  const nameOf = (key: string) => crops(book).find((c) => c.key === key)?.name ?? key;
  const grown = crops(book).some((c) => c.key === cropKey) ? cropOf(book, cropKey).name : cropKey;
  return leaves
    .filter((l) => l.cropKey !== cropKey && l.date >= startDate && l.date <= harvestDate)
    .map((l) => ({
      station: 'season' as const,
      code: 'inconsistent' as const,
      field: 'leaves.crop_key',
      value: l.cropKey,
      allowed: cropKey,
      message: `The leaf of ${dateInWords(l.date)} is of ${nameOf(l.cropKey)}, while ${grown} grows here: it is not read.`,
    }));
}

/** Stages that were seen and do not count. */
function stagesAtOdds(plan: Plan, calendar: SeasonCalendar | null): Problem[] {
  const { observedStages } = plan.season;
  if (observedStages.length === 0 || !calendar) return [];
  const { seasonCropId: cropId, crop } = calendar;
  const problem = (value: string, message: string): Problem => ({
    station: 'season',
    code: 'inconsistent',
    field: 'season.observed_stages',
    value,
    allowed: 'stages that follow each other, between sowing and harvest',
    message,
  });
  if (cropId === null)
    return [
      problem(
        observedStages.map((o) => o.stage).join(', '),
        `There is no table of stages for ${crop.name}: stages that were seen do not count.`,
      ),
    ];
  return looksOf(plan, cropId, calendar).setAside.map(({ look, message }) =>
    problem(`${look.stage} on ${look.date}`, message),
  );
}

/** All that contradicts in a plan. */
export const atOdds = (book: Book, plan: Plan, calendar: SeasonCalendar | null): Problem[] => [
  ...wrongDates(plan),
  ...sharesAboveOne(book, plan),
  ...leavesOfAnother(book, plan),
  ...stagesAtOdds(plan, calendar),
];
