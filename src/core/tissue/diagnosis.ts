import { tissueSpecies } from '../book/crops';
import {
  discriminatingTests,
  features,
  hypotheses,
  priorModifiers,
  seenUnder,
  signaturesOf,
  type Hypothesis,
} from '../book/symptoms';
import { clip } from '../quantity/curve';
import { oneOf } from '../quantity/range';
import { refuse } from '../quantity/refusal';
import type { LeafClass } from './classify';

// What a picture of symptoms may be: causes in order, each with the weight of what speaks for and
// against it, and the test that would part the first of them best (chapter 5, section 12).

const OVERLAP = 0.7;
const MOST_BY_FEATURES = 6;
const ENOUGH_ANSWERS = 3;
const LEADS_FROM = 0.6;
const LEADS_TIMES = 3;
/** Below this a cause is folded away. */
export const FOLDED_BELOW = 0.05;
/** Pictures that are telling for a crop: those of the species, whatever the group of its cultivar. */
export const picturesOf = (crop: string) => signaturesOf(tissueSpecies(crop));

/** How a leaf that was measured speaks for its nutrient's deficiency. */
const TISSUE: Readonly<Record<'deficient' | 'low' | 'marginal' | 'enough', string | number>> = {
  deficient: 'tissue_deficient',
  low: 'tissue_low',
  marginal: 0.4,
  enough: 'tissue_sufficient',
};
const TARGET = 'TARGET_def';
/** Total iron says little of the iron that works. */
const FE_ENOUGH = -0.3;
function tissueShift(nutrient: string, cls: LeafClass): number {
  const kind = cls === 'deficient' || cls === 'low' || cls === 'marginal' ? cls : 'enough';
  if (kind === 'enough' && nutrient === 'Fe') return FE_ENOUGH;
  const key = TISSUE[kind];
  return typeof key === 'number'
    ? key
    : (priorModifiers().find((m) => m.conditionId === key && m.hypothesisId === TARGET)?.logShift ??
        0);
}

export interface Observed {
  /** Crop of the leaf ranges. */
  crop: string;
  /** Feature -> yes or no. What was not looked at is not in it: it is not a no. */
  answers: Readonly<Record<string, boolean>>;
  /** Pictures that are telling for the crop and were seen. */
  signatures?: readonly string[] | null;
  /** Conditions of soil, season and history that hold. */
  conditions?: readonly string[] | null;
  /** Nutrient -> class of a sample that can be trusted. */
  tissue?: Readonly<Record<string, LeafClass>> | null;
  /** Tests that were done -> their outcome. */
  tests?: Readonly<Record<string, string>> | null;
}
export interface Evidence {
  label: string;
  shift: number;
}
export interface Ranked {
  hypothesis: Hypothesis;
  p: number;
  evidence: Evidence[];
  /** What each answered feature adds before the discount, the largest first. */
  features: { featureId: string; seen: boolean; shift: number }[];
}
export interface Diagnosis {
  verdict: 'not_enough_evidence' | 'leading' | 'short_list';
  ranked: Ranked[];
  answered: number;
}

/** Chances of the outcomes of a test under a cause. */
function outcomes(testId: string, hypothesisId: string): Map<string, number> {
  const rows = discriminatingTests().get(testId) ?? [];
  const own = rows.filter((r) => r.hypothesisId === hypothesisId);
  const used = own.length > 0 ? own : rows.filter((r) => r.hypothesisId === 'DEFAULT');
  return new Map(used.map((r) => [r.outcome, r.pOutcomeGivenH]));
}

function checked(o: Observed): void {
  for (const f of Object.keys(o.answers))
    if (!features().has(f))
      refuse('unknown_id', 'answers', `answers: ${f} is no feature of the table.`, { value: f });
  const pictures = picturesOf(o.crop).map((s) => s.featureId);
  for (const s of o.signatures ?? [])
    if (!pictures.includes(s))
      refuse('unknown_id', 'signatures', `signatures: ${s} is no picture of ${o.crop}.`, {
        value: s,
        allowed: pictures.join(', '),
      });
  const conditions = new Set(priorModifiers().map((m) => m.conditionId));
  for (const c of o.conditions ?? [])
    if (!conditions.has(c))
      refuse('unknown_id', 'conditions', `conditions: ${c} is not known.`, {
        value: c,
        allowed: [...conditions].join(', '),
      });
  for (const [test, outcome] of Object.entries(o.tests ?? {})) {
    const rows = discriminatingTests().get(test);
    if (!rows) refuse('unknown_id', 'tests', `tests: ${test} is not known.`, { value: test });
    oneOf(`tests.${test}`, outcome, [...new Set((rows ?? []).map((r) => r.outcome))]);
  }
}

function score(h: Hypothesis, sum: number, o: Observed): Omit<Ranked, 'p'> & { score: number } {
  const seen = seenUnder().get(h.hypothesisId);
  const each = Object.entries(o.answers).flatMap(([featureId, yes]) => {
    const p0 = features().get(featureId)?.pBackground ?? 0;
    const p = seen?.get(featureId) ?? p0;
    const shift = yes ? Math.log(p / p0) : Math.log((1 - p) / (1 - p0));
    return shift === 0 ? [] : [{ featureId, seen: yes, shift }];
  });
  const byFeatures = clip(
    OVERLAP * each.reduce((s, f) => s + f.shift, 0),
    -MOST_BY_FEATURES,
    MOST_BY_FEATURES,
  );
  const signature = picturesOf(o.crop)
    .filter((s) => s.hypothesisId === h.hypothesisId && o.signatures?.includes(s.featureId))
    .map((s) => s.logLrIfSeen ?? 0)
    .reduce<number | null>((most, x) => (most === null ? x : Math.max(most, x)), null);
  const conditions = priorModifiers().filter(
    (m) => m.hypothesisId === h.hypothesisId && o.conditions?.includes(m.conditionId),
  );
  const leaf = Object.entries(o.tissue ?? {}).filter(([x]) => `${x}_def` === h.hypothesisId);
  const evidence: Evidence[] = [
    { label: 'prior', shift: Math.log(h.baseWeight / sum) },
    ...(each.length > 0 ? [{ label: 'features x 0.7, capped', shift: byFeatures }] : []),
    ...(signature === null ? [] : [{ label: 'signature', shift: signature }]),
    ...conditions.map((m) => ({ label: m.condition, shift: m.logShift })),
    ...leaf.map(([x, cls]) => ({
      label: `leaf ${x} ${cls.replace('_', ' ')}`,
      shift: tissueShift(x, cls),
    })),
    ...Object.entries(o.tests ?? {}).map(([test, outcome]) => ({
      label: `${discriminatingTests().get(test)?.[0]?.label ?? test}: ${outcome.replaceAll('_', ' ')}`,
      shift: Math.log(outcomes(test, h.hypothesisId).get(outcome) ?? 1e-6),
    })),
  ];
  return {
    hypothesis: h,
    evidence,
    features: each.toSorted((a, b) => Math.abs(b.shift) - Math.abs(a.shift)),
    score: evidence.reduce((s, e) => s + e.shift, 0),
  };
}

/**
 * Causes of a picture, in order, with the weight of each piece of evidence (F12.1 to F12.4, F12.6).
 *
 * @throws Refusal for a feature, picture, condition, test or outcome that the tables do not know
 * @example diagnose({ crop: 'wheat', answers: { f_old_first: true } }).verdict // 'not_enough_evidence'
 */
export function diagnose(o: Observed): Diagnosis {
  checked(o);
  const sum = hypotheses().reduce((s, h) => s + h.baseWeight, 0);
  const scored = hypotheses().map((h) => score(h, sum, o));
  const top = Math.max(...scored.map((s) => s.score));
  const weights = scored.map((s) => Math.exp(s.score - top));
  const total = weights.reduce((s, w) => s + w, 0);
  const ranked = scored
    .map(({ score: _, ...r }, k): Ranked => ({ ...r, p: (weights[k] as number) / total }))
    .toSorted((a, b) => b.p - a.p);
  const answered = Object.keys(o.answers).length;
  const [first, second] = [ranked[0], ranked[1]];
  return {
    answered,
    ranked,
    verdict:
      answered < ENOUGH_ANSWERS
        ? 'not_enough_evidence'
        : first && second && first.p >= LEADS_FROM && first.p >= LEADS_TIMES * second.p
          ? 'leading'
          : 'short_list',
  };
}

export interface NextTest {
  testId: string;
  label: string;
  cost: number;
  turnaroundDays: string;
  /** What it tells of the causes, in nats. */
  information: number;
  /** Information for its cost: the order in which tests are offered. */
  value: number;
}
/**
 * Tests that are not done yet, by what they tell for their cost (F12.5).
 *
 * @param legume whether nodules can be cut at all
 */
export function nextTests(
  d: Diagnosis,
  { legume, done = [] }: { legume: boolean; done?: readonly string[] },
): NextTest[] {
  return [...discriminatingTests()]
    .filter(([id, rows]) => !done.includes(id) && (legume || !rows[0]?.ofLegumes))
    .map(([testId, rows]): NextTest => {
      const under = d.ranked.map((r) => ({
        p: r.p,
        of: outcomes(testId, r.hypothesis.hypothesisId),
      }));
      const names = [...new Set(rows.map((r) => r.outcome))];
      const overall = new Map(
        names.map((o) => [o, under.reduce((s, u) => s + u.p * (u.of.get(o) ?? 0), 0)]),
      );
      const information = under.reduce(
        (s, u) =>
          s +
          u.p *
            names.reduce((t, o) => {
              const [p, all] = [u.of.get(o) ?? 0, overall.get(o) ?? 0];
              return p > 0 && all > 0 ? t + p * Math.log(p / all) : t;
            }, 0),
        0,
      );
      const { label, relativeCost: cost, turnaroundDays } = rows[0] as (typeof rows)[0];
      return {
        testId,
        label,
        cost,
        turnaroundDays,
        information,
        value: information / Math.sqrt(cost),
      };
    })
    .toSorted((a, b) => b.value - a.value);
}
