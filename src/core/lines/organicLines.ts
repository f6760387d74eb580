import { joined, said, type Said } from '../why/said';
import type { Book } from '../book/book';
import { LINE_ERROR } from '../budget/ledger';
import {
  ammoniaLoss,
  ammoniaLossByTable,
  isTillage,
  lateIncorporationCost,
  type AmmoniaLoss,
} from '../organics/ammonia';
import { labCheck } from '../organics/laboratory';
import {
  analysisOf,
  nPctDmRelease,
  overwinterKept,
  pCredit,
  plantAvailableN,
  residualCredit,
  type Analysis,
  type PlantAvailableN,
} from '../organics/release';
import { compostMaturity, type Maturity } from '../organics/maturity';
import { WARMTH_FACTOR } from '../organics/schools';
import { overField, perHaSpread, type PerHaField, type PerHaSpread } from '../quantity/basis';
import { within } from '../quantity/range';
import { refuse } from '../quantity/refusal';
import { cropOf, type Crop } from '../book/crops';
import { isLiquid, materialOf, spreadingMethodOf, type Material } from '../book/organicMaterials';
import { mineralisationOf } from '../book/organicTables';
import { textureGroup } from '../book/soils';
import { entered, step, type Step } from '../why/step';
import {
  degreesBeforeDrainage,
  isAutumn,
  normalDegrees,
  thermalTime,
  type SeasonCalendar,
  normalsOf,
} from './calendar';
import { dayOf } from './days';
import type { OrganicApplication, Plan } from '../document/document';
import type { GroundAssessment } from './groundReading';
import type { LedgerLine } from './line';
import { attempt, type Problem } from './problem';
import { bySchool } from './schoolCredit';

/** Refuses a date that the crop of this season no longer sees. */
function checkDate(plan: Plan, app: OrganicApplication): void {
  const { harvestDate } = plan.season;
  if (app.cropYear === 1 && harvestDate && app.date > harvestDate)
    refuse(
      'inconsistent',
      'date',
      `date = ${app.date}: this dressing comes after the harvest of ${harvestDate}; give it to the next crop, or correct the date.`,
      { value: app.date, allowed: `up to ${harvestDate}` },
    );
}

/**
 * One dressing of this season. Its figures are per hectare that is spread; the sheet takes them
 * over the whole field.
 */
export interface AssessedApplication {
  app: OrganicApplication;
  material: Material;
  analysis: Analysis;
  labBroken: string[];
  rateTHa: PerHaSpread;
  densityKgM3: number;
  autumn: boolean;
  loss: Pick<AmmoniaLoss, 'lossFrac' | 'retainedFrac' | 'why'>;
  lossPlannedFrac: number;
  lostKgHa: number;
  lostMoney: number;
  pan: PlantAvailableN;
  tanKgHa: PerHaSpread;
  mineralKgHa: PerHaSpread;
  organicKgHa: PerHaSpread;
  nKgHa: PerHaSpread;
  pKgHa: PerHaSpread;
  pTotalKgHa: PerHaSpread;
  kKgHa: PerHaSpread;
  sKgHa: PerHaSpread;
  /** The same as the mean over the field: what sums, loads, balances and yearly limits count. */
  onField: {
    rateTHa: PerHaField;
    nKgHa: PerHaField;
    pKgHa: PerHaField;
    kKgHa: PerHaField;
    sKgHa: PerHaField;
    totalNKgHa: PerHaField;
  };
  winterTakes: { k: number; s: number };
  /** A nitrate test taken since holds part of its N. */
  tested: boolean;
}

/** Of the laboratory's sheet, else of the book. */
const densityOf = (app: OrganicApplication, material: Material): number =>
  app.lab?.report?.densityKgM3 ?? material.densityKgM3;
const rateInTonnes = (app: OrganicApplication, material: Material): PerHaSpread => {
  const liquid = isLiquid(material);
  const spread = within('rate', app.rate, {
    label: 'Rate',
    unit: app.rateUnit === 'm3_ha' ? 'm3/ha' : 't/ha',
    min: 0,
    max: 400,
  });
  if (app.rateUnit === 'm3_ha' && !liquid && material.physicalForm !== 'semi_solid')
    refuse('inconsistent', 'rate_unit', `${material.name} is weighed, not pumped: give t/ha.`, {
      value: app.rateUnit,
      allowed: 't_ha',
    });
  return perHaSpread(
    app.rateUnit === 'm3_ha' ? (spread * densityOf(app, material)) / 1000 : spread,
  );
};
/** Tonnes per hectare of field of a dressing. */
export const rateOnField = (app: OrganicApplication, material: Material): PerHaField =>
  overField(rateInTonnes(app, material), app.areaFrac);

/** What decides how much of a dressing's ammonium goes to the air, but for its covering. */
const applicationWeather = (
  plan: Plan,
  app: OrganicApplication,
  material: Material,
  analysis: Analysis,
) => ({
  dmPct: analysis.dmPct,
  tempC: app.tempC,
  windMS: app.windMS,
  soil: app.soil,
  cover: app.cover,
  klass: material.class,
  acidified: app.acidified,
  materialPh: app.materialPh,
  saltBound: ['none', 'hydrolysate', 'vinasse'].includes(material.mineralisationClass),
  soilPh: plan.ground.phWater,
});
const INHIBITOR_KEEPS = 0.15;
const MEAL_SAFE_HOURS = 72;
/**
 * Uptake that ends within so many days of spreading is too short for a season's share of organic N
 * (chapter 2, 4.3).
 */
const SHORT_SEASON_D = 100;
function shortClock(app: OrganicApplication, calendar: SeasonCalendar | null): number | null {
  if (!calendar || app.cropYear !== 1) return null;
  const spreadOn = dayOf(calendar, app.date);
  const days = calendar.uptakeEnd - spreadOn;
  return days > 0 && (days < SHORT_SEASON_D || app.use.kind === 'in_crop') && spreadOn >= 0
    ? thermalTime(calendar, spreadOn, calendar.uptakeEnd)
    : null;
}
/**
 * Whether a dressing is worked into the soil: a layer says so itself, else some tillage must cover
 * it. What stays on top is a mulch.
 */
export const mixedIn = (app: OrganicApplication): boolean =>
  app.use.kind === 'layer'
    ? app.use.mixed
    : app.coverings.some((c) => isTillage(c.kind)) ||
      ['injected', 'covered_band'].includes(spreadingMethodOf(app.methodKey).placed);

/**
 * What the tests on file say of a compost: C:N and pH from its analysis, the rest from its
 * records.
 */
export const maturityOf = ({ lab, records, materialPh }: OrganicApplication): Maturity =>
  compostMaturity({
    tests: {
      c_to_n: lab?.cToN ?? null,
      ph: materialPh,
      nh4_n_mg_kg_dm: records?.nh4MgKgDm ?? null,
      no3_to_nh4_ratio: records?.no3ToNh4 ?? null,
      self_heat_rise_c: records?.selfHeatRiseC ?? null,
      o2_uptake_mmol_kg_h: records?.o2UptakeMmolKgH ?? null,
      co2_mg_g_om_d: records?.co2MgGD ?? null,
      cress_germination_pct: records?.cressPct ?? null,
      ec_ds_m_1_5: records?.ecDsM15 ?? null,
      glass_plastic_pct_dm: records?.glassPctDm ?? null,
    },
    smell: records?.smell,
  });

/**
 * Degree-days from the dressing to a nitrate test that the sheet counts; null where no such test
 * followed.
 */
function testedAfter(plan: Plan, app: OrganicApplication): number | null {
  const { nitrateSampleDate: on, nitrateLayers } = plan.ground;
  const deepEnough = Math.max(0, ...nitrateLayers.map((l) => l.bottomCm)) >= 25;
  if (
    on === null ||
    !deepEnough ||
    on < app.date ||
    app.cropYear !== 1 ||
    plan.struck.some((s) => s.line === 'soil_nitrate')
  )
    return null;
  return Math.min(12_000, normalDegrees(normalsOf(plan), app.date, on));
}

/** A farm that reckons by another school sees its figure, with the two pools behind it. */
function farmSchool(
  { farm }: Plan,
  material: Material,
  pan: PlantAvailableN,
  analysis: Analysis,
): PlantAvailableN {
  const other = (
    panKgT: number,
    label: string,
    formula: string,
    school: string,
    source: string,
  ): PlantAvailableN => ({
    ...pan,
    panKgT,
    why: step('organics.pan.school', label, panKgT, 'kg/t', {
      formula,
      school,
      source,
      confidence: 'low',
      note: `By two pools it would be ${pan.panKgT.toFixed(2)} kg/t.`,
      inputs: [pan.why],
    }),
  });
  const pct = farm.manureNSharePct;
  if (pct !== null)
    return other(
      (analysis.totalNKgT * pct) / 100,
      'Available N by one share',
      `total N x ${pct} %`,
      SCHOOL_WORDS.share,
      'entered for the farm',
    );
  if (!byDryMatterN(farm, material)) return pan;
  const release = nPctDmRelease({ totalN: analysis.totalNKgT, dmPct: analysis.dmPct });
  return other(
    (analysis.totalNKgT * release) / 100,
    'Available N by the N of the dry matter',
    `total N x ${release.toFixed(0)} %: 15 x N of dry matter - 15, between 0 and 75`,
    SCHOOL_WORDS.dry_matter_n,
    'chapter 2, 4.3 (ii)',
  );
}
const SCHOOL_WORDS = {
  share: 'one share of total N',
  dry_matter_n: 'season release by the N of the dry matter',
  simple_table: 'simple table, no weather',
  full_credit: 'all P and K in the first year',
} as const;
/** The dry-matter school is for solids; a slurry keeps its two pools. */
const byDryMatterN = (farm: Plan['farm'], material: Material): boolean =>
  farm.manureNSchool === 'dry_matter_n' && !isLiquid(material);
/** Other schools than the defaults that a dressing is reckoned by, in words (rule N09). */
export const manureSchools = (farm: Plan['farm'], material: Material): string[] => [
  ...(farm.manureNSharePct !== null
    ? [SCHOOL_WORDS.share]
    : byDryMatterN(farm, material)
      ? [SCHOOL_WORDS.dry_matter_n]
      : []),
  ...(farm.ammoniaSchool === 'simple_table' ? [SCHOOL_WORDS.simple_table] : []),
  ...(farm.manurePkSchool === 'full_credit' ? [SCHOOL_WORDS.full_credit] : []),
];

/** Loss of ammonia by the farm's school. */
export const ammoniaBySchool = (
  plan: Plan,
  app: OrganicApplication,
  material: Material,
  analysis: Analysis,
  method: string,
  coverings: OrganicApplication['coverings'],
) =>
  plan.farm.ammoniaSchool === 'simple_table'
    ? ammoniaLossByTable({ method, dmPct: analysis.dmPct, coverings })
    : ammoniaLoss({ ...applicationWeather(plan, app, material, analysis), method, coverings });

/**
 * K and S of an autumn dressing that the winter takes off light or wet land (chapter 2, 5.1 and
 * 5.2).
 */
function winterTakes(plan: Plan, autumn: boolean): { k: number; s: number } {
  const sand = textureGroup(plan.field.soilTextureId) === 'sand';
  const { winterDrainageMm } = plan.season;
  return {
    k: autumn && sand && winterDrainageMm > 150 ? 0.7 : 1,
    s: autumn && (sand || winterDrainageMm > 250) ? 0.5 : 1,
  };
}

/** "Sheep manure on straw, 25 t/ha", and on how much of the field. */
function dressingLabel(name: string, { rate, rateUnit }: OrganicApplication, share: number): Said {
  const rated = rateUnit === 'm3_ha' ? said`${name}, ${rate} m3/ha` : said`${name}, ${rate} t/ha`;
  return share === 1
    ? rated
    : joined([rated, said`${Math.round(share * 100)} % of the field`], ' on ');
}

/** What one application of this season brings to the crop, and what it loses on the way. */
function assessApplication(
  book: Book,
  plan: Plan,
  app: OrganicApplication,
  ground: GroundAssessment,
  calendar: SeasonCalendar | null,
): AssessedApplication {
  checkDate(plan, app);
  const material = materialOf(book, app.materialKey);
  const method = spreadingMethodOf(app.methodKey);
  const liquid = isLiquid(material);
  if (liquid !== (method.group === 'liquid'))
    refuse(
      'inconsistent',
      'method',
      `${method.name} does not suit ${material.name}: ${liquid ? 'it will run off a solid spreader' : 'it will not pump'}.`,
      { value: app.methodKey },
    );
  const rateTHa = rateInTonnes(app, material);
  const analysis = analysisOf(material, app.lab);
  const labBroken = labCheck({
    totalN: analysis.totalNKgT,
    nh4: analysis.nh4NKgT,
    no3: analysis.no3NKgT,
    p: analysis.pKgT,
    k: analysis.kKgT,
    s: analysis.sKgT,
    dmPct: analysis.dmPct,
    form: material.physicalForm,
  });
  const lossWith = (coverings: OrganicApplication['coverings']) =>
    ammoniaBySchool(plan, app, material, analysis, app.methodKey, coverings);
  const loss = lossWith(app.coverings);
  // What the plan meant to lose: the same covering at the planned hour.
  const plannedCover =
    app.plannedHours === null
      ? app.coverings
      : [
          {
            kind: app.coverings[0]?.kind ?? 'disc_or_cultivator_10_15_cm',
            hours: app.plannedHours,
          },
        ];
  const lossPlannedFrac =
    app.status === 'done' && app.plannedHours !== null
      ? lossWith(plannedCover).lossFrac
      : loss.lossFrac;
  const { season, farm, field } = plan;
  const autumn =
    isAutumn(app.date, field.latitudeDeg) &&
    app.cropYear === 1 &&
    (season.harvestDate ?? '9999') > app.date;
  const winter = overwinterKept(
    textureGroup(field.soilTextureId),
    season.winterDrainageMm,
    season.stand.winterCover ||
      (season.cropKey !== null && cropOf(book, season.cropKey).winterN === 'canola'),
  );
  const kept = winter?.retainedMineralNFrac ?? 0.6;
  // With an inhibitor in cool soil more ammonium waits for spring (4.2).
  const ow =
    app.day?.inhibitor && (app.day.soilTempC ?? 99) < 10
      ? Math.max(kept, Math.min(0.95, kept + INHIBITOR_KEEPS))
      : kept;
  const onSurface = !app.coverings.some((c) => c.hours <= MEAL_SAFE_HOURS);
  const ttEnd = shortClock(app, calendar);
  const warmth = WARMTH_FACTOR[farm.soilWarmth];
  const found = plantAvailableN(book, {
    mat: app.materialKey,
    retainedFrac: loss.retainedFrac,
    lab: app.lab,
    season: autumn ? 'autumn' : 'spring',
    ow: autumn ? ow : null,
    ttPre: autumn ? degreesBeforeDrainage(app.date, field.latitudeDeg) : null,
    ttEnd,
    climateFactor: ttEnd === null && warmth !== 1 ? warmth : null,
    mealOnSurface: onSurface,
    onSurface: !mixedIn(app),
    immature: maturityOf(app).verdict === 'immature',
    sampleTt: testedAfter(plan, app),
    inhibitor: app.day?.inhibitor ?? false,
  });
  const pan = farmSchool(plan, material, found, analysis);
  const klass = mineralisationOf(material.mineralisationClass);
  const quick = (x: 'P' | 'K') =>
    farm.manurePkSchool === 'by_soil_test' &&
    ['very_low', 'low'].includes(ground.classes[x] ?? 'unknown');
  const p = pCredit({
    rate: rateTHa,
    pT: analysis.pKgT,
    klass: material.mineralisationClass,
    belowCritical: quick('P'),
    soilPh: plan.ground.phWater,
    nutrient: 'p',
  });
  const k = pCredit({
    rate: rateTHa,
    pT: analysis.kKgT,
    klass: material.mineralisationClass,
    belowCritical: quick('K'),
    nutrient: 'k',
  });
  const takes = winterTakes(plan, autumn);
  const late =
    lossPlannedFrac < loss.lossFrac
      ? lateIncorporationCost({
          tan: pan.tanKgT,
          rate: rateTHa,
          lossPlanned: lossPlannedFrac,
          lossActual: loss.lossFrac,
          priceN: farm.nPricePerKg,
        })
      : { lostKgHa: 0, lostMoneyHa: 0 };
  const given = {
    nKgHa: perHaSpread(pan.panKgT * rateTHa),
    pKgHa: perHaSpread(p.creditKgHa),
    kKgHa: perHaSpread(k.creditKgHa * takes.k),
    sKgHa: perHaSpread(rateTHa * analysis.sKgT * klass.sY1Frac * takes.s),
  };
  return {
    app,
    material,
    analysis,
    labBroken,
    rateTHa,
    densityKgM3: densityOf(app, material),
    autumn,
    loss,
    lossPlannedFrac,
    lostKgHa: late.lostKgHa,
    lostMoney: late.lostMoneyHa,
    pan,
    tanKgHa: perHaSpread(pan.tanKgT * rateTHa),
    mineralKgHa: perHaSpread(pan.mineralKeptKgT * rateTHa),
    organicKgHa: perHaSpread(pan.orgNKgT * pan.y1Eff * rateTHa),
    ...given,
    pTotalKgHa: perHaSpread(p.balanceKgHa),
    onField: {
      rateTHa: overField(rateTHa, app.areaFrac),
      nKgHa: overField(given.nKgHa, app.areaFrac),
      pKgHa: overField(given.pKgHa, app.areaFrac),
      kKgHa: overField(given.kKgHa, app.areaFrac),
      sKgHa: overField(given.sKgHa, app.areaFrac),
      totalNKgHa: overField(perHaSpread(rateTHa * analysis.totalNKgT), app.areaFrac),
    },
    winterTakes: takes,
    tested: found.tested,
  };
}

const coverWords = (app: OrganicApplication): string => {
  const first = app.coverings[0];
  return first
    ? `${first.kind
        .replace('_inversion', 'ed in')
        .replaceAll('_', ' ')
        .replace(/^plough ed/, 'ploughed')
        .replace(/^disc or.*$/, 'disced in')} after ${first.hours} h`
    : 'not worked in';
};

const spreadOrPlanned = (app: OrganicApplication): 'applied' | 'planned' =>
  app.status === 'done' ? 'applied' : 'planned';

function thisSeasonLine(a: AssessedApplication): LedgerLine {
  const { app, material } = a;
  const origin = a.analysis.fromBook.includes('N') ? 'book value' : 'laboratory';
  const share = app.areaFrac;
  const part = (id: string): Step[] =>
    share === 1 ? [] : [entered(`${id}.share`, 'Share of the field spread', share, 'share')];
  const rate = (id: string): Step[] => [
    entered(
      `${id}.rate`,
      'Rate',
      app.rate,
      app.rateUnit === 'm3_ha' ? 'm3/ha' : 't/ha',
      app.rateUnit === 'm3_ha'
        ? `${a.rateTHa.toFixed(1)} t/ha at ${a.densityKgM3} kg/m3`
        : undefined,
    ),
    ...part(id),
  ];
  const times = share === 1 ? 'rate' : 'rate x share of the field';
  const winter = (x: 'p' | 'k' | 's') => (x === 'p' ? 1 : a.winterTakes[x]);
  const plain = (
    x: 'p' | 'k' | 's',
    label: string,
    value: number,
    content: number,
    formula: string,
  ) => {
    const id = `applied.organic.${app.id}.${x}`;
    return step(id, label, value * share, 'kg/ha', {
      formula: `${times} x ${formula}${winter(x) === 1 ? '' : ` x ${winter(x)}: an autumn dressing, and the winter drains`}`,
      source: 'chapter 2, section 5',
      confidence: origin === 'laboratory' ? 'medium' : 'low',
      inputs: [
        ...rate(id),
        step(`${id}.content`, `${label} content`, content, 'kg/t', {
          source: a.analysis.fromBook.includes(x.toUpperCase()) ? 'book value' : 'laboratory',
        }),
      ],
    });
  };
  const id = `applied.organic.${app.id}.n`;
  return {
    id: `organic.${app.id}`,
    label: dressingLabel(material.name, app, share),
    detail: `${app.status === 'done' ? 'spread' : 'planned'}, ${coverWords(app)}${a.tested ? '; the nitrate test holds part of it' : ''}`,
    kind: a.nKgHa < 0 ? 'debit' : spreadOrPlanned(app),
    evidence: origin === 'laboratory' ? 'laboratory' : 'table',
    date: app.date,
    n: Math.abs(a.nKgHa * share),
    p: a.pKgHa * share,
    k: a.kKgHa * share,
    s: a.sKgHa * share,
    error: origin === 'laboratory' ? LINE_ERROR.manure_lab : LINE_ERROR.manure_book,
    struck: null,
    why: {
      n: step(id, `Available N of ${material.name}`, a.nKgHa * share, 'kg/ha', {
        formula: `${times} x plant-available N per tonne`,
        confidence: origin === 'laboratory' ? 'medium' : 'low',
        source: origin,
        inputs: [...rate(id), a.pan.why, a.loss.why],
      }),
      p: plain(
        'p',
        'P',
        a.pKgHa,
        a.analysis.pKgT,
        'content; only the first-year share where the soil test is low',
      ),
      k: plain(
        'k',
        'K',
        a.kKgHa,
        a.analysis.kKgT,
        'content; only the first-year share where the soil test is low',
      ),
      s: plain('s', 'S', a.sKgHa, a.analysis.sKgT, 'content x first-year share'),
    },
  };
}

export interface OrganicCredits {
  lines: LedgerLine[];
  assessed: AssessedApplication[];
  earlierCount: number;
}
/** S that manure of years 2 and 3 still gives, as a share of all its S (chapter 2, 5.2). */
const S_LATER_YEARS = 0.05;

/**
 * Manure and compost of this season (applied) and of earlier years (a credit). A material that ties
 * N up is a debit.
 */
export function organicLines(
  book: Book,
  plan: Plan,
  crop: Crop,
  ground: GroundAssessment,
  calendar: SeasonCalendar | null,
  setBy: 'school' | 'leaf',
  problems: Problem[],
): OrganicCredits {
  const now = plan.organics.filter((a) => a.cropYear < 2);
  const earlier = plan.organics.filter((a) => a.cropYear >= 2);
  const assessed = now.flatMap(
    (app) =>
      attempt(problems, 'budget', () => assessApplication(book, plan, app, ground, calendar)) ?? [],
  );
  const lines = assessed.flatMap((a): LedgerLine[] => {
    const line = thisSeasonLine(a);
    if (line.kind !== 'debit') return [line];
    // Tie-up is a debit of N; the P, K and S that come with it are still brought.
    return [
      {
        ...line,
        id: `${line.id}.tie_up`,
        label: `${a.material.name} ties up N`,
        p: null,
        k: null,
        s: null,
        why: { n: line.why.n },
      },
      {
        ...line,
        kind: spreadOrPlanned(a.app),
        n: 0,
        why: { p: line.why.p, k: line.why.k, s: line.why.s },
      },
    ];
  });
  const residual =
    earlier.length === 0
      ? null
      : attempt(problems, 'budget', () =>
          residualCredit(book, {
            apps: earlier.map((a) => ({
              mat: a.materialKey,
              rateTHa: rateOnField(a, materialOf(book, a.materialKey)),
              yearK: a.cropYear,
              lab: a.lab,
            })),
            tail: plan.farm.residualTailFrac,
            climateFactor: WARMTH_FACTOR[plan.farm.soilWarmth],
          }),
        );
  if (residual) {
    const s = earlier
      .filter(
        (a) =>
          a.cropYear <= 3 &&
          mineralisationOf(materialOf(book, a.materialKey).mineralisationClass).givesLater,
      )
      .reduce(
        (sum, a) =>
          sum +
          rateOnField(a, materialOf(book, a.materialKey)) *
            analysisOf(materialOf(book, a.materialKey), a.lab).sKgT *
            S_LATER_YEARS,
        0,
      );
    // An index that was raised for regular manure holds this credit already.
    lines.push(
      bySchool(
        plan,
        crop,
        {
          id: 'manure_earlier_years',
          label: 'Manure of earlier years',
          detail: joined(
            earlier.map(({ cropYear, rate, rateUnit }) =>
              rateUnit === 'm3_ha'
                ? said`${cropYear - 1} y ago ${rate} m3/ha`
                : said`${cropYear - 1} y ago ${rate} t/ha`,
            ),
            ', ',
          ),
          kind: 'credit',
          evidence: earlier.every((a) => a.lab?.totalNKgT != null) ? 'laboratory' : 'table',
          date: null,
          n: residual.creditKgHa,
          p: null,
          k: null,
          s,
          error: LINE_ERROR.manure_book,
          struck: null,
          why: {
            n: residual.why,
            s: step('credit.manure_residual.s', 'S of earlier manure', s, 'kg/ha', {
              formula: '5 % of its S a year in years 2 and 3',
              source: 'chapter 2, 5.2',
              confidence: 'low',
            }),
          },
        },
        'manure_earlier_years',
        { regular: plan.schools.regularManure },
        setBy,
      ),
    );
  }
  return { lines, assessed, earlierCount: earlier.length };
}
