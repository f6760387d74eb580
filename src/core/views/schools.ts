import { openCautions, openStops } from '../assessment/triage';
import type { Book } from '../book/book';
import { schoolsRules } from '../budget/rules';
import type { PkSchool, PlannedNSchool } from '../budget/schools';
import { cropOf } from '../book/crops';
import { judge, type Warning } from '../rules/rule';
import { assess, type Assessment } from '../assessment/assess';
import { chosenSchools } from '../lines/chosenSchools';
import type { Plan } from '../document/document';
import { SCHOOL_NAMES } from '../lines/requirementLine';

/** One way of looking at the same field. */
export interface Variant {
  key: string;
  label: string;
  plan: Plan;
}
export interface Compared {
  key: string;
  label: string;
  /** Null where this way is not open to the field, with the reason. */
  figures: {
    requirementN: number;
    creditsN: number;
    toBring: Record<'n' | 'p' | 'k' | 's', number>;
    surplusN: number;
    sdN: number;
    cost: number | null;
    stops: number;
    cautions: number;
  } | null;
  refused: string | null;
  plan: Plan;
}
const PK_NAMES: Record<PkSchool, string> = {
  replacement: 'P, K by replacement',
  sufficiency: 'P, K by sufficiency',
  build_maintain: 'P, K built up and held',
  replacement_index: 'P, K by index',
};

/**
 * The ways that a field can be looked at: schools, and what-ifs on what it holds. The first is the
 * plan as it is.
 */
export function variantsOf(plan: Plan): Variant[] {
  const withSchools = (part: Partial<Plan['schools']>): Plan => ({
    ...plan,
    schools: { ...plan.schools, ...part },
  });
  const { previous, season } = plan;
  return [
    { key: 'plan', label: 'the plan as it is', plan },
    ...(Object.keys(SCHOOL_NAMES) as PlannedNSchool[])
      .filter((n) => n !== chosenSchools(plan).n)
      .map((n) => ({ key: `n.${n}`, label: `N by ${SCHOOL_NAMES[n]}`, plan: withSchools({ n }) })),
    ...(Object.keys(PK_NAMES) as PkSchool[])
      .filter((pk) => pk !== chosenSchools(plan).pk)
      .map((pk) => ({ key: `pk.${pk}`, label: PK_NAMES[pk], plan: withSchools({ pk }) })),
    ...(plan.organics.some((o) => o.cropYear < 2)
      ? [
          {
            key: 'no_manure',
            label: 'without this season’s manure',
            plan: { ...plan, organics: plan.organics.filter((o) => o.cropYear >= 2) },
          },
        ]
      : []),
    ...(previous?.kind === 'legume'
      ? [
          {
            key: 'legume_cut',
            label: 'legume cut and carried off',
            plan: {
              ...plan,
              previous: { ...previous, removedFracTops: 0.85, regrowth: 'none' as const },
            },
          },
          {
            key: 'legume_left',
            label: 'legume ploughed in uncut',
            plan: {
              ...plan,
              previous: { ...previous, removedFracTops: 0, regrowth: 'full' as const },
            },
          },
        ]
      : []),
    ...(previous?.kind === 'green_manure'
      ? [
          {
            key: 'legume_cut',
            label: 'green manure cut and carried off',
            plan: { ...plan, previous: { ...previous, removedFracTops: 0.85 } },
          },
        ]
      : []),
    ...(season.yieldGoalTHa !== null && season.yieldGoalTHa > 0
      ? [
          {
            key: 'goal_90',
            label: 'goal a tenth lower',
            plan: {
              ...plan,
              season: { ...season, yieldGoalTHa: Number((season.yieldGoalTHa * 0.9).toFixed(2)) },
            },
          },
        ]
      : []),
  ];
}

/** The figures of one variant; what it refuses is told, never guessed. */
export function compared(book: Book, v: Variant, assessed: Assessment | null = null): Compared {
  const a = assessed ?? assess(book, v.plan);
  const crop = v.plan.season.cropKey;
  const requirement = a.lines.find((l) => l.id === 'requirement');
  if (!crop || !requirement)
    return {
      key: v.key,
      label: v.label,
      plan: v.plan,
      figures: null,
      refused:
        a.problems[0]?.message ??
        (crop ? `no requirement for ${cropOf(book, crop).name}` : 'crop and goal first'),
    };
  const toBring = {
    n: Math.max(0, a.sums.n.net),
    p: Math.max(0, a.sums.p.net),
    k: Math.max(0, a.sums.k.net),
    s: Math.max(0, a.sums.s.net),
  };
  return {
    key: v.key,
    label: v.label,
    plan: v.plan,
    refused: null,
    figures: {
      requirementN: a.sums.n.requirement,
      creditsN: a.sums.n.credits + a.sums.n.applied - a.sums.n.debits,
      toBring,
      surplusN: Math.max(0, -a.sums.n.net),
      sdN: a.uncertainty.sdNetKgHa,
      cost: toBring.n * v.plan.farm.nPricePerKg,
      stops: openStops(a.cautions).length,
      cautions: openCautions(a.cautions).length,
    },
  };
}

/**
 * Whether two ways of looking at the need lie far apart (chapter 1, N-20), and which line makes
 * the difference.
 */
export function schoolsGap(all: readonly Compared[]): Warning[] {
  const known = all.filter(
    (c) => c.figures !== null && (c.key === 'plan' || c.key.startsWith('n.')),
  );
  const sorted = known.toSorted(
    (x, y) => (x.figures?.toBring.n ?? 0) - (y.figures?.toBring.n ?? 0),
  );
  const [low, high] = [sorted[0], sorted[sorted.length - 1]];
  if (!low?.figures || !high?.figures || low === high) return [];
  const need = Math.abs(high.figures.requirementN - low.figures.requirementN);
  const credits = Math.abs(high.figures.creditsN - low.figures.creditsN);
  return judge(schoolsRules, {
    gap: {
      a: `${low.label} ${Math.round(low.figures.toBring.n)}`,
      b: `${high.label} ${Math.round(high.figures.toBring.n)}`,
      kgHa: high.figures.toBring.n - low.figures.toBring.n,
      cause: need >= credits ? 'the requirement itself' : 'which credits each may subtract',
    },
  });
}
