import { describe, expect, it } from 'vitest';
import { spread } from '../../demo/build';
import { PRINTED } from '../book/book';
import { pathogenIntervals } from '../book/organicTables';
import { intervalsOf } from '../organics/intervals';
import { dateAfter } from '../quantity/calendar';
import { inWords } from '../why/said';
import { assess } from './assess';
import { plan, type Given } from './scenario.testkit';

/** A crop and a material for each row of the table of intervals. */
interface Case {
  season: Given['season'];
  materialKey: string;
  field?: Given['field'];
}
const lettuce = { cropKey: 'lettuce', yieldGoalTHa: 30, eatenRaw: true, touchesSoil: true };
const apple = {
  cropKey: 'apple',
  yieldGoalTHa: 40,
  plantingYear: 12,
  eatenRaw: true,
  touchesSoil: false,
};
const carrot = { cropKey: 'carrot', yieldGoalTHa: 50, eatenRaw: true, touchesSoil: true };
const hay = { cropKey: 'grass_hay', yieldGoalTHa: 8 };
const organic = { certification: 'organic' } as const;
const CASES: Record<string, Case> = {
  raw_soil_contact: { season: lettuce, materialKey: 'sheep_bedded', field: organic },
  raw_no_contact: { season: apple, materialKey: 'sheep_bedded', field: organic },
  raw_not_food: { season: { cropKey: 'cotton', yieldGoalTHa: 1 }, materialKey: 'sheep_bedded' },
  raw_not_organic_contact: { season: lettuce, materialKey: 'dairy_slurry_thin' },
  raw_not_organic_no_contact: { season: apple, materialKey: 'vermicompost' },
  treated_compost: { season: lettuce, materialKey: 'compost_green_waste' },
  digested_mesophilic: { season: lettuce, materialKey: 'digestate_fibre' },
  pasteurised: { season: lettuce, materialKey: 'digestate_dried_pellet' },
  biosolids_restricted: { season: lettuce, materialKey: 'biosolids_cake' },
  biosolids_restricted_below: { season: carrot, materialKey: 'biosolids_cake' },
  biosolids_restricted_below_soon: { season: carrot, materialKey: 'biosolids_cake' },
  biosolids_restricted_other: { season: apple, materialKey: 'biosolids_cake' },
  biosolids_restricted_graze: { season: hay, materialKey: 'biosolids_cake' },
  animal_byproduct_graze: { season: hay, materialKey: 'meat_and_bone_meal' },
  slurry_graze: { season: hay, materialKey: 'dairy_slurry_thin' },
};
const RULES = ['F01', 'F02', 'F04', 'O04'];
const HARVEST = '2027-08-20';
/** What the rules of food say of a dressing so many days before the harvest. */
function said(row: string, days: number) {
  const c = CASES[row] as Case;
  const date = dateAfter(HARVEST, -days);
  const known = plan({
    field: c.field,
    season: {
      startDate: '2023-09-01',
      plantingDate: row.endsWith('soon') ? dateAfter(date, 60) : '2023-10-01',
      harvestDate: HARVEST,
      ...c.season,
    },
    asOf: '2023-09-01',
    more: {
      organics: [
        spread('d', {
          date,
          materialKey: c.materialKey,
          rate: 10,
          methodKey: c.materialKey.includes('slurry') ? 'trailing_hose' : 'solid_broadcast',
          cropYear: 1,
        }),
      ],
    },
  });
  const seen = assess(PRINTED, known);
  expect(seen.problems.map((p) => p.message)).toEqual([]);
  return seen.warnings
    .filter((w) => RULES.includes(w.id) && /days/.test(inWords(w.message)))
    .map((w) => ({ id: w.id, level: w.level, message: inWords(w.message) }));
}

describe('intervals before harvest, row by row of the table', () => {
  it('has a plan for every row', () =>
    expect(Object.keys(CASES).toSorted()).toEqual(
      pathogenIntervals()
        .map((r) => r.ruleKey)
        .toSorted(),
    ));
  it.each(pathogenIntervals().filter((r) => r.intervalD > 0))(
    '$ruleKey: $intervalD days, one short is a $levelIfBroken',
    (row) => {
      expect(said(row.ruleKey, row.intervalD)).toEqual([]);
      expect(said(row.ruleKey, row.intervalD - 1)).toEqual([
        {
          id: expect.stringMatching(row.levelIfBroken === 'caution' ? /F04/ : /F01|O04/) as string,
          level: row.levelIfBroken,
          message: expect.stringContaining(`${row.intervalD} days`) as string,
        },
      ]);
    },
  );
  it.each(pathogenIntervals().filter((r) => r.intervalD === 0))(
    '$ruleKey: asks for no days',
    (row) => expect(said(row.ruleKey, 1)).toEqual([]),
  );
  it('asks nothing of food that is cooked or milled on land without a certificate, and does on certified land', () => {
    const f = {
      pathogenClass: 'raw_manure',
      food: true,
      eatenRaw: false,
      touchesSoil: false,
      harvestedBelow: false,
      grazedOrCut: false,
      certified: false,
      workedInSoon: true,
      daysToHarvest: 30,
      daysToCut: null,
      rawContactDays: 120,
      rawNoContactDays: 100,
    };
    expect(intervalsOf(f)).toEqual([]);
    expect(intervalsOf({ ...f, pathogenClass: 'digested_mesophilic', touchesSoil: true })).toEqual(
      [],
    );
    // The farm's own days take the place of the table's 90.
    expect(intervalsOf({ ...f, certified: true }).map((x) => x.needD)).toEqual([100]);
    expect(intervalsOf({ ...f, certified: true, food: false }).every((x) => x.needD === 0)).toBe(
      true,
    );
  });
});
