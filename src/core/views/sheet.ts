import { cropOf, type Crop } from '../book/crops';
import type { Book } from '../book/book';
import { extractantName, nutrientSymbol } from '../book/soilTests';
import { inWords, said } from '../why/said';
import { asLines, weakest, type Step } from '../why/step';
import type { Assessment } from '../assessment/assess';
import type { Plan } from '../document/document';
import type { LedgerLine } from '../lines/line';
import { usYieldToTHa } from '../quantity/cropYield';
import type { UnitSystem } from '../quantity/units';
import { jobsOf, type SheetJob } from './jobs';
import { plainly, shownArea, type Shown } from './shown';
import { wholeSheet, type Amounts, type BalanceRow } from './wholeKilograms';

/** Today's version of the frozen sheet: the one that the last step of `sheetVersions` leads to. */
export const SHEET_VERSION = 4;

export interface SheetRow extends Amounts {
  id: string;
  label: string;
  detail: string;
  kind: LedgerLine['kind'];
  struck: string | null;
}
/**
 * A row of the sheet's end; `to_bring`, `planned` and `balance` stand in sheets that were frozen
 * before version 3.
 */
export interface SheetTotal extends Amounts {
  kind: BalanceRow['kind'] | 'to_bring' | 'planned' | 'balance';
  label: string;
}

/**
 * The plan sheet as it was shown on the day: words and figures ready to print, so that an agreed
 * version reads the same for ever.
 */
export interface SheetDocument {
  /** By which version of the sheet it was written. */
  version: typeof SHEET_VERSION;
  /** Units of every figure in it. */
  units: UnitSystem;
  farm: string;
  field: string;
  area: Shown;
  season: string;
  crop: string;
  asOf: string;
  rows: SheetRow[];
  totals: SheetTotal[];
  /** Lime, manure, passes and sprays, in the order of their days. */
  jobs: SheetJob[];
  /** Credits that nobody knows, with what is usual and how to find out. */
  unknown: { label: string; usual: string; findOut: string }[];
  ground: { label: string; value: string; cls: string }[];
  reasons: { label: string; text: string[]; confidence: string }[];
  /** Stops, and the cautions that weigh most. */
  cautions: { level: string; message: string; action: string }[];
  /** Cautions that weigh less, and those that somebody answered: the sheet's back. */
  smaller: string[];
  answered: {
    message: string;
    state: 'accepted' | 'postponed';
    words: string | null;
    by: string | null;
    on: string;
    until: string | null;
  }[];
  /** Money for the field: fertiliser, and lime that is chosen. */
  cost: { fertiliser: number; lime: number };
  demoPrices: boolean;
  limiting: string | null;
}

const CLASS_WORDS = (cls: string) => cls.replace('_', ' ');
/** A why-tree cut to what fits a printed line. */
const short = (tree: Step, system: UnitSystem): string[] => asLines(tree, system).slice(0, 5);

/** A figure that was typed in another unit has no more digits than a sheet can bear. */
const brief = (v: number): string => String(Number(v.toPrecision(4)));
/** The goal in t/ha, or in the crop's own unit per acre. */
function goalOf({ season }: Plan, crop: Crop, system: UnitSystem): string {
  const goal = season.yieldGoalTHa;
  if (goal === null) return 'no yield goal';
  if (system === 'metric') return `${brief(goal)} t/ha`;
  const { yieldTHa } = usYieldToTHa({ yieldUsPerAc: 1, kgPerUsUnit: crop.kgPerUsUnit });
  return `${plainly(goal / yieldTHa)} ${crop.usYieldUnit.replaceAll('_', ' ')}/ac`;
}
/** The sheet to print, to agree and to freeze. */
export function buildSheet(
  book: Book,
  plan: Plan,
  a: Assessment,
  system: UnitSystem = 'metric',
): SheetDocument {
  const crop = plan.season.cropKey ? cropOf(book, plan.season.cropKey) : null;
  const { amounts, rows: ends } = wholeSheet(a, system);
  const jobs = jobsOf(plan, a, system);
  return {
    version: SHEET_VERSION,
    units: system,
    farm: plan.farm.name,
    field: plan.field.name,
    area: shownArea(plan.field.areaHa, system),
    season: plan.season.label,
    crop: crop ? `${crop.name}, ${goalOf(plan, crop, system)}` : 'no crop chosen',
    asOf: plan.asOf,
    rows: a.lines.map((l) => ({
      id: l.id,
      label: inWords(l.label, system),
      detail: inWords(l.detail, system),
      kind: l.kind,
      struck: l.struck,
      ...(amounts.get(l.id) as Amounts),
    })),
    totals: ends.map((r) => ({
      kind: r.kind,
      label: inWords(r.label, system),
      ...(amounts.get(r.id) as Amounts),
    })),
    jobs,
    unknown: a.lines.flatMap((l) =>
      l.usual
        ? [
            {
              label: inWords(l.label, system),
              usual: inWords(said`usually ${l.usual.low} kg/ha to ${l.usual.high} kg/ha`, system),
              findOut: l.usual.findOut,
            },
          ]
        : [],
    ),
    ground: [
      ...(a.ground.planning
        ? [
            {
              label: 'pH to plan with',
              value: a.ground.planning.ph.toFixed(1),
              cls: a.ground.gate?.verdict ?? 'no crop chosen',
            },
          ]
        : []),
      ...a.ground.readings.map((r) => ({
        label: `${nutrientSymbol(r.reading.nutrient)}, ${extractantName(r.reading.extractant)}`,
        value: `${r.reading.belowDetection ? 'under ' : ''}${r.reading.value} ${r.reading.unit.replace('_', '/')}`,
        cls: r.classified ? CLASS_WORDS(r.classified.cls) : 'no class',
      })),
    ],
    reasons: a.lines
      .filter((l) => l.struck === null && l.why.n)
      .map((l) => ({
        label: inWords(l.label, system),
        text: short(l.why.n as Step, system),
        confidence: weakest(l.why.n as Step),
      })),
    cautions: a.cautions
      .filter((c) => c.shown)
      .map(({ level, warning }) => ({
        level,
        message: inWords(warning.message, system),
        action: inWords(warning.action, system),
      })),
    smaller: a.cautions
      .filter((c) => c.level === 'caution' && c.state === 'open' && !c.shown)
      .map((c) => inWords(c.warning.message, system)),
    answered: a.cautions.flatMap((c) =>
      c.answer
        ? [
            {
              message: inWords(c.warning.message, system),
              state: c.answer.state,
              words: c.answer.words,
              by: c.answer.by,
              on: c.answer.on,
              until: c.answer.until,
            },
          ]
        : [],
    ),
    cost: {
      fertiliser: a.supply.cost * plan.field.areaHa,
      lime: (a.lime?.chosen?.costPerHa ?? 0) * plan.field.areaHa,
    },
    demoPrices: a.supply.passes.some((p) => p.price.from === 'placeholder'),
    limiting:
      a.limiting && a.limiting.limiting !== 'N' && (a.limiting.relativeYields[0]?.ry ?? 1) < 0.95
        ? `${a.limiting.limiting} holds the crop at ${Math.round((a.limiting.relativeYields[0]?.ry ?? 1) * 100)} %`
        : null,
  };
}
