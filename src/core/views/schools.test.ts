import { PRINTED } from '../book/book';
import { describe, expect, it } from 'vitest';
import { assess } from '../assessment/assess';
import { terraceShortWorked } from '../../demo/terraceShortWorked';
import { DEMO_FARMS } from '../../demo/scenario';
import type { Plan } from '../document/document';
import type { Schools } from '../document/schoolsDocument';
import { figuresOf } from './figures';
import { compared, variantsOf } from './schools';

const worked = terraceShortWorked();
const by = (part: Partial<Schools>, plan: Plan = worked): Plan => ({
  ...plan,
  schools: { ...plan.schools, ...part },
});
const line = (plan: Plan, id: string) => assess(PRINTED, plan).lines.find((l) => l.id === id);
const TRIALS = [
  [0, 40],
  [60, 55],
  [120, 63],
  [180, 66],
  [240, 66],
].map(([nKgHa, yieldTHa]) => ({ nKgHa: nKgHa as number, yieldTHa: yieldTHa as number }));
const trials = by(
  { n: 'economic_optimum', trials: TRIALS },
  { ...worked, season: { ...worked.season, cropPricePerT: 38 } },
);
const index = by({
  n: 'index_ceiling',
  previousCropGroup: 'ley_clover_rich_or_grazed',
  soilGroup: 'medium',
  winterDrainageMmClass: 'under_150',
});

describe('N by another school', () => {
  it('a dose by index holds what the soil gives: those lines stay, and count nothing', () => {
    const a = assess(PRINTED, index);
    expect(a.problems).toEqual([]);
    for (const id of ['soil_nitrate', 'om_mineralisation', 'legume_table_year1'])
      expect(a.lines.find((l) => l.id === id)?.n, id).toBe(0);
    expect(line(index, 'legume_table_year1')?.detail).toBe('inside the index and ceiling figure');
    expect(line(index, 'soil_nitrate')?.detail).toMatch(/^sets the index/);
    expect(line(index, 'requirement')?.why.n?.note, 'nitrate stands in for mineral N').toMatch(
      /^The nitrate of the sampled layers stands in/,
    );
    expect(line(by({ smnKgHa: 70 }, index), 'requirement')?.why.n?.note).not.toMatch(/stands in/);
    expect(
      line(index, 'om_mineralisation')?.s,
      'its sulphur is credited in every school',
    ).toBeGreaterThan(0);
    expect(
      a.lines.find((l) => l.kind === 'planned')?.n,
      'this season’s manure counts',
    ).toBeGreaterThan(0);
  });
  it('the optimum of own trials credits only the nitrate beyond what the trials held', () => {
    const nitrate = line(worked, 'soil_nitrate')?.n ?? 0;
    expect(line(trials, 'soil_nitrate')?.n).toBeCloseTo(Math.max(0, nitrate - 40), 6);
    expect(line(trials, 'om_mineralisation')?.n).toBe(0);
    expect(
      line(trials, 'legume_table_year1')?.n,
      'unknown whether the trials stood after legumes: the cautious reading',
    ).toBe(0);
    expect(line(by({ trialsAfterLegume: false }, trials), 'legume_table_year1')?.n).toBeGreaterThan(
      0,
    );
  });
  it('of N in the crop, trials held 20 kg in cereals and 50 in canola', () => {
    const inCrop = (cropKey: string) =>
      line(
        {
          ...trials,
          season: {
            ...trials.season,
            cropKey,
            yieldGoalTHa: 4,
            plantingDate: '2026-09-01',
            harvestDate: '2027-08-01',
          },
          previous: null,
          organics: [],
          passes: [],
          cropN: { cropNKgHa: 70, shootsM2: null, gai: null },
          schools: {
            ...trials.schools,
            trials: TRIALS.map((t) => ({ ...t, yieldTHa: t.yieldTHa / 20 })),
          },
        },
        'crop_n_in_spring',
      );
    expect(inCrop('rye')).toMatchObject({ n: 50, heldN: 70 });
    expect(inCrop('winter_canola')).toMatchObject({ n: 20, heldN: 70 });
  });
  it('what a dose holds is drawn above and below the line: the end is the sheet’s all the same', () => {
    const section = figuresOf(PRINTED, index).section;
    const inside = section?.strata.find((x) => x.id === 'inside_dose');
    const need = line(worked, 'requirement')?.n ?? 0;
    const dose = line(index, 'requirement')?.n ?? 0;
    expect(inside?.total).toBeCloseTo(need - dose, 6);
    expect(section?.demandTotal).toBeCloseTo(need, 6);
    expect(section?.strata.map((x) => x.id)).not.toContain('soil_nitrate');
  });
  it('says what it lacks, and gives no figure', () => {
    expect(
      assess(
        PRINTED,
        by(
          { n: 'economic_optimum' },
          { ...worked, season: { ...worked.season, cropPricePerT: 38 } },
        ),
      ).problems[0]?.message,
    ).toMatch(/needs 5 points/);
    expect(
      assess(PRINTED, { ...trials, season: { ...trials.season, cropPricePerT: null } }).problems[0]
        ?.message,
    ).toMatch(/price of the crop/);
    expect(
      assess(
        PRINTED,
        by({ n: 'index_ceiling' }, { ...worked, ground: { ...worked.ground, nitrateLayers: [] } }),
      ).problems[0]?.field,
    ).toBe('smn_kg_ha');
  });
  it('a nodulated legume has one school: its uptake, fed from soil and air, asks for no N', () => {
    const beans = DEMO_FARMS.flatMap((f) => f.fields).find((f) => f.key === 'rookery')
      ?.seasons[0] as Plan;
    const a = assess(PRINTED, by({ n: 'index_ceiling' }, beans));
    expect(a.lines.find((l) => l.id === 'requirement')?.detail).toMatch(/^what the crop takes up/);
    expect(a.sums.n).toMatchObject({ stillToApply: 0, over: 0 });
    expect(a.lines.find((l) => l.id === 'from_the_air')?.n).toBeGreaterThan(50);
  });
});

describe('P and K by school', () => {
  const p = (pk: Schools['pk'], test: number) =>
    line(
      by(
        { pk },
        {
          ...worked,
          ground: {
            ...worked.ground,
            readings: [
              {
                nutrient: 'p',
                extractant: 'olsen',
                value: test,
                unit: 'mg_kg',
                belowDetection: false,
              },
              ...worked.ground.readings.slice(1),
            ],
          },
        },
      ),
      'requirement',
    )?.p ?? -1;
  it('all ask for more on poor ground than on rich', () => {
    for (const pk of [
      'replacement',
      'sufficiency',
      'build_maintain',
      'replacement_index',
    ] as const) {
      expect(p(pk, 4), pk).toBeGreaterThan(p(pk, 40));
      expect(p(pk, 90), pk).toBe(0);
    }
  });
  it('building up asks for most of a poor soil at first, and less if it may take longer', () => {
    expect(p('build_maintain', 6)).toBeGreaterThan(p('replacement_index', 12));
    expect(
      line(by({ pk: 'build_maintain', buildYears: 20 }, worked), 'requirement')?.p,
    ).toBeLessThanOrEqual(
      line(by({ pk: 'build_maintain', buildYears: 2 }, worked), 'requirement')?.p ?? 0,
    );
  });
  it('without a readable test the off-take is replaced, and says why', () => {
    const why = line(
      by({ pk: 'sufficiency' }, { ...worked, ground: { ...worked.ground, readings: [] } }),
      'requirement',
    )?.why.p;
    expect(why?.note).toMatch(/needs a test it can read: no test/);
  });
});

describe('green manures and residues on the sheet', () => {
  const gm = (stage: 'early_flower' | 'seed_fill', removedFracTops = 0): Plan => ({
    ...worked,
    previous: {
      kind: 'green_manure',
      weighed: null,
      dmTHa: 5,
      species: [
        { speciesKey: 'cereal_rye', share: 0.6, stage, nPct: null },
        { speciesKey: 'hairy_vetch', share: 0.4, stage, nPct: null },
      ],
      removedFracTops,
      placement: 'ploughed_in',
      killDate: '2027-03-01',
      killTiming: null,
      weeksTo80pctUptake: 10,
    },
  });
  it('a young mixture is a credit, a ripe one may be a debit; never both', () => {
    for (const stage of ['early_flower', 'seed_fill'] as const) {
      const found = assess(PRINTED, gm(stage)).lines.filter((l) => l.id.startsWith('green_manure'));
      expect(found).toHaveLength(1);
      expect(found[0]?.n).toBeGreaterThan(0);
    }
    expect(line(gm('early_flower'), 'green_manure_measured')?.kind).toBe('credit');
    expect(
      figuresOf(PRINTED, gm('early_flower')).section?.strata.find(
        (x) => x.id === 'green_manure_measured',
      )?.total,
    ).toBeCloseTo(line(gm('early_flower'), 'green_manure_measured')?.n ?? -1, 9);
  });
  it('what is carried off takes its N along', () =>
    expect(line(gm('early_flower', 0.85), 'green_manure_measured')?.n ?? 0).toBeLessThan(
      line(gm('early_flower'), 'green_manure_measured')?.n ?? 0,
    ));
  it('straw is a debit that raises the need, and keeps the sheet exact', () => {
    const straw: Plan = {
      ...worked,
      residue: { leftTDmHa: 6, nKgTDm: 6, placement: 'ploughed_in', leadWeeks: 0 },
    };
    const [before, after] = [assess(PRINTED, worked).sums.n, assess(PRINTED, straw).sums.n];
    expect(line(straw, 'residue_tie_up')?.kind).toBe('debit');
    expect(after.net - before.net).toBeCloseTo(after.debits, 9);
  });
  it('leaves are a credit', () =>
    expect(
      line(
        {
          ...worked,
          residue: { leftTDmHa: 4, nKgTDm: 38, placement: 'ploughed_in', leadWeeks: 0 },
        },
        'vegetable_residue_release',
      )?.kind,
    ).toBe('credit'));
});

describe('side by side', () => {
  it('the first is the plan as it is; the others differ from it, or say why they cannot', () => {
    const all = variantsOf(worked).map((v) => compared(PRINTED, v));
    expect(all[0]).toMatchObject({
      key: 'plan',
      figures: { toBring: { n: assess(PRINTED, worked).sums.n.net } },
    });
    for (const c of all)
      expect(c.figures !== null || (c.refused ?? '').length > 5, c.key).toBe(true);
    expect(all.find((c) => c.key === 'legume_left')?.figures?.toBring.n).toBeLessThan(
      all[0]?.figures?.toBring.n ?? 0,
    );
    expect(all.find((c) => c.key === 'no_manure')?.figures?.toBring.n).toBeGreaterThan(
      all[0]?.figures?.toBring.n ?? 0,
    );
    expect(all.find((c) => c.key === 'n.economic_optimum')?.refused).toMatch(/price of the crop/);
    expect(new Set(all.map((c) => c.key)).size).toBe(all.length);
  });
  it('offers no manure to leave out where there is none', () =>
    expect(variantsOf({ ...worked, organics: [], previous: null }).map((v) => v.key)).not.toContain(
      'no_manure',
    ));
});
