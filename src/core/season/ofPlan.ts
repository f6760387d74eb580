import type { Assessment } from '../assessment/assess';
import type { Book } from '../book/book';
import { fertiliserOf } from '../book/fertilisers';
import { mineralisationOf } from '../book/organicTables';
import { soilOf } from '../book/soils';
import { climateOf, cropParamsOf, stagesOf, type ClimateMonth } from '../book/stages';
import { countedYield } from '../budget/requirement';
import type { Plan } from '../document/document';
import { normalsOf, type SeasonCalendar } from '../lines/calendar';
import { dayOf } from '../lines/days';
import { looksOf } from '../lines/observed';
import { mixedIn, type AssessedApplication } from '../lines/organicLines';
import { normalFilling } from '../nitrogen/evaporation';
import { clockStart } from '../nitrogen/stageClock';
import { dateAfter, daysBetween, monthOf, type IsoDate } from '../quantity/calendar';
import { clip } from '../quantity/curve';
import type { CropRecord, MineralN, SeasonEvent, SeasonRecord } from './record';

// A plan as the simulator runs it: what is known goes in as it is, what is assumed is named.

export interface PlannedRun {
  record: SeasonRecord;
  climate: ClimateMonth[];
  days: number;
  /** Planned passes and dressings: the sheet's line of each, and its place among the events. */
  sources: { id: string; at: number }[];
  /** What nobody said and the run takes all the same. */
  assumed: string[];
}

/** An event, and the line of the sheet that it is of, where somebody may still change it. */
interface Sourced {
  event: SeasonEvent;
  id: string | null;
}
const ROOTED_CM = 120;
const CARBON_OF_DM = 0.45;
const DAYS_AFTER_HARVEST = 14;
const WATERED_EVERY_D = 7;
/** Share of a legume's credit that its residues hold: the rest comes back in later years. */
const CREDIT_IN_SEASON = 0.7;
const LEGUME_C_TO_N = 12;
const USUAL_PH = 6.5;
const USUAL_C_TO_N = 15;

/** Whether the season crop itself lives on the air. */
const fixesBySeason = (cropId: string): boolean => (cropParamsOf(cropId)?.fixationMaxFrac ?? 0) > 0;

/** Months of the farm's own climate, with what only the book knows of their weather. */
function climateMonths(plan: Plan): ClimateMonth[] {
  const book = climateOf(plan.field.climateId);
  return normalsOf(plan).map((m) => {
    const like = book.find((b) => b.month === m.month) as ClimateMonth;
    return { ...like, tMeanC: m.tMeanC, tRangeC: m.tRangeC, rainMm: m.rainMm };
  });
}

/** Nitrate of the ground on the first day: measured, or the middle of what is usual. */
function nitrateAtStart(plan: Plan, a: Assessment, assumed: string[]): MineralN[] {
  const { nitrateLayers } = plan.ground;
  if (nitrateLayers.length > 0) {
    if (plan.ground.nitrateSampleDate === null)
      assumed.push('the nitrate sample is of the first day');
    const soil = soilOf(plan.field.soilTextureId);
    return nitrateLayers.map((l) => ({
      fromCm: l.topCm,
      toCm: l.bottomCm,
      kgHa:
        l.no3nMgKg *
        (l.bulkDensityGCm3 ?? soil.bulkDensityTM3) *
        (l.bottomCm - l.topCm) *
        0.1 *
        (1 - (l.stonesVolFrac ?? 0)),
    }));
  }
  const usual = a.lines.find((l) => l.id === 'soil_nitrate')?.usual;
  const kgHa = usual ? (usual.low + usual.high) / 2 : 0;
  if (kgHa > 0) assumed.push(`soil nitrate ${Math.round(kgHa)} kg/ha, the middle of what is usual`);
  return kgHa > 0 ? [{ fromCm: 0, toCm: 60, kgHa }] : [];
}

function dressingEvent(o: AssessedApplication): SeasonEvent {
  const share = o.app.areaFrac;
  const organic = Math.max(0, o.rateTHa * o.pan.orgNKgT) * share;
  const total = o.rateTHa * o.analysis.totalNKgT * share;
  const cToN = o.app.lab?.cToN ?? o.material.cToN ?? USUAL_C_TO_N;
  const mixed = mixedIn(o.app);
  const pool = mineralisationOf(o.material.mineralisationClass).seasonPool;
  return {
    type: 'organic',
    date: o.app.date,
    // Leafy and strawy stuff rots slower on top; the rest has one rate.
    poolId: !mixed && (pool === 'green' || pool === 'straw') ? `${pool}_surface` : pool,
    placementId: mixed ? 'broadcast_incorporated' : 'broadcast_surface',
    nOrgKgHa: organic,
    // All carbon is in the organic part.
    cToN: organic > 0 ? clip((cToN * total) / organic, 4, 200) : 10,
    nh4NKgHa: o.mineralKgHa * share,
    nh4Retained: true,
  };
}

/** What grew before and what it left, as far as the sheet counts it. */
function leftBehind(plan: Plan, a: Assessment, start: IsoDate): SeasonEvent[] {
  const { season, residue, previous } = plan;
  const killed = previous && previous.kind !== 'other' ? previous.killDate : null;
  const credit = a.lines
    .filter((l) => /^(legume_table|green_manure)/u.test(l.id) && l.struck === null)
    .reduce((s, l) => s + (l.n ?? 0), 0);
  const worked =
    residue && season.plantingDate ? dateAfter(season.plantingDate, -7 * residue.leadWeeks) : null;
  return [
    ...(credit > 0
      ? [
          {
            type: 'organic' as const,
            date: killed && killed > start ? killed : start,
            poolId: 'green',
            placementId: 'broadcast_incorporated',
            nOrgKgHa: credit / CREDIT_IN_SEASON,
            cToN: LEGUME_C_TO_N,
          },
        ]
      : []),
    ...(residue && worked && residue.leftTDmHa > 0
      ? [
          {
            type: 'organic' as const,
            date: worked > start ? worked : start,
            ...(residue.placement.includes('surface')
              ? { poolId: 'straw_surface', placementId: 'broadcast_surface' }
              : { poolId: 'straw', placementId: 'broadcast_incorporated' }),
            nOrgKgHa: residue.leftTDmHa * residue.nKgTDm,
            cToN: clip((CARBON_OF_DM * 1000) / residue.nKgTDm, 4, 200),
          },
        ]
      : []),
  ];
}

/** Irrigation of the season, week by week between the crop's start and its harvest. */
function watered(plan: Plan, from: IsoDate, to: IsoDate): SeasonEvent[] {
  const { irrigation } = plan;
  const weeks = Math.floor(daysBetween(from, to) / WATERED_EVERY_D);
  if (!irrigation || irrigation.mm <= 0 || weeks < 1) return [];
  return Array.from({ length: weeks }, (_, k) => ({
    type: 'irrigate' as const,
    date: dateAfter(from, (k + 1) * WATERED_EVERY_D),
    mm: irrigation.mm / weeks,
    nMgL: irrigation.no3nMgL ?? 0,
  }));
}

/**
 * The plan as a record of the simulator, with the events of its sheet; or a sentence that says why
 * it cannot be run.
 */
export function runOfPlan(
  book: Book,
  plan: Plan,
  a: Assessment,
  calendar: SeasonCalendar | null,
): PlannedRun | string {
  const { season, field, ground } = plan;
  if (!calendar || season.harvestDate === null) return 'Crop, goal and season dates first.';
  const { seasonCropId: cropId, crop } = calendar;
  if (cropId === null) return `There is no stage table for ${crop.name} yet.`;
  if (calendar.regrowth && calendar.regrowth.from.length > 0)
    return 'A crop of several cuts is not run yet: its section shows the middling year.';
  if (a.lines.some((l) => l.id === 'from_the_air') && !fixesBySeason(cropId))
    return 'What the legume in the mixture fixes is not run yet: its section shows the middling year.';
  if (field.omPct === null)
    return 'Organic matter of the soil is not known: what it sets free decides too much to guess it.';
  const assumed: string[] = [];
  const southern = field.latitudeDeg < 0;
  const sown = season.plantingDate ?? season.startDate;
  const clock = clockStart(cropId, { clockDate: sown, end: calendar.end, southern });
  const sampled = ground.nitrateLayers.length > 0 ? ground.nitrateSampleDate : null;
  const start =
    sampled !== null && sampled >= calendar.start && sampled < season.harvestDate
      ? sampled
      : calendar.start;
  const days = Math.max(
    2,
    daysBetween(start, dateAfter(season.harvestDate, DAYS_AFTER_HARVEST)) + 1,
  );
  const goal = season.yieldGoalTHa ?? 0;
  const uptake = crop.uptakeNKgT * countedYield(crop, goal);
  const standing = crop.nBaseKgHa > 0;
  const uTotal = standing ? Math.min(uptake, a.sums.n.requirement) : uptake;
  if (!(uTotal >= 1)) return 'The crop asks for no N.';
  if (standing) assumed.push('reserves feed what the sheet does not ask for');
  if (a.ground.ph === null) assumed.push(`pH ${USUAL_PH}`);
  if (field.drainageClass === null) assumed.push('well drained');
  if (season.residueCoverFrac === null) assumed.push('no residue on top');
  const beganBefore = clock < start;
  const gInit = beganBefore ? (calendar.clock.degrees[dayOf(calendar, start)] ?? 0) : 0;
  const restartsInWinter = (stagesOf(cropId)[0]?.autumnCapGddCD ?? 0) > 0;
  const winterMonth = southern ? 7 : 1;
  const afterRestart = daysBetween(sown, start) > 0 && (monthOf(start) - winterMonth + 12) % 12 < 6;
  const record: CropRecord = {
    cropId,
    sowDate: clock,
    harvestDate: season.harvestDate,
    uTotalKgHa: uTotal,
    gInit,
    observedStages: looksOf(plan, cropId, calendar)
      .counted.filter((o) => o.date >= start)
      .map((o) => ({ date: o.date, bbch: o.stage })),
    ...(restartsInWinter && beganBefore ? { springClock: afterRestart } : {}),
  };
  const climate = climateMonths(plan);
  const counted = a.supply.passes.filter((p) => p.counts);
  const passes = counted.map((p): Sourced => {
    const product = fertiliserOf(book, p.pass.productId);
    const event: SeasonEvent = {
      type: 'fertilise',
      date: p.pass.date,
      productId: p.pass.productId,
      placementId: p.pass.placementId,
      nKgHa: (p.pass.productKgHa * product.nTotalPct) / 100,
    };
    return { event, id: p.pass.status === 'planned' ? `pass.${p.pass.id}` : null };
  });
  const dressings = a.organics
    .filter((o) => a.lines.some((l) => l.id === `organic.${o.app.id}` && l.struck === null))
    .map((o): Sourced => ({
      event: dressingEvent(o),
      id: o.app.status === 'planned' ? `organic.${o.app.id}` : null,
    }));
  const soil = soilOf(field.soilTextureId);
  const held = ((soil.fieldCapacityVolPct - soil.wiltingPointVolPct) * ROOTED_CM) / 10;
  const nameless = (list: SeasonEvent[]): Sourced[] => list.map((event) => ({ event, id: null }));
  const sourced = [
    ...nameless(leftBehind(plan, a, start)),
    ...dressings,
    ...passes,
    ...nameless(watered(plan, sown > start ? sown : start, season.harvestDate)),
  ].filter((e) => e.event.date >= start);
  return {
    record: {
      startDate: start,
      latitudeDeg: field.latitudeDeg,
      soil: {
        textureId: field.soilTextureId,
        omPct: field.omPct,
        ph: a.ground.ph ?? USUAL_PH,
        cecCmolcKg: field.cecCmolKg,
        drainageClass: field.drainageClass,
        residueCoverFrac: season.residueCoverFrac,
        initWaterFrac: normalFilling(normalsOf(plan), field.latitudeDeg, start, held),
        no3InitKgHa: nitrateAtStart(plan, a, assumed),
      },
      crop: record,
      events: sourced.map((e) => e.event),
    },
    climate,
    days,
    sources: sourced.flatMap((e, at) => (e.id === null ? [] : [{ id: e.id, at }])),
    assumed,
  };
}
