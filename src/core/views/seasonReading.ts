import type { Assessment } from '../assessment/assess';
import type { Book } from '../book/book';
import type { Plan } from '../document/document';
import type { SeasonCalendar } from '../lines/calendar';
import type { Warning } from '../rules/rule';
import type { Words } from '../why/said';
import { correctionsFor } from './corrections';
import { fruitDropOf } from './fruitDrop';
import { fruitCalcium } from './fruitSprays';
import { leafBeside } from './leafBeside';
import { sampleWindows } from './sampleWindow';
import { readSymptoms } from './symptoms';

/** What Season says of a plan, for programs: the same figures as its tabs. */
export interface SeasonReading {
  windows: { part: string; stage: string; from: string | null; to: string | null; state: string }[];
  leaf: { date: string; part: string; bbch: number; short: string[] } | null;
  pair: {
    refused: string | null;
    says: Words[];
    rows: { nutrient: string; differencePct: number; strength: string; vector: string | null }[];
  } | null;
  soilBesideLeaf: { nutrient: string; soil: string; leaf: string; cell: string; says: string }[];
  ratios: { formula: string; ratio: number; level: string }[];
  years: { nutrient: string; trend: string; slopePerYear: number | null }[];
  nutritionIndex: number | null;
  causes: { cause: string; chance: number; word: string }[];
  nextTests: string[];
  actions: {
    nutrient: string;
    leafClass: string;
    open: boolean;
    says: Words;
    gates: { question: string; answer: string }[];
  }[];
  ownBlocks: { nutrient: string; value: number; n: number; mean: number; says: string }[];
  balance: { normSet: string; nutrient: string; index: number; says: string }[];
  similar: { like: string; nutrient: string; says: string }[];
  fruitDrop: { open: string[]; says: Words[] } | null;
  fruitCalcium: { effectiveKgHa: number; targetKgHa: number; reading: string } | null;
  warnings: Warning[];
}

/** Windows, reading, causes and actions of a season. */
export function seasonReading(
  book: Book,
  plan: Plan,
  a: Assessment,
  calendar: SeasonCalendar | null,
): SeasonReading {
  const beside = leafBeside(book, plan, a);
  const symptoms = readSymptoms(book, plan, a, beside);
  const calcium = fruitCalcium(book, plan, a, beside);
  const drop = fruitDropOf(book, plan, beside);
  const { leaf, nutrition } = beside;
  return {
    windows: sampleWindows(book, plan, calendar).map((w) => ({
      part: w.part,
      stage: `${w.bbchFrom}-${w.bbchTo}`,
      from: w.from,
      to: w.to,
      state: w.state,
    })),
    leaf: leaf && {
      date: leaf.sample.date,
      part: leaf.sample.part,
      bbch: leaf.sample.bbch,
      short: leaf.assessment.order,
    },
    pair: beside.pair && {
      refused: beside.pair.refused,
      says: beside.pair.words,
      rows: beside.pair.rows.map(({ nutrient, reading }) => ({
        nutrient,
        differencePct: reading.pctDiff,
        strength: reading.strength,
        vector: reading.vector,
      })),
    },
    soilBesideLeaf: beside.soil.map((s) => ({
      nutrient: s.nutrient,
      soil: s.soil,
      leaf: s.leaf,
      cell: (s.reading.specific[0] ?? s.reading.cell).cellId,
      says: (s.reading.specific[0] ?? s.reading.cell).diagnosis,
    })),
    ratios: beside.ratios.map(({ row, reading }) => ({
      formula: row.formula,
      ratio: reading.ratio,
      level: reading.level,
    })),
    years: beside.years.map((y) => ({
      nutrient: y.nutrient,
      trend: y.trend.cls,
      slopePerYear: y.trend.slopePerYear,
    })),
    nutritionIndex: nutrition === null || typeof nutrition === 'string' ? null : nutrition.nni,
    causes: (symptoms?.shown ?? []).map((r) => ({
      cause: r.hypothesis.hypothesisId,
      chance: r.p,
      word: r.word,
    })),
    nextTests: (symptoms?.next ?? []).map((t) => t.testId),
    actions: correctionsFor(book, plan, a, calendar, beside).map((x) => ({
      nutrient: x.nutrient,
      leafClass: x.cls,
      open: x.open,
      says: x.words,
      gates: x.gates.map(({ question, answer }) => ({ question, answer })),
    })),
    ownBlocks: beside.own.flatMap((o) =>
      o.rows.map(({ nutrient, value, figure, says }) => ({
        nutrient,
        value,
        n: figure.n,
        mean: figure.mean,
        says,
      })),
    ),
    balance: beside.balance.flatMap(({ normSet, rows }) => rows.map((r) => ({ normSet, ...r }))),
    similar: (beside.similar?.rows ?? []).map(({ nutrient, says }) => ({
      like: beside.similar?.like ?? '',
      nutrient,
      says,
    })),
    fruitDrop: drop && { open: drop.open, says: drop.words },
    fruitCalcium: calcium && {
      effectiveKgHa: calcium.effectiveKgHa,
      targetKgHa: calcium.target.seasonCaTargetKgHa,
      reading: calcium.cls,
    },
    warnings: [...beside.warnings, ...(symptoms?.warnings ?? []), ...(calcium?.warnings ?? [])],
  };
}
