import type { Assessment } from '../assessment/assess';
import type { Book } from '../book/book';
import { cropOf, crosswalkOf, tissueCropOf, type SoilClass } from '../book/crops';
import { ratios, type RatioRow } from '../book/leafRatios';
import { tissueNutrientOf } from '../book/tissueNutrients';
import type { Plan } from '../document/document';
import type { LeafResult, ReadLeaf } from '../lines/leaf';
import { VALID_DAYS } from '../lines/leafVerdict';
import { daysBetween } from '../quantity/calendar';
import { Refusal } from '../quantity/refusal';
import { judge, type Warning } from '../rules/rule';
import { besideRules } from '../tissue/adviceRules';
import type { LeafClass } from '../tissue/classify';
import { curveOfCrop, nutritionIndex, type NutritionIndex } from '../tissue/dilution';
import { orchardKOf } from '../book/orchardK';
import { orchardPotassium } from '../tissue/orchardPotassium';
import { pairReading, type PairReading } from '../tissue/pair';
import { elementsOf, leafRatio, ratioServes, type LeafRatio } from '../tissue/ratios';
import { soilTissue, type SoilTissueReading } from '../tissue/soilMatrix';
import { leafTrend, type Trend } from '../tissue/trend';
import { said, type Words } from '../why/said';
import {
  balanceBeside,
  ownBeside,
  similarBeside,
  type BalanceBeside,
  type OwnBeside,
  type SimilarBeside,
} from './leafOwn';

// What a leaf says beside its classes: against its mate, beside the soil, in ratios, by biomass and
// over the years (chapter 5, sections 7 to 10 and 16).

const CLASSED: readonly string[] = [
  'deficient',
  'low',
  'marginal',
  'sufficient',
  'ample',
  'high',
  'toxic_risk',
] satisfies LeafClass[];
const BELOW: readonly string[] = ['deficient', 'low', 'marginal'];
const ABOVE: readonly string[] = ['high', 'toxic_risk'];
const classOf = (r: LeafResult | undefined): LeafClass | null =>
  r && r.cls !== null && CLASSED.includes(r.cls) && !r.blocked && r.refused === null
    ? (r.cls as LeafClass)
    : null;
/** A number that counts: not blocked, not refused, not under the method's limit. */
const valueOf = (r: LeafResult | undefined): number | null =>
  r && r.value !== null && r.value > 0 && !r.blocked && r.refused === null ? r.value : null;
const of = (l: ReadLeaf, nutrient: string): LeafResult | undefined =>
  l.assessment.results.find((r) => r.nutrient === nutrient);

export interface PairRow {
  nutrient: string;
  unit: string;
  affected: number;
  unaffected: number;
  reading: PairReading;
  /** Named as a cause: it differs, and the affected leaf or the mass says that it is short. */
  named: boolean;
}
export interface LeafPair {
  affected: ReadLeaf;
  unaffected: ReadLeaf | null;
  /** Why both are not compared; null where they are. */
  refused: string | null;
  rows: PairRow[];
  words: Words[];
}
/** Stages that one day's plants may lie apart. */
const STAGES_APART = 2;
/** From so many nutrients on it is told that nearly all of them go one way. */
const MANY = 6;
const NEARLY_ALL = 0.7;

function mateOf(affected: ReadLeaf, leaves: readonly ReadLeaf[]): ReadLeaf | string {
  const near = leaves.filter(
    (l) => l.sample.role === 'unaffected' && l.sample.cropKey === affected.sample.cropKey,
  );
  const mate = near.find((l) => l.sample.date === affected.sample.date) ?? near[0];
  if (!mate)
    return 'There is no sample of unaffected plants beside it: take one of the same leaf on the same day.';
  const [a, b] = [affected.sample, mate.sample];
  if (a.date !== b.date) return 'The two were not taken on one day: they are no pair.';
  if (a.part !== b.part) return 'The two are of different organs: they are no pair.';
  if (Math.abs(a.bbch - b.bbch) > STAGES_APART)
    return 'The two are of different stages: they are no pair.';
  if (a.washed !== b.washed)
    return 'One of the two was washed and the other not: they are no pair.';
  return mate;
}

function pairWords(rows: readonly PairRow[]): Words[] {
  const differs = rows.filter((r) => r.reading.strength !== 'no_difference');
  const named = rows.filter((r) => r.named).map((r) => r.nutrient);
  const share = (down: boolean) =>
    rows.filter((r) => (down ? r.reading.pctDiff < -10 : r.reading.pctDiff > 10)).length /
    rows.length;
  if (rows.length >= MANY && share(true) >= NEARLY_ALL)
    return [
      'Nearly everything is lower in the affected plants: roots, not a list of fertilisers. Dig.',
    ];
  if (rows.length >= MANY && share(false) >= NEARLY_ALL)
    return [
      'Nearly everything is higher in the affected plants: they are stunted by water, cold, a herbicide or disease.',
    ];
  if (differs.length === 0)
    return ['Nutrition is unlikely to be the difference: dig, look at records, disease.'];
  if (named.length === 0)
    return [
      `${differs.map((r) => r.nutrient).join(', ')} differ, but none of them is short in the affected plants.`,
    ];
  return [
    `${named.join(' and ')} ${named.length === 1 ? 'is' : 'are'} short in the affected plants and not beside them: confirm by symptoms or by the soil of both.`,
  ];
}

/** The newest affected sample of the season beside its mate; null where nobody took one. */
function pairOf(leaves: readonly ReadLeaf[]): LeafPair | null {
  const affected = leaves.find((l) => l.sample.role === 'affected' && l.sample.values.length > 0);
  if (!affected) return null;
  const mate = mateOf(
    affected,
    leaves.filter((l) => l.sample.values.length > 0),
  );
  if (typeof mate === 'string')
    return { affected, unaffected: null, refused: mate, rows: [], words: [] };
  const [ma, mu] = [affected.sample.tenPlantsG, mate.sample.tenPlantsG];
  const biomassRatio = ma !== null && mu !== null ? ma / mu : null;
  const rows = affected.assessment.results.flatMap((r): PairRow[] => {
    const [x, y] = [valueOf(r), valueOf(of(mate, r.nutrient))];
    if (x === null || y === null) return [];
    try {
      const reading = pairReading({
        nutrient: r.nutrient,
        affected: x,
        unaffected: y,
        biomassRatio,
      });
      const short = BELOW.includes(r.cls ?? '') || reading.vector === 'deficient_in_affected';
      return [
        {
          nutrient: r.nutrient,
          unit: r.coreUnit,
          affected: x,
          unaffected: y,
          reading,
          named: reading.strength !== 'no_difference' && reading.pctDiff < 0 && short,
        },
      ];
    } catch (e) {
      // Markers of dust have no variation of their own: they are no nutrients to compare.
      if (e instanceof Refusal) return [];
      throw e;
    }
  });
  return {
    affected,
    unaffected: mate,
    refused: rows.length === 0 ? 'No nutrient was measured in both.' : null,
    rows: rows.toSorted((p, q) => Math.abs(q.reading.z) - Math.abs(p.reading.z)),
    words: rows.length === 0 ? [] : pairWords(rows),
  };
}

const SOIL: Partial<Record<SoilClass, 'low' | 'adequate' | 'high'>> = {
  very_low: 'low',
  low: 'low',
  medium: 'adequate',
  high: 'high',
  very_high: 'high',
};
export interface SoilBesideLeaf {
  nutrient: string;
  soil: 'low' | 'adequate' | 'high';
  leaf: LeafClass;
  reading: SoilTissueReading;
}
/** Trace elements of a soil sample that counts, by class. Iron has none: its test is too weak (section 10). */
const TRACES = { b: 'B', zn: 'Zn', mn: 'Mn', cu: 'Cu' } as const;
function soilClasses({ ground }: Pick<Assessment, 'ground'>): Map<string, SoilClass> {
  const found = new Map<string, SoilClass>(Object.entries(ground.classes));
  // A sample that is too old for a rate is too old here: its pH is not read either.
  if (ground.ph !== null)
    for (const { reading, classified } of ground.readings) {
      const symbol = TRACES[reading.nutrient as keyof typeof TRACES];
      if (symbol && classified) found.set(symbol, classified.cls);
    }
  return found;
}
function soilBeside(plan: Plan, a: Pick<Assessment, 'ground'>, leaf: ReadLeaf): SoilBesideLeaf[] {
  const answers = Object.fromEntries(plan.season.soilLeafAnswers.map((x) => [x.id, x.holds]));
  return [...soilClasses(a)].flatMap(([nutrient, found]): SoilBesideLeaf[] => {
    const soil = SOIL[found];
    const cls = classOf(of(leaf, nutrient));
    return soil && cls
      ? [
          {
            nutrient,
            soil,
            leaf: cls,
            reading: soilTissue({ nutrient, soilClass: soil, tissueClass: cls, answers }),
          },
        ]
      : [];
  });
}

export interface RatioBeside {
  row: RatioRow;
  reading: LeafRatio;
  /** Both partners are sufficient: told, but no caution. */
  quiet: boolean;
}
const sampleOf = (part: string): RatioRow['sample'] =>
  part === 'petiole' ? 'petiole' : part === 'whole_shoot' ? 'whole_shoot' : 'leaf';
/** Ratios that speak for this sample (F8.2). */
function ratiosOf(crop: string, annual: boolean, leaf: ReadLeaf): RatioBeside[] {
  const sample = sampleOf(leaf.sample.part);
  return ratios().flatMap((row): RatioBeside[] => {
    const fits =
      row.sample === sample ||
      (row.sample === 'leaf' && sample === 'whole_shoot' && row.role !== 'weak');
    if (!fits || !ratioServes(row, crop, annual)) return [];
    if (row.lastBbch !== null && leaf.sample.bbch > row.lastBbch) return [];
    const parts = elementsOf(row);
    const values = Object.fromEntries(parts.map((x) => [x, valueOf(of(leaf, x))]));
    if (parts.some((x) => values[x] === null)) return [];
    const classes = parts.map((x) => classOf(of(leaf, x)));
    const held = row.ifNotDeficient === null ? null : classOf(of(leaf, row.ifNotDeficient));
    if (held !== null && (held === 'deficient' || held === 'low')) return [];
    // Both short, or both high: the classes decide.
    const all = (list: readonly string[]) => classes.every((c) => c !== null && list.includes(c));
    if (classes.length > 1 && (all(BELOW) || all(ABOVE))) return [];
    return [
      {
        row,
        reading: leafRatio({ ratioId: row.ratioId, values }),
        quiet: all(['sufficient', 'ample']),
      },
    ];
  });
}

export interface LeafYears {
  nutrient: string;
  unit: string;
  points: { year: number; value: number }[];
  trend: Trend;
  limits: LeafResult['limits'];
}
/** The same organ at the same stage over the years: one value a year (F16.0). */
function yearsOf(leaf: ReadLeaf, leaves: readonly ReadLeaf[]): LeafYears[] {
  const set = leaf.assessment.standard?.setId;
  const alike = leaves.filter(
    (l) =>
      l.sample.role !== 'affected' &&
      l.sample.cropKey === leaf.sample.cropKey &&
      l.sample.part === leaf.sample.part &&
      l.assessment.standard?.setId === set &&
      // Without a range nothing but its stage says which leaves are of one kind.
      (set !== undefined || Math.abs(l.sample.bbch - leaf.sample.bbch) <= STAGES_APART),
  );
  return leaf.assessment.results.flatMap((r): LeafYears[] => {
    const byYear = new Map<number, number[]>();
    for (const l of alike) {
      const value = valueOf(of(l, r.nutrient));
      const year = Number(l.sample.date.slice(0, 4));
      if (value !== null) byYear.set(year, [...(byYear.get(year) ?? []), value]);
    }
    const { combinedCvPct } = tissueNutrientOf(r.nutrient);
    if (byYear.size < 2 || combinedCvPct <= 0 || (set !== undefined && r.limits === null))
      return [];
    const points = [...byYear]
      .map(([year, v]) => ({
        year,
        value: Math.exp(v.reduce((s, x) => s + Math.log(x), 0) / v.length),
      }))
      .toSorted((x, y) => x.year - y.year);
    const falls = (points.at(-1)?.value ?? 0) < (points[0]?.value ?? 0);
    return [
      {
        nutrient: r.nutrient,
        unit: r.coreUnit,
        points,
        limits: r.limits,
        trend: leafTrend({
          years: points.map((p) => p.year),
          values: points.map((p) => p.value),
          combinedCvPct,
          limit: falls ? (r.limits?.sl ?? null) : (r.limits?.sh ?? null),
        }),
      },
    ];
  });
}

/** N by biomass: the index, or why there is none; null where nobody weighed the crop. */
function nutritionOf(
  crop: string,
  leaf: ReadLeaf,
): (NutritionIndex & { curve: string }) | string | null {
  const { biomassTHa, part } = leaf.sample;
  if (biomassTHa === null) return null;
  const n = valueOf(of(leaf, 'N'));
  if (part !== 'whole_shoot')
    return 'The N of the whole plants above ground is needed for the nutrition index: this sample is of another part.';
  if (n === null) return 'N of the sample is needed for the nutrition index.';
  const curve = curveOfCrop(crop);
  if (!curve) return 'There is no dilution curve for this crop.';
  try {
    return { ...nutritionIndex({ curve: curve.curveId, biomassTHa, nPct: n }), curve: curve.crop };
  } catch (e) {
    if (e instanceof Refusal) return e.message;
    throw e;
  }
}

export interface LeafBeside {
  leaf: ReadLeaf | null;
  pair: LeafPair | null;
  soil: SoilBesideLeaf[];
  ratios: RatioBeside[];
  years: LeafYears[];
  nutrition: ReturnType<typeof nutritionOf>;
  /** Good blocks, norms and a similar crop of the farm's own. */
  own: OwnBeside[];
  balance: BalanceBeside[];
  similar: SimilarBeside | null;
  warnings: Warning[];
}
const MANURED = ['P', 'K', 'Zn', 'Cu', 'S'];

/**
 * What stands beside the classes of the newest leaf of the season; of what stands for years, of the
 * last one that still counts.
 */
export function leafBeside(book: Book, plan: Plan, a: Assessment): LeafBeside {
  const leaves = a.leaf.leaves.filter((l) => l.assessment.refused === null);
  const ofSeason = leaves.filter((l) => l.sample.date >= plan.season.startDate);
  const speaks = (l: ReadLeaf) => l.sample.role !== 'affected' && l.sample.values.length > 0;
  // What stands for years is read by its last leaf, until that is too old.
  const stands = plan.season.cropKey !== null && cropOf(book, plan.season.cropKey).nBaseKgHa > 0;
  const leaf =
    ofSeason.find((l) => speaks(l) && l.assessment.standard !== null) ??
    ofSeason.find(speaks) ??
    (stands
      ? leaves.find(
          (l) =>
            speaks(l) &&
            l.sample.cropKey === plan.season.cropKey &&
            daysBetween(l.sample.date, plan.asOf) <= VALID_DAYS,
        )
      : undefined) ??
    null;
  const pair = pairOf(ofSeason);
  if (!leaf)
    return {
      leaf,
      pair,
      soil: [],
      ratios: [],
      years: [],
      nutrition: null,
      own: [],
      balance: [],
      similar: null,
      warnings: [],
    };
  const crop = cropOf(book, leaf.sample.cropKey);
  const use = leaf.sample.cropKey === plan.season.cropKey ? plan.season.use : null;
  const tissueCrop = tissueCropOf(book, leaf.sample.cropKey, use) ?? '';
  const annual = crop.nBaseKgHa === 0;
  const soil = soilBeside(plan, a, leaf);
  const found = ratiosOf(tissueCrop, annual, leaf);
  const years = yearsOf(leaf, leaves);
  const nutrition = nutritionOf(tissueCrop, leaf);
  const ratio = (rule: RatioRow['rule']) => found.find((r) => r.row.rule === rule);
  const k = valueOf(of(leaf, 'K'));
  const skips =
    k !== null && orchardKOf(tissueCrop)
      ? orchardPotassium({
          crop: tissueCrop,
          yieldTHa: Math.min(200, plan.season.yieldGoalTHa ?? 0),
          leafKPct: k,
        }).skipYearsPlanned
      : 0;
  const nToS = ratio('n_to_s');
  const named = (says: 'uptake' | 'concentrated') =>
    soil.filter((s) => s.reading.cell.rule === says).map((s) => s.nutrient);
  const forage = crop.group.startsWith('forage');
  const { pitProneTissueCrop } = crosswalkOf(book, leaf.sample.cropKey);
  const block = plan.season.fruitBlock;
  const pitted = block !== null && (block.bigFruit === true || (block.previousPitPct ?? 0) > 0);
  const nClass = classOf(of(leaf, 'N'));
  const warnings = judge(besideRules, {
    biomassKnown: nutrition !== null && typeof nutrition !== 'string',
    nClass,
    lessFruit: crop.moreNLessFruit ? { crop: crop.name, harm: crop.lateNHarm } : null,
    salt: ['Cl', 'Na'].filter((x) => of(leaf, x)?.cls === 'toxic_risk'),
    uptake: named('uptake'),
    concentrated: named('concentrated'),
    nToS:
      nToS && nToS.reading.level === 'caution' && nToS.reading.means === nToS.row.meaningHigh
        ? nToS.reading.ratio
        : null,
    cuToMo: ratio('cu_to_mo')?.reading.ratio ?? null,
    moMgKg: forage ? valueOf(of(leaf, 'Mo')) : null,
    feedNitrateN: forage ? valueOf(of(leaf, 'NO3_N')) : null,
    pairSame:
      pair !== null &&
      pair.refused === null &&
      pair.rows.every((r) => r.reading.strength === 'no_difference'),
    group:
      pitProneTissueCrop !== null && tissueCrop !== pitProneTissueCrop && pitted ? crop.name : null,
    lowKGroup: pitProneTissueCrop !== null && tissueCrop === pitProneTissueCrop,
    kAboveSkip: skips > 0,
    skipYears: skips,
    leafK: k,
    falling: years
      .filter((y) => y.trend.cls === 'falling')
      .map((y) => ({ nutrient: y.nutrient, slope: y.trend.slopePerYear ?? 0 })),
    manured:
      plan.organics.length > 0 ? MANURED.filter((x) => ABOVE.includes(of(leaf, x)?.cls ?? '')) : [],
  });
  return {
    leaf,
    pair,
    soil,
    ratios: found,
    years,
    nutrition,
    own: ownBeside(plan, leaf),
    balance: balanceBeside(plan, leaf),
    similar: similarBeside(book, plan, leaf),
    warnings,
  };
}

/** One sentence of a nutrition index. */
export const nutritionWords = (n: NutritionIndex): Words =>
  n.deficitKgHa > 0.5
    ? said`The crop holds ${Math.round(n.uptakeKgHa)} kg/ha N; a fed one of this biomass would hold ${Math.round(n.criticalUptakeKgHa)} kg/ha: it is ${Math.round(n.deficitKgHa)} kg/ha short today. That is no dose.`
    : said`The crop holds ${Math.round(n.uptakeKgHa)} kg/ha N, and a fed one of this biomass ${Math.round(n.criticalUptakeKgHa)} kg/ha: it is short of none today.`;
