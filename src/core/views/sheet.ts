import { cropOf } from '../book/crops';
import type { Book } from '../book/book';
import { placementOf } from '../book/fertilisers';
import { extractantName, nutrientSymbol } from '../book/soilTests';
import { inWords } from '../why/said';
import { asLines, weakest, type Step } from '../why/step';
import type { Assessment } from '../assessment/assess';
import type { Plan } from '../document/document';
import type { LedgerLine } from '../lines/line';
import { wholeSheet, type Amounts, type BalanceRow } from './wholeKilograms';

/** Today's version of the frozen sheet: the one that the last step of `sheetVersions` leads to. */
export const SHEET_VERSION = 3;

export interface SheetRow extends Amounts {
  id: string;
  label: string;
  detail: string;
  kind: LedgerLine['kind'];
  struck: string | null;
}
/**
 * A row of the sheet's end; `to_bring`, `planned` and `balance` stand in sheets that were frozen
 * before version 3.
 */
export interface SheetTotal extends Amounts {
  kind: BalanceRow['kind'] | 'to_bring' | 'planned' | 'balance';
  label: string;
}

/**
 * The plan sheet as it was shown on the day: words and figures ready to print, so that an agreed
 * version reads the same for ever.
 */
export interface SheetDocument {
  /** By which version of the sheet it was written. */
  version: typeof SHEET_VERSION;
  farm: string;
  field: string;
  areaHa: number;
  season: string;
  crop: string;
  asOf: string;
  rows: SheetRow[];
  totals: SheetTotal[];
  organics: {
    date: string;
    material: string;
    rate: string;
    status: string;
    n: number;
    detail: string;
  }[];
  passes: {
    date: string;
    stage: string;
    product: string;
    rateKgHa: number;
    totalKg: number;
    n: number;
    p: number;
    k: number;
    s: number;
    cost: number;
    placement: string;
    status: string;
  }[];
  ground: { label: string; value: string; cls: string }[];
  reasons: { label: string; text: string[]; confidence: string }[];
  cautions: { level: string; message: string; action: string }[];
  costPerHa: number;
  demoPrices: boolean;
  limiting: string | null;
}

const CLASS_WORDS = (cls: string) => cls.replace('_', ' ');
/** A why-tree cut to what fits a printed line. */
const short = (tree: Step): string[] => asLines(tree).slice(0, 5);

/** A figure that was typed in another unit has no more digits than a sheet can bear. */
const brief = (v: number): string => String(Number(v.toPrecision(4)));
const goalOf = ({ season }: Plan): string =>
  season.yieldGoalTHa === null ? 'no yield goal' : `${brief(season.yieldGoalTHa)} t/ha`;
/** The sheet to print, to agree and to freeze. */
export function buildSheet(book: Book, plan: Plan, a: Assessment): SheetDocument {
  const crop = plan.season.cropKey ? cropOf(book, plan.season.cropKey) : null;
  const { amounts, rows: ends } = wholeSheet(a);
  return {
    version: SHEET_VERSION,
    farm: plan.farm.name,
    field: plan.field.name,
    areaHa: plan.field.areaHa,
    season: plan.season.label,
    crop: crop ? `${crop.name}, ${goalOf(plan)}` : 'no crop chosen',
    asOf: plan.asOf,
    rows: a.lines.map((l) => ({
      id: l.id,
      label: inWords(l.label),
      detail: inWords(l.detail),
      kind: l.kind,
      struck: l.struck,
      ...(amounts.get(l.id) as Amounts),
    })),
    totals: ends.map((r) => ({
      kind: r.kind,
      label: inWords(r.label),
      ...(amounts.get(r.id) as Amounts),
    })),
    organics: a.organics.map((o) => ({
      date: o.app.date,
      material: o.material.name,
      rate: `${o.app.rate} ${o.app.rateUnit === 'm3_ha' ? 'm3/ha' : 't/ha'}`,
      status: o.app.status,
      n: Math.round(o.nKgHa),
      detail: `${Math.round(o.loss.lossFrac * 100)} % of the ammonium lost`,
    })),
    passes: a.supply.passes.map((p) => ({
      date: p.pass.date,
      stage: p.stageBbch ? `BBCH ${p.stageBbch}` : '',
      product: p.product.name,
      rateKgHa: p.pass.productKgHa,
      totalKg: Math.ceil(p.pass.productKgHa * plan.field.areaHa),
      n: Math.round(p.delivered.n),
      p: Math.round(p.delivered.p),
      k: Math.round(p.delivered.k),
      s: Math.round(p.delivered.s),
      cost: p.cost,
      placement: placementOf(p.pass.placementId).name,
      status: p.counts ? p.pass.status : 'may not go out',
    })),
    ground: [
      ...(a.ground.planning
        ? [
            {
              label: 'pH to plan with',
              value: a.ground.planning.ph.toFixed(1),
              cls: a.ground.gate?.verdict ?? 'no crop chosen',
            },
          ]
        : []),
      ...a.ground.readings.map((r) => ({
        label: `${nutrientSymbol(r.reading.nutrient)}, ${extractantName(r.reading.extractant)}`,
        value: `${r.reading.belowDetection ? 'under ' : ''}${r.reading.value} ${r.reading.unit.replace('_', '/')}`,
        cls: r.classified ? CLASS_WORDS(r.classified.cls) : 'no class',
      })),
    ],
    reasons: a.lines
      .filter((l) => l.struck === null && l.why.n)
      .map((l) => ({
        label: inWords(l.label),
        text: short(l.why.n as Step),
        confidence: weakest(l.why.n as Step),
      })),
    cautions: a.warnings
      .filter((w) => w.level !== 'info')
      .map(({ level, message, action }) => ({
        level,
        message: inWords(message),
        action: inWords(action),
      })),
    costPerHa: a.supply.cost,
    demoPrices: a.supply.passes.some((p) => p.price.from === 'placeholder'),
    limiting:
      a.limiting && a.limiting.limiting !== 'N' && (a.limiting.relativeYields[0]?.ry ?? 1) < 0.95
        ? `${a.limiting.limiting} holds the crop at ${Math.round((a.limiting.relativeYields[0]?.ry ?? 1) * 100)} %`
        : null,
  };
}
