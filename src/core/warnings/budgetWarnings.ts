import { overField, perHaSpread } from '../quantity/basis';
import type { Book } from '../book/book';
import { forageMining } from '../budget/accounts';
import { budgetRules, type BudgetFacts } from '../budget/rules';
import type { caps } from '../budget/ledger';
import type { LimitingResult } from '../budget/limiting';
import type { realisticYield } from '../budget/requirement';
import { greenManureTurn } from '../budget/residues';
import { lateN } from '../budget/uptake';
import { daysBetween } from '../quantity/calendar';
import type { Crop } from '../book/crops';
import { mineralisationOf } from '../book/organicTables';
import { legumeOf } from '../book/legumes';
import { textureGroup } from '../book/soils';
import { judge, type Warning } from '../rules/rule';
import { isAutumn, thermalTime, type SeasonCalendar } from '../lines/calendar';
import type { SoilCredits } from '../lines/creditLines';
import { dayOf } from '../lines/days';
import { chosenSchools } from '../lines/chosenSchools';
import type { Plan } from '../document/document';
import { fieldBalance } from '../lines/fieldBalance';
import { killTimingOf } from '../lines/killTiming';
import { manureReleases } from '../lines/lateManure';
import type { GroundAssessment } from '../lines/groundReading';
import type { NutrientKey, NutrientSum } from '../lines/line';
import type { OrganicCredits } from '../lines/organicLines';
import { fixes } from '../lines/fixing';
import type { Supply } from '../lines/supply';

/** What the budget has found before its rules speak. */
export interface BudgetScene {
  ground: GroundAssessment;
  credits: SoilCredits;
  organic: OrganicCredits;
  sums: Record<NutrientKey, NutrientSum>;
  supply: Supply;
  limiting: LimitingResult | null;
  realistic: ReturnType<typeof realisticYield> | null;
  caps: ReturnType<typeof caps>;
  calendar: SeasonCalendar | null;
  runDown: string | null;
}

function greenManureFacts(plan: Plan, credits: SoilCredits): BudgetFacts['greenManure'] {
  const gm = credits.greenManure;
  const { previous, season, ground } = plan;
  if (!gm || previous?.kind !== 'green_manure') return null;
  const turn = greenManureTurn({
    cnRatio: Math.min(200, Math.max(4, gm.cnRatio)),
    nLeftKgHa: Math.min(1000, gm.nLeftKgHa),
  });
  const sampled = ground.nitrateLayers.length > 0 ? ground.nitrateSampleDate : null;
  return {
    cn: gm.cnRatio,
    tieUpKgHa: turn.greatestTieUpKgHa,
    turnWeek: turn.turnWeek,
    weeksBeforePlanting:
      previous.killDate && season.plantingDate
        ? daysBetween(previous.killDate, season.plantingDate) / 7
        : null,
    killedAfterSample:
      sampled !== null && previous.killDate !== null && sampled < previous.killDate,
  };
}

/**
 * The same dressing entered as this year's and as an earlier one, or residues of a green manure
 * that was weighed already.
 */
function sameNitrogen(plan: Plan): BudgetFacts['twice'] {
  for (const [i, x] of plan.organics.entries()) {
    const y = plan.organics.find(
      (o, k) =>
        k > i && o.materialKey === x.materialKey && o.date === x.date && o.cropYear !== x.cropYear,
    );
    if (y)
      return [
        `${x.materialKey.replaceAll('_', ' ')} of ${x.date}`,
        'the same dressing of an earlier year',
      ];
  }
  if (
    plan.residue &&
    plan.previous?.kind === 'green_manure' &&
    !plan.struck.some((s) => s.line.startsWith('residue') || s.line.startsWith('green_manure'))
  )
    return ['the green manure', 'the residues left'];
  return null;
}

/** A companion legume that still stands in this season's crop. */
function companionInSeason({ previous, season }: Plan): boolean {
  if (previous?.kind !== 'legume' || legumeOf(previous.legumeKey)[0]?.useType !== 'companion')
    return false;
  return (
    season.stand.companionLegume ||
    (previous.killDate !== null &&
      season.plantingDate !== null &&
      previous.killDate > season.plantingDate)
  );
}

function trialFacts(plan: Plan, crop: Crop, sums: BudgetScene['sums']): BudgetFacts['trials'] {
  const { trials } = plan.schools;
  const price = plan.season.cropPricePerT;
  if (
    chosenSchools(plan).n !== 'economic_optimum' ||
    fixes(crop) ||
    trials.length === 0 ||
    price === null ||
    price <= 0
  )
    return null;
  return {
    atTop: sums.n.requirement >= Math.max(...trials.map((t) => t.nKgHa)),
    priceRatio: plan.farm.nPricePerKg / (price / 1000),
  };
}

/** Crops on whose roots no mycorrhiza grows, as farmers name them. */
const WITHOUT_FUNGI = /canola|rape|beet|cabbage|broccoli|cauliflower|spinach|lupin|mustard|radish/i;
const fungiLost = ({ season, previous }: Plan): string | null =>
  season.stand.afterBareFallow
    ? 'bare fallow'
    : previous?.kind === 'other' && WITHOUT_FUNGI.test(previous.cropName)
      ? previous.cropName.toLowerCase()
      : null;

function mined(book: Book, { field }: Plan): BudgetFacts['mined'] {
  if (!field.forage || field.forage.yieldsTHa.length === 0) return null;
  const m = forageMining(book, field.forage);
  return m.cautionX01
    ? { p: m.netPKgHa, k: m.netKKgHa, dropP: m.dropPClasses, dropK: m.dropKClasses }
    : null;
}

/**
 * N that will still come free after the crop should run short: organic matter, manure, late water
 * and late passes.
 */
function lateFacts(book: Book, plan: Plan, crop: Crop, a: BudgetScene): BudgetFacts['late'] {
  const { calendar, runDown } = a;
  if (!calendar || !runDown || a.sums.n.requirement <= 0) return null;
  const [down, end] = [dayOf(calendar, runDown), calendar.harvest];
  const tt = (from: number, to: number) =>
    thermalTime(calendar, Math.max(0, from), Math.max(0, to));
  const whole = tt(calendar.planting, calendar.uptakeEnd);
  const om = a.credits.lines.find((l) => l.id === 'om_mineralisation')?.n ?? 0;
  const manure = manureReleases(book, plan, calendar, down, end);
  const water = plan.irrigation
    ? (plan.irrigation.mm *
        (plan.irrigation.no3nMgL ?? 0) *
        (1 - plan.irrigation.shareBeforeRunDown)) /
      100
    : 0;
  const passes = a.supply.passes.reduce(
    (s, p) => s + (p.pass.date > runDown ? p.delivered.n : 0),
    0,
  );
  const top = calendar.uptake[calendar.uptake.length - 1] ?? 1;
  const due =
    a.sums.n.requirement *
    Math.max(0, 1 - (calendar.uptake[Math.min(down, calendar.days)] ?? 0) / (top || 1));
  const released = Math.min(
    2000,
    (whole > 0 ? (om * tt(down, end)) / whole : 0) + manure + water + passes,
  );
  const found = lateN(book, {
    cropKey: crop.key,
    releasedAfterKgHa: released,
    rootZoneNitrateKgHa: 0,
    uptakeStillDueKgHa: Math.min(2000, due),
    requirementKgHa: Math.min(2000, a.sums.n.requirement),
  });
  return {
    kgHa: found.lateNKgHa,
    share: found.share,
    stage: runDown,
    harm: found.harm ?? crop.lateNHarm,
  };
}

/**
 * N of a dressing that can leave the ground: all of a manure's; of a compost, which is made to
 * stay, what four years release.
 */
function looseN(x: OrganicCredits['assessed'][number]): number {
  const total = x.rateTHa * x.analysis.totalNKgT;
  if (!['compost', 'mulch'].includes(x.material.class)) return total;
  const m = mineralisationOf(x.material.mineralisationClass);
  return Math.min(
    total,
    x.rateTHa *
      (x.pan.mineralKeptKgT +
        x.pan.orgNKgT * Math.max(0, m.y1Frac + m.y2Frac + m.y3Frac + m.y4Frac)),
  );
}
/**
 * What is brought above what leaves with the crop, where it can be lost: a compost counts by what
 * it releases.
 */
function balances(
  book: Book,
  plan: Plan,
  crop: Crop,
  a: BudgetScene,
): { nBalance: number; pBalance: number } {
  const whole = fieldBalance(book, plan, crop, {
    supply: a.supply,
    organics: a.organic.assessed,
  });
  const held = a.organic.assessed.reduce(
    (s, x) => s + x.onField.totalNKgHa - overField(perHaSpread(looseN(x)), x.app.areaFrac),
    0,
  );
  return { nBalance: whole.surplusKgHa - held, pBalance: whole.pKgHa };
}

/** What the budget's rules look at. */
function budgetFacts(book: Book, plan: Plan, crop: Crop, a: BudgetScene): BudgetFacts {
  const { season, ground, previous } = plan;
  const legumeRow =
    previous?.kind === 'legume'
      ? legumeOf(previous.legumeKey).find(
          (r) => r.standClass === (a.credits.legume?.standClass ?? ''),
        )
      : undefined;
  const sampled = ground.nitrateLayers.length > 0;
  const sampleDate = sampled ? ground.nitrateSampleDate : null;
  const spreadBefore = sampleDate
    ? [
        // What the sheet counts only once beside the sample needs no word (chapter 7, W3.2.50).
        ...plan.organics.filter(
          (o) => o.cropYear < 2 && a.organic.assessed.some((x) => x.app.id === o.id && !x.tested),
        ),
        ...plan.passes,
      ]
        .map((e) => daysBetween(e.date, sampleDate))
        .filter((d) => d >= 0)
    : [];
  const { n, s } = a.sums;
  const { stand } = season;
  const p = a.limiting?.relativeYields.find((f) => f.factor === 'P');
  const lowest = a.limiting?.relativeYields[0];
  return {
    crop,
    yieldGoal: season.yieldGoalTHa ?? 0,
    realistic:
      a.realistic && !a.realistic.bookYield
        ? {
            mean: a.realistic.meanTHa,
            tooHigh: a.realistic.tooHigh,
            realistic: a.realistic.realisticYieldTHa,
          }
        : null,
    nitrateSampled: sampled,
    nitrateSampledToCm: a.credits.nitrate?.sampledToCm ?? null,
    nitrateAgeDays:
      sampleDate && season.plantingDate && season.plantingDate > sampleDate
        ? daysBetween(sampleDate, season.plantingDate)
        : null,
    nitrateAutumn:
      sampleDate !== null &&
      isAutumn(sampleDate, plan.field.latitudeDeg) &&
      (season.harvestDate ?? '9999') > sampleDate,
    nitrateMaxMgKg: Math.max(0, ...ground.nitrateLayers.map((l) => l.no3nMgKg)),
    manuredBeforeSampleDays: spreadBefore.length > 0 ? Math.min(...spreadBefore) : null,
    drainageMm: season.winterDrainageMm,
    texture: textureGroup(plan.field.soilTextureId),
    omPct: plan.field.omPct,
    omUsed: a.credits.omUsed,
    omCredit: a.credits.lines.find((l) => l.id === 'om_mineralisation')?.n ?? 0,
    omDepthCm: plan.field.omDepthCm,
    legume:
      previous?.kind === 'legume' && a.credits.legume
        ? {
            claimed: previous.standClass,
            derived: a.credits.legume.derivedClass,
            used: a.credits.legume.standClass,
            plants: previous.plantsM2,
            coverPct: previous.legumeCoverPct,
            removedFrac: previous.removedFracTops ?? 0,
            credit: a.credits.legume.creditKgHa,
            uncut: legumeRow ? legumeRow.creditRootsKgHa + legumeRow.creditTopsKgHa : 0,
            killTiming: killTimingOf(plan, previous),
            yearsSinceKill: previous.yearsSinceKill,
            grain: legumeOf(previous.legumeKey)[0]?.useType === 'grain_legume',
            greenManure: ['biennial_green_manure', 'annual_green_manure', 'companion'].includes(
              legumeOf(previous.legumeKey)[0]?.useType ?? '',
            ),
          }
        : null,
    requirementN: n.requirement,
    toBringN: Math.max(0, n.net),
    surplusN: Math.max(0, -n.net),
    supplyN: n.credits + n.applied + n.planned - n.debits,
    plannedN: a.supply.total.n,
    passesN: a.supply.passes.reduce((sum, q) => sum + q.delivered.n, 0),
    plannedP: a.supply.total.p,
    plannedK: a.sums.k.planned + a.sums.k.applied,
    sToBring: s.stillToApply,
    nSupplyTotal: n.credits + n.applied + n.planned,
    sSupplyTotal: s.credits + s.applied + s.planned,
    classes: a.ground.classes,
    offtakeK: crop.removalKKgT * (season.yieldGoalTHa ?? 0),
    ryP: p?.ry ?? null,
    limiting:
      a.limiting && lowest
        ? {
            factor: a.limiting.limiting,
            coLimiting: a.limiting.coLimiting,
            ry: lowest.ry,
            liebig: a.limiting.yLiebigTHa,
          }
        : null,
    ph: a.ground.ph,
    cap: { binding: a.caps.binding, allowed: a.caps.nAllowedKgHa, shortfall: a.caps.shortfallKgHa },
    fixing: fixes(crop),
    otherLimitRy: stand.otherLimitRy,
    greenManure: greenManureFacts(plan, a.credits),
    twice: sameNitrogen(plan),
    companionThisSeason: companionInSeason(plan),
    legumeInStand: stand.companionLegume || (season.legumeShare ?? 0) > 0.3,
    trials: trialFacts(plan, crop, a.sums),
    waterEarlyShare:
      plan.irrigation && plan.irrigation.mm > 0 && (plan.irrigation.no3nMgL ?? 0) > 0
        ? plan.irrigation.shareBeforeRunDown
        : null,
    waterNitrateMgL: plan.irrigation?.no3nMgL ?? null,
    firstTimeHere: stand.firstTimeHere,
    nodulesFailed: stand.nodulesFailed,
    fungiLost: fungiLost(plan),
    mined: mined(book, plan),
    late: lateFacts(book, plan, crop, a),
    ...balances(book, plan, crop, a),
    stressed: stand.stressed,
  };
}

/** What the budget's rules say about a plan. */
export const budgetWarnings = (book: Book, plan: Plan, crop: Crop, scene: BudgetScene): Warning[] =>
  judge(budgetRules, budgetFacts(book, plan, crop, scene));
