import type { Assessment } from '../assessment/assess';
import type { AssessedPass } from '../lines/supply';
import type { Book } from '../book/book';
import { placementOf } from '../book/fertilisers';
import { tankMixStatus } from '../book/mixes';
import { foliarLoad, tankMix } from '../nitrogen/tank';
import type { IsoDate } from '../quantity/calendar';
import { Refusal } from '../quantity/refusal';
import { said, type Words } from '../why/said';

// Liquids of the plan: what happens if those of one day go into one tank (chapter 4, F2.5 and F2.10),
// and whether a spray on the leaf carries anything worth it (F2.6).

const PRESSURISED = 'pressurised_gas';
/** Lighter and heavier products lie in layers from here on, kg/L (T03). */
const LAYERS_FROM = 0.1;

export interface Told {
  level: 'stop' | 'caution' | 'info';
  words: Words;
}
interface Liquid {
  id: string;
  productId: string;
  name: string;
  lHa: number;
  densityKgL: number;
  mixClass: string;
  ammonium: boolean;
}
/** Liquids of one day, as if they went into one tank. */
export interface LiquidDay {
  date: IsoDate;
  /** In the order in which they go into the tank. */
  parts: Liquid[];
  mix: ReturnType<typeof tankMix>;
  /** What is told of it, stops first. */
  words: Told[];
}

const liquidOf = ({ pass, product }: AssessedPass): Liquid[] =>
  product.densityKgL === null || product.physicalForm === PRESSURISED || pass.productKgHa <= 0
    ? []
    : [
        {
          id: pass.id,
          productId: pass.productId,
          name: product.name,
          lHa: pass.productKgHa / product.densityKgL,
          densityKgL: product.densityKgL,
          mixClass: product.mixClass,
          ammonium: product.nAmmoniumPct > 0,
        },
      ];

/** Ammonium products go in first, then the lighter before the heavier (T02, T03). */
const inOrder = (parts: readonly Liquid[]): Liquid[] =>
  parts.toSorted((a, b) => Number(b.ammonium) - Number(a.ammonium) || a.densityKgL - b.densityKgL);

function tankWords(parts: readonly Liquid[], mix: LiquidDay['mix']): Told[] {
  const pairs = parts.flatMap((a, i) =>
    parts.slice(i + 1).map((b) => ({ a, b, row: tankMixStatus(a.mixClass, b.mixClass) })),
  );
  const no = pairs.filter((p) => p.row?.status === 'no');
  const test = pairs.filter((p) => (p.row?.status ?? 'jar_test') === 'jar_test');
  return [
    ...no.map(({ a, b, row }) => ({
      level: 'stop' as const,
      words: `${a.name} and ${b.name} must not share a tank: ${row?.reason ?? 'they react'}. Separate tanks, pumps and lines; flush between.`,
    })),
    ...test.map(({ a, b, row }) => ({
      level: 'caution' as const,
      words: `${a.name} with ${b.name}: ${row?.reason ?? 'no settled experience'}. Jar test at the field’s ratio, once at field temperature and once chilled overnight in a marked jar.`,
    })),
    ...(no.length === 0 && mix.densityGapKgL > LAYERS_FROM
      ? [
          {
            level: 'caution' as const,
            words:
              'The heavy product lies at the bottom when it is filled without agitation: the light one first, agitate while filling, or two tanks and pumps.',
          },
        ]
      : []),
    ...(mix.assumedSaltOutC === null
      ? []
      : [
          {
            level: 'info' as const,
            words: said`Crystals may form from about ${Math.round(mix.assumedSaltOutC)} °C downwards; only the chilled jar test counts.`,
          },
        ]),
  ];
}

/** Days on which liquids go out, each as if its liquids shared one tank. */
export function liquidDays(book: Book, a: Pick<Assessment, 'supply'>): LiquidDay[] {
  const planned = a.supply.passes.filter((p) => p.pass.status === 'planned' && p.counts);
  const days = [...new Set(planned.map((p) => p.pass.date))].toSorted();
  return days.flatMap((date): LiquidDay[] => {
    const parts = inOrder(planned.filter((p) => p.pass.date === date).flatMap(liquidOf));
    if (parts.length === 0) return [];
    const mix = tankMix(book, {
      components: parts.map(({ productId, lHa: l }) => ({ productId, l })),
    });
    return [{ date, parts, mix, words: tankWords(parts, mix) }];
  });
}

const ON_LEAF = ['n', 'p', 'k', 's'] as const;
export type LeafNutrient = (typeof ON_LEAF)[number];
/** A spray on the leaf beside what the crop is to be given of the nutrient in all. */
export interface LeafSpray {
  id: string;
  date: IsoDate;
  name: string;
  /** The nutrient of which it carries most, against what is asked for. */
  nutrient: LeafNutrient;
  load: ReturnType<typeof foliarLoad>;
  words: Told[];
}

const twoDigits = (v: number): number => Number(v.toPrecision(2));
function sprayWords(load: LeafSpray['load'], nutrient: LeafNutrient): Told[] {
  const told: Told[] = [
    {
      level: 'info',
      words: said`It carries ${twoDigits(load.loadKgHa)} kg/ha ${nutrient.toUpperCase()}; the leaves take about ${twoDigits(load.takenUpKgHa)} kg/ha of it, ${twoDigits(100 * load.shareOfNeed)} % of what the sheet asks for.`,
    },
  ];
  if (load.verdict === 'not_meaningful')
    told.push({
      level: 'info',
      words:
        'As a supply of this nutrient it does not count. Judge it as a treatment, with a check strip.',
    });
  if (load.burn === 'stop')
    told.unshift({
      level: 'stop',
      words: `${twoDigits(load.concPctWv)} % in the spray is above the burn limit of ${load.limitPctWv ?? 0} %: more water or less product.`,
    });
  if (load.burn === 'caution')
    told.unshift({
      level: 'caution',
      words: `${twoDigits(load.concPctWv)} % in the spray is near the burn limit of ${load.limitPctWv ?? 0} %.`,
    });
  if (load.burn === 'unknown')
    told.push({
      level: 'caution',
      words: `${twoDigits(load.concPctWv)} % in the spray: there is no burn limit for this product on these leaves. The label’s limit counts.`,
    });
  return told;
}

/**
 * Sprays on the leaf that are planned, by what they carry of what the sheet asks for.
 *
 * @param waterLHa water of the spray; nobody has said it where it is null: then nothing is told
 * @param leaves crop group of the table of burn limits, or null
 */
export function leafSprays(
  book: Book,
  a: Pick<Assessment, 'supply' | 'sums'>,
  { waterLHa, leaves }: { waterLHa: number | null; leaves: string | null },
): LeafSpray[] {
  if (waterLHa === null) return [];
  return a.supply.passes
    .filter((p) => placementOf(p.pass.placementId).onLeaf && p.pass.status === 'planned')
    .flatMap((p): LeafSpray[] => {
      const shares = ON_LEAF.map((x) => ({
        x,
        asked: a.sums[x].requirement,
        share: a.sums[x].requirement > 0 ? p.delivered[x] / a.sums[x].requirement : 0,
      })).toSorted((m, n) => n.share - m.share);
      const most = shares[0];
      if (!most || most.share <= 0) return [];
      try {
        const load = foliarLoad(book, {
          productId: p.pass.productId,
          productKgHa: p.pass.productKgHa,
          nutrient: most.x,
          sprayVolumeLHa: waterLHa,
          remainingNeedKgHa: most.asked,
          cropGroup: leaves,
        });
        return [
          {
            id: p.pass.id,
            date: p.pass.date,
            name: p.product.name,
            nutrient: most.x,
            load,
            words: sprayWords(load, most.x),
          },
        ];
      } catch (e) {
        if (e instanceof Refusal) return [];
        throw e;
      }
    });
}
