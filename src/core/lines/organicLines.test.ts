import { inWords } from '../why/said';
import { textureGroup } from '../book/soils';
import { cropOf } from '../book/crops';
import { PRINTED } from '../book/book';
import { describe, expect, it } from 'vitest';
import { overwinterKept, releaseFraction } from '../organics/release';
import { assess } from '../assessment/assess';
import { thermalTime, seasonCalendar } from './calendar';
import { dayOf } from './days';
import { spread } from '../../demo/build';
import { kestrelTerrace } from '../../demo/kestrelTerrace';
import { terraceShortWorked } from '../../demo/terraceShortWorked';
import type { Plan } from '../document/document';
import { lateManure, manureReleases } from './lateManure';
import { doseValue } from './organicValue';
import { rateTable } from '../views/rateTable';
import { farmFieldRow } from '../farm/wholeFarm';
import { BLANK_DAY, BLANK_RECORDS } from '../document/organicDefaults';

const of = (plan: Plan) => {
  const a = assess(PRINTED, plan);
  const own = a.organics[0];
  if (!own) throw new Error(a.problems.map((p) => p.message).join(' '));
  return own;
};
const one = (o: Parameters<typeof spread>[1], plan: Plan = terraceShortWorked()): Plan => ({
  ...plan,
  organics: [spread('d', o)],
});
const sheep = {
  date: '2027-03-05',
  materialKey: 'sheep_bedded',
  rate: 10,
  methodKey: 'solid_broadcast',
};

describe('what a dressing brings to this crop', () => {
  it('a crop that has done with N within 100 days sees organic N by thermal time only (chapter 2, 4.3)', () => {
    const celery = kestrelTerrace.fields.find((f) => f.key === 'bay-four')?.seasons[0] as Plan;
    const late = one(
      {
        ...sheep,
        date: '2027-06-20',
        materialKey: 'compost_green_waste',
        methodKey: 'compost_broadcast',
      },
      celery,
    );
    const calendar = seasonCalendar(PRINTED, late);
    if (!calendar) throw new Error('no season');
    const tt = thermalTime(calendar, dayOf(calendar, '2027-06-20'), calendar.uptakeEnd);
    expect(calendar.uptakeEnd - dayOf(calendar, '2027-06-20')).toBeLessThan(100);
    expect(of(late).pan.y1Eff).toBeCloseTo(releaseFraction({ klass: 'compost_green', tt }), 9);
    // Beet has the whole season before it: the year's share stands.
    expect(
      of(one({ ...sheep, materialKey: 'compost_green_waste', methodKey: 'compost_broadcast' })).pan
        .y1Eff,
    ).toBeGreaterThan(of(late).pan.y1Eff);
  });
  it('an inhibitor in cool soil keeps more of an autumn dressing, in warm soil it does not', () => {
    const untested: Plan = {
      ...terraceShortWorked(),
      ground: { ...terraceShortWorked().ground, nitrateLayers: [], nitrateSampleDate: null },
    };
    const autumn = (day: Plan['organics'][number]['day']) =>
      of(
        one(
          {
            date: '2026-11-05',
            materialKey: 'dairy_slurry_medium',
            rate: 30,
            rateUnit: 'm3_ha',
            methodKey: 'injection_closed',
            day,
          },
          untested,
        ),
      ).mineralKgHa;
    const plain = autumn(null);
    const kept = overwinterKept(
      textureGroup(untested.field.soilTextureId),
      untested.season.winterDrainageMm,
    )?.retainedMineralNFrac as number;
    // 15 points more of what it holds, at most 95 %.
    expect(autumn({ ...BLANK_DAY, inhibitor: true, soilTempC: 8 }) / plain).toBeCloseTo(
      Math.min(0.95, kept + 0.15) / kept,
      9,
    );
    expect(autumn({ ...BLANK_DAY, inhibitor: true, soilTempC: 12 })).toBeCloseTo(plain, 9);
    expect(autumn({ ...BLANK_DAY, soilTempC: 8 })).toBeCloseTo(plain, 9);
  });
  it('where a farm reckons by one share, the share counts and the two pools stay in the reason', () => {
    const plan = one(sheep);
    const flat = of({ ...plan, farm: { ...plan.farm, manureNSharePct: 25 } });
    expect(flat.nKgHa).toBeCloseTo(10 * flat.analysis.totalNKgT * 0.25, 9);
    expect(flat.pan.why).toMatchObject({
      school: 'one share of total N',
      note: expect.stringContaining('By two pools it would be'),
    });
  });
  it('a meal left on top for three days loses some of its N; worked in, it does not', () => {
    const meal = (coverings: Plan['organics'][number]['coverings']) =>
      of(
        one({
          date: '2027-03-05',
          materialKey: 'blood_meal',
          rate: 1,
          methodKey: 'pellet_surface',
          coverings,
        }),
      ).pan.y1Eff;
    expect(meal([]) / meal([{ kind: 'disc_or_cultivator_10_15_cm', hours: 4 }])).toBeCloseTo(
      0.85,
      9,
    );
    expect(meal([{ kind: 'disc_or_cultivator_10_15_cm', hours: 73 }])).toBeCloseTo(meal([]), 9);
  });
  it('after the harvest it belongs to the next crop', () => {
    expect(assess(PRINTED, one({ ...sheep, date: '2027-11-10' })).problems[0]).toMatchObject({
      field: 'date',
      value: '2027-11-10',
      allowed: 'up to 2027-10-20',
      message: expect.stringContaining('give it to the next crop'),
    });
  });
});

const untested = (plan: Plan = terraceShortWorked()): Plan => ({
  ...plan,
  ground: { ...plan.ground, nitrateLayers: [], nitrateSampleDate: null },
});
const on = (
  plan: Plan,
  field: Partial<Plan['field']>,
  season: Partial<Plan['season']> = {},
): Plan => ({ ...plan, field: { ...plan.field, ...field }, season: { ...plan.season, ...season } });
const terms = (plan: Plan, farm: Partial<Plan['farm']>): Plan => ({
  ...plan,
  farm: { ...plan.farm, ...farm },
});
const slurry = {
  materialKey: 'dairy_slurry_medium',
  rate: 30,
  rateUnit: 'm3_ha',
  methodKey: 'injection_closed',
} as const;
const lineOf = (plan: Plan, id = 'organic.d') => {
  const l = assess(PRINTED, plan).lines.find((x) => x.id === id);
  if (!l) throw new Error(`no line ${id}`);
  return l;
};

describe('a dressing before the nitrate test', () => {
  const november = one({ ...slurry, date: '2026-11-05' });
  it('is not credited twice: the test holds its nitrate', () => {
    const [tested, plain] = [
      lineOf(november),
      lineOf({ ...november, ...{ ground: untested(november).ground } }),
    ];
    expect(tested.n ?? 0).toBeLessThan((plain.n ?? 0) / 2);
    expect(inWords(tested.detail)).toContain('the nitrate test holds part of it');
    expect([tested.p, tested.k, tested.s]).toEqual([plain.p, plain.k, plain.s]);
  });
  it('counts whole where the test is struck out, lies above 25 cm, or came first', () => {
    const whole = lineOf(untested(november)).n;
    expect(
      lineOf({ ...november, struck: [{ line: 'soil_nitrate', reason: 'wrong field' }] }).n,
    ).toBe(whole);
    expect(
      lineOf({
        ...november,
        ground: {
          ...november.ground,
          nitrateLayers: november.ground.nitrateLayers
            .slice(0, 1)
            .map((l) => ({ ...l, bottomCm: 20 })),
        },
      }).n,
    ).toBe(whole);
    expect(
      lineOf({ ...november, ground: { ...november.ground, nitrateSampleDate: '2026-11-04' } }).n,
    ).toBe(whole);
  });
  it('a week before it most of its ammonium is not nitrate yet', () => {
    const february = (date: string) => of(one({ ...slurry, date }));
    expect(february('2027-02-05').mineralKgHa).toBeGreaterThan(
      0.8 * february('2027-02-13').mineralKgHa,
    );
    expect(february('2026-12-20').mineralKgHa).toBeLessThan(february('2027-02-05').mineralKgHa);
  });
});

describe('what a winter takes', () => {
  const autumn = (
    date: string,
    soilTextureId = 'loam',
    winterDrainageMm = 200,
    plan = untested(),
  ) =>
    of(
      one(
        { ...sheep, date, coverings: [{ kind: 'plough_inversion', hours: 4 }] },
        on(plan, { soilTextureId }, { winterDrainageMm }),
      ),
    );
  it('K of an autumn dressing on drained sand counts 0.7, S half; in spring both count whole', () => {
    const spring = autumn('2027-03-05', 'sandy_loam');
    expect(autumn('2026-10-20', 'sand', 200).kKgHa).toBeCloseTo(
      0.7 * autumn('2027-03-05', 'sand', 200).kKgHa,
      9,
    );
    expect(autumn('2026-10-20', 'sand', 150).kKgHa).toBe(autumn('2027-03-05', 'sand', 150).kKgHa);
    expect(autumn('2026-10-20', 'sand', 50).sKgHa).toBeCloseTo(spring.sKgHa / 2, 9);
    expect(autumn('2026-10-20', 'loam', 260).sKgHa).toBeCloseTo(spring.sKgHa / 2, 9);
    expect(autumn('2026-10-20', 'loam', 250).sKgHa).toBeCloseTo(spring.sKgHa, 9);
    expect(
      lineOf(
        one(
          { ...sheep, date: '2026-10-20' },
          on(untested(), { soilTextureId: 'sand' }, { winterDrainageMm: 200 }),
        ),
      ).why.k?.formula,
    ).toContain('x 0.7');
  });
  it('the warmer the days before drainage, the more of the organic N is at stake', () => {
    const y1 = (date: string) => autumn(date).pan.y1Eff;
    expect(y1('2026-08-20')).toBeLessThan(y1('2026-09-20'));
    expect(y1('2026-10-15')).toBeCloseTo(y1('2026-09-01'), 12);
    expect(y1('2026-10-16')).toBeGreaterThan(y1('2026-10-15'));
  });
  it('a cover crop keeps more of it, canola is one', () => {
    const bare = autumn('2026-09-10').mineralKgHa;
    const plan = untested();
    const covered = autumn('2026-09-10', 'loam', 200, {
      ...plan,
      season: { ...plan.season, stand: { ...plan.season.stand, winterCover: true } },
    }).mineralKgHa;
    expect(covered / bare).toBeCloseTo(0.85 / 0.6, 9);
  });
});

describe('on top or worked in', () => {
  const straw = (o: Partial<Plan['organics'][number]>) =>
    of(
      one({
        date: '2027-03-05',
        materialKey: 'straw_cereal',
        rate: 6,
        methodKey: 'solid_broadcast',
        ...o,
      }),
    );
  it('straw on top takes a tenth of the N that it takes ploughed in; rain does not work it in', () => {
    const dug = straw({ coverings: [{ kind: 'plough_inversion', hours: 24 }] });
    expect(straw({}).nKgHa / dug.nKgHa).toBeCloseTo(0.1, 9);
    expect(straw({ coverings: [{ kind: 'rain_10_mm_or_more', hours: 5 }] }).nKgHa).toBeCloseTo(
      straw({}).nKgHa,
      9,
    );
  });
  it('acidified slurry keeps more of its ammonium; so does one whose pH was measured low', () => {
    const kept = (o: Partial<Plan['organics'][number]>) =>
      of(one({ ...slurry, methodKey: 'splash_low', date: '2027-03-05', ...o })).loss.retainedFrac;
    expect(kept({ acidified: true })).toBeGreaterThan(kept({}));
    expect(kept({ materialPh: 5.2 })).toBeGreaterThan(kept({ acidified: true }));
    expect(kept({ materialPh: 8.8 })).toBeLessThan(kept({}));
  });
});

describe('a dressing of part of the field', () => {
  const part = one({ ...sheep, areaFrac: 0.5 });
  it('counts by its share on the sheet, and by the whole rate where it lies', () => {
    const [half, whole] = [lineOf(part), lineOf(one(sheep))];
    for (const x of ['n', 'p', 'k', 's'] as const)
      expect(half[x]).toBeCloseTo((whole[x] ?? 0) / 2, 9);
    expect(inWords(half.label)).toContain('on 50 % of the field');
    expect(of(part).nKgHa).toBe(of(one(sheep)).nKgHa);
    expect(half.why.n?.inputs.map((i) => i.label)).toContain('Share of the field spread');
  });
  it('asks for a rate as if it were not there: the rest of the field is fed by others', () => {
    // The sheet has its share of the field; without it the need is the same as without the whole one.
    const needOf = (plan: Plan) => {
      const a = assess(PRINTED, plan);
      const t = rateTable(PRINTED, plan, a, 'd');
      const row = t?.rows.find((r) => r.basis === 'planned');
      return of(plan).onField.nKgHa - (row?.over.n.kgHa ?? NaN);
    };
    // Beet is planned low: less manure is a little less doubt, and so a little less held back.
    expect(Math.abs(needOf(part) - needOf(one(sheep)))).toBeLessThan(1);
  });
  it('is hauled and paid for by its share', () => {
    const trip = (areaFrac: number) => {
      const plan = one({ ...sheep, areaFrac, distanceKm: 3 });
      const a = assess(PRINTED, plan);
      return doseValue(plan, a, of(plan))?.trip;
    };
    expect(trip(0.5)?.totalT).toBeCloseTo((trip(1)?.totalT ?? 0) / 2, 9);
  });
  it('earlier dressings of part of the field leave their share behind', () => {
    const earlier = (areaFrac: number) =>
      lineOf(
        {
          ...terraceShortWorked(),
          organics: [
            spread('e', { ...sheep, date: '2026-03-05', status: 'done', cropYear: 2, areaFrac }),
          ],
        },
        'manure_earlier_years',
      );
    expect(earlier(0.5).n).toBeCloseTo((earlier(1).n ?? 0) / 2, 9);
    expect(earlier(0.5).s).toBeCloseTo((earlier(1).s ?? 0) / 2, 9);
  });
  it('takes its share of the heap', () => {
    const tonnes = (plan: Plan) => farmFieldRow(PRINTED, { fieldId: 'f', plan }).manures[0]?.tonnes;
    expect(tonnes(part)).toBeCloseTo((tonnes(one(sheep)) ?? 0) / 2, 9);
  });
});

describe('schools of manure', () => {
  it('the simple table knows placement and hours, and no weather', () => {
    const loss = (
      o: Partial<Plan['organics'][number]>,
      ammoniaSchool: Plan['farm']['ammoniaSchool'] = 'simple_table',
    ) =>
      of(
        terms(one({ ...slurry, methodKey: 'splash_low', date: '2027-03-05', ...o }), {
          ammoniaSchool,
        }),
      ).loss.lossFrac;
    expect(loss({ coverings: [{ kind: 'plough_inversion', hours: 5 }] })).toBeCloseTo(0.25, 9);
    expect(loss({ coverings: [{ kind: 'plough_inversion', hours: 6 }] })).toBeCloseTo(0.4, 9);
    expect(loss({ tempC: 30, windMS: 8 })).toBe(loss({ tempC: 5, windMS: 1 }));
    expect(loss({ tempC: 30 }, 'curve')).not.toBe(loss({ tempC: 5 }, 'curve'));
    expect(loss({ coverings: [{ kind: 'rain_10_mm_or_more', hours: 1 }] })).toBeCloseTo(0.6, 9);
  });
  it('N of the dry matter is for solids; a slurry keeps its pools', () => {
    const by = (o: Parameters<typeof one>[0]) => {
      const plan = one(o);
      return [of(plan).nKgHa, of(terms(plan, { manureNSchool: 'dry_matter_n' })).nKgHa] as const;
    };
    const [pools, dry] = by(sheep);
    expect(dry).not.toBe(pools);
    const [a, b] = by({ ...slurry, date: '2027-03-05' });
    expect(b).toBe(a);
    expect(
      inWords(
        assess(
          PRINTED,
          terms(one(sheep), { manureNSchool: 'dry_matter_n', ammoniaSchool: 'simple_table' }),
        ).warnings.find((w) => w.id === 'N09')?.message ?? '',
      ),
    ).toContain('season release by the N of the dry matter; simple table, no weather');
  });
  it('all P and K in the first year, also where the soil test is low', () => {
    const low = (plan: Plan): Plan => ({
      ...plan,
      ground: {
        ...plan.ground,
        readings: plan.ground.readings.map((r) => (r.nutrient === 'p' ? { ...r, value: 3 } : r)),
      },
    });
    const plan = low(one(sheep));
    expect(of(plan).pKgHa).toBeCloseTo(0.6 * of(plan).pTotalKgHa, 9);
    expect(of(terms(plan, { manurePkSchool: 'full_credit' })).pKgHa).toBe(of(plan).pTotalKgHa);
  });
  it('cool ground gives less organic N, of this year and of earlier ones; long memory adds years 5 to 10', () => {
    const plan = {
      ...one(sheep),
      organics: [
        spread('d', sheep),
        spread('e', { ...sheep, date: '2025-03-05', status: 'done', cropYear: 2 }),
        spread('f', { ...sheep, date: '2021-03-05', status: 'done', cropYear: 6 }),
      ],
    };
    const earlier = (farm: Partial<Plan['farm']>) =>
      lineOf(terms(plan, farm), 'manure_earlier_years').n ?? 0;
    expect(earlier({ soilWarmth: 'cool' })).toBeCloseTo(0.8 * earlier({}), 9);
    expect(of(terms(plan, { soilWarmth: 'cool' })).organicKgHa).toBeCloseTo(
      0.8 * of(plan).organicKgHa,
      9,
    );
    expect(earlier({ residualTailFrac: 0.02 })).toBeGreaterThan(earlier({}));
  });
});

describe('earlier manure', () => {
  const plan: Plan = {
    ...terraceShortWorked(),
    organics: [
      spread('e', { ...sheep, rate: 30, date: '2026-03-05', status: 'done', cropYear: 2 }),
    ],
  };
  const indexed = (regularManure: boolean): Plan => ({
    ...plan,
    schools: {
      ...plan.schools,
      n: 'index_ceiling',
      previousCropGroup: 'cereal',
      soilGroup: 'medium',
      winterDrainageMmClass: 'medium',
      regularManure,
    },
  });
  it('is inside an index that was raised for regular manure, and a credit where it was not', () => {
    expect(lineOf(indexed(true), 'manure_earlier_years')).toMatchObject({
      n: 0,
      heldN: expect.any(Number),
    });
    expect(lineOf(indexed(false), 'manure_earlier_years').n).toBeGreaterThan(0);
  });
  it('goes on releasing late in the season, by its slow part', () => {
    const calendar = seasonCalendar(PRINTED, plan);
    if (!calendar) throw new Error('no season');
    const late = (p: Plan) =>
      manureReleases(PRINTED, p, calendar, calendar.days - 60, calendar.days);
    expect(late(plan)).toBeGreaterThan(0);
    // Year 2 gives 0.11 of the organic N in all, this season's dressing 0.22: late in the year
    // the old one gives less.
    expect(late(plan)).toBeLessThan(
      late({ ...plan, organics: [spread('e', { ...sheep, rate: 30, date: '2027-03-01' })] }),
    );
    expect(late({ ...plan, organics: [...plan.organics, spread('d', sheep)] })).toBeGreaterThan(
      late(plan),
    );
    // Straw gives part of what it tied up back by then: at the wrong time.
    expect(
      late({
        ...plan,
        organics: [...plan.organics, spread('d', { ...sheep, materialKey: 'straw_cereal' })],
      }),
    ).toBeGreaterThan(late(plan));
    expect(lateManure(PRINTED, plan, cropOf(PRINTED, 'sugar_beet'), calendar, null)?.limit).toBe(
      25,
    );
    expect(lateManure(PRINTED, plan, cropOf(PRINTED, 'grass_hay'), calendar, null)).toBeNull();
  });
});

describe('metals of a year', () => {
  const said = (plan: Plan) =>
    assess(PRINTED, plan)
      .warnings.filter((w) => w.id === 'S12')
      .map((w) => inWords(w.message));
  it('go by the test of the lot before the book, and add up over all dressings', () => {
    const pig = {
      date: '2027-03-05',
      materialKey: 'finishing_pig_slurry',
      rate: 40,
      rateUnit: 'm3_ha',
      methodKey: 'trailing_hose',
    } as const;
    expect(said(one(pig))).toEqual([]);
    expect(said(one({ ...pig, records: { ...BLANK_RECORDS, cuMgKgDm: 4000 } }))[0]).toMatch(
      /^Copper load/,
    );
    const many = (n: number): Plan => ({
      ...terraceShortWorked(),
      organics: Array.from({ length: n }, (_, k) =>
        spread(`d${k}`, { ...pig, records: { ...BLANK_RECORDS, cuMgKgDm: 1500 } }),
      ),
    });
    expect(said(many(1))).toEqual([]);
    expect(said(many(3))).toHaveLength(3);
  });
});
