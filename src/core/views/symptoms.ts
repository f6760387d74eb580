import type { Assessment } from '../assessment/assess';
import type { Book } from '../book/book';
import { cropOf, tissueCropOf } from '../book/crops';
import { soilOf } from '../book/soils';
import {
  discriminatingTests,
  features,
  priorModifiers,
  type Feature,
  type Hypothesis,
  type Symptom,
} from '../book/symptoms';
import { groupedBy } from '../book/table';
import type { Plan } from '../document/document';
import { daysBetween } from '../quantity/calendar';
import { judge, type Warning } from '../rules/rule';
import { diagnosisRules } from '../tissue/adviceRules';
import type { LeafClass } from '../tissue/classify';
import {
  diagnose,
  FOLDED_BELOW,
  nextTests,
  picturesOf,
  type Diagnosis,
  type NextTest,
  type Ranked,
} from '../tissue/diagnosis';
import type { LeafBeside } from './leafBeside';

// Symptoms of the season with what the plan itself knows of soil, history and leaf (chapter 5,
// section 12).

const TRUSTED: readonly string[] = [
  'deficient',
  'low',
  'marginal',
  'sufficient',
  'ample',
  'high',
  'toxic_risk',
] satisfies LeafClass[];
const LIMED_WITHIN_D = 730;
const MUCK_OM_PCT = 20;

export interface Condition {
  id: string;
  label: string;
  /** The plan says that it holds; null: it is asked. */
  known: boolean | null;
  ticked: boolean;
}
/** What a rank is called: numbers of experts' guesses are words on the page. */
export type RankWord = 'leading' | 'possible' | 'unlikely';
export interface SymptomsRead {
  crop: string;
  legume: boolean;
  groups: { group: string; features: (Feature & { answer: boolean | null })[] }[];
  pictures: (Symptom & { seen: boolean })[];
  conditions: Condition[];
  tests: { id: string; label: string; outcomes: string[]; outcome: string | null }[];
  diagnosis: Diagnosis | null;
  /** Causes that are shown, with their word; the rest is folded away. */
  shown: (Ranked & { word: RankWord })[];
  next: NextTest[];
  warnings: Warning[];
}

/** Conditions that the plan itself knows to hold or not; the rest is asked. */
function knownConditions(plan: Plan, a: Assessment, crop: string): Map<string, boolean> {
  const { ph, classes } = a.ground;
  const known = new Map<string, boolean>();
  const say = (id: string, holds: boolean | null) => {
    if (holds !== null) known.set(id, holds);
  };
  say('soil_ph_above_7_3', ph === null ? null : ph > 7.3);
  say('soil_ph_below_5_5', ph === null ? null : ph < 5.5);
  const limed = plan.lime?.spread?.date ?? null;
  if (limed !== null) say('limed_last_2_years', daysBetween(limed, plan.asOf) <= LIMED_WITHIN_D);
  say('peat_or_muck', plan.field.omPct === null ? null : plan.field.omPct > MUCK_OM_PCT);
  const high = (x: 'P' | 'K') => {
    const c = classes[x] ?? 'unknown';
    return c === 'unknown' ? null : c === 'high' || c === 'very_high';
  };
  say('soil_k_high', high('K'));
  say('soil_p_high', high('P'));
  if (plan.organics.length > 0 || plan.manureHistory === 'yes') say('manure_or_compost_3y', true);
  else if (plan.manureHistory === 'none') say('manure_or_compost_3y', false);
  if (soilOf(plan.field.soilTextureId).splitClass !== 'light') say('sandy_and_wet_season', false);
  for (const m of priorModifiers())
    if (m.ofCrops !== null)
      say(
        m.conditionId,
        m.ofCrops
          .split(',')
          .map((x) => x.trim())
          .includes(crop),
      );
  return known;
}

const wordOf = (d: Diagnosis, r: Ranked, k: number): RankWord =>
  d.verdict === 'leading' && k === 0 ? 'leading' : r.p >= 0.1 ? 'possible' : 'unlikely';
const LIKELY = 0.25;
const TARGET = 'TARGET_def';
const SHOWN = 5;

/** Causes of what was seen; null without a crop that the leaf tables know. */
export function readSymptoms(
  book: Book,
  plan: Plan,
  a: Assessment,
  beside: LeafBeside,
): SymptomsRead | null {
  const { cropKey, use, symptoms } = plan.season;
  if (!cropKey) return null;
  const crop = tissueCropOf(book, cropKey, use) ?? cropKey;
  const own = cropOf(book, cropKey);
  const legume = own.nFixing === 'grain_legume' || own.nFixing === 'forage_legume';
  const known = knownConditions(plan, a, crop);
  const ticked = new Set(symptoms?.conditions.map((c) => c.id));
  const byId = new Map<string, Condition>();
  for (const m of priorModifiers())
    // What a leaf says is read from the leaf, not ticked.
    if (m.hypothesisId !== TARGET && (m.ofCrops === null || known.get(m.conditionId)))
      byId.set(m.conditionId, {
        id: m.conditionId,
        label: m.condition,
        known: known.get(m.conditionId) ?? null,
        ticked: known.get(m.conditionId) ?? ticked.has(m.conditionId),
      });
  // What another version of the tables knew, and today's does not, is kept and counts nothing.
  const answers = Object.fromEntries(
    (symptoms?.answers ?? []).filter((x) => features().has(x.id)).map((x) => [x.id, x.yes]),
  );
  const pictures = picturesOf(crop);
  const seen = new Set(symptoms?.pictures.map((p) => p.id));
  const tests = [...discriminatingTests()]
    .filter(([, rows]) => legume || !rows[0]?.ofLegumes)
    .map(([id, rows]) => {
      const outcomes = [...new Set(rows.map((r) => r.outcome))];
      const said = symptoms?.tests.find((t) => t.id === id)?.outcome ?? null;
      return {
        id,
        label: rows[0]?.label ?? id,
        outcomes,
        outcome: said !== null && outcomes.includes(said) ? said : null,
      };
    });
  const done = Object.fromEntries(
    tests.flatMap((t) => (t.outcome === null ? [] : [[t.id, t.outcome]])),
  );
  const tissue: Record<string, LeafClass> = Object.fromEntries(
    (beside.leaf?.assessment.results ?? []).flatMap((r) =>
      r.cls !== null && TRUSTED.includes(r.cls) && !r.blocked && r.refused === null
        ? [[r.nutrient, r.cls as LeafClass]]
        : [],
    ),
  );
  const diagnosis =
    symptoms === null
      ? null
      : diagnose({
          crop,
          answers,
          signatures: pictures.filter((p) => seen.has(p.featureId)).map((p) => p.featureId),
          conditions: [...byId.values()].filter((c) => c.ticked).map((c) => c.id),
          tissue,
          tests: done,
        });
  const shown = (diagnosis?.ranked ?? [])
    .filter((r, k) => k < SHOWN && (k < 3 || r.p >= FOLDED_BELOW))
    .map((r, k) => ({ ...r, word: wordOf(diagnosis as Diagnosis, r, k) }));
  const next = diagnosis
    ? nextTests(diagnosis, { legume, done: Object.keys(done) }).slice(0, 3)
    : [];
  const likely = (suspect: Hypothesis['suspect']) =>
    shown.some((r) => r.hypothesis.suspect === suspect && r.p >= LIKELY);
  const suspected = shown
    .filter((r) => r.p >= LIKELY && r.hypothesis.hypothesisId.endsWith('_def'))
    .map((r) => r.hypothesis.hypothesisId.replace('_def', ''));
  return {
    crop,
    legume,
    groups: [...groupedBy([...features().values()], (f) => f.group)].map(([group, list]) => ({
      group,
      features: list
        .filter((f) => legume || !f.ofLegumes)
        .map((f) => ({ ...f, answer: answers[f.featureId] ?? null })),
    })),
    pictures: pictures.map((p) => ({ ...p, seen: seen.has(p.featureId) })),
    conditions: [...byId.values()],
    tests,
    diagnosis,
    shown,
    next,
    warnings: diagnosis
      ? judge(diagnosisRules, {
          verdict: diagnosis.verdict,
          nextTest: next[0]?.label ?? null,
          notMeasured: beside.leaf ? suspected.filter((x) => tissue[x] === undefined) : [],
          tipburn: answers.f_fruit_breakdown === true,
          caClass: tissue.Ca ?? null,
          virusLikely: likely('disease'),
          herbicideLikely: likely('herbicide'),
          feClass: tissue.Fe ?? null,
          feLikely: likely('iron'),
        })
      : [],
  };
}
