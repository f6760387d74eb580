import type { Book } from '../book/book';
import { calibrationRules } from '../organics/calibration';
import {
  decompositionKind,
  metalLoad,
  preAmendKgHa,
  releaseByCToN,
  saltLimit,
} from '../organics/compost';
import { compostRules, treeRules } from '../organics/compostRules';
import { incropFacts, inCropRules, standLoss } from '../organics/inCrop';
import { intervalsOf } from '../organics/intervals';
import { labRules } from '../organics/labRules';
import { applicationRules, historyRules, lateReleaseRules, mixRules } from '../organics/rules';
import { siteRules } from '../organics/site';
import { pBuildup } from '../organics/rates';
import { dateAfter, daysBetween, monthOf } from '../quantity/calendar';
import type { Crop } from '../book/crops';
import { spreadingMethodOf } from '../book/organicMaterials';
import {
  metalLimitOf,
  metalsOf,
  organicsParameter,
  ringRowOf,
  setbacks,
} from '../book/organicTables';
import { pScreenOf } from '../book/soilTests';
import { textureGroup } from '../book/soils';
import { inWords } from '../why/said';
import { judge, type Warning } from '../rules/rule';
import type { SeasonCalendar } from '../lines/calendar';
import { inPeriod } from '../lines/days';
import type { Plan } from '../document/document';
import { planOfftake } from '../lines/planOfftake';
import type { GroundAssessment } from '../lines/groundReading';
import type { NutrientKey, NutrientSum } from '../lines/line';
import { slipOf } from '../lines/labReading';
import { lateManure } from '../lines/lateManure';
import { doseValue } from '../lines/organicValue';
import {
  manureSchools,
  maturityOf,
  mixedIn,
  type AssessedApplication,
  type OrganicCredits,
} from '../lines/organicLines';

type Sums = Record<NutrientKey, NutrientSum>;
interface Scene {
  plan: Plan;
  crop: Crop;
  organic: OrganicCredits;
  ground: GroundAssessment;
  sums: Sums;
  calendar: SeasonCalendar | null;
  runDown: string | null;
}
const ANIMAL = ['cattle', 'pig', 'poultry', 'other_livestock', 'digestate'];
const FORECAST_REACH_D = 7;
const ASH_GAP_D = 21;
const HOURS = 24;
const MULCH_MOST_CM = 8;
/** Trees, bushes and vines: their need has a part that does not hang on the yield. */
const isWoody = (crop: Crop): boolean => crop.nBaseKgHa > 0;

const FEED_USE = /feed|silage|forage|seed|fuel/;
const SOON_D = 122;
/** What the table of intervals asks of a dressing on this crop (chapter 2, 11.1). */
function intervalFacts({ plan, crop }: Scene, { app, material }: AssessedApplication) {
  const { season, field, farm } = plan;
  // Hours until it is covered move the first day where that takes a day or more.
  const covered = app.coverings[0]?.hours ?? null;
  const from = dateAfter(app.date, covered === null ? 0 : Math.floor(covered / HOURS));
  const days = (to: string | null | undefined) => (to ? daysBetween(from, to) : null);
  const nextCut = [...season.cuts.map((c) => c.date), season.harvestDate]
    .filter((d) => d !== null && d >= app.date)
    .toSorted()[0];
  return {
    pathogenClass:
      app.records?.heatRecords === false && material.pathogenClass === 'treated_compost'
        ? 'raw_manure'
        : material.pathogenClass,
    food: crop.food && !FEED_USE.test(season.use ?? ''),
    eatenRaw: season.eatenRaw,
    touchesSoil: season.touchesSoil,
    harvestedBelow: crop.harvestedBelow,
    grazedOrCut: crop.cut || crop.grassland,
    certified: field.certification !== 'none',
    workedInSoon:
      covered !== null ||
      // Nobody said: the longer interval.
      season.plantingDate === null ||
      (daysBetween(app.date, season.plantingDate) >= 0 &&
        daysBetween(app.date, season.plantingDate) < SOON_D),
    daysToHarvest: days(season.harvestDate),
    daysToCut: days(nextCut),
    rawContactDays: farm.rawContactDays,
    rawNoContactDays: farm.rawNoContactDays,
  };
}

const SLIPS: Record<string, string> = {
  kg_t: 'kg per tonne',
  pct: 'per cent',
  mg_kg: 'mg per kg',
  lb_ton: 'lb per short ton',
  kg_m3: 'kg per m3',
  g_l: 'g per litre',
  mg_l: 'mg per litre',
  lb_1000gal: 'lb per 1000 US gallons',
  lb_1000impgal: 'lb per 1000 imperial gallons',
  lb_acin: 'lb per acre-inch',
  sheet_was_dry_basis: 'a report on dry basis',
  sheet_was_as_received: 'a report as received',
  unexplained: 'no known slip: ask the laboratory',
};
/** How an analysis stands against the book: ratios of N, P and K where both have a value. */
function labWarnings(a: AssessedApplication): Warning[] {
  const { lab, records } = a.app;
  const book = a.material;
  const slip = lab ? slipOf(lab, book) : null;
  const apart = (x: number | null | undefined, y: number | null | undefined) =>
    x != null && y != null && x + y > 0 ? (200 * Math.abs(x - y)) / (x + y) : 0;
  return judge(
    labRules,
    {
      material: book,
      analysis: a.analysis,
      labBroken: a.labBroken,
      date: lab?.date ?? null,
      ageDays: lab?.date ? daysBetween(lab.date, a.app.date) : null,
      rationChanged: records?.rationChanged ?? false,
      slip: slip?.candidates
        ? { candidate: slip.candidates.map((c) => SLIPS[c] ?? c).join(' or '), ratio: slip.ratio }
        : null,
      dryPossible: slip?.dryPossible ?? false,
      oxide: slip?.oxide ?? null,
      driedSample: lab?.report?.driedSample ?? false,
      disagreesPct: lab?.earlier
        ? Math.max(apart(lab.totalNKgT, lab.earlier.totalNKgT), apart(lab.pKgT, lab.earlier.pKgT))
        : null,
      nh4Share:
        lab?.nh4NKgT != null && a.analysis.totalNKgT > 0
          ? lab.nh4NKgT / a.analysis.totalNKgT
          : null,
      bookNh4Share: book.totalNKgT > 0 ? book.nh4NKgT / book.totalNKgT : 0,
    },
    book.name,
  );
}

const injects = (methodKey: string): boolean => spreadingMethodOf(methodKey).placed === 'injected';
function nearOf(plan: Plan, a: AssessedApplication) {
  const injected = injects(a.app.methodKey) || a.app.coverings.some((c) => c.hours <= 12);
  return plan.field.near.flatMap((n) => {
    const rows = setbacks().filter((r) => r.feature === n.feature);
    const row =
      rows.find((r) => r.situation === n.situation) ??
      rows.find((r) => (injected ? r.situation.startsWith('injected') : false)) ??
      rows[0];
    if (!row) return [];
    const need =
      plan.farm.setbacks.find((s) => s.feature === row.feature && s.situation === row.situation)
        ?.metres ?? row.defaultSetbackM;
    return n.metres < need
      ? [{ feature: row.feature.replaceAll('_', ' '), metres: n.metres, need, level: row.level }]
      : [];
  });
}

/**
 * Cu, Zn and Cd that all dressings of the year bring to a hectare of field: of their own tests,
 * else by the book. Empty where neither says anything of this material.
 */
function metalsInYear(organic: OrganicCredits, a: AssessedApplication) {
  const content = (x: AssessedApplication, metal: 'cu' | 'zn' | 'cd') =>
    x.app.records?.[`${metal}MgKgDm`] ?? metalsOf(x.material)?.[`${metal}MgKgDm`] ?? null;
  const [warn, law] = [
    metalLimitOf('default_manure_annual_warn'),
    metalLimitOf('biosolids_annual_10yr_mean_strict'),
  ];
  return (['cu', 'zn', 'cd'] as const).flatMap((metal) => {
    if (content(a, metal) === null) return [];
    const kgHa = organic.assessed.reduce(
      (sum, x) =>
        sum +
        metalLoad({
          rate: x.onField.rateTHa,
          dmPct: x.analysis.dmPct,
          mgKgDm: content(x, metal) ?? 0,
        }),
      0,
    );
    return [
      {
        name: { cu: 'Copper', zn: 'Zinc', cd: 'Cadmium' }[metal],
        kgHa,
        warn: warn[`${metal}KgHaYr`] ?? Infinity,
        limit: law[`${metal}KgHaYr`] ?? Infinity,
      },
    ];
  });
}

function applicationWarnings(book: Book, scene: Scene, a: AssessedApplication): Warning[] {
  const { plan, crop, organic, ground, sums, calendar } = scene;
  const { season, field, farm } = plan;
  const { app, material } = a;
  const olsen = ground.pTest?.extractant === 'olsen';
  const screen = ground.pTest ? pScreenOf(ground.pTest.extractant) : undefined;
  const own =
    screen && !olsen && !['mehlich_3_icp', 'bray_1'].includes(ground.pTest?.extractant ?? '');
  const offtakeP = planOfftake(book, plan, crop).offtakePKgHa;
  // Chapter 2's screens by extractant (Olsen 30 and 60, Mehlich-3 and Bray-1 50 and 100); other
  // extractants use chapter 3's.
  const pScreenAt = olsen
    ? 60
    : own
      ? screen.stopAbove
      : Number(organicsParameter('p_screen_mg_kg').default);
  const method = spreadingMethodOf(app.methodKey);
  const high = (['P', 'K'] as const).filter(
    (x) =>
      ['high', 'very_high'].includes(ground.classes[x] ?? '') &&
      (x === 'P' ? a.pTotalKgHa : a.kKgHa) > 5,
  );
  const rise =
    ground.pTest && a.pTotalKgHa - offtakeP > 10
      ? pBuildup({
          rate: a.rateTHa,
          pT: a.analysis.pKgT,
          offtake: Math.min(120, offtakeP),
          perMgKg: olsen ? 18 : 9,
          stp: Math.min(2000, ground.pTest.value),
          screen: Math.min(300, Math.max(20, pScreenAt)),
        })
      : null;
  const value = doseValue(plan, { sums, ground }, a);
  return judge(
    applicationRules,
    {
      material,
      done: app.status === 'done',
      liquid: method.group === 'liquid',
      rateTHa: a.rateTHa,
      rateM3Ha: app.rateUnit === 'm3_ha' ? app.rate : null,
      maxPracticalM3Ha: method.rateUnit === 'm3_ha' ? method.maxPracticalRate : null,
      machine: app.machine
        ? { min: app.machine.minRate, max: app.machine.maxRate, rate: app.rate }
        : null,
      nh4Share: a.analysis.totalNKgT > 0 ? a.analysis.nh4NKgT / a.analysis.totalNKgT : 0,
      tanKgHa: a.tanKgHa,
      mineralKgHa: a.mineralKgHa,
      lossFrac: a.loss.lossFrac,
      lossPlannedFrac: a.lossPlannedFrac,
      lostKgHa: a.lostKgHa,
      lostMoney: Math.round(a.lostMoney),
      plannedHours: app.plannedHours,
      coveredHours: app.coverings[0]?.hours ?? null,
      autumn: a.autumn,
      soilTempC: app.day?.soilTempC ?? null,
      soilSaturated: app.day?.ground === 'saturated',
      sandy: textureGroup(field.soilTextureId) === 'sand',
      uptakeWeeks: calendar ? (calendar.uptakeEnd - Math.max(0, calendar.planting)) / 7 : null,
      panKgHa: a.nKgHa,
      needKgHa: sums.n.requirement - sums.n.credits,
      pSuppliedKgHa: a.pTotalKgHa,
      pOfftakeKgHa: offtakeP,
      pRise:
        rise && rise.riseMgKgYr > 0
          ? { mgKgYr: rise.riseMgKgYr, yearsToScreen: rise.yearsToScreen }
          : null,
      pTest: ground.pTest?.value ?? null,
      pCautionAt: olsen
        ? 30
        : own
          ? screen.cautionAt
          : Number(organicsParameter('p_caution_mg_kg').default),
      pScreenAt,
      highClasses: [...high],
      grass: crop.grassland,
      kBalanceKgHa: sums.k.over,
      school: manureSchools(farm, material).join('; ') || null,
      manureNYearKgHa: organic.assessed
        .filter((x) => ANIMAL.includes(x.material.class))
        .reduce((s, x) => s + x.onField.totalNKgHa, 0),
      manureNLimitKgHa: ANIMAL.includes(material.class) ? farm.manureNLimitKgHa : null,
      daysToPlanting: season.plantingDate ? daysBetween(app.date, season.plantingDate) : null,
      smallSeeded: crop.smallSeeded,
      intervals: intervalsOf(intervalFacts(scene, a)),
      certified: field.certification !== 'none',
      certifierApproval: app.records?.certifierApproval ?? false,
      heatRecords: app.records?.heatRecords ?? null,
      permit: app.records?.permit ?? false,
      cropName: crop.name,
      tieUp: a.nKgHa < 0,
      closed: farm.closedPeriods.find((p) => inPeriod(app.date, p)) ?? null,
      near: nearOf(plan, a),
      metals: metalsInYear(organic, a),
      ashWithAmmonium:
        app.records?.ashOrLimeMixed === true ||
        (material.alkaline &&
          organic.assessed.some(
            (x) =>
              x.app.id !== app.id &&
              x.tanKgHa > 10 &&
              Math.abs(daysBetween(x.app.date, app.date)) < ASH_GAP_D,
          )) ||
        (material.alkaline &&
          plan.passes.some((p) => Math.abs(daysBetween(p.date, app.date)) < ASH_GAP_D)),
      touchesSeed: app.records?.touchesSeed ?? false,
      ponding: app.day?.ponding ?? false,
      windToRawCrop: app.day?.windToRawCrop ?? false,
      hoseOnRoad: app.day?.hoseOnRoad ?? false,
      dose: value && {
        costPerKgN: value.costPerKgN,
        nPrice: farm.nPricePerKg,
        netPerT: value.netPerT,
        km: value.km,
        breakevenKm: value.breakevenKm,
      },
      yieldBonusPct: app.yieldBonusPct,
    },
    material.name,
  );
}

/** The day of spreading, where it is near enough for a forecast or somebody has looked. */
function siteWarnings({ plan }: Scene, a: AssessedApplication): Warning[] {
  const { day } = a.app;
  const ahead = daysBetween(plan.asOf, a.app.date);
  const facts = {
    rain48hMm: day?.rain48hMm ?? null,
    ground: day?.ground ?? null,
    slopePct: plan.field.slopePct,
    surfaceLiquid: a.app.rateUnit === 'm3_ha' && !injects(a.app.methodKey),
    drainsOpen: (day?.drainsOpen ?? false) && spreadingMethodOf(a.app.methodKey).group === 'liquid',
  };
  const reachable =
    day !== null || (a.app.status === 'planned' && ahead >= 0 && ahead <= FORECAST_REACH_D);
  return judge(siteRules, facts, a.material.name).filter((w) => w.id !== 'S18' || reachable);
}

/** Tests beyond their stop; ammonium and nitrate are K02's, C:N is K01's where it is mixed in. */
const beyondOf = (app: AssessedApplication['app']): string[] =>
  maturityOf(app).tests.flatMap((t) =>
    t.reading === 'beyond' && !['c_to_n', 'nh4_n_mg_kg_dm', 'no3_to_nh4_ratio'].includes(t.key)
      ? [`${t.name.toLowerCase()} ${t.value} (good: ${t.good})`]
      : [],
  );

function laidWarnings(book: Book, scene: Scene, a: AssessedApplication): Warning[] {
  const { plan, crop, sums } = scene;
  const { app, material } = a;
  const { use, records } = app;
  const cToN = app.lab?.cToN ?? material.cToN;
  const offtakeP = planOfftake(book, plan, crop).offtakePKgHa;
  const mixed = mixedIn(app);
  const net =
    cToN !== null && cToN > 28
      ? releaseByCToN({
          totalN: a.analysis.totalNKgT,
          cToN: Math.min(500, cToN),
          kind: decompositionKind(material),
          nh4N: a.analysis.nh4NKgT,
          no3N: a.analysis.no3NKgT,
        })
      : 0;
  const share =
    use.kind === 'layer' ? use.layerMm / 10 / (use.layerMm / 10 + use.mixingDepthCm) : 0;
  const limit = crop.saltLimitDsM;
  const salt =
    use.kind === 'layer' && use.mixed && use.ecCompost !== null
      ? {
          ec: (use.ecSoil ?? 0.8) * (1 - share) + use.ecCompost * share,
          limit,
          sharePct: 100 * saltLimit({ limit, ecSoil: use.ecSoil ?? 0.8, ecC: use.ecCompost }),
        }
      : null;
  const ring = use.kind === 'ring' ? ringRowOf(use.plantKind, use.ageClass) : null;
  const area =
    use.kind === 'ring'
      ? Math.PI * Math.max(0.01, (use.canopyRadiusM + use.beyondM) ** 2 - use.trunkClearM ** 2)
      : null;
  const layerCm =
    use.kind === 'ring' && area !== null
      ? ((a.rateTHa * use.rowM * use.inRowM) / 10 / (area * a.densityKgM3)) * 100
      : use.kind === 'layer' && !use.mixed
        ? use.layerMm / 10
        : null;
  const compost = judge(
    compostRules,
    {
      cToN,
      mixed,
      preAmendKgHa: preAmendKgHa(net, a.rateTHa),
      nh4MgKgDm: records?.nh4MgKgDm ?? null,
      no3ToNh4: records?.no3ToNh4 ?? null,
      heapHot: records?.heapHot ?? false,
      beyond: beyondOf(app),
      sour: records?.smell === 'sour',
      compost: material.class === 'compost' || material.pathogenClass === 'treated_compost',
      bioassayScore: records?.bioassayScore ?? null,
      herbicideOpen:
        records?.herbicideAsked !== true && crop.herbicideSensitive && material.herbicideCarryover,
      pKgHa: a.pTotalKgHa,
      pYears:
        ['compost', 'mulch'].includes(material.class) && offtakeP > 0
          ? a.pTotalKgHa / offtakeP
          : null,
      salt,
      layerCm,
      maxLayerCm: ring?.maxSolidLayerCm ?? MULCH_MOST_CM,
      touchesStem: use.kind === 'ring' && use.trunkClearM < 0.05,
      clearCm: 100 * (ring?.trunkClearM ?? 0.1),
    },
    material.name,
  );
  const month = monthOf(app.date);
  const southern = plan.field.latitudeDeg < 0;
  const trees = judge(
    treeRules,
    {
      woody: isWoody(crop),
      givesN: a.nKgHa > 5,
      afterLateSummer: southern ? month >= 2 && month <= 5 : month >= 8 && month <= 11,
      dormant: use.kind === 'ring' && use.dormant,
      ring: use.kind === 'ring',
      rain48hMm: app.day?.rain48hMm ?? null,
      trunkClearM: use.kind === 'ring' ? use.trunkClearM : null,
      needClearM: ring?.trunkClearM ?? null,
      ericaceous: crop.mycorrhizal === 'ericoid',
      animalOrLimy: ANIMAL.includes(material.class) || material.ccePct > 0,
      enoughN: sums.n.asked + a.onField.nKgHa <= 0,
    },
    material.name,
  );
  return [...compost, ...trees, ...inCropWarnings(scene, a), ...machineWarnings(scene, a)];
}

function inCropWarnings({ plan, sums }: Scene, a: AssessedApplication): Warning[] {
  const { use, day } = a.app;
  if (use.kind !== 'in_crop') return [];
  const facts = incropFacts({
    crop: use.cropGroup,
    technique: use.technique,
    bbch: use.bbch,
    vStage: use.vStage,
    dmPct: a.analysis.dmPct,
    nh4Share: a.analysis.totalNKgT > 0 ? a.analysis.nh4NKgT / a.analysis.totalNKgT : null,
  });
  const loss =
    plan.season.cropPricePerT === null
      ? null
      : (standLoss({ stand: use.standLossPct, crop: use.cropGroup }) / 100) *
        (plan.season.yieldGoalTHa ?? 0) *
        plan.season.cropPricePerT;
  const used = Math.min(Math.max(0, a.nKgHa), Math.max(0, sums.n.asked + a.onField.nKgHa));
  const raw =
    plan.season.eatenRaw &&
    ['raw_manure', 'stored_manure', 'digested_mesophilic', 'biosolids_restricted'].includes(
      a.material.pathogenClass,
    );
  return judge(
    inCropRules,
    {
      ...facts,
      rawCrop: raw,
      wheelPan: use.wheelPan || day?.ground === 'saturated',
      money: loss === null ? null : { loss, worth: used * plan.farm.nPricePerKg },
      scorch:
        (day?.leavesWet === true && a.analysis.dmPct > 5) ||
        ((a.app.tempC ?? 0) > 25 && spreadingMethodOf(a.app.methodKey).placed === 'splash'),
    },
    a.material.name,
  );
}

function machineWarnings({ plan }: Scene, a: AssessedApplication): Warning[] {
  const { machine } = a.app;
  const test = machine?.calibration;
  if (!machine || !test) return [];
  return judge(
    calibrationRules,
    {
      machineKind: machine.kind,
      date: test.date,
      target: test.target,
      actual: test.actual,
      cvPct: test.cvPct,
      trays: test.trays,
      sightGlass: test.sightGlass,
      ageDays: daysBetween(test.date, a.app.status === 'done' ? a.app.date : plan.asOf),
      changed: test.materialKey !== a.material.key,
    },
    machine.name,
  );
}

/** What the rules say about one dressing. */
const ofDressing = (book: Book, scene: Scene, a: AssessedApplication): Warning[] => [
  ...labWarnings(a),
  ...applicationWarnings(book, scene, a),
  ...siteWarnings(scene, a),
  ...laidWarnings(book, scene, a),
];

/**
 * Everything that the rules of manure, compost and trees say about the dressings of this season,
 * and about what was left out.
 */
export function organicWarnings(
  book: Book,
  plan: Plan,
  crop: Crop,
  organic: OrganicCredits,
  ground: GroundAssessment,
  sums: Sums,
  calendar: SeasonCalendar | null,
  runDown: string | null,
  looked: DressingWarnings | null,
): Warning[] {
  const scene: Scene = { plan, crop, organic, ground, sums, calendar, runDown };
  const all = organic.assessed.flatMap((a) =>
    (looked?.get(a) ?? ofDressing(book, scene, a)).map((w) =>
      a.app.cropYear === 1 ? { ...w, on: a.app.date } : w,
    ),
  );
  // An estimate for what is missing: last year's usual dressing of this year's material.
  const usual = organic.assessed[0];
  const guess = usual ? usual.pan.orgNKgT * usual.rateTHa * 0.1 : 10;
  return [
    ...all,
    ...supplyWarnings(book, scene),
    ...judge(historyRules, {
      history: plan.manureHistory,
      earlierCount: organic.earlierCount,
      estimateKgHa: guess,
    }),
  ];
}

/** What the rules say of each dressing, looked at once. */
export type DressingWarnings = ReadonlyMap<AssessedApplication, readonly Warning[]>;
export const dressingWarnings = (book: Book, scene: Scene): DressingWarnings =>
  new Map(scene.organic.assessed.map((a) => [a, ofDressing(book, scene, a)]));
/**
 * Planned dressings that may not go out, by their lines on the sheet: their kilograms do not count
 * (chapter 7, W2.3 a).
 */
export function stoppedDressings(looked: DressingWarnings): Map<string, string> {
  const stopped = new Map<string, string>();
  for (const [{ app }, warnings] of looked) {
    if (app.status === 'done') continue;
    const halt = warnings.find((w) => w.takesOut);
    if (halt) stopped.set(`organic.${app.id}`, `may not go out: ${inWords(halt.message)}`);
  }
  return stopped;
}

/** What the dressings together over- and under-supply. */
function supplyWarnings(
  book: Book,
  { plan, crop, organic, sums, calendar, runDown }: Scene,
): Warning[] {
  const late = judge(lateReleaseRules, {
    late: lateManure(book, plan, crop, calendar, runDown),
  });
  if (organic.assessed.length === 0) return late;
  const overs = (['p', 'k', 's'] as const).map((x) => ({
    name: x.toUpperCase(),
    // What water and soil bring is nobody's to leave out.
    kg: Math.min(sums[x].over, sums[x].planned),
    pct:
      sums[x].requirement > 0
        ? (100 * Math.min(sums[x].over, sums[x].planned)) / sums[x].requirement
        : 0,
  }));
  return [
    ...late,
    ...judge(mixRules, {
      over: overs.reduce((m, o) => (o.pct > m.pct ? o : m), { name: 'P', kg: 0, pct: 0 }),
      short: (['n', 'p', 'k', 's'] as const)
        .filter((x) => sums[x].stillToApply > 0.5)
        .map((x) => `${x.toUpperCase()} ${Math.round(sums[x].stillToApply)}`),
    }),
  ];
}
