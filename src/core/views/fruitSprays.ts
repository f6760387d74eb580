import type { Assessment } from '../assessment/assess';
import type { Book } from '../book/book';
import { tissueCropOf } from '../book/crops';
import { foliarProducts } from '../book/corrections';
import { fertilisers, placementOf } from '../book/fertilisers';
import { fruitCaTargets, type FruitCaTarget } from '../book/fruitCalcium';
import type { FertiliserPass, Plan } from '../document/document';
import { dateAfter, daysBetween, type IsoDate } from '../quantity/calendar';
import { judge, type Warning } from '../rules/rule';
import { calciumRules } from '../tissue/adviceRules';
import {
  coverage,
  fruitCaTarget,
  pitRisk,
  type CanopySize,
  type CalciumProgramme,
  type RiskGroup,
} from '../tissue/fruitCalcium';
import { said, type Words } from '../why/said';
import type { LeafBeside } from './leafBeside';

// Calcium that lands on the fruit: the sprays of the plan, done and planned, against the target of
// the block (chapter 5, section 14).

/** kg of CaCl2 with a kg of Ca. */
const CACL2_PER_CA = 110.98 / 40.078;
const EARLY_D = 35;
const LEAST_VOLUME_SHARE = 1e-6;
/** A crop with one target has no groups of risk. */
export const EVERY_RISK = 'all';

export interface FruitSpray {
  id: string;
  date: IsoDate;
  name: string;
  done: boolean;
  caKgHa: number;
  cacl2KgHa: number;
  overCap: boolean;
}
export interface FruitCalcium {
  /** Crop of the targets. */
  crop: string;
  risk: { group: RiskGroup; points: number; unknown: string[] };
  target: FruitCaTarget;
  sprays: FruitSpray[];
  doneKgHa: number;
  plannedKgHa: number;
  /** Null: the size of the trees or the water of a spray was not said; then all of it counts. */
  coverageIndex: number | null;
  effectiveKgHa: number;
  cls: CalciumProgramme['cls'];
  words: Words[];
  warnings: Warning[];
}

/** The crop of a season in the table of fruit calcium; null where it has no target. */
function fruitCropOf(book: Book, plan: Plan): string | null {
  const { cropKey, use } = plan.season;
  const tissue = cropKey && tissueCropOf(book, cropKey, use);
  if (!tissue) return null;
  const base = tissueCropOf(book, cropKey, null);
  return fruitCaTargets().some((r) => r.crop === tissue)
    ? tissue
    : base !== null && fruitCaTargets().some((r) => r.crop === base)
      ? base
      : null;
}
const canopyOf = ({ fruitBlock: b }: Plan['season']): CanopySize | null =>
  b?.canopyHeightM != null && b.canopyWidthM !== null && b.rowM !== null
    ? { heightM: b.canopyHeightM, widthM: b.canopyWidthM, rowM: b.rowM }
    : null;
const leafAbove = (beside: LeafBeside, nutrient: string): boolean | null => {
  const r = beside.leaf?.assessment.results.find((x) => x.nutrient === nutrient);
  return r?.value == null || !r.limits || r.blocked ? null : r.value > r.limits.sh;
};

/** Risk of pitting by the block and its leaf; what nobody knows brings no point. */
function blockRisk(plan: Plan, beside: LeafBeside, lowKGroup: boolean): FruitCalcium['risk'] {
  const b = plan.season.fruitBlock;
  const kHigh = leafAbove(beside, 'K');
  return pitRisk({
    lowKGroupAndKHigh: kHigh === null ? null : lowKGroup && kHigh,
    leafNHigh: leafAbove(beside, 'N'),
    loadRatio: b?.loadRatio ?? null,
    shootCm: b?.shootCm ?? null,
    bigFruit: b?.bigFruit ?? null,
    youngTrees: b?.youngTrees ?? null,
    peelNCa: b?.peelNCa ?? null,
    previousPitPct: b?.previousPitPct ?? null,
  });
}

/** Sprays of calcium on the leaf and fruit, with what they bring. */
function spraysOf(book: Book, a: Pick<Assessment, 'supply'>, target: FruitCaTarget): FruitSpray[] {
  const sprayed = a.supply.passes
    .filter((p) => placementOf(p.pass.placementId).onLeaf && p.product.caPct > 0 && p.counts)
    .toSorted((x, y) => x.pass.date.localeCompare(y.pass.date));
  const first = sprayed[0]?.pass.date ?? '';
  return sprayed.map(({ pass, product }) => {
    const caKgHa = (pass.productKgHa * product.caPct) / 100;
    const cacl2KgHa = caKgHa * CACL2_PER_CA;
    const early = daysBetween(first, pass.date) < EARLY_D;
    return {
      id: pass.id,
      date: pass.date,
      name: product.name,
      done: pass.status === 'done',
      caKgHa,
      cacl2KgHa,
      overCap: cacl2KgHa > (early ? target.maxCacl2KgHaEarly : target.maxCacl2KgHaLate),
    };
  });
}

function wordsOf(c: Omit<FruitCalcium, 'words' | 'warnings'>, plan: Plan): Words[] {
  const { target, effectiveKgHa, sprays } = c;
  const harvest = plan.season.harvestDate;
  const last = sprays.at(-1);
  const close = sprays.some((s, k) => {
    const before = sprays[k - 1];
    return before !== undefined && daysBetween(before.date, s.date) < target.minIntervalD;
  });
  const late =
    harvest !== null &&
    last !== undefined &&
    daysBetween(last.date, harvest) < target.lastSprayDaysBeforeHarvest;
  if (sprays.length === 0)
    return [
      said`No spray of calcium yet: the target is ${target.seasonCaTargetKgHa} kg/ha Ca, and less than ${target.seasonCaMinKgHa} kg/ha do not help.`,
    ];
  return [
    {
      below_minimum: said`${Math.round(effectiveKgHa * 10) / 10} kg/ha Ca reaches the canopy: less than the ${target.seasonCaMinKgHa} kg/ha that help at all.`,
      between_minimum_and_target: said`${Math.round(effectiveKgHa * 10) / 10} kg/ha Ca reaches the canopy: it helps, and the target is ${target.seasonCaTargetKgHa} kg/ha.`,
      meets_target: said`${Math.round(effectiveKgHa * 10) / 10} kg/ha Ca reaches the canopy: the target of ${target.seasonCaTargetKgHa} kg/ha is met.`,
      above_maximum: said`${Math.round(effectiveKgHa * 10) / 10} kg/ha Ca is more than the ${target.seasonCaMaxKgHa} kg/ha up to which it helps: it may mark the fruit.`,
    }[c.cls],
    ...(c.coverageIndex === null
      ? [
          'Size of the trees or water of a spray is not said: the whole of it counts, which is the best case.',
        ]
      : c.coverageIndex < 1
        ? [
            `The water wets ${Math.round(100 * c.coverageIndex)} % of the canopy: only so much of it counts. Look with water-sensitive paper.`,
          ]
        : []),
    ...(close ? [`Some sprays lie closer than ${target.minIntervalD} days.`] : []),
    ...(late
      ? [`The last spray lies within ${target.lastSprayDaysBeforeHarvest} days of the harvest.`]
      : []),
    ...(target.riskGroup !== EVERY_RISK && c.risk.unknown.length > 0
      ? [
          `Not known of the block, and without a point: ${c.risk.unknown.length} of 8 signs of risk.`,
        ]
      : []),
  ];
}

/** The programme as the plan has it; null for a crop without a target. */
export function fruitCalcium(
  book: Book,
  plan: Plan,
  a: Assessment,
  beside: LeafBeside,
): FruitCalcium | null {
  const crop = fruitCropOf(book, plan);
  if (crop === null) return null;
  const { cropKey, use } = plan.season;
  const lowKGroup =
    cropKey !== null && tissueCropOf(book, cropKey, use) !== tissueCropOf(book, cropKey, null);
  const risk = blockRisk(plan, beside, lowKGroup);
  const target = fruitCaTarget(crop, risk.group);
  const sprays = spraysOf(book, a, target);
  const sum = (done: boolean) =>
    sprays.filter((s) => s.done === done).reduce((t, s) => t + s.caKgHa, 0);
  const [doneKgHa, plannedKgHa] = [sum(true), sum(false)];
  const canopy = canopyOf(plan.season);
  const volume = plan.season.fruitBlock?.sprayVolumeLHa ?? null;
  const coverageIndex = canopy && volume !== null ? coverage(volume, canopy) : null;
  const effectiveKgHa = (doneKgHa + plannedKgHa) * (coverageIndex ?? 1);
  const cls: FruitCalcium['cls'] =
    effectiveKgHa < target.seasonCaMinKgHa
      ? 'below_minimum'
      : effectiveKgHa < target.seasonCaTargetKgHa
        ? 'between_minimum_and_target'
        : effectiveKgHa <= target.seasonCaMaxKgHa
          ? 'meets_target'
          : 'above_maximum';
  const known = {
    crop,
    risk,
    target,
    sprays,
    doneKgHa,
    plannedKgHa,
    coverageIndex,
    effectiveKgHa,
    cls,
  };
  const each = sprays.length > 0 ? effectiveKgHa / sprays.length : 0;
  const worst = sprays.filter((s) => s.overCap).toSorted((x, y) => y.cacl2KgHa - x.cacl2KgHa)[0];
  return {
    ...known,
    words: wordsOf(known, plan),
    warnings: judge(calciumRules, {
      effectiveKgHa,
      belowMinimum: sprays.length > 0 && cls === 'below_minimum',
      extraSprays:
        each > LEAST_VOLUME_SHARE
          ? Math.max(1, Math.ceil((target.seasonCaTargetKgHa - effectiveKgHa) / each))
          : 0,
      cacl2KgHa: worst?.cacl2KgHa ?? 0,
      overCap: worst !== undefined,
    }),
  };
}

const NOT_PERMITTED = 'not_permitted';
/** Salts of calcium that the library holds, to spray. */
export const calciumSalts = (
  book: Book,
  { field }: Pick<Plan, 'field'>,
): { productId: string; name: string; caPct: number }[] => {
  const known = new Set(
    foliarProducts()
      .filter((p) => p.element === 'Ca')
      .map((p) => p.fertiliserId),
  );
  return fertilisers(book)
    .filter(
      (f) =>
        known.has(f.productId) &&
        f.caPct > 0 &&
        // Certified land may get only what its certifier's list allows.
        (field.certification === 'none' || f.organicStatus !== NOT_PERMITTED),
    )
    .map((f) => ({ productId: f.productId, name: f.name, caPct: f.caPct }));
};

/**
 * Sprays for what is still missing to the target, within the burn caps and the least interval; or
 * why none can be laid.
 *
 * @param strengthPct product in the water, % by weight and volume
 */
export function sprayProgramme(
  book: Book,
  plan: Plan,
  now: FruitCalcium,
  i: { productId: string; strengthPct: number; first: IsoDate; newId: () => string },
): FertiliserPass[] | string {
  const salt = calciumSalts(book, plan).find((s) => s.productId === i.productId);
  const volume = plan.season.fruitBlock?.sprayVolumeLHa ?? null;
  if (!salt) return 'Choose a salt of calcium.';
  if (volume === null) return 'The water of a spray first.';
  const productKgHa = (i.strengthPct * volume) / 100;
  const caKgHa = (productKgHa * salt.caPct) / 100;
  const perSpray = caKgHa * (now.coverageIndex ?? 1);
  const missing = now.target.seasonCaTargetKgHa - now.effectiveKgHa;
  if (missing <= 0) return 'The target is met already.';
  if (perSpray <= LEAST_VOLUME_SHARE) return 'So weak a spray brings no calcium.';
  const cacl2 = caKgHa * CACL2_PER_CA;
  if (cacl2 > now.target.maxCacl2KgHaLate)
    return `${cacl2.toFixed(1)} kg/ha calcium chloride in one spray burns: ${now.target.maxCacl2KgHaLate} kg/ha at the most. Weaker, and more often.`;
  const count = Math.ceil(missing / perSpray - 1e-9);
  if (count > now.target.nSpraysMax)
    return `${count} sprays like this would be needed, and ${now.target.nSpraysMax} are the most: a stronger salt.`;
  const end =
    plan.season.harvestDate === null
      ? null
      : dateAfter(plan.season.harvestDate, -now.target.lastSprayDaysBeforeHarvest);
  const days = end === null ? null : daysBetween(i.first, end);
  const interval =
    days === null || count < 2
      ? now.target.minIntervalD
      : Math.min(14, Math.floor(days / (count - 1)));
  if (days !== null && (days < 0 || interval < now.target.minIntervalD))
    return `${count} sprays at least ${now.target.minIntervalD} days apart do not fit before the harvest: begin earlier, or a stronger salt.`;
  return Array.from({ length: count }, (_, k) => ({
    id: i.newId(),
    date: dateAfter(i.first, k * interval),
    productId: salt.productId,
    productKgHa: Number(productKgHa.toPrecision(3)),
    placementId: 'foliar_spray',
    status: 'planned' as const,
    pricePerT: null,
  }));
}
