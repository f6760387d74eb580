import type { Book } from '../book/book';
import { compostAccumulation, layerRate, ringRate } from '../organics/compost';
import { machineRate } from '../organics/rates';
import { cropOf } from '../book/crops';
import { spreadingMethods } from '../book/organicMaterials';
import { ringRowOf } from '../book/organicTables';
import { standLoss } from '../organics/inCrop';
import { dateAfter } from '../quantity/calendar';
import { assess, type Assessment } from '../assessment/assess';
import type { OrganicApplication, Plan } from '../document/document';
import { planOfftake } from '../lines/planOfftake';
import { ammoniaBySchool, type AssessedApplication } from '../lines/organicLines';

export interface PlacementRow {
  key: string;
  label: string;
  asPlanned: boolean;
  keptKgHa: number;
  lostKgHa: number;
  money: number;
}
const HOURS = [1, 6, 24] as const;
/** Ammonium kept is the same within so many kg/ha. */
const DISC = 'disc_or_cultivator_10_15_cm';

/**
 * The same load by other techniques, and worked in after 1, 6 and 24 h or never: ammonium kept and
 * lost, and its money (chapter 2, section 13).
 * `anHourCosts` is what one more hour on the surface loses now, kg N/ha.
 */
export function placementTable(
  plan: Plan,
  a: AssessedApplication,
): { rows: PlacementRow[]; anHourCosts: number } {
  const loss = (method: string, coverings: { kind: string; hours: number }[]) =>
    ammoniaBySchool(plan, a.app, a.material, a.analysis, method, coverings).lossFrac;
  const row = (key: string, label: string, lossFrac: number, asPlanned = false): PlacementRow => ({
    key,
    label,
    asPlanned,
    keptKgHa: (1 - lossFrac) * a.tanKgHa,
    lostKgHa: lossFrac * a.tanKgHa,
    money: lossFrac * a.tanKgHa * plan.farm.nPricePerKg,
  });
  const own = spreadingMethods().find((m) => m.methodKey === a.app.methodKey);
  const others = spreadingMethods().filter(
    (m) =>
      m.group === own?.group &&
      m.methodKey !== a.app.methodKey &&
      !(m.group !== 'liquid' && m.placed === 'pellet'),
  );
  const first = a.app.coverings[0];
  const after = first
    ? loss(a.app.methodKey, [{ ...first, hours: first.hours + 1 }])
    : a.loss.lossFrac;
  const rows = [
    row(
      'planned',
      `${own?.name ?? a.app.methodKey}, ${first ? `worked in after ${first.hours} h` : 'not worked in'}`,
      a.loss.lossFrac,
      true,
    ),
    ...HOURS.filter((h) => h !== first?.hours).map((h) =>
      row(
        `h${h}`,
        `the same, worked in after ${h} h`,
        loss(a.app.methodKey, [{ kind: first?.kind ?? DISC, hours: h }]),
      ),
    ),
    ...(first ? [row('never', 'the same, never worked in', loss(a.app.methodKey, []))] : []),
    ...others.map((m) => row(m.methodKey, `${m.name}, not worked in`, loss(m.methodKey, []))),
  ];
  return { rows, anHourCosts: (after - a.loss.lossFrac) * a.tanKgHa };
}

export interface RingPlan {
  plantsHa: number;
  /** N that each plant should get of this dressing, g, and the book's span for its kind and age. */
  nTargetG: number;
  bookG: { from: number; to: number };
  areaM2: number;
  materialKg: number;
  layerCm: number;
  maxLayerCm: number;
  tHa: number;
  perMetreKg: number;
}
/**
 * Rings of trees or bushes (chapter 2, section 10): what each plant gets so that this dressing
 * brings the N still asked for. Null where the
 * dressing is not laid in rings; the core refuses a material without N and a ring without width.
 *
 * @throws Refusal
 */
export function ringPlan(a: Assessment, dressing: AssessedApplication): RingPlan | null {
  const { use } = dressing.app;
  if (use.kind !== 'ring') return null;
  const row = ringRowOf(use.plantKind, use.ageClass);
  const plantsHa = 10_000 / (use.rowM * use.inRowM);
  const nTargetG = Math.min(
    5000,
    (Math.max(0, a.sums.n.asked + dressing.onField.nKgHa) * 1000) / plantsHa,
  );
  const r = ringRate({
    canopy: use.canopyRadiusM,
    beyond: use.beyondM,
    clear: use.trunkClearM,
    nG: nTargetG,
    pan: dressing.pan.panKgT,
    density: dressing.densityKgM3,
    treesHa: plantsHa,
    maxCm: row.maxSolidLayerCm,
  });
  return {
    plantsHa,
    nTargetG,
    bookG: { from: row.nMinG, to: row.nMaxG },
    areaM2: r.areaM2,
    materialKg: r.materialKg,
    layerCm: r.layerCm,
    maxLayerCm: row.maxSolidLayerCm,
    tHa: r.tHa,
    perMetreKg: r.materialKg / use.inRowM,
  };
}

/**
 * What a layer on beds or rows weighs and brings, and how many years of P it lays down. Null where
 * the dressing is no layer.
 */
export function layerPlan(
  book: Book,
  plan: Plan,
  app: OrganicApplication,
): ReturnType<typeof layerRate> | null {
  if (app.use.kind !== 'layer') return null;
  const pOfftake = plan.season.cropKey
    ? planOfftake(book, plan, cropOf(book, plan.season.cropKey)).offtakePKgHa
    : null;
  return layerRate(book, {
    mm: app.use.layerMm,
    mat: app.materialKey,
    frac: app.use.coveredFrac,
    pOfftake: pOfftake === null ? null : Math.min(120, pOfftake),
  });
}

/** Years that are worth a look: from the fourth on the yearly release stays. */
const YEARS_SHOWN = [1, 2, 3, 4, 6, 10] as const;
/**
 * The same dressing every year: organic N that it releases in each, and the P that stays above the
 * off-take (chapter 2, 9.3).
 */
export function yearAfterYear(
  book: Book,
  plan: Plan,
  a: AssessedApplication,
): { year: number; nReleaseKgHa: number; pStockKgHa: number }[] {
  const pOfftake = plan.season.cropKey
    ? Math.min(120, planOfftake(book, plan, cropOf(book, plan.season.cropKey)).offtakePKgHa)
    : 0;
  return YEARS_SHOWN.map((year) => ({
    year,
    ...compostAccumulation({
      rate: a.rateTHa,
      orgN: a.pan.orgNKgT,
      klass: a.material.mineralisationClass,
      years: year,
      pT: a.analysis.pKgT,
      pOfftake,
    }),
  }));
}

/**
 * Passes and setting of the machine for the rate planned (chapter 2, 6.1 step 7); null without a
 * machine or a rate.
 */
export const machinePlan = (app: OrganicApplication): ReturnType<typeof machineRate> | null =>
  app.machine && app.rate > 0
    ? machineRate({ rate: app.rate, mn: app.machine.minRate, mx: app.machine.maxRate })
    : null;

export interface TimeRow {
  key: 'planned' | 'autumn' | 'before_planting';
  label: string;
  date: string;
  panKgHa: number;
  airKgHa: number;
  /** Worth of the N that the crop can use, less what the stand loses, money a hectare. */
  money: number;
}
/**
 * The same load given into the standing crop, before planting and worked in, or in the autumn
 * before (chapter 2, section 8): what the crop gets of it, what
 * goes to the air, and its money. Empty where planting or harvest is not known.
 */
export function timesCompared(book: Book, plan: Plan, own: AssessedApplication): TimeRow[] {
  const { plantingDate, harvestDate, cropPricePerT, yieldGoalTHa } = plan.season;
  if (!plantingDate || !harvestDate || own.app.use.kind !== 'in_crop') return [];
  const { use } = own.app;
  const need = (a: Assessment, x: AssessedApplication) =>
    Math.min(Math.max(0, x.nKgHa), Math.max(0, a.sums.n.asked + x.onField.nKgHa));
  const loss =
    (standLoss({ stand: use.standLossPct, crop: use.cropGroup }) / 100) *
    (yieldGoalTHa ?? 0) *
    (cropPricePerT ?? 0);
  const at = (key: TimeRow['key'], label: string, app: OrganicApplication): TimeRow[] => {
    const a = assess(book, {
      ...plan,
      organics: plan.organics.map((o) => (o.id === app.id ? app : o)),
    });
    const x = a.organics.find((o) => o.app.id === app.id);
    return x
      ? [
          {
            key,
            label,
            date: app.date,
            panKgHa: x.nKgHa,
            airKgHa: x.loss.lossFrac * x.tanKgHa,
            money: need(a, x) * plan.farm.nPricePerKg - (key === 'planned' ? loss : 0),
          },
        ]
      : [];
  };
  const tilled: OrganicApplication = {
    ...own.app,
    use: { kind: 'field' },
    cover: 'bare',
    coverings: [{ kind: DISC, hours: 4 }],
  };
  const autumn =
    plan.field.latitudeDeg < 0
      ? `${plantingDate.slice(0, 4)}-04-20`
      : `${Number(plantingDate.slice(0, 4)) - (plantingDate.slice(5) < '10-20' ? 1 : 0)}-10-20`;
  return [
    ...at('planned', 'into the standing crop, as planned', own.app),
    ...at('before_planting', 'a week before planting, disced in after 4 h', {
      ...tilled,
      date: dateAfter(plantingDate, -7),
    }),
    ...at('autumn', 'in the autumn before, disced in after 4 h', { ...tilled, date: autumn }),
  ];
}
