import type { Book } from '../book/book';
import { leafSampleOf, type LeafSample, type LeafSampleFact } from '../facts/leafSample';
import type { Plan } from '../document/document';
import { attempt, type Problem } from './problem';
import { tetanyRatio } from '../ground/secondary';
import { herbageRules } from '../ground/secondaryRules';
import { Refusal } from '../quantity/refusal';
import { cropOf, tissueCropOf } from '../book/crops';
import { leafStandards, type LeafStandards, type SamplingProtocol } from '../book/leafStandards';
import { tissueNutrientOf } from '../book/tissueNutrients';
import { judge, type Warning } from '../rules/rule';
import { classConfidence, classifyLeaf, mostLimiting, type LeafClass } from '../tissue/classify';
import type { LeafLimits } from '../tissue/limits';
import {
  contamination,
  decimalCheck,
  lessThan,
  toCoreUnit,
  unitCheck,
  type Flag,
  type UnitCheck,
} from '../tissue/reading';
import { leafReadingRules, leafSampleRules } from '../tissue/rules';
import { findStandard, standardsFor, type FoundStandard } from '../tissue/standard';
import { entered, fromTable, step, type Step } from '../why/step';

export interface LeafResult {
  nutrient: string;
  reported: string;
  unit: string;
  value: number | null;
  coreUnit: string;
  limits: LeafLimits | null;
  cls:
    LeafClass | 'deficient' | 'low_or_deficient' | 'below_sufficient' | 'not_classifiable' | null;
  score: number | null;
  wording: string;
  /** Dust, spray or tap water hide the plant: shown, not counted. */
  blocked: boolean;
  refused: string | null;
  why: Step | null;
  warnings: Warning[];
  /** What the figure may have been meant as; null where it fits its unit. */
  meant: LeafMeant | null;
}
/** Another unit, or a point elsewhere, with which a figure would fit. */
export interface LeafMeant {
  unit: string;
  /** The figure in that unit, as somebody would write it. */
  reported: string;
  /** As it stands it cannot be. */
  impossible: boolean;
}
export interface LeafAssessment {
  refused: {
    message: string;
    choices: {
      part: string;
      partLabel: string;
      stageLabel: string;
      bbchFrom: number;
      bbchTo: number;
    }[];
  } | null;
  /** Why no range reads it, though it is kept: it serves a pair and the years. Null: a range does. */
  without: string | null;
  standard: {
    setId: string;
    how: string;
    stageLabel: string;
    partLabel: string;
    protocol: SamplingProtocol | null;
  } | null;
  results: LeafResult[];
  order: string[];
  coLimiting: string[];
  warnings: Warning[];
}

const number = (reported: string): number | null =>
  /^-?\d+([.,]\d+)?$/.test(reported.trim()) ? Number(reported.trim().replace(',', '.')) : null;

interface Context {
  /** Its use, where leaf ranges hang on it. */
  use?: string | null;
  cropKey: string;
  areaHa: number;
  perennial: boolean;
  legume: boolean;
  /** Grazed or cut for stock: the ratio of K to Ca and Mg is read as well. */
  herbage: boolean;
}

const notANumber = (v: LeafSample['values'][number]): string =>
  `${v.nutrient} = ${v.reported} is not a number: write for example 2.5 or <0.5.`;

/** Powers of ten between the units of a report, from the unit of the range. */
const OTHER_UNITS: Readonly<Record<string, readonly string[]>> = {
  '%': ['g/kg', 'mg/kg'],
  'g/kg': ['%', 'mg/kg'],
  'mg/kg': ['%', 'g/kg'],
};
/**
 * A value without a range: a marker of dust such as Al, a nutrient that this standard does not hold,
 * a crop without one. Kept and used in checks, pairs and years, never classed; what no leaf holds is
 * asked all the same.
 */
function unclassed(base: LeafResult, v: LeafSample['values'][number]): LeafResult {
  const plain = number(v.reported);
  if (plain === null)
    return v.reported.trim().startsWith('<') ? base : { ...base, refused: notANumber(v) };
  const { coreUnit, plausibleMin, plausibleMax, refuseAbove } = tissueNutrientOf(v.nutrient);
  const inCore = (unit: string) => toCoreUnit({ nutrient: v.nutrient, value: plain, unit }).value;
  const plausible = (x: number) => x >= plausibleMin && x <= plausibleMax;
  const value = inCore(v.unit);
  const fits = (OTHER_UNITS[v.unit] ?? []).filter((unit) => plausible(inCore(unit)));
  const [only] = fits;
  const known = plain === 0 || plausible(value) || plausibleMax <= 0;
  if (!known && only === undefined && value > refuseAbove)
    return {
      ...base,
      refused: `${v.nutrient} = ${v.reported} ${v.unit} is outside 0 to ${refuseAbove} ${coreUnit}.`,
    };
  return {
    ...base,
    value,
    coreUnit,
    blocked: !known,
    meant: known
      ? null
      : { unit: fits.length === 1 && only ? only : v.unit, reported: v.reported, impossible: true },
  };
}

/** Why a value has its class: the range that it was read against, and how sure that is. */
function classReason(
  v: LeafSample['values'][number],
  nutrient: ReturnType<typeof tissueNutrientOf>,
  found: FoundStandard,
  {
    value,
    cls,
    sure,
  }: { value: number; cls: string; sure: ReturnType<typeof classConfidence> | null },
): Step {
  const id = `leaf.${v.nutrient.toLowerCase()}`;
  return step(id, `${v.nutrient} class`, cls.replace('_', ' '), '', {
    formula: 'value against the range of this crop, part and stage; both ends are sufficient',
    school: 'sufficiency range',
    source: found.row.source,
    confidence: found.confidence,
    note:
      [found.row.note, found.how === 'interpolated' ? 'limits taken between two stages' : '']
        .filter(Boolean)
        .join('; ') || undefined,
    inputs: [
      entered(
        `${id}.value`,
        'Leaf value',
        value,
        nutrient.coreUnit,
        nutrient.coreUnit === v.unit ? undefined : `${v.reported} ${v.unit} as reported`,
      ),
      fromTable(`${id}.low`, 'Sufficient from', found.limits.sl, nutrient.coreUnit, found.row),
      fromTable(`${id}.high`, 'Sufficient to', found.limits.sh, nutrient.coreUnit, found.row),
      ...(found.limits.d === null
        ? []
        : [
            fromTable(
              `${id}.deficient`,
              'Deficient below',
              found.limits.d,
              nutrient.coreUnit,
              found.row,
            ),
          ]),
      ...(sure
        ? [
            step(
              `${id}.p`,
              'Chance that the true value lies below the range',
              sure.pBelowLimit,
              '',
              {
                formula: `normal, variation ${nutrient.combinedCvPct} %`,
                source: nutrient.source,
              },
            ),
          ]
        : []),
    ],
  });
}

/** What a figure may have been meant as: the same figure in another unit, or its point elsewhere. */
function meantBy(
  v: LeafSample['values'][number],
  unit: UnitCheck,
  decimal: number | null,
  coreUnit: string,
): LeafMeant | null {
  if (unit.result !== 'ok')
    return unit.suggest === null
      ? { unit: v.unit, reported: v.reported, impossible: true }
      : { unit: unit.suggest, reported: v.reported, impossible: unit.result === 'stop' };
  return decimal === null
    ? null
    : { unit: coreUnit, reported: String(Number(decimal.toPrecision(4))), impossible: false };
}

function readOne(
  standards: LeafStandards,
  tissueCrop: string,
  sample: LeafSample,
  v: LeafSample['values'][number],
  context: Context,
  without: boolean,
): LeafResult {
  const base: LeafResult = {
    nutrient: v.nutrient,
    reported: v.reported,
    unit: v.unit,
    value: null,
    coreUnit: v.unit,
    limits: null,
    cls: null,
    score: null,
    wording: '',
    blocked: false,
    refused: null,
    why: null,
    warnings: [],
    meant: null,
  };
  try {
    const nutrient = tissueNutrientOf(v.nutrient);
    const has = standards.ranges.some(
      (r) => r.crop === tissueCrop && r.part === sample.part && r.nutrient === v.nutrient,
    );
    if (without || !has) return unclassed(base, v);
    const found = findStandard(standards.ranges, {
      crop: tissueCrop,
      part: sample.part,
      bbch: sample.bbch,
      nutrient: v.nutrient,
      system: sample.system,
    });
    const { limits } = found;
    if (v.reported.trim().startsWith('<')) {
      const censored = lessThan({
        nutrient: v.nutrient,
        reported: v.reported,
        unit: v.unit,
        limits,
      });
      return {
        ...base,
        coreUnit: nutrient.coreUnit,
        limits,
        cls: censored.cls,
        wording: 'under the method’s limit',
      };
    }
    const typed = number(v.reported);
    if (typed === null)
      return {
        ...base,
        limits,
        refused: notANumber(v),
      };
    const { value } = toCoreUnit({ nutrient: v.nutrient, value: typed, unit: v.unit });
    if (value > nutrient.refuseAbove)
      return {
        ...base,
        limits,
        refused: `${v.nutrient} = ${v.reported} ${v.unit} is outside 0 to ${nutrient.refuseAbove} ${nutrient.coreUnit}.`,
      };
    const unit = unitCheck({ nutrient: v.nutrient, value: typed, unit: v.unit, limits });
    const reading = classifyLeaf(value, limits);
    const decimal = decimalCheck({ nutrient: v.nutrient, value, limits }).suggested;
    const sure =
      value > 0 && limits.sl > 0
        ? classConfidence({ value, limit: limits.sl, combinedCvPct: nutrient.combinedCvPct })
        : null;
    const warnings = judge(
      leafReadingRules,
      {
        nutrient: v.nutrient,
        cls: reading.cls,
        p: sure?.pBelowLimit ?? 0,
        unit,
        typed: `${v.reported} ${v.unit}`,
        decimal,
        weakStandard: found.confidence === 'low',
        legume: context.legume,
      },
      v.nutrient,
    );
    // A weak standard caps the wording.
    const wording = sure
      ? found.confidence === 'low' && sure.wording === 'clearly'
        ? 'probably'
        : sure.wording
      : '';
    return {
      ...base,
      value,
      coreUnit: nutrient.coreUnit,
      limits,
      cls: reading.cls,
      score: reading.score,
      wording,
      warnings,
      // An impossible figure is shown, never counted.
      blocked: unit.result === 'stop',
      meant: meantBy(v, unit, decimal, nutrient.coreUnit),
      why: classReason(v, nutrient, found, { value, cls: reading.cls, sure }),
    };
  } catch (e) {
    if (e instanceof Refusal) return { ...base, refused: e.message };
    throw e;
  }
}

const tetany = (k: number | null, ca: number | null, mg: number | null): Warning[] =>
  k !== null && ca !== null && mg !== null && ca > 0 && mg > 0
    ? judge(herbageRules, { ratio: tetanyRatio({ k, ca, mg }).value })
    : [];

const ofCrop = (all: LeafStandards, crop: string): LeafStandards => ({
  ranges: all.ranges.filter((r) => r.crop === crop),
  protocols: all.protocols,
});

const NO_STANDARD =
  'There is no leaf standard for this crop: the values are kept for a pair of affected and unaffected plants, for the years and for a standard of your own.';

/**
 * Reads a leaf sample against the standard for its crop, part and stage. A wrong part or stage of the
 * whole block is refused with the right choices. Of a pair, and of a crop without a standard, the
 * values are kept without a class: the one half is read against the other (chapter 5, R01).
 */
export function assessLeaf(
  book: Book,
  all: LeafStandards,
  sample: LeafSample,
  context: Context,
): LeafAssessment {
  const tissueCrop = tissueCropOf(book, context.cropKey, context.use ?? null);
  const none: LeafAssessment = {
    refused: null,
    without: null,
    standard: null,
    results: [],
    order: [],
    coLimiting: [],
    warnings: [],
  };
  const unread = (without: string, crop: string): LeafAssessment => {
    const results = sample.values.map((v) => readOne(all, crop, sample, v, context, true));
    return { ...none, without, results, warnings: results.flatMap((r) => r.warnings) };
  };
  if (!tissueCrop) return unread(NO_STANDARD, '');
  // A sample asks for dozens of rows, all of its crop.
  const standards = ofCrop(all, tissueCrop);
  const choices = standardsFor(standards.ranges, tissueCrop);
  let standard: ReturnType<typeof findStandard>;
  try {
    const anyNutrient =
      standards.ranges.find((r) => r.crop === tissueCrop && r.part === sample.part)?.nutrient ??
      'N';
    standard = findStandard(standards.ranges, {
      crop: tissueCrop,
      part: sample.part,
      bbch: sample.bbch,
      nutrient: anyNutrient,
      system: sample.system,
    });
  } catch (e) {
    if (!(e instanceof Refusal)) throw e;
    if (sample.role !== 'survey' && e.detail.field !== 'system')
      return unread(
        `No range reads this part at this stage (${e.message.replace(/\.$/u, '')}): the pair is read by itself.`,
        tissueCrop,
      );
    return { ...none, refused: { message: e.message, choices } };
  }
  const results = sample.values.map((v) =>
    readOne(standards, tissueCrop, sample, v, context, false),
  );
  const valueOf = (x: string) => results.find((r) => r.nutrient === x)?.value ?? null;
  const upper = Object.fromEntries(
    (['Fe', 'Mn', 'Zn', 'Cu'] as const).flatMap((x) => {
      const l = results.find((r) => r.nutrient === x)?.limits;
      return l ? [[x, l.sh]] : [];
    }),
  );
  const flags: Flag[] = contamination({
    Al: valueOf('Al'),
    Ti: valueOf('Ti'),
    Fe: valueOf('Fe'),
    Mn: valueOf('Mn'),
    Zn: valueOf('Zn'),
    Cu: valueOf('Cu'),
    washed: sample.washed,
    sprayElements: (sample.daysSinceSpray ?? 99) < 14 ? sample.sprayElements : [],
    upper,
  });
  const hidden = new Set(
    flags.flatMap(([kind, level, what]) =>
      kind === 'soil_dust'
        ? level === 'stop'
          ? ['Fe', 'Al']
          : []
        : kind === 'tap_water'
          ? ['Ca', 'Mg', 'Na', 'Cl']
          : kind === 'spray_residue_declared'
            ? [what]
            : [],
    ),
  );
  for (const r of results) if (hidden.has(r.nutrient)) r.blocked = true;
  const usable = results.filter(
    (r) => r.value !== null && r.limits !== null && !r.blocked && r.refused === null,
  );
  const order = mostLimiting({
    ranges: standards.ranges,
    setId: standard.row.setId,
    values: Object.fromEntries(usable.map((r) => [r.nutrient, r.value ?? 0])),
  });
  const protocol =
    standards.protocols.find((p) => p.protocolId === standard.row.protocolId) ?? null;
  return {
    refused: null,
    without: null,
    standard: {
      setId: standard.setId,
      how: standard.how,
      stageLabel: standard.row.stageLabel,
      partLabel: standard.row.partLabel,
      protocol,
    },
    results,
    order: order.short,
    coLimiting: order.coLimiting,
    warnings: [
      ...judge(leafSampleRules, {
        how: standard.how,
        window: `${standard.row.bbchFrom}-${standard.row.bbchTo}`,
        nOrgans: sample.nOrgans,
        minCount: protocol?.minCount ?? 15,
        areaHa: context.areaHa,
        perennial: context.perennial,
        flags,
        daysSinceSpray: sample.daysSinceSpray,
        short: order.short,
        missing: ['N', 'P', 'K'].filter((x) => !results.some((r) => r.nutrient === x)),
        Al: valueOf('Al'),
        Fe: valueOf('Fe'),
      }),
      ...(context.herbage ? tetany(valueOf('K'), valueOf('Ca'), valueOf('Mg')) : []),
      ...results.flatMap((r) => r.warnings),
    ],
  };
}

/** Sum of what a leaf can hold of the macronutrients, % of dry matter (chapter 5, section 18). */
const MOST_SUM_PCT = 25;
const SUMMED = ['N', 'P', 'K', 'S', 'Ca', 'Mg', 'Cl'];
/** More macronutrients together than a leaf holds: a unit is wrong somewhere; null where they fit. */
export function sumProblem({ results }: Pick<LeafAssessment, 'results'>): string | null {
  const sum = results
    .filter((r) => SUMMED.includes(r.nutrient) && r.value !== null && !r.blocked)
    .reduce((s, r) => s + (r.value ?? 0), 0);
  return sum > MOST_SUM_PCT
    ? `${SUMMED.join(', ')} come to ${sum.toFixed(1)} % of dry matter, and ${MOST_SUM_PCT} % is the most that a leaf holds: is a unit wrong?`
    : null;
}

/** A leaf of the field with what it says of its crop. */
export interface ReadLeaf {
  sample: LeafSampleFact;
  assessment: LeafAssessment;
}
export interface LeafReading {
  /** Every leaf of the field, newest first. */
  leaves: ReadLeaf[];
  /** Dates of those of this season, newest first. */
  datesOfSeason: string[];
  /** Nutrients that the newest leaf of this season shows short, the shortest first. */
  short: string[];
}

/**
 * One leaf, read against its own crop, part and stage by the farm's own limits. @throws Refusal for
 * a crop that the book does not know
 */
export function readLeaf(
  book: Book,
  areaHa: number,
  leaf: LeafSampleFact,
  use: string | null = null,
): LeafAssessment {
  const crop = cropOf(book, leaf.cropKey);
  return assessLeaf(book, leafStandards(book), leafSampleOf(leaf), {
    cropKey: leaf.cropKey,
    use,
    areaHa,
    perennial: crop.nBaseKgHa > 0,
    legume: crop.nFixing === 'grain_legume' || crop.nFixing === 'forage_legume',
    herbage: crop.group.startsWith('forage'),
  });
}

/**
 * The leaves of a field as its plan reads them. A leaf that can't be read is a problem of its
 * station; the others go on.
 */
export function readLeaves(book: Book, plan: Plan, problems: Problem[]): LeafReading {
  const leaves = plan.leaves.flatMap((sample): ReadLeaf[] => {
    const assessment = attempt(problems, 'season', () =>
      readLeaf(
        book,
        plan.field.areaHa,
        sample,
        sample.cropKey === plan.season.cropKey ? plan.season.use : null,
      ),
    );
    return assessment ? [{ sample, assessment }] : [];
  });
  // Plants that were picked because they look ill speak for their patch, not for the field.
  const ofSeason = leaves.filter(
    (l) =>
      l.sample.date >= plan.season.startDate &&
      l.sample.role !== 'affected' &&
      l.sample.values.length > 0,
  );
  return {
    leaves,
    datesOfSeason: ofSeason.map((l) => l.sample.date),
    // One that no range reads calls nothing short; it must not hide one that does.
    short: ofSeason.find((l) => l.assessment.standard !== null)?.assessment.order ?? [],
  };
}
