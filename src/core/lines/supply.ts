import type { Book } from '../book/book';
import { availablePct, deliveredBy, type PerNutrient } from '../nitrogen/product';
import { passRules, type PassFacts } from '../nitrogen/rules';
import { seedRowLimit } from '../nitrogen/seedRow';
import { stopCheck } from '../nitrogen/split';
import { stopRulesFor } from '../book/stopRules';
import { countedYield } from '../budget/requirement';
import { daysBetween } from '../quantity/calendar';
import { refuse } from '../quantity/refusal';
import { cropParamsOf } from '../book/stages';
import { soilOf } from '../book/soils';
import { doseLimit, fertiliserOf, placementOf, type Fertiliser } from '../book/fertilisers';
import { judge, type Warning } from '../rules/rule';
import { entered, fromTable, step, type Step } from '../why/step';
import { isAutumn, stageAt, type SeasonCalendar } from './calendar';
import type { LeafVerdict } from './leafVerdict';
import { dayOf, inPeriod } from './days';
import type { FertiliserPass, Plan } from '../document/document';
import { fixes, MOST_ON_NODULES } from './fixing';
import { passPrice, type PassPrice } from './prices';
import { attempt, type Problem } from './problem';

export interface AssessedPass {
  pass: FertiliserPass;
  product: Fertiliser;
  delivered: PerNutrient;
  cost: number;
  price: PassPrice;
  stageBbch: string | null;
  warnings: Warning[];
  /** Whether its kilograms count: a planned pass that may not go out brings nothing. */
  counts: boolean;
  why: Step;
}
export interface Supply {
  passes: AssessedPass[];
  /** What counts of the passes, spread and planned. */
  total: PerNutrient;
  applied: PerNutrient;
  planned: PerNutrient;
  cost: number;
}

/** Up to this share of nitrate a product in a knife or coulter band counts as ammonium. */
const MOST_NITRATE_IN_BAND = 0.3;
const nitrateShare = (f: Fertiliser): number => (f.nTotalPct > 0 ? f.nNitratePct / f.nTotalPct : 0);
/**
 * What lies beside the seed, day by day: all that is drilled with it counts together. The seedbed is
 * taken as moist; dry ground bears half.
 */
function besideSeed(
  book: Book,
  plan: Plan,
  calendar: SeasonCalendar | null,
  passes: readonly FertiliserPass[],
): Map<string, NonNullable<PassFacts['seedRow']>> {
  const cropId = calendar?.seasonCropId;
  const seedRowCropId = cropId ? cropParamsOf(cropId)?.seedRowCropId : null;
  const out = new Map<string, NonNullable<PassFacts['seedRow']>>();
  if (!seedRowCropId) return out;
  const texture = soilOf(plan.field.soilTextureId).seedRowTexture;
  const withSeed = passes.filter((p) => placementOf(p.placementId).withSeed && p.productKgHa > 0);
  for (const date of new Set(withSeed.map((p) => p.date))) {
    const products = withSeed.filter((p) => p.date === date);
    out.set(date, {
      limit: seedRowLimit(book, {
        seedRowCropId,
        rowCm: plan.season.rowCm,
        openerId: plan.season.openerId,
        texture,
        moisture: 'moist',
        products,
      }),
      ureaOnLight:
        texture === 'light' && products.some((p) => fertiliserOf(book, p.productId).nUreaPct > 0),
    });
  }
  return out;
}

/** Below this mean temperature, °C, a crop takes up next to nothing. */
const GROWS_ABOVE_C = 8;
/**
 * N that the crop that stands still takes up after a day, before the weeks are too cold, kg/ha: N
 * for a growing crop is no autumn N (agronomy corrections, l).
 */
function takenUpBeforeWinter(plan: Plan, calendar: SeasonCalendar | null, date: string): number {
  if (!calendar) return 0;
  const day = dayOf(calendar, date);
  if (day < calendar.planting) return 0;
  const { meanTempC } = calendar.clock;
  const cold = meanTempC.findIndex((t, d) => d > day && t < GROWS_ABOVE_C);
  const until = cold < 0 ? calendar.days : cold;
  const at = (d: number) => calendar.uptake[Math.min(calendar.days, Math.max(0, d))] ?? 0;
  const whole = at(calendar.days) || 1;
  const uptakeKgHa =
    calendar.crop.uptakeNKgT * countedYield(calendar.crop, plan.season.yieldGoalTHa ?? 0);
  return (uptakeKgHa * Math.max(0, at(until) - at(day))) / whole;
}

/** Uses of a season crop that have stop rules of their own. */
const usesOf = (cropId: string): string[] => stopRulesFor(cropId).map((r) => r.use);
/** Sensitivity to late N at which a late pass spoils the crop. */
const WORST = 3;
/** Weeks from a day on in which the mean of the day stays warm enough for uptake. */
function weeksAwake(calendar: SeasonCalendar, date: string): number {
  const { meanTempC } = calendar.clock;
  const from = dayOf(calendar, date);
  return meanTempC.filter((t, d) => d >= from && t >= GROWS_ABOVE_C).length / 7;
}
const daysToHarvest = ({ season }: Plan, date: string): number | null =>
  season.harvestDate && date <= season.harvestDate ? daysBetween(date, season.harvestDate) : null;

/**
 * What each fertiliser pass brings, costs and risks. A pass dated before the season is refused by
 * name.
 */
export function assessSupply(
  book: Book,
  plan: Plan,
  calendar: SeasonCalendar | null,
  leaf: LeafVerdict | null,
  runDown: string | null,
  problems: Problem[],
): Supply {
  const soil = attempt(problems, 'ground', () => soilOf(plan.field.soilTextureId));
  const splitClass = soil?.splitClass ?? 'medium';
  const known = plan.passes.flatMap(
    (pass) =>
      attempt(problems, 'supply', () => {
        const product = fertiliserOf(book, pass.productId);
        placementOf(pass.placementId);
        if (pass.date < plan.season.startDate)
          refuse(
            'inconsistent',
            'date',
            `date = ${pass.date} lies before the season, which begins on ${plan.season.startDate}.`,
            { value: pass.date, allowed: `${plan.season.startDate} or later` },
          );
        // A tree is fed until its leaves fall; what is cut or dug ends with the harvest.
        const last = calendar?.end ?? plan.season.harvestDate;
        if (last && pass.date > last)
          refuse(
            'inconsistent',
            'date',
            `date = ${pass.date} lies after ${last === plan.season.harvestDate ? 'the harvest' : 'leaf fall'} on ${last}.`,
            { value: pass.date, allowed: `up to ${last}` },
          );
        const price = passPrice(plan.farm, pass, product);
        return { pass, product, price, delivered: deliveredBy(product, pass.productKgHa) };
      }) ?? [],
  );
  const chlorideKgHa = known.reduce((s, k) => s + (k.pass.productKgHa * k.product.clPct) / 100, 0);
  const nTotal = known.reduce((s, k) => s + k.delivered.n, 0);
  const wasted =
    calendar !== null &&
    fixes(calendar.crop) &&
    !plan.season.stand.nodulesFailed &&
    nTotal > MOST_ON_NODULES;
  const largest = Math.max(0, ...known.map((k) => k.delivered.n));
  const crop = calendar?.crop;
  const seedRows = besideSeed(
    book,
    plan,
    calendar,
    known.map((k) => k.pass),
  );
  const passes = known.map(({ pass, product, price, delivered }): AssessedPass => {
    const stage = calendar ? stageAt(calendar, pass.date) : null;
    const stageBbch = stage?.bbch ?? null;
    const afterHarvest = pass.date > (plan.season.harvestDate ?? '9999');
    const placement = placementOf(pass.placementId);
    const limit = doseLimit(
      placement.kind === 'band' && nitrateShare(product) <= MOST_NITRATE_IN_BAND
        ? 'banded_ammonium'
        : 'soil_applied',
      splitClass,
    );
    const dose = placement.byDrip ? Infinity : (limit?.maxSingleDoseKgHa ?? Infinity);
    const facts: PassFacts = {
      product,
      nKgHa: delivered.n,
      leftOnSurface: placement.leftOnSurface,
      autumn:
        isAutumn(pass.date, plan.field.latitudeDeg) &&
        pass.date < (plan.season.harvestDate ?? '9999') &&
        delivered.n > takenUpBeforeWinter(plan, calendar, pass.date),
      afterHarvest:
        afterHarvest && calendar ? { weeksLeft: weeksAwake(calendar, pass.date) } : null,
      pastRunDown:
        runDown !== null && crop && !afterHarvest && pass.date > runDown
          ? { date: runDown, worst: crop.lateNSensitivity >= WORST, harm: crop.lateNHarm }
          : null,
      leafAbove:
        leaf?.n === 'above' && pass.status === 'planned'
          ? { beforeHarvest: daysToHarvest(plan, pass.date), harm: crop?.lateNHarm ?? '' }
          : null,
      winterDrainageMm: plan.season.winterDrainageMm,
      splitClass,
      maxDoseKgHa: dose,
      warnAboveKgHa: placement.byDrip ? Infinity : (limit?.warnAboveKgHa ?? Infinity),
      stop:
        stage && !afterHarvest
          ? stopCheck({
              cropId: stage.cropId,
              use: usesOf(stage.cropId).includes(plan.season.use ?? '') ? plan.season.use : null,
              bbch: stage.bbch,
              foliar: placement.onLeaf,
            })
          : null,
      stageBbch,
      cropName: crop?.name ?? 'the crop',
      cereal: crop?.stageScale === 'small_grain',
      maize: crop?.stageScale === 'maize',
      mainDressing: delivered.n === largest && delivered.n > 0,
      shareOfPlan: nTotal > 0 ? delivered.n / nTotal : 0,
      beforeSowing: stageBbch === null,
      seedRow: placement.withSeed ? (seedRows.get(pass.date) ?? null) : null,
      closedPeriod:
        product.nTotalPct > 0
          ? (plan.farm.closedPeriods.find((p) => inPeriod(pass.date, p)) ?? null)
          : null,
      chlorideKgHa,
      chlorideSensitive: calendar?.seasonCropId
        ? cropParamsOf(calendar.seasonCropId)?.chlorideSensitive === 1
        : false,
      certified:
        plan.field.certification === 'organic' || plan.field.certification === 'in_conversion',
    };
    const id = `supply.pass.${pass.id}`;
    const warnings = judge(passRules, facts, product.name).map((w) => ({ ...w, on: pass.date }));
    const pct = availablePct(product);
    return {
      pass,
      product,
      delivered,
      cost: (pass.productKgHa * price.perT) / 1000,
      price,
      stageBbch,
      warnings,
      counts:
        pass.status === 'done' ||
        !(warnings.some((w) => w.takesOut) || (wasted && delivered.n > 0)),
      why: step(id, `N of ${product.name}`, delivered.n, 'kg/ha', {
        formula: 'product x available N by weight',
        source: product.source,
        confidence: product.confidence,
        note: product.notes ?? undefined,
        inputs: [
          entered(`${id}.rate`, 'Product', pass.productKgHa, 'kg/ha'),
          fromTable(`${id}.n`, 'Available N', pct.n, '%', product),
        ],
      }),
    };
  });
  const sum = (of: readonly AssessedPass[]): PerNutrient => {
    const one = (x: keyof PerNutrient) => of.reduce((s, p) => s + p.delivered[x], 0);
    return { n: one('n'), p: one('p'), k: one('k'), s: one('s') };
  };
  const counted = passes.filter((p) => p.counts);
  return {
    passes,
    total: sum(counted),
    applied: sum(counted.filter((p) => p.pass.status === 'done')),
    planned: sum(counted.filter((p) => p.pass.status === 'planned')),
    // What may not go out is not bought either.
    cost: counted.reduce((s, p) => s + p.cost, 0),
  };
}
