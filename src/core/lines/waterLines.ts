import type { Book } from '../book/book';
import type { Crop } from '../book/crops';
import { LINE_ERROR } from '../budget/ledger';
import { creditCropN, creditIrrigationWater, waterBrings } from '../budget/otherCredits';
import type { Plan } from '../document/document';
import { said } from '../why/said';
import { entered, step, type Step } from '../why/step';
import { creditLine, type LedgerLine } from './line';
import { attempt, type Problem } from './problem';

// Credits that neither the ground nor a crop before this one brings: N in the standing crop,
// water, air.

/** N that an autumn-sown crop holds in spring; null where nobody looked. */
export function cropNLine(book: Book, { cropN }: Plan, crop: Crop): LedgerLine | null {
  if (!cropN) return null;
  const credit = creditCropN(book, { cropKey: crop.key, ...cropN });
  return creditLine({
    id: 'crop_n_in_spring',
    label: 'N already in the crop',
    detail: 'taken up in autumn',
    evidence: cropN.cropNKgHa !== null ? 'measured' : 'table',
    n: credit.creditKgHa,
    error: LINE_ERROR.nitrate,
    why: { n: credit.why },
  });
}

type Water = NonNullable<Plan['irrigation']>;
/**
 * K or sulphate-S that irrigation water brings, with its reason; nothing where its content is not
 * known.
 */
function broughtBy(
  water: Water,
  x: 'k' | 's',
  problems: Problem[],
): { kgHa: number | null; why: Partial<Record<'k' | 's', Step>> } {
  const mgL = x === 'k' ? water.kMgL : water.so4sMgL;
  if (mgL === null) return { kgHa: null, why: {} };
  const kgHa = attempt(problems, 'budget', () => waterBrings({ irrigationMm: water.mm, mgL }));
  if (kgHa === null) return { kgHa, why: {} };
  const id = `credit.irrigation.${x}`;
  return {
    kgHa,
    why: {
      [x]: step(id, `${x.toUpperCase()} of the water`, kgHa, 'kg/ha', {
        formula: 'mm x mg/L x 0.01',
        source: 'chapter 1, C8',
        confidence: 'high',
        inputs: [
          entered(`${id}.mm`, 'Water', water.mm, 'mm'),
          entered(`${id}.mgl`, 'In the water', mgL, 'mg/L'),
        ],
      }),
    },
  };
}
/** What irrigation water brings by the time the crop should run down. */
export function irrigationLine({ irrigation }: Plan, problems: Problem[]): LedgerLine | null {
  if (!irrigation) return null;
  const { mm, no3nMgL, shareBeforeRunDown } = irrigation;
  const nitrate =
    no3nMgL === null
      ? null
      : attempt(problems, 'budget', () =>
          creditIrrigationWater({ irrigationMm: mm, waterNo3nMgL: no3nMgL, shareBeforeRunDown }),
        );
  const [k, s] = [broughtBy(irrigation, 'k', problems), broughtBy(irrigation, 's', problems)];
  if (nitrate === null && k.kgHa === null && s.kgHa === null) return null;
  return creditLine({
    // Nitrate that nobody measured is a line of its own, without a figure.
    id: nitrate === null ? 'irrigation_other' : 'irrigation_nitrate',
    label: said`Irrigation water, ${mm} mm`,
    detail: no3nMgL === null ? 'nitrate-N not known' : said`${no3nMgL} mg/L nitrate-N`,
    evidence: 'measured',
    n: nitrate?.creditKgHa ?? null,
    k: k.kgHa,
    s: s.kgHa,
    error: LINE_ERROR.irrigation,
    why: { ...(nitrate && { n: nitrate.why }), ...k.why, ...s.why },
  });
}

const DEPOSITION_IN_TIME = 0.5;
/** What falls from the air while the crop takes up; null where nobody entered a figure. */
export function depositionLine({ season }: Plan): LedgerLine | null {
  const { depositionNKgHa: n, depositionSKgHa: s } = season;
  if (n === null && s === null) return null;
  const half = (x: number | null) => (x === null ? null : x * DEPOSITION_IN_TIME);
  const reason = (x: 'n' | 's', v: number) =>
    step(`credit.deposition.${x}`, 'Deposition', v * DEPOSITION_IN_TIME, 'kg/ha', {
      formula: 'half of the year falls in the uptake window',
      source: 'chapter 1, C10',
      confidence: 'low',
      inputs: [entered(`credit.deposition.${x}.year`, 'In a year', v, 'kg/ha')],
    });
  return creditLine({
    id: 'deposition',
    label: 'Deposition from the air',
    detail: 'half of the year',
    evidence: 'table',
    n: half(n),
    s: half(s),
    error: LINE_ERROR.deposition,
    why: {
      ...(n === null ? {} : { n: reason('n', n) }),
      ...(s === null ? {} : { s: reason('s', s) }),
    },
  });
}
