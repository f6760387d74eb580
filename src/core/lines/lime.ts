import type { Book } from '../book/book';
import { limeInterval } from '../ground/acidity';
import { calciumCompare, type CalciumSchools } from '../ground/calcium';
import { cecEstimate, MG_PER_CMOL } from '../ground/cations';
import {
  byCostInTime,
  compareLime,
  isLime,
  type ComparisonInput,
  type LimeRow,
} from '../ground/limeComparison';
import { effectiveNeutralisingValue } from '../ground/limeProduct';
import { limeRequirement, type LimeRequirement } from '../ground/limeRequirement';
import { limeRules, type LimeFacts } from '../ground/limeRules';
import { phGate, phMoney } from '../ground/ph';
import { effectiveMonths } from '../ground/wetClock';
import { acidity } from '../nitrogen/product';
import { dateAfter, daysBetween, type IsoDate } from '../quantity/calendar';
import { normalsOf } from './calendar';
import { refuse } from '../quantity/refusal';
import { cropOf, crosswalkOf } from '../book/crops';
import { fertiliserOf } from '../book/fertilisers';
import { alToleranceOf, ashAlkalinityOf, limeMaterialOf } from '../book/limes';
import { targetPhOf, type TargetPh } from '../book/soilTests';
import { textureGroup } from '../book/soils';
import { judge, type Warning } from '../rules/rule';
import { step, type Step } from '../why/step';
import type { Plan } from '../document/document';
import type { LimePlan } from '../document/limeDocument';
import type { GroundAssessment } from './groundReading';
import { listed, pricePerT } from './prices';
import { attempt, type Problem } from './problem';

export interface AcidForecast {
  /** kg CaCO3/ha a year. */
  nitrogen: number;
  product: number;
  leaching: number;
  total: number;
  intervalYears: number | null;
  verdict: string;
  /** Years from the target, once the lime has worked, to the limit below which lime is advised. */
  yearsFromTarget: number | null;
  /** Lime at each visit, t ECC/ha, for a visit every four years. */
  maintenanceTHa: number;
  why: Step;
}
export interface LimeGiven {
  name: string;
  date: IsoDate;
  rateTHa: number;
  /** What it is worth as effective carbonate, t/ha. */
  eccTHa: number;
  /** What the test asks for less that, t ECC/ha, 0 or more; null where it asks for an unknown. */
  stillTHa: number | null;
}
export interface LimeAssessment {
  target: { ph: number; actBelowPh: number; maxPreferredPh: number; cropKey: string };
  requirement: LimeRequirement;
  /** Lime spread since the soil was sampled, which the test cannot show yet; null where none was. */
  given: LimeGiven | null;
  rows: LimeRow[];
  /** Candidates that are no lime, or that could not be worked out, with the reason. */
  refused: { id: string; name: string; reason: string }[];
  comparison: ComparisonInput | null;
  chosen: LimeRow | null;
  calcium: CalciumSchools | null;
  /**
   * Where the CEC of the field does not fit its clay and organic matter: its unit or its method is
   * in doubt.
   */
  cecDoubt: string | null;
  acid: AcidForecast | null;
  clock: { tEffMonths: number; started: boolean; cumMm: number; startMm: number } | null;
  latestSampleDate: IsoDate | null;
  retestDate: IsoDate | null;
  lossNow: { low: number; high: number } | null;
  warnings: Warning[];
}

/** Depth that surface lime works in, cm (chapter 3, 6.1 step 4). */
const SURFACE_CM = 5;
const SURFACE_MAX_CM = 8;
/** Crops that lime harms (chapter 3, 5.6), and one that wants less of it. */
const LOVES_ACID = ['blueberry_cranberry', 'tea'];
const ACID_LOVING = [...LOVES_ACID, 'potato_scab_risk'];
const MAINTENANCE_YEARS = 4;

/** Highest target on highly weathered ground. */
const WEATHERED_TARGET = 5.8;
/** What the farm's price list says of a lime today. */
const limePrice = ({ farm, asOf }: Pick<Plan, 'farm' | 'asOf'>, key: string): number | null => {
  const found = listed(farm.prices, key, asOf);
  return found ? attempt([], 'ground', () => pricePerT(found, null)) : null;
};
/** The lime part of a plan before anybody has opened it. */
export const blankLime = (plan: Pick<Plan, 'farm' | 'field' | 'asOf'>): LimePlan => ({
  school: 'auto',
  depthCm: plan.field.tillage === 'no_till' || plan.field.tillage === 'grass' ? SURFACE_CM : 20,
  split: true,
  onePassMaxTHa: null,
  climate: 'moist',
  weathered: false,
  labRateTHa: null,
  labReferenceEccPct: null,
  labDepthCm: null,
  rotation: [],
  targetFor: null,
  spreadDate: plan.asOf,
  candidates: [
    ['calcitic_ag', 18],
    ['calcitic_fine', 29],
    ['dolomitic_ag', 19],
  ].map(([materialKey, pricePerT], k) => ({
    id: `lime-${k + 1}`,
    materialKey: materialKey as string,
    pricePerT: limePrice(plan, materialKey as string) ?? (pricePerT as number),
    haulPerT: 9,
    spreadPerT: 8,
    analysis: null,
  })),
  chosenId: null,
  spread: null,
  calciumSchool: 'sufficiency',
  acidBooks: 'convention',
});

/**
 * The highest target among this crop and the next ones; a crop that wants acid ground must be given
 * its place by the user.
 */
function targetOf(
  book: Book,
  plan: Plan,
  lime: LimePlan,
): { row: TargetPh; cropKey: string } | null {
  const keys = [
    ...new Set([...(plan.season.cropKey ? [plan.season.cropKey] : []), ...lime.rotation]),
  ];
  const rows = keys.flatMap((cropKey) => {
    const group = crosswalkOf(book, cropKey).targetPhGroup;
    return group ? [{ cropKey, row: targetPhOf(group) }] : [];
  });
  if (rows.length === 0) return null;
  const acid = rows.filter((r) => ACID_LOVING.includes(r.row.cropGroup));
  if (acid.length > 0 && acid.length < rows.length) {
    const wanted = rows.find((r) => r.cropKey === lime.targetFor);
    if (!wanted)
      refuse(
        'missing',
        'target_for',
        `${cropOf(book, (acid[0] as { cropKey: string }).cropKey).name} wants acid ground and ${cropOf(book, (rows.find((r) => !acid.includes(r)) as { cropKey: string }).cropKey).name} does not: say which of them the lime is for.`,
        { allowed: rows.map((r) => r.cropKey).join(', ') },
      );
    return wanted;
  }
  return rows.reduce((best, r) => (r.row.targetPh > best.row.targetPh ? r : best));
}

/** Acid by leached bases, kg CaCO3/ha a year, by yearly rain (chapter 3, 7.7; low confidence). */
const leachingAcid = (rainMm: number): number => (rainMm > 800 ? 250 : rainMm >= 500 ? 100 : 0);
/**
 * Acid of a proton, kg CaCO3 per kg N, and the share of N that the crop takes up as nitrate: a
 * quarter leaches.
 */
const CYCLE_RELIEF = 3.57 * 0.75;

function acidForecast(
  book: Book,
  plan: Plan,
  lime: LimePlan,
  bc: number | null,
  ph: number,
  { ph: targetPh, actBelowPh }: LimeAssessment['target'],
): AcidForecast {
  const made = acidity(book, {
    products: plan.passes.map((p) => ({ productId: p.productId, productKgHa: p.productKgHa })),
  });
  const nKgHa = plan.passes.reduce(
    (sum, p) => sum + (p.productKgHa * fertiliserOf(book, p.productId).nTotalPct) / 100,
    0,
  );
  const cycle = lime.acidBooks === 'cycle';
  const nitrogen = cycle
    ? made.caco3KgHaIfAllNitrateLeaches - CYCLE_RELIEF * nKgHa
    : made.caco3KgHa;
  const crop = plan.season.cropKey ? cropOf(book, plan.season.cropKey) : null;
  const yieldTHa = plan.season.yieldGoalTHa ?? 0;
  const ashRow = crop?.ashProduct ? ashAlkalinityOf(crop.ashProduct) : null;
  const product = ashRow && (cycle || crop?.ashWholePlant) ? yieldTHa * ashRow.caco3EquivKgPerT : 0;
  const rain = normalsOf(plan).reduce((sum, m) => sum + m.rainMm, 0);
  const leaching = leachingAcid(rain);
  const total = nitrogen + product + leaching;
  const interval =
    bc === null || bc <= 0
      ? { value: null, verdict: 'not known without a buffering of the soil' }
      : limeInterval({ bc, ph, act: actBelowPh, load: total });
  return {
    nitrogen,
    product,
    leaching,
    total,
    intervalYears: interval.value,
    verdict: interval.verdict,
    yearsFromTarget:
      bc === null || bc <= 0
        ? null
        : limeInterval({ bc, ph: targetPh, act: actBelowPh, load: total }).value,
    maintenanceTHa: Math.max(0, (total * MAINTENANCE_YEARS) / 1000),
    why: step('acid.load', 'Acid from a year like this', total, 'kg CaCO3/ha', {
      formula: 'fertiliser + product carried off + leaching',
      source: cycle
        ? 'Helyar & Porter 1989, in Robson (ed.), Soil Acidity and Plant Growth'
        : 'Pierre 1933 Ind Eng Chem Anal Ed 5:229-234',
      school: cycle ? 'N and carbon cycle' : 'convention',
      confidence: 'low',
      note: cycle
        ? 'every product that leaves is counted'
        : 'grain is not counted: the convention holds half of the crop’s part already',
      inputs: [
        step('acid.fertiliser', 'Fertiliser planned', nitrogen, 'kg CaCO3/ha', {
          formula: cycle
            ? 'protons if all nitrate leached, less what uptake of three quarters takes back'
            : 'kg of product x acidity of the product',
        }),
        step('acid.product', 'Product carried off', product, 'kg CaCO3/ha', {
          formula: ashRow
            ? `yield goal x ${ashRow.caco3EquivKgPerT} kg/t`
            : 'no ash alkalinity for this crop in the chapter',
          source: ashRow?.source,
        }),
        step('acid.leaching', 'Leaching of bases', leaching, 'kg CaCO3/ha', {
          formula: `${Math.round(rain)} mm of rain a year`,
          source: 'consensus (chapter 3, 7.7)',
          confidence: 'low',
        }),
      ],
    }),
  };
}

const reading = (plan: Plan, nutrient: string) =>
  plan.ground.readings.find((r) => r.nutrient === nutrient && r.unit === 'mg_kg')?.value ?? null;

/**
 * A third to three times of what clay and organic matter hold is the span in which a report is
 * believed.
 */
function cecDoubt({ field: { cecCmolKg: cec, clayPct, omPct } }: Plan): string | null {
  if (cec === null || clayPct === null || omPct === null) return null;
  const expected = cecEstimate({ clayPct, omPct });
  return cec < expected / 3 || cec > expected * 3
    ? `CEC ${cec} cmol/kg, where ${clayPct} % clay and ${omPct} % organic matter hold about ${expected.toFixed(0)}: check the unit and the method.`
    : null;
}

/** Days between the lime and the nearest ammonium, urea or manure that lies on the surface. */
function daysToAmmonium(book: Book, plan: Plan, spreadDate: IsoDate | null): number | null {
  if (!spreadDate) return null;
  const ammonium = plan.passes
    .filter((p) => {
      const f = fertiliserOf(book, p.productId);
      return f.nAmmoniumPct + f.nUreaPct > 0;
    })
    .map((p) => p.date);
  const muck = plan.organics
    .filter((o) => o.cropYear < 2 && o.coverings.length === 0)
    .map((o) => o.date);
  const gaps = [...ammonium, ...muck].map((d) => Math.abs(daysBetween(spreadDate, d)));
  return gaps.length > 0 ? Math.min(...gaps) : null;
}

function comparisonOf(
  book: Book,
  plan: Plan,
  lime: LimePlan,
  needTHa: number,
  ph: number,
  target: LimeAssessment['target'],
  surface: boolean,
): ComparisonInput {
  const { season, field } = plan;
  const group = season.cropKey ? crosswalkOf(book, season.cropKey).targetPhGroup : null;
  const own = group ? phGate({ ph, crop: group, omPct: field.omPct }) : null;
  const { cropPricePerT: price, yieldGoalTHa: goal } = season;
  const sand =
    textureGroup(field.soilTextureId) === 'sand' ||
    (field.cecCmolKg !== null && field.cecCmolKg < 7);
  return {
    needTHa,
    ph,
    targetPh: target.ph,
    actBelowPh: own?.actBelowPh ?? target.actBelowPh,
    spreadDate: lime.spreadDate ?? plan.asOf,
    plantingDate: season.plantingDate,
    climate: lime.climate,
    soil: surface ? 'surface' : sand ? 'sand' : 'other',
    split: lime.split,
    onePassMaxTHa: lime.onePassMaxTHa,
    crop: group ? { group, omPct: field.omPct, yieldGoal: goal, price } : null,
  };
}

/**
 * What the first crop loses at today's pH, money per ha: by the straight slope, and by the steeper
 * table as the upper bound.
 */
function lossNow(
  book: Book,
  plan: Plan,
  ph: number,
  tableYield: number | null,
): LimeAssessment['lossNow'] {
  const { cropKey, cropPricePerT: price, yieldGoalTHa: goal } = plan.season;
  const group = cropKey ? crosswalkOf(book, cropKey).targetPhGroup : null;
  if (!group || price === null || goal === null) return null;
  const slope = phMoney({ ph, crop: group, yieldGoal: goal, price }).lossPerHa;
  const table = tableYield === null ? slope : goal * price * (1 - tableYield);
  return { low: Math.min(slope, table), high: Math.max(slope, table) };
}

/** Lime that went on after the soil was sampled is taken off what the sample asks for, once. */
function givenSince(
  book: Book,
  plan: Plan,
  { spread }: LimePlan,
  { valueTHa }: LimeRequirement,
): LimeGiven | null {
  const { sampleDate } = plan.ground;
  if (!spread || sampleDate === null || spread.date <= sampleDate) return null;
  const m = limeMaterialOf(book, spread.materialKey);
  const { ecceAsReceived } = effectiveNeutralisingValue({
    cce: m.ccePct,
    dm: m.dryMatterPct,
    p8: m.pass236mmPct,
    p20: m.pass085mmPct,
    p60: m.pass025mmPct,
  });
  const eccTHa = (spread.rateTHa * ecceAsReceived) / 100;
  return {
    name: m.name,
    date: spread.date,
    rateTHa: spread.rateTHa,
    eccTHa,
    stillTHa: valueTHa === null ? null : Math.max(0, valueTHa - eccTHa),
  };
}

/**
 * Lime for this field: how much, by every method that the report allows; which product, when, at
 * what cost; and how long it lasts. Null
 * while the pH or the crop is not known.
 */
export function assessLime(
  book: Book,
  plan: Plan,
  ground: GroundAssessment,
  tableYield: number | null,
  problems: Problem[],
): LimeAssessment | null {
  const lime = plan.lime ?? blankLime(plan);
  const { planning } = ground;
  const picked = attempt(problems, 'ground', () => targetOf(book, plan, lime));
  if (!planning || !picked) return null;
  const gate = phGate({ ph: planning.ph, crop: picked.row.cropGroup, omPct: plan.field.omPct });
  const target = {
    // On weathered ground lime takes aluminium away; more of it does harm (chapter 7, W2.3 h).
    ph: lime.weathered ? Math.min(WEATHERED_TARGET, gate.targetPh) : gate.targetPh,
    actBelowPh: gate.actBelowPh,
    maxPreferredPh: gate.maxPreferredPh,
    cropKey: picked.cropKey,
  };
  const acidLoving = LOVES_ACID.includes(picked.row.cropGroup);
  const tooAcid = planning.ph < target.actBelowPh;
  const surface = lime.depthCm <= SURFACE_MAX_CM;
  const [ca, mg] = [reading(plan, 'ca'), reading(plan, 'mg')];
  const requirement = attempt(problems, 'ground', () =>
    limeRequirement({
      ph: planning.ph,
      // An acid-loving crop gets no lime within its range; below it the laboratory's alone.
      targetPh: acidLoving && !tooAcid ? Math.min(target.ph, planning.ph) : target.ph,
      maxPreferredPh: target.maxPreferredPh,
      actBelowPh: target.actBelowPh,
      school: acidLoving && tooAcid ? 'lab' : lime.school,
      soilTextureId: plan.field.soilTextureId,
      omPct: plan.field.omPct,
      clayPct: plan.field.clayPct,
      bulkDensityGCm3: null,
      bufferKind: plan.ground.bufferKind,
      bufferPh: plan.ground.bufferPh,
      lab:
        lime.labRateTHa === null
          ? null
          : {
              rateTHa: lime.labRateTHa,
              referenceEccPct: lime.labReferenceEccPct,
              depthCm: lime.labDepthCm,
            },
      aluminium:
        plan.ground.alCmolKg === null
          ? null
          : {
              alCmolKg: plan.ground.alCmolKg,
              caCmolKg: ca === null ? null : ca / MG_PER_CMOL.ca,
              mgCmolKg: mg === null ? null : mg / MG_PER_CMOL.mg,
              rasPct:
                alToleranceOf(plan.season.cropKey, crosswalkOf(book, target.cropKey).targetPhGroup)
                  ?.rasAlSatPct ?? null,
            },
      weathered: lime.weathered,
      depthCm: lime.depthCm,
    }),
  );
  if (!requirement) return null;
  const given = attempt(problems, 'ground', () => givenSince(book, plan, lime, requirement));
  const needTHa = given?.stillTHa ?? requirement.valueTHa ?? 0;
  const comparison =
    needTHa > 0 ? comparisonOf(book, plan, lime, needTHa, planning.ph, target, surface) : null;
  const rows: LimeRow[] = [];
  const refused: LimeAssessment['refused'] = [];
  for (const c of lime.candidates) {
    const name = limeMaterialOf(book, c.materialKey).name;
    if (!isLime(book, c)) {
      refused.push({ id: c.id, name, reason: 'Not a lime: its anion takes up no acid.' });
      continue;
    }
    if (!comparison) continue;
    const own: Problem[] = [];
    const row = attempt(own, 'ground', () => compareLime(book, c, comparison));
    if (row) rows.push(row);
    else refused.push({ id: c.id, name, reason: own[0]?.message ?? '' });
  }
  rows.sort(byCostInTime);
  const chosen = rows.find((r) => r.candidate.id === lime.chosenId) ?? null;
  const clock = lime.spread
    ? attempt(problems, 'ground', () =>
        effectiveMonths({
          records: lime.spread?.records ?? [],
          moist: lime.spread?.soilMoist ?? false,
        }),
      )
    : null;
  const acid = attempt(problems, 'ground', () =>
    acidForecast(book, plan, lime, requirement.bcTHaPh, planning.ph, target),
  );
  const k = reading(plan, 'k');
  const calcium =
    ca !== null && mg !== null && k !== null && plan.field.cecCmolKg !== null
      ? attempt([], 'ground', () =>
          calciumCompare({
            ca,
            mg,
            k,
            cec: plan.field.cecCmolKg as number,
            ph: planning.ph,
            sand: textureGroup(plan.field.soilTextureId) === 'sand',
            caPctOfLime: chosen && chosen.material.caPctDry > 0 ? chosen.material.caPctDry : null,
          }),
        )
      : null;
  return {
    target,
    requirement,
    given,
    rows,
    refused,
    comparison,
    chosen,
    calcium,
    cecDoubt: cecDoubt(plan),
    acid,
    clock,
    // Without a known product the chapter's half year stands for the lime.
    latestSampleDate: plan.season.plantingDate
      ? dateAfter(
          plan.season.plantingDate,
          -((requirement.word === 'need' ? (chosen?.leadDays ?? 180) : 0) + 14 + 10),
        )
      : null,
    retestDate: lime.spread
      ? dateAfter(lime.spread.date, 365)
      : chosen && lime.spreadDate
        ? dateAfter(lime.spreadDate, 365)
        : null,
    lossNow: lossNow(book, plan, planning.ph, tableYield),
    warnings: judge(
      limeRules,
      limeFacts(book, plan, lime, {
        requirement,
        stillTHa: given?.stillTHa ?? requirement.valueTHa,
        rows,
        refused,
        chosen,
        clock,
        acid,
        surface,
        ph: planning.ph,
        maxPassTHa: comparison ? ((chosen ?? rows[0])?.maxPassTHa ?? null) : null,
        calcium,
      }),
    ),
  };
}

function limeFacts(
  book: Book,
  plan: Plan,
  lime: LimePlan,
  a: {
    requirement: LimeRequirement;
    /** What is still to give of it, t ECC/ha. */
    stillTHa: number | null;
    rows: LimeRow[];
    refused: LimeAssessment['refused'];
    chosen: LimeRow | null;
    clock: LimeAssessment['clock'];
    acid: AcidForecast | null;
    surface: boolean;
    ph: number;
    maxPassTHa: number | null;
    calcium: CalciumSchools | null;
  },
): LimeFacts {
  const { requirement, rows, chosen, clock, acid } = a;
  const figures = requirement.methods.flatMap((m) =>
    m.valueTHa !== null && m.valueTHa > 0.05 ? [m.valueTHa] : [],
  );
  const late =
    requirement.word === 'need' && rows.length > 0 && rows.every((r) => r.inTime === false)
      ? rows.reduce((best, r) => ((r.phAtPlanting ?? 0) > (best.phAtPlanting ?? 0) ? r : best))
      : null;
  const picked = lime.candidates.find((c) => c.id === lime.chosenId);
  const material = picked ? limeMaterialOf(book, picked.materialKey) : null;
  const passes = (chosen ?? rows[0])?.passes ?? 1;
  const sulphate = plan.passes.filter((p) => fertiliserOf(book, p.productId).ammoniumSulphate);
  const sulphateN = sulphate.reduce(
    (sum, p) => sum + (p.productKgHa * fertiliserOf(book, p.productId).nTotalPct) / 100,
    0,
  );
  return {
    ph: a.ph,
    needTHa: a.stillTHa,
    limeWanted:
      (requirement.word === 'need' || requirement.word === 'optional') && a.stillTHa !== 0,
    surface: a.surface,
    passTHa: requirement.word !== 'need' || a.stillTHa === null ? null : a.stillTHa / passes,
    maxPassTHa: a.maxPassTHa,
    disagreement:
      figures.length > 1 && requirement.word !== 'none'
        ? { low: Math.min(...figures), high: Math.max(...figures) }
        : null,
    tooLate:
      late?.phAtPlanting != null && plan.season.plantingDate
        ? { product: late.material.name, ph: late.phAtPlanting, date: plan.season.plantingDate }
        : null,
    chosen:
      material && picked
        ? {
            name: material.name,
            gypsum: material.isLime === 'no',
            bookValue: picked.analysis === null,
            cceMin: material.cceMin,
            cceMax: material.cceMax,
            caustic: material.anion === 'oxide' || material.anion === 'hydroxide',
          }
        : null,
    daysToAmmonium: daysToAmmonium(book, plan, lime.spreadDate),
    spread:
      lime.spread && clock
        ? {
            date: lime.spread.date,
            daysAgo: daysBetween(lime.spread.date, plan.asOf),
            started: clock.started,
            cumMm: clock.cumMm,
            startMm: clock.startMm,
            retested:
              plan.ground.sampleDate !== null &&
              daysBetween(lime.spread.date, plan.ground.sampleDate) >= 270,
          }
        : null,
    forCalciumOnly:
      lime.calciumSchool === 'base_saturation' &&
      (a.calcium?.bcsrShortKgHa ?? 0) > 0 &&
      requirement.word === 'none',
    ammoniumSulphateN: sulphateN,
    ammoniumSulphateAcid:
      sulphate.length > 0
        ? acidity(book, {
            products: sulphate.map((p) => ({ productId: p.productId, productKgHa: p.productKgHa })),
          }).caco3KgHa
        : 0,
    intervalYears: acid?.intervalYears ?? null,
  };
}
