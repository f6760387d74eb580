import type { Book } from '../book/book';
import { secondaryRules, type SecondaryFacts } from '../ground/secondaryRules';
import { sulphurVotes } from '../ground/secondary';
import { daysBetween } from '../quantity/calendar';
import type { Crop, SoilClass } from '../book/crops';
import { fertiliserOf, placementOf } from '../book/fertilisers';
import { microTriggers, secondaryRates, type SecondaryRate } from '../book/sampling';
import { textureGroup } from '../book/soils';
import { judge, type Warning } from '../rules/rule';
import { isAutumn, normalsOf } from './calendar';
import type { Plan } from '../document/document';
import type { GroundAssessment } from './groundReading';

export type SecondaryVerdict = 'apply' | 'strip_trial' | 'watch' | 'none';
export interface SecondaryRisk {
  nutrient: string;
  /** Conditions of the field that make a shortage likely. */
  triggers: string[];
  demanding: boolean;
  testClass: SoilClass | 'not_tested';
  verdict: SecondaryVerdict;
  /** What speaks for the verdict, in words. */
  because: string;
  whatToTest: string;
  firstFix: string;
  rates: SecondaryRate[];
  source: string;
  confidence: string;
}
interface Ground {
  om: number | null;
  sand: boolean;
  peat: boolean;
  ph: number | null;
  cec: number | null;
  manured: boolean | null;
  kHigh: boolean;
  pHigh: boolean;
  mgTest: number | null;
}

/**
 * The conditions of the chapter's trigger table that can be read from a plan (chapter 3, 13;
 * micronutrient_triggers).
 */
const TRIGGERS: Record<string, (g: Ground) => (string | false)[]> = {
  s: (g) => [
    g.om !== null && g.om < 2 && 'organic matter below 2 %',
    g.sand && 'sand',
    g.manured === false && 'no manure for three years',
  ],
  mg: (g) => [
    g.sand && 'sand',
    g.cec !== null && g.cec < 5 && 'CEC below 5',
    g.kHigh && 'high K',
    g.mgTest !== null && g.mgTest < 50 && 'Mg test below 50',
    g.ph !== null && g.ph < 5.5 && 'acid soil',
  ],
  zn: (g) => [
    g.ph !== null && g.ph > 7.3 && 'pH above 7.3',
    g.sand && 'sand',
    g.pHigh && 'high P test',
  ],
  mn: (g) => [
    g.ph !== null &&
      g.ph > 6.5 &&
      (g.peat || g.sand) &&
      `pH above 6.5 on ${g.peat ? 'peat' : 'sand'}`,
  ],
  b: (g) => [
    g.sand && 'sand with rain',
    g.om !== null && g.om < 1.5 && 'organic matter below 1.5 %',
    g.ph !== null && g.ph > 7 && 'pH above 7',
  ],
  cu: (g) => [
    g.peat && 'peat',
    !g.peat && g.om !== null && g.om > 10 && 'organic matter above 10 %',
  ],
  fe: (g) => [g.ph !== null && g.ph > 7.4 && 'pH above 7.4'],
  mo: (g) => [g.ph !== null && g.ph < 5.5 && 'pH below 5.5'],
  cl: () => [],
};
const TESTS: Record<string, string> = {
  s: 'sulphate-S 0-60 cm before spring growth, and leaf N:S',
  mg: 'Mg by the extractant of the K test',
  zn: 'Zn by DTPA or Mehlich-3',
  mn: 'leaf Mn; the soil test only with pH',
  b: 'hot-water B, and the leaf',
  cu: 'Cu by DTPA or Mehlich-3, and the leaf',
  fe: 'DTPA Fe on limy soil, and free lime',
  mo: 'pH first; leaf Mo',
  cl: 'chloride 0-60 cm',
};
function groundOf(plan: Plan, ground: GroundAssessment): Ground {
  const cls = (x: 'P' | 'K') => ground.classes[x];
  const { omPct, soilTextureId, cecCmolKg } = plan.field;
  return {
    om: omPct,
    sand: textureGroup(soilTextureId) === 'sand',
    peat: textureGroup(soilTextureId) === 'organic' || (omPct ?? 0) > 25,
    ph: ground.ph,
    cec: cecCmolKg,
    manured:
      plan.manureHistory === 'unknown'
        ? null
        : plan.manureHistory === 'yes' || plan.organics.length > 0,
    kHigh: cls('K') === 'high' || cls('K') === 'very_high',
    pHigh: cls('P') === 'high' || cls('P') === 'very_high',
    mgTest: plan.ground.readings.find((r) => r.nutrient === 'mg')?.value ?? null,
  };
}

/**
 * Sulphur, magnesium, micronutrients and chloride from the side of the soil (chapter 3, 13). Apply
 * only where two of three agree: conditions
 * that make a shortage likely, a low test, and the crop's own proof (leaf or strip); a mix for
 * insurance is money lost.
 *
 * @param leafShort nutrients that a leaf of this season showed short
 */
export function secondaryRisks(
  plan: Plan,
  crop: Crop,
  ground: GroundAssessment,
  leafShort: readonly string[] = [],
): SecondaryRisk[] {
  const g = groundOf(plan, ground);
  return microTriggers().map((row): SecondaryRisk => {
    const key = row.nutrient;
    const triggers = (TRIGGERS[key]?.(g) ?? []).filter((t): t is string => t !== false);
    const demanding = crop.demands.split(';').includes(key);
    const reading = ground.readings.find((r) => r.reading.nutrient === key);
    const testClass: SecondaryRisk['testClass'] = reading
      ? (reading.classified?.cls ?? 'unknown')
      : 'not_tested';
    const low = testClass === 'very_low' || testClass === 'low';
    const leaf = leafShort.some((n) => n.toLowerCase() === key);
    const votes = [
      triggers.length > 0 && demanding
        ? 'conditions and a demanding crop'
        : triggers.length > 1
          ? 'conditions of the field'
          : null,
      low ? 'a low test' : null,
      leaf ? 'the leaf' : null,
    ].filter((v): v is string => v !== null);
    const sulphur =
      key === 's'
        ? sulphurVotes({
            omPct: g.om,
            sand: g.sand,
            manured: g.manured,
            demanding,
            testLow: low,
            tissueNs: null,
          })
        : null;
    const verdict: SecondaryVerdict = sulphur
      ? sulphur.verdict
      : votes.length >= 2
        ? 'apply'
        : votes.length === 1 && (low || demanding || leaf)
          ? 'strip_trial'
          : triggers.length > 0
            ? 'watch'
            : 'none';
    const because = sulphur
      ? sulphur.votes.length > 0
        ? `${sulphur.votes.length} of 6 signs: ${sulphur.votes.join(', ')}`
        : 'no sign of a shortage'
      : votes.length > 0
        ? `${votes.length} of 3: ${votes.join(', ')}`
        : triggers.length > 0
          ? `${triggers.join(', ')}; neither a low test nor a demanding crop`
          : 'no sign of a shortage';
    return {
      nutrient: key,
      triggers,
      demanding,
      testClass,
      verdict,
      because,
      whatToTest: TESTS[key] ?? '',
      firstFix: row.firstFix,
      rates: secondaryRates().filter((r) => r.nutrient === key && r.route !== 'foliar'),
      source: row.source,
      confidence: row.confidence,
    };
  });
}

/** Rules on boron and on the form and time of sulphur, from the planned passes. */
export function secondaryWarnings(book: Book, plan: Plan, crop: Crop): Warning[] {
  const passes = plan.passes.map((p) => ({ p, f: fertiliserOf(book, p.productId) }));
  const boron = passes.filter(({ f }) => f.bPct > 0);
  const boronKgHa = boron.reduce((sum, { p, f }) => sum + (p.productKgHa * f.bPct) / 100, 0);
  const need =
    plan.season.plantingDate && plan.season.plantingDate > plan.season.startDate
      ? plan.season.plantingDate
      : plan.season.startDate;
  const elemental = passes
    .filter(({ f }) => f.sElementalPct > 0)
    .map(({ p }) => Math.max(0, daysBetween(p.date, need)) / 30.4);
  // Six months of rain from the first day of the season stand for the winter.
  const south = plan.field.latitudeDeg < 0;
  const winterRainMm = normalsOf(plan)
    .filter((m) => (south ? m.month >= 4 && m.month <= 9 : m.month >= 10 || m.month <= 3))
    .reduce((sum, m) => sum + m.rainMm, 0);
  const facts: SecondaryFacts = {
    cropName: crop.name,
    boronKgHa,
    boronLimitKgHa: crop.boronLimitKgHa,
    boronInSeedRow: boron.some(({ p }) => placementOf(p.placementId).withSeed),
    boronDefault: crop.boronSensitive ? 'none without soil and leaf proof' : '1-2 kg B/ha',
    boronLastYearKgHa: plan.ground.boronLastYearKgHa,
    boronSensitive: crop.boronSensitive,
    clay: textureGroup(plan.field.soilTextureId) === 'clay',
    elementalSMonths: elemental.length > 0 ? Math.min(...elemental) : null,
    autumnSulphate: passes.some(
      ({ p, f }) => f.sSulphatePct > 0 && isAutumn(p.date, plan.field.latitudeDeg),
    ),
    winterRainMm: Math.round(winterRainMm),
    sand: textureGroup(plan.field.soilTextureId) === 'sand',
  };
  return judge(secondaryRules, facts);
}
