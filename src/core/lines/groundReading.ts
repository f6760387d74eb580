import type { Book } from '../book/book';
import { classify, type Classified, type KnownClass } from '../ground/classify';
import { estimatesOf, type Estimate } from '../ground/extractants';
import { phGate, planningPh, type PhGate, type PlanningPh } from '../ground/ph';
import { readingRules, sampleRules } from '../ground/rules';
import { kMgRatio } from '../ground/secondary';
import { fertiliserOf } from '../book/fertilisers';
import { daysBetween } from '../quantity/calendar';
import { cropOf, crosswalkOf, type SoilClass } from '../book/crops';
import { targetPhOf } from '../book/soilTests';
import { judge, type Warning } from '../rules/rule';
import type { Plan } from '../document/document';
import type { SoilReading } from '../facts/soilSample';
import { attempt, type Problem } from './problem';
import { alStops, aluminiumOf } from './aluminium';

export interface GroundReading {
  reading: SoilReading;
  classified: Classified | null;
  /** Why it has no class. */
  refused: string | null;
  /** On other extractants' scales: never a basis for a rate. */
  estimates: Estimate[];
}
export interface GroundAssessment {
  planning: PlanningPh | null;
  gate: PhGate | null;
  /** pH that counts: none of a sample that is too old (agronomy corrections, j). */
  ph: number | null;
  ageYears: number | null;
  readings: GroundReading[];
  classes: Partial<Record<'P' | 'K' | 'S' | 'Mg', SoilClass>>;
  pTest: { value: number; extractant: string } | null;
}
/** Older than this, a sample is no basis for anything (R08). */
const TOO_OLD_YEARS = 10;
const SYMBOL = { p: 'P', k: 'K', s: 'S', mg: 'Mg' } as const;

/** What the ground holds: pH gate and the class of each reading by its own extractant. */
export function assessGround(book: Book, plan: Plan, problems: Problem[]): GroundAssessment {
  const { ground, field, season } = plan;
  const group = season.cropKey ? crosswalkOf(book, season.cropKey).targetPhGroup : null;
  const hasPh = ground.phWater !== null || ground.phCacl2 !== null;
  const planning = hasPh
    ? attempt(problems, 'ground', () =>
        planningPh({ phWater: ground.phWater, phCacl2: ground.phCacl2, moisture: ground.moisture }),
      )
    : null;
  const gate =
    planning && group
      ? attempt(problems, 'ground', () =>
          phGate({ ph: planning.ph, crop: group, omPct: field.omPct }),
        )
      : null;
  const ageYears = ground.sampleDate ? daysBetween(ground.sampleDate, plan.asOf) / 365.25 : null;
  const critical = season.cropKey ? crosswalkOf(book, season.cropKey).criticalLevelGroup : null;
  const readings = ground.readings.map((reading): GroundReading => {
    const own: Problem[] = [];
    const classified = attempt(own, 'ground', () =>
      classify({
        nutrient: reading.nutrient,
        extractant: reading.extractant,
        value: reading.value,
        unit: reading.unit,
        ph: planning?.ph ?? null,
        cecCmolKg: field.cecCmolKg,
        cropGroup: critical,
        omPct: field.omPct,
      }),
    );
    return {
      reading,
      classified,
      refused: own[0]?.message ?? null,
      estimates: reading.belowDetection
        ? []
        : (attempt([], 'ground', () => estimatesOf({ ...reading, ph: planning?.ph ?? null })) ??
          []),
    };
  });
  const classes: GroundAssessment['classes'] = {};
  // A test older than ten years is no basis for a rate (R08): its class counts as unknown.
  const tooOld = ageYears !== null && ageYears > TOO_OLD_YEARS;
  if (!tooOld)
    for (const r of readings)
      if (r.reading.nutrient in SYMBOL && r.classified)
        classes[SYMBOL[r.reading.nutrient as keyof typeof SYMBOL]] = r.classified
          .cls satisfies KnownClass;
  const p = readings.find((r) => r.reading.nutrient === 'p');
  return {
    planning,
    gate,
    ph: tooOld ? null : (planning?.ph ?? null),
    ageYears,
    readings,
    classes,
    pTest: p ? { value: p.reading.value, extractant: p.reading.extractant } : null,
  };
}

/**
 * Days between the last lime, manure or P-K dressing and the soil sample; null where nothing is
 * known to have gone on before it.
 */
function daysSinceSpread(book: Book, plan: Plan): number | null {
  const { sampleDate } = plan.ground;
  if (!sampleDate) return null;
  const pk = plan.passes.filter((p) => {
    const f = fertiliserOf(book, p.productId);
    return f.pPct + f.kPct > 0;
  });
  const before = [...plan.organics, ...pk, ...(plan.lime?.spread ? [plan.lime.spread] : [])]
    .map((e) => daysBetween(e.date, sampleDate))
    .filter((d) => d >= 0);
  return before.length > 0 ? Math.min(...before) : null;
}
function kToMg(plan: Plan): number | null {
  const of = (x: string) =>
    plan.ground.readings.find((r) => r.nutrient === x && r.unit === 'mg_kg' && !r.belowDetection)
      ?.value;
  const [kMgKg, mgMgKg] = [of('k'), of('mg')];
  return kMgKg === undefined || mgMgKg === undefined ? null : kMgRatio({ kMgKg, mgMgKg });
}

export function groundWarnings(
  book: Book,
  plan: Plan,
  ground: GroundAssessment,
  plannedPKgHa: number,
): Warning[] {
  const crop = plan.season.cropKey ? cropOf(book, plan.season.cropKey) : null;
  const group = crop ? crosswalkOf(book, crop.key).targetPhGroup : null;
  const al = aluminiumOf(book, plan);
  const facts = {
    aluminium: alStops(al, plan.lime?.chosenId != null) ? al : null,
    cropName: crop?.name ?? 'the crop',
    planning: ground.planning,
    gate: ground.gate,
    acidLoving: crop?.phGroup === 'acid_loving',
    alSensitivity: group ? targetPhOf(group).alSensitivity : null,
    ageYears: ground.ageYears,
    sampleDate: plan.ground.sampleDate,
    nCores: plan.ground.nCores,
    areaHa: plan.field.areaHa / (plan.ground.nPoints ?? 1),
    depthCm: plan.ground.depthCm,
    grass: crop?.group.startsWith('forage') ?? false,
    moisture: plan.ground.moisture,
    tillage: plan.field.tillage,
    daysSinceSpread: daysSinceSpread(book, plan),
    kMg: kToMg(plan),
    dairyGrass: crop?.group.startsWith('forage') ?? false,
  };
  const ofSample = judge(sampleRules, facts);
  // What a sample that is too old says is quoted nowhere else (agronomy corrections, j).
  const tooOld = ofSample.filter((w) => w.id === 'R08' && w.level === 'stop');
  if (tooOld.length > 0) return tooOld;
  return [
    ...ofSample,
    ...ground.readings.flatMap((r) =>
      judge(
        readingRules,
        {
          nutrient: r.reading.nutrient,
          extractant: r.reading.extractant,
          value: r.reading.value,
          classified: r.classified,
          plannedKgHa: plannedPKgHa,
        },
        r.reading.nutrient.toUpperCase(),
      ),
    ),
  ];
}
