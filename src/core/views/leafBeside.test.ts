import { describe, expect, it } from 'vitest';
import { DEMO_PLANS } from '../assessment/wildPlan.testkit';
import type { Plan } from '../document/document';
import type { LeafSampleFact } from '../facts/leafSample';
import { demoLeaves } from '../../demo/quernOrchard';
import { inWords } from '../why/said';
import { correctionsFor, spraysAsPasses } from './corrections';
import { fruitCalcium, sprayProgramme } from './fruitSprays';
import { beetLeaf, beetsWith, FED, lookAt, seasonOf } from './leafBeside.testkit';
import { sampleWindows } from './sampleWindow';
import { readSymptoms } from './symptoms';

const factsOf = (key: string): LeafSampleFact[] =>
  demoLeaves
    .filter((l) => l.fieldKey === key)
    .map(({ sample, cropKey }) => ({
      ...sample,
      cropKey,
      version: 1,
      author: null,
      recordedOn: null,
    }))
    .toSorted((a, b) => b.date.localeCompare(a.date));
const pears = (more: Partial<Plan> = {}): Plan => ({
  ...seasonOf('pear-wall 2026'),
  leaves: factsOf('pear-wall'),
  ...more,
});
describe('a stage that nobody knows', () => {
  it('is no late stage: nothing is sprayed, and nothing says that it is too late', () => {
    const { book, plan, a, calendar, beside } = lookAt({
      ...seasonOf('hazel-bank 2026'),
      leaves: factsOf('hazel-bank'),
    });
    const actions = correctionsFor(book, plan, a, calendar, beside);
    const sprayed = actions.filter((x) => x.found && x.found.window !== 'no_use');
    expect(sprayed.length).toBeGreaterThan(0);
    for (const x of sprayed) {
      expect(x.open).toBe(false);
      expect(x.spray).toBeNull();
      expect(x.warnings.map((w) => w.id)).not.toContain('R37');
      expect(x.gates.find((g) => g.question === 'Is its window open?')?.answer).toBe('not_known');
    }
  });
});
describe('a leaf over the years', () => {
  it('of what stands for years the last leaf counts, until it is too old', () => {
    expect(lookAt(pears()).beside.leaf?.sample.date).toBe('2026-08-07');
    expect(lookAt(pears({ asOf: '2028-02-26' })).beside.leaf).toBeNull();
  });
  it('a sample that waits for its laboratory unsettles nothing', () => {
    const waits = {
      ...(factsOf('pear-wall')[0] as LeafSampleFact),
      id: 'w',
      date: '2027-02-20',
      values: [],
    };
    const [one, other] = [
      lookAt(pears()),
      lookAt(pears({ leaves: [waits, ...factsOf('pear-wall')] })),
    ];
    expect(other.a.sums).toEqual(one.a.sums);
    expect(other.beside.leaf?.sample.id).toBe(one.beside.leaf?.sample.id);
    expect(other.beside.years).toEqual(one.beside.years);
  });
  it('potassium climbs, calcium falls, and K is left out', () => {
    const { beside } = lookAt(pears());
    const cls = (x: string) => beside.years.find((y) => y.nutrient === x)?.trend.cls;
    expect([cls('K'), cls('Ca'), cls('Mn')]).toEqual(['rising', 'falling', 'no_trend']);
    expect(beside.warnings.map((w) => w.id)).toEqual(expect.arrayContaining(['R41', 'R43']));
  });
  it('affected plants, another organ and another year’s duplicate never bend the line', () => {
    const ill = {
      ...(factsOf('pear-wall')[0] as LeafSampleFact),
      id: 'ill',
      role: 'affected' as const,
    };
    const one = lookAt(pears()).beside.years;
    const other = lookAt(pears({ leaves: [ill, ...factsOf('pear-wall')] })).beside.years;
    expect(other).toEqual(one);
  });
});

describe('affected beside unaffected plants', () => {
  const pair = (more: Partial<LeafSampleFact> = {}, values = { ...FED, Mn: 12 }) =>
    lookAt(
      beetsWith(
        beetLeaf(values, { role: 'affected', tenPlantsG: 60 }),
        beetLeaf(FED, { role: 'unaffected', tenPlantsG: 100, ...more }),
      ),
    ).beside.pair;
  it('what is short in one and not in the other is named', () => {
    const p = pair();
    expect(p?.rows[0]).toMatchObject({
      nutrient: 'Mn',
      named: true,
      reading: { strength: 'clear', vector: 'deficient_in_affected' },
    });
    expect(p?.words.map((w) => inWords(w)).join(' ')).toContain(
      'Mn is short in the affected plants',
    );
  });
  it.each<[Partial<LeafSampleFact>, RegExp]>([
    [{ date: '2027-06-25' }, /one day/u],
    [{ part: 'petiole' }, /different organs/u],
    [{ bbch: 30 }, /different stages/u],
    [{ washed: 'tap' }, /washed/u],
  ])('with %j it is no pair', (more, why) => {
    const p = pair(more);
    // A petiole outside its window is not read at all: then there is no mate.
    expect(p?.refused ?? '').toMatch(new RegExp(`${why.source}|no sample of unaffected`, 'u'));
    expect(p?.rows).toEqual([]);
  });
  it('without a mate it is asked for', () =>
    expect(lookAt(beetsWith(beetLeaf(FED, { role: 'affected' }))).beside.pair?.refused).toContain(
      'take one of the same leaf',
    ));
  it('nothing that differs: look elsewhere', () => {
    const { beside } = lookAt(
      beetsWith(beetLeaf(FED, { role: 'affected' }), beetLeaf(FED, { role: 'unaffected' })),
    );
    expect(beside.pair?.words.map((w) => inWords(w)).join(' ')).toContain('Nutrition is unlikely');
    expect(beside.warnings.map((w) => w.id)).toContain('R30');
  });
  it('nearly everything lower: roots', () => {
    const low = Object.fromEntries(Object.entries(FED).map(([x, v]) => [x, v * 0.6])) as typeof FED;
    expect(
      pair({}, low)
        ?.words.map((w) => inWords(w))
        .join(' '),
    ).toContain('roots');
  });
  it('the ill patch never speaks for the field', () => {
    const { a, beside } = lookAt(
      beetsWith(
        beetLeaf({ ...FED, Mn: 5 }, { role: 'affected' }),
        beetLeaf(FED, { role: 'unaffected' }),
      ),
    );
    expect(a.leaf.short).toEqual([]);
    expect(beside.leaf?.sample.role).toBe('unaffected');
  });
});

describe('ratios and biomass', () => {
  it('sulphur holds back nitrogen where both were measured', () => {
    const { beside } = lookAt(beetsWith(beetLeaf(FED)));
    expect(beside.ratios.every((r) => Number.isFinite(r.reading.ratio))).toBe(true);
  });
  it('a sample under the method’s limit is in no ratio and in no pair', () => {
    const leaf = beetLeaf(FED);
    const censored = {
      ...leaf,
      values: leaf.values.map((v) => (v.nutrient === 'K' ? { ...v, reported: '<0.5' } : v)),
    };
    const { beside } = lookAt(beetsWith(censored));
    expect(beside.ratios.some((r) => r.row.formula.includes('K'))).toBe(false);
  });
  it('the nutrition index needs the whole plants above ground', () => {
    const { beside } = lookAt(beetsWith(beetLeaf(FED, { biomassTHa: 4 })));
    expect(beside.nutrition).toMatch(/another part/u);
  });
});

describe('what is done about it', () => {
  const actions = (leaf: LeafSampleFact, more: Partial<Plan> = {}, tmax: number | null = null) => {
    const { book, plan, a, calendar, beside } = lookAt({ ...beetsWith(leaf), ...more });
    return correctionsFor(book, plan, a, calendar, beside, tmax);
  };
  it('a fed crop: nothing', () => expect(actions(beetLeaf(FED))).toEqual([]));
  it('boron that is surely short, within its window: sprays, with the retest', () => {
    const [b] = actions(beetLeaf({ ...FED, B: 14 }));
    expect(b?.nutrient).toBe('B');
    expect(b?.gates.map((g) => g.answer)).toEqual(
      expect.arrayContaining(['yes', 'yes', 'not_known', 'yes']),
    );
    expect(b?.open).toBe(true);
    const passes = spraysAsPasses(b?.spray as NonNullable<typeof b>['spray'] & object, () => 'x');
    expect(passes.every((p) => p.placementId === 'foliar_spray' && p.productKgHa > 0)).toBe(true);
    expect(b?.warnings.map((w) => w.id)).toContain('R46');
    expect(b?.spray?.retestOn).not.toBeNull();
  });
  it('the leaf cannot take up sulphur: the soil is named, and no spray', () => {
    const [s] = actions(beetLeaf({ ...FED, S: 0.1 }));
    expect(s?.nutrient).toBe('S');
    expect(s?.spray).toBeNull();
    expect(s?.warnings.map((w) => w.id)).toContain('R34');
  });
  it('hot days are told, a poor stand closes the gate', () => {
    expect(actions(beetLeaf({ ...FED, B: 14 }), {}, 29)[0]?.warnings.map((w) => w.id)).toContain(
      'R36',
    );
    const { season } = seasonOf('low-fleet 2026');
    const [b] = actions(beetLeaf({ ...FED, B: 14 }), {
      season: { ...season, stand: { ...season.stand, otherLimitRy: 0.5 } },
    });
    expect(b?.open).toBe(false);
    expect(inWords(b?.words ?? '')).toContain('Nothing this season');
  });
  it('no figure of any demo leaf is without a number or a reason', () => {
    for (const [, plan] of DEMO_PLANS) {
      const key = plan.field.name.toLowerCase().replaceAll(' ', '-');
      const { book, plan: known, a, calendar, beside } = lookAt({ ...plan, leaves: factsOf(key) });
      for (const x of correctionsFor(book, known, a, calendar, beside)) {
        expect(inWords(x.words)).not.toMatch(/NaN|undefined|null/u);
        for (const g of x.gates) expect(inWords(g.why)).not.toMatch(/NaN|undefined|null/u);
      }
    }
  });
});

describe('calcium on the fruit', () => {
  const block = {
    canopyHeightM: 3.2,
    canopyWidthM: 1.4,
    rowM: 3.6,
    sprayVolumeLHa: 900,
    loadRatio: null,
    shootCm: null,
    bigFruit: null,
    youngTrees: null,
    peelNCa: null,
    previousPitPct: null,
  };
  const orchard = () => {
    const plan = pears();
    return {
      ...plan,
      field: { ...plan.field, certification: 'none' as const },
      season: { ...plan.season, fruitBlock: block, harvestDate: '2027-09-10' },
    };
  };
  const calcium = (plan: Plan) => {
    const l = lookAt(plan);
    return { ...l, now: fruitCalcium(l.book, l.plan, l.a, l.beside) };
  };
  it('a crop without a target has no programme', () =>
    expect(calcium(seasonOf('low-fleet 2026')).now).toBeNull());
  it('sprays that are laid reach the target by the plan’s own figures', () => {
    const { book, plan, now } = calcium(orchard());
    expect(now?.cls).toBe('below_minimum');
    const passes = sprayProgramme(book, plan, now as NonNullable<typeof now>, {
      productId: 'calcium_chloride_77',
      strengthPct: 0.4,
      first: '2027-06-10',
      newId: (() => {
        let k = 0;
        return () => `ca-${(k += 1)}`;
      })(),
    });
    expect(typeof passes).toBe('object');
    const after = calcium({
      ...orchard(),
      passes: [...orchard().passes, ...(passes as Plan['passes'])],
    });
    expect(after.now?.cls).toBe('meets_target');
    expect(after.now?.warnings).toEqual([]);
  });
  it('certified land has no salt that its list does not allow', () => {
    const plan = orchard();
    const { book, now } = calcium({ ...plan, field: { ...plan.field, certification: 'organic' } });
    const certified = { ...plan, field: { ...plan.field, certification: 'organic' as const } };
    expect(
      sprayProgramme(book, certified, now as NonNullable<typeof now>, {
        productId: 'calcium_chloride_77',
        strengthPct: 0.4,
        first: '2027-06-10',
        newId: () => 'x',
      }),
    ).toMatch(/Choose a salt/u);
  });
  it.each<[Partial<Parameters<typeof sprayProgramme>[3]>, RegExp]>([
    [{ productId: 'urea_46' }, /Choose a salt/u],
    [{ strengthPct: 5 }, /burns/u],
    [{ strengthPct: 0.02 }, /stronger salt/u],
    [{ first: '2027-09-01' }, /do not fit/u],
  ])('%j: says why there is none', (part, why) => {
    const { book, plan, now } = calcium(orchard());
    expect(
      sprayProgramme(book, plan, now as NonNullable<typeof now>, {
        productId: 'calcium_chloride_77',
        strengthPct: 0.4,
        first: '2027-06-10',
        newId: () => 'x',
        ...part,
      }),
    ).toMatch(why);
  });
});

describe('symptoms', () => {
  const seen = (answers: Record<string, boolean>, more: Partial<Plan> = {}) => {
    const { season } = seasonOf('low-fleet 2026');
    const l = lookAt({
      ...beetsWith(),
      season: {
        ...season,
        symptoms: {
          seenOn: '2027-06-24',
          answers: Object.entries(answers).map(([id, yes]) => ({ id, yes })),
          pictures: [],
          conditions: [],
          tests: [],
        },
      },
      ...more,
    });
    return readSymptoms(l.book, l.plan, l.a, l.beside);
  };
  it('nothing is told before somebody has looked', () => {
    const l = lookAt(beetsWith());
    const read = readSymptoms(l.book, l.plan, l.a, l.beside);
    expect(read?.diagnosis).toBeNull();
    expect(read?.shown).toEqual([]);
  });
  it('three answers make an order, and the next test is named', () => {
    const read = seen({ f_young_first: true, f_brittle_thick: true, f_dead_tip: true });
    expect(read?.diagnosis?.verdict).not.toBe('not_enough_evidence');
    expect(read?.shown[0]?.hypothesis.hypothesisId).toBe('B_def');
    expect(read?.next.length).toBe(3);
  });
  it('what the plan knows is not asked: acid ground, manure, the crop', () => {
    const known = new Map(seen({})?.conditions.map((c) => [c.id, c.known]));
    expect(known.get('crop_beet_celery_sunflower')).toBe(true);
    expect(known.get('manure_or_compost_3y')).toBe(true);
    expect(known.get('cold_wet_spring')).toBeNull();
    expect([...known.keys()]).not.toContain('crop_rye');
    expect([...known.keys()].some((k) => k.startsWith('tissue_'))).toBe(false);
  });
  it('a feature that another version knew breaks nothing', () => {
    const read = seen({ f_of_the_future: true, f_young_first: true });
    expect(read?.diagnosis?.answered).toBe(1);
    expect(read?.warnings.map((w) => w.id)).toContain('R31');
  });
});

describe('when the leaf is taken', () => {
  const windows = (plan: Plan) => {
    const l = lookAt(plan);
    return sampleWindows(l.book, l.plan, l.calendar);
  };
  it('each stands in one state, and open ones first', () => {
    for (const [, plan] of DEMO_PLANS)
      for (const w of windows(plan)) {
        if (w.from !== null && w.to !== null) expect(w.from <= w.to).toBe(true);
        expect(w.calendar).not.toBe('');
      }
    expect(windows(beetsWith()).map((w) => w.state)[0]).toBe('open');
  });
  it('south of the equator the months are those of the south', () => {
    const plan = seasonOf('hazel-bank 2026');
    const north = windows(plan)[0]?.calendar;
    const south = windows({ ...plan, field: { ...plan.field, latitudeDeg: -38 } })[0]?.calendar;
    expect(south).not.toBe(north);
  });
  it('what is cut again and again has no day of the year', () =>
    expect(windows(seasonOf('sheepwalk 2026')).every((w) => w.from === null)).toBe(true));
});
