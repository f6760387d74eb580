import type { Crop } from '../book/crops';
import type { Plan } from '../document/document';
import { fromHundredths } from '../quantity/rounding';
import { said } from '../why/said';
import { step } from '../why/step';
import { creditLine, hundredths, type LedgerLine } from './line';
import { fixes } from './fixing';

// N that a legume takes from the air: a credit of its own, so that what the crop takes up is told
// whole (chapter 7, W1.8).

/** Sound nodules bring at most this share of what the crop takes up. */
const MOST_FROM_AIR = 0.9;
const OF_FAILED_NODULES = 0.6;
/** What a stand with failed nodules may be given, kg/ha. */
const RESCUE = 60;
/** A stand with this share of legume feeds itself. */
const SELF_FEEDING_SHARE = 0.4;

const line = (
  id: string,
  label: string,
  detail: LedgerLine['detail'],
  n: number,
  formula: string,
) =>
  creditLine({
    id,
    label,
    detail,
    evidence: 'model',
    n,
    // What the air brings follows from the other lines: it adds no doubt of its own.
    error: 0,
    why: {
      n: step(`credit.${id}`, label, n, 'kg/ha', {
        formula,
        source: 'chapter 7, W1.8 (with chapter 1, 5.3)',
        confidence: 'medium',
      }),
    },
  });

/**
 * The air's lines of a fixing crop or a ley: what fills the gap between its uptake and what it
 * finds, up to what nodules can do. Soil or manure N only spares their work.
 *
 * @param plannedN fertiliser N of passes, kg/ha
 */
export function airLines(
  plan: Plan,
  crop: Crop,
  lines: readonly LedgerLine[],
  plannedN: number,
): LedgerLine[] {
  const ley = crop.nFixing === 'mixed_ley';
  if (!ley && !fixes(crop)) return [];
  const sum = (kinds: readonly LedgerLine['kind'][]) =>
    lines.filter((l) => kinds.includes(l.kind)).reduce((s, l) => s + hundredths(l, 'n'), 0);
  const required = sum(['requirement']);
  const gap = Math.max(
    0,
    required + sum(['debit']) - sum(['credit', 'applied', 'planned']) - Math.round(100 * plannedN),
  );
  if (required === 0) return [];
  if (ley) {
    const share = plan.season.legumeShare ?? 0;
    const most = Math.round(required * Math.min(1, share / SELF_FEEDING_SHARE));
    const air = Math.min(most, gap);
    return air === 0
      ? []
      : [
          line(
            'from_the_air',
            'From the air',
            said`the legumes of the sward, ${Math.round(100 * share)} %`,
            fromHundredths(air),
            'smaller of requirement x legume share / 0.40 and what is missing',
          ),
        ];
  }
  const { nodulesFailed } = plan.season.stand;
  const sound = Math.min(gap, Math.round(required * MOST_FROM_AIR));
  const air = nodulesFailed ? Math.round(sound * OF_FAILED_NODULES) : sound;
  const rest = gap - air;
  const unmeasured = nodulesFailed ? Math.max(0, rest - 100 * RESCUE) : rest;
  return [
    ...(air === 0
      ? []
      : [
          line(
            'from_the_air',
            'From the air',
            nodulesFailed ? 'failed nodules: 0.6 of what sound ones bring' : 'fixed by its nodules',
            fromHundredths(air),
            'uptake + debits - what the crop finds, at most 0.9 of the uptake',
          ),
        ]),
    ...(unmeasured === 0
      ? []
      : [
          line(
            'soil_not_measured',
            'From the soil, not measured',
            'beyond what nodules can fix',
            fromHundredths(unmeasured),
            'uptake - what is known - what nodules can fix',
          ),
        ]),
  ];
}
