import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { bookOf } from '../book/book';
import { cropOf, crosswalkOf } from '../book/crops';
import type { Plan } from '../document/document';
import { NUTRIENT_KEYS, type NutrientKey } from '../lines/line';
import { figuresOf, type Figures } from '../views/figures';
import { rateTable } from '../views/rateTable';
import { buildSheet } from '../views/sheet';
import { inWords } from '../why/said';
import { PLAN } from './anyPlan.testkit';
import { assess } from './assess';
import { isOver, isPlaced } from './placed';
import { DEMO_PLANS, WILD } from './wildPlan.testkit';

// Pairs that must never stand in one plan (chapter 7, section 3), over every demo season, random
// plans of one field and plans far from both.

interface Looked extends Figures {
  plan: Plan;
  /** Every message of the plan. */
  said: string;
}
type Pair = (v: Looked) => boolean;

const SYMBOL = { n: 'N', p: 'P', k: 'K', s: 'S' } as const;
const ryOf = ({ a }: Looked, factor: string): number =>
  a.limiting?.relativeYields.find((f) => f.factor === factor)?.ry ?? 1;
const left = ({ a }: Looked, x: NutrientKey, reason: string): boolean =>
  a.sums[x].left.some((l) => l.reason === reason);
const warned = ({ a }: Looked, ...rules: string[]): boolean =>
  a.warnings.some((w) => rules.includes(`${w.module} ${w.id}`));
const some = (of: (x: NutrientKey) => boolean): boolean => NUTRIENT_KEYS.some(of);

/** Amounts: one figure for one thing. */
const ofAmounts: Record<string, Pair> = {
  '1': ({ a: { sums } }) => some((x) => sums[x].stillToApply > 0 && sums[x].over > 0),
  '2': ({ a: { stations } }) =>
    Object.values(stations).some((s) => /\bshort by\b/u.test(inWords(s.note))),
  '3': ({ section, a }) => section !== null && section.end.stillToApply !== a.sums.n.stillToApply,
  '4': ({ a: { stations, sums } }) =>
    stations.supply.state === 'done' && some((x) => !isPlaced(x, sums[x])),
  '6': ({ a: { stations, cautions } }) =>
    Object.entries(stations).some(
      ([station, s]) =>
        s.state === 'done' &&
        cautions.some((c) => c.station === station && c.level === 'stop' && c.state === 'open'),
    ),
  '18': ({ sheet }) =>
    sheet.cautions.filter((c) => /P (is )?short|P shortest/u.test(c.message)).length > 1,
  '18 (rate table)': ({ plan, a }) =>
    plan.organics.some((o) => {
      const planned = rateTable(bookOf(plan.farm.library), plan, a, o.id)?.rows[0];
      const counts = a.lines.some((l) => l.id === `organic.${o.id}` && l.struck === null);
      return (
        planned !== undefined &&
        counts &&
        planned.over.p.kgHa !== a.sums.p.over - a.sums.p.stillToApply
      );
    }),
  '20': ({ plan, a }) =>
    plan.organics.some((o) =>
      rateTable(bookOf(plan.farm.library), plan, a, o.id)?.rows.some(
        (r) =>
          r.take > r.rate + 1e-9 ||
          (o.machine !== null && r.basis !== 'planned' && r.take > o.machine.maxRate + 1e-9),
      ),
    ),
  '47': ({ a, said }) => /S over-supplied/u.test(said) && a.sums.s.planned === 0,
  '48': ({ a, ...v }) => a.sums.s.stillToApply === 0 && warned({ a, ...v }, 'budget S-01'),
  'over of what nobody planned': ({ a: { sums }, section }) =>
    some(
      (x) => isOver(x, sums[x], section ? { lateNSensitivity: 0 } : null) && sums[x].planned === 0,
    ),
  'one cause twice (W7.5)': ({ a: { cautions } }) =>
    new Set(cautions.map((c) => c.key)).size !== cautions.length,
};

/** Soil: what a reading may be used for, pH and lime before the rest. */
const ofGround: Record<string, Pair> = {
  '11': (v) => warned(v, 'ground R35') && v.a.sums.k.requirement > 0 && v.a.sums.k.stillToApply > 0,
  '12': (v) =>
    v.a.warnings.some((w) => w.module === 'ground' && w.id === 'R08') &&
    (warned(v, 'ground R16', 'ground R30', 'ground R35', 'ground R03') ||
      v.a.ground.classes.P !== undefined ||
      v.a.ground.classes.K !== undefined),
  '13': ({ a }) =>
    a.ground.readings.some((r) => r.reading.extractant === 'unknown' && r.classified !== null),
  '14': (v) => left(v, 'p', 'water_screen') && v.a.sums.p.stillToApply > 0,
  '14 (band P)': (v) =>
    warned(v, 'ground R17') && v.a.warnings.some((w) => /\b[Bb]and P\b/u.test(inWords(w.action))),
  '15': ({ said }) => /at least (0|-\d)/u.test(said),
  '16': ({ a }) =>
    a.ground.classes.P === 'very_high' &&
    a.sums.p.requirement > 0 &&
    a.warnings.some((w) => /build/iu.test(inWords(w.message)) && /\bP\b/u.test(inWords(w.message))),
  '17': (v) =>
    (['p', 'k', 's'] as const).some(
      (x) =>
        ryOf(v, SYMBOL[x]) < 0.95 &&
        ryOf(v, SYMBOL[x]) > 0 &&
        v.a.sums[x].requirement === 0 &&
        v.a.sums[x].leftOut === 0,
    ),
  '40': ({ a }) => a.soilFirst !== null && a.stations.supply.state === 'done',
  '41': ({ a, sheet }) => {
    const chosen = a.lime?.chosen ?? null;
    return chosen !== null && !sheet.jobs.some((j) => j.kind === 'lime');
  },
  '42': ({ plan, a }) => {
    const group = plan.season.cropKey
      ? crosswalkOf(bookOf(plan.farm.library), plan.season.cropKey).targetPhGroup
      : null;
    const ph = a.ground.planning?.ph;
    return (
      ph !== undefined &&
      (a.lime?.requirement.valueTHa ?? 0) > 0 &&
      (ph >= (a.lime?.target.ph ?? 14) || (group === 'blueberry_cranberry' && ph >= 4.5))
    );
  },
  '54': (v) => v.plan.schools.pk === 'sufficiency' && warned(v, 'ground R38'),
};

/** Crop, legumes, nitrate: what the ground and the air bring counts once, and as it is known. */
const ofCredits: Record<string, Pair> = {
  '25': ({ section }) =>
    section !== null &&
    section.strata.some(
      (x) =>
        x.kind === 'organic_matter' &&
        section.days.some((d, i) => d < section.calendar.planting && (x.given[i] ?? 0) > 0.5),
    ),
  '26': ({ plan, a }) =>
    a.lines.some((l) => l.id === 'from_the_air') &&
    (plan.season.legumeShare ?? 1) >= 0.4 &&
    a.sums.n.stillToApply > 0 &&
    !plan.season.stand.nodulesFailed,
  '27': ({ plan, a }) =>
    a.lines.some((l) => l.id === 'from_the_air' && l.struck === null) &&
    !plan.season.stand.nodulesFailed &&
    plan.season.cropKey !== null &&
    cropOf(bookOf(plan.farm.library), plan.season.cropKey).nFixing === 'grain_legume' &&
    a.sums.n.stillToApply > 0,
  '28': ({ plan: { previous, season }, a }) =>
    previous !== null &&
    previous.kind !== 'other' &&
    previous.killDate !== null &&
    season.plantingDate !== null &&
    previous.killDate > season.plantingDate &&
    (previous.kind === 'green_manure' || previous.yearsSinceKill < 2) &&
    a.problems.length === 0,
  '29': ({ plan, a }) => {
    const { previous, season } = plan;
    if (previous?.kind !== 'legume' || !previous.killDate || !season.plantingDate) return false;
    const autumn = ['09', '10'].includes(previous.killDate.slice(5, 7));
    if (!autumn || previous.killDate >= season.plantingDate) return false;
    const spring = assess(bookOf(plan.farm.library), {
      ...plan,
      previous: { ...previous, killDate: null, killTiming: 'spring_early' },
    });
    const credit = (of: typeof a) =>
      of.lines.find((l) => l.id === 'legume_table_year1' && l.struck === null)?.n ?? null;
    const [early, late] = [credit(a), credit(spring)];
    return early !== null && late !== null && early > late + 0.01;
  },
  '30': ({ plan, a }) => {
    const line = a.lines.find((l) => l.id === 'soil_nitrate' && l.struck === null);
    const why = line?.why.n;
    if (!plan.season.cropKey || !why || !plan.ground.nitrateSampleDate) return false;
    const said = inWords(line.detail);
    return /drain/u.test(said) ? !/\d/u.test(said) : false;
  },
  '31': (v) =>
    v.plan.previous?.kind === 'green_manure' &&
    v.plan.previous.killDate !== null &&
    v.plan.ground.nitrateSampleDate !== null &&
    v.plan.ground.nitrateSampleDate < v.plan.previous.killDate &&
    ['soil_nitrate', 'green_manure'].every((id) =>
      v.a.lines.some((l) => l.id.startsWith(id) && l.struck === null && (l.n ?? 0) > 0),
    ) &&
    !warned(v, 'budget N-12', 'budget N-10'),
  '34': ({ a }) => a.lines.some((l) => /^already in/u.test(inWords(l.detail)) && (l.n ?? 0) > 0),
  '35': ({ plan, a }) =>
    a.lines.some(
      (l) =>
        l.evidence === 'measured' &&
        ((l.id === 'soil_nitrate' && plan.ground.nitrateLayers.length === 0) ||
          (l.id.startsWith('green_manure') &&
            !(plan.previous?.kind === 'green_manure' && plan.previous.weighed))),
    ),
  '36': ({ a }) => a.lines.some((l) => l.usual && some((x) => l[x] !== null)),
  '36 (at most)': ({ a: { sums }, sheet }) =>
    some((x) => sums[x].unknown.high > 0 && sums[x].stillToApply > 0) &&
    !sheet.totals.some((t) => t.label.startsWith('Still to apply, at most')),
  '50': (v) =>
    warned(v, 'budget N-06') &&
    !v.plan.passes.some((q) => q.date <= (v.plan.ground.nitrateSampleDate ?? '')) &&
    v.a.organics.every((o) => o.tested || o.app.date > (v.plan.ground.nitrateSampleDate ?? '')),
};

/** Leaf, limiting factor and quality. */
const ofLeafAndLimits: Record<string, Pair> = {
  '7': (v) => left(v, 'n', 'leaf') && (v.a.sums.n.stillToApply > 0 || ryOf(v, 'N') < 0.95),
  '8': ({ a }) => {
    const skip = a.sums.k.left.find((l) => l.reason === 'leaf');
    return skip !== undefined && a.sums.k.requirement > 0 && skip.kgHa >= a.sums.k.requirement
      ? a.sums.k.stillToApply > 0
      : false;
  },
  '10': ({ a }) =>
    a.leaf.leaves.some((l) =>
      l.assessment.results.some((r) => r.refused !== null && r.limits !== null && r.cls !== null),
    ),
  '21': (v) => {
    const { cropKey } = v.plan.season;
    if (!cropKey || v.a.sums.n.stillToApply === 0 || v.a.uncertainty.sdNetKgHa < 1) return false;
    const crop = cropOf(bookOf(v.plan.farm.library), cropKey);
    return crop.lateNSensitivity >= 2 && v.a.leafSays === null && !left(v, 'n', 'quality');
  },
  '22': ({ plan, a, section }) =>
    a.runDownDate !== null &&
    a.runDownDate < plan.asOf &&
    !isPlaced('n', a.sums.n) &&
    section !== null,
  '37': (v) =>
    v.plan.passes.length === 0 &&
    v.a.limiting?.limiting === 'N' &&
    ryOf(v, 'N') < 0.95 &&
    !left(v, 'n', 'cap') &&
    !left(v, 'n', 'ground'),
  '39': ({ a }) =>
    a.warnings.some((w) => w.module === 'budget' && w.id === 'L-03') &&
    (a.limiting?.relativeYields[0]?.ry ?? 1) >= 0.95,
};

/** Days, stages and food. */
const ofDays: Record<string, Pair> = {
  '24': ({ a, section }) =>
    section !== null &&
    a.supply.passes.some((q) => {
      if (!q.warnings.some((w) => w.id === 'N01')) return false;
      const i = section.days.findLastIndex(
        (d) => d <= (section.marks.find((m) => m.id === `pass.${q.pass.id}`)?.day ?? -1),
      );
      // Beyond what is left to take up after the pass it is autumn N all the same.
      return (
        i >= 0 &&
        (section.demand[i] ?? 0) > 1 &&
        section.demandTotal - (section.demand[i] ?? 0) > 2 * q.delivered.n + 60
      );
    }),
  '43': (v) => {
    const lime = v.a.lime?.chosen ?? null;
    const on = v.plan.lime?.spreadDate ?? null;
    if (!lime || !on || !/burnt|hydrated/u.test(lime.material.key)) return false;
    const near = (d: string) => Math.abs(Date.parse(d) - Date.parse(on)) <= 14 * 86_400_000;
    return v.plan.organics.some((o) => near(o.date)) && !warned(v, 'ground R41');
  },
  '46': (v) =>
    v.plan.season.harvestDate === null &&
    warned(v, 'organics F01', 'organics F04', 'organics O04') &&
    v.a.warnings.some(
      (w) =>
        ['F01', 'F04', 'O04'].includes(w.id) && /passed|days to harvest/u.test(inWords(w.message)),
    ),
  '49': ({ plan, a }) =>
    plan.field.certification !== 'none' &&
    a.supply.passes.some(
      (q) => q.counts && q.pass.status === 'planned' && q.product.organicStatus === 'not_permitted',
    ),
  '51': ({ a, section }) =>
    a.supply.passes.some(
      (q) =>
        (section?.marks.find((m) => m.id === `pass.${q.pass.id}`)?.stage ?? '') !==
          (q.stageBbch ? `BBCH ${q.stageBbch}` : '') &&
        section?.marks.some((m) => m.id === `pass.${q.pass.id}`),
    ),
  '53': ({ plan, a }) =>
    /\d kg\/ha|\d t\/ha|\d m3\/ha/u.test(
      JSON.stringify(buildSheet(bookOf(plan.farm.library), plan, a, 'us')),
    ),
};

const PAIRS: [string, Pair][] = Object.entries({
  ...ofAmounts,
  ...ofGround,
  ...ofCredits,
  ...ofLeafAndLimits,
  ...ofDays,
});
/** The rows of the table that stand in a plan. */
function standing(plan: Plan): string[] {
  const figures = figuresOf(bookOf(plan.farm.library), plan);
  const said = figures.a.warnings.map((w) => inWords(w.message)).join(' | ');
  const v: Looked = { ...figures, plan, said };
  return PAIRS.filter(([, stands]) => stands(v)).map(([row]) => row);
}

describe('never together in one plan', () => {
  it.each(DEMO_PLANS)('%s', (_, plan) => expect(standing(plan)).toEqual([]));
  it('in 300 plans of a field of beet', () =>
    fc.assert(
      fc.property(PLAN, (plan) => {
        expect(standing(plan)).toEqual([]);
      }),
      { numRuns: 300 },
    ));
  it('in 500 plans far from the demo', () =>
    fc.assert(
      fc.property(WILD, (plan) => {
        expect(standing(plan)).toEqual([]);
      }),
      { numRuns: 500 },
    ));
});
