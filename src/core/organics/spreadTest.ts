import { refuse } from '../quantity/refusal';
import { calibrationLimitOf } from '../book/organicTables';
import { loadArea, overlapCv, spreadCv, tankerRate, weighSheet } from './calibration';

export type SpreadTest =
  | { kind: 'sheets'; netKg: number; sheets: number; sheetM2: number }
  | { kind: 'load'; load: number; distanceM: number; swathM: number }
  | { kind: 'flow'; tankM3: number; emptyMin: number; speedKmH: number; swathM: number };

/**
 * Rate that a test found, t/ha or m3/ha (chapter 2, 7.1 to 7.3).
 *
 * @example testedRate({ kind: 'load', load: 13, distanceM: 450, swathM: 12 }) // 24.07
 */
export function testedRate(t: SpreadTest): number {
  if (t.kind === 'sheets') return weighSheet({ netKg: t.netKg, n: t.sheets, area: t.sheetM2 });
  if (t.kind === 'load')
    return loadArea({ loadT: t.load, distanceM: t.distanceM, swathM: t.swathM });
  if (t.emptyMin <= 0)
    refuse(
      'out_of_range',
      'empty_min',
      'empty_min = 0 min: give the time in which the tank empties.',
      { value: t.emptyMin, allowed: 'above 0 min' },
    );
  return tankerRate({ flowM3H: t.tankM3 / (t.emptyMin / 60), speed: t.speedKmH, swath: t.swathM });
}

/**
 * Catches of the trays, as typed: numbers between spaces, semicolons or line ends. @throws Refusal
 * naming what is no number
 */
export function traysOf(text: string): number[] {
  return text
    .split(/[\s;]+/)
    .filter(Boolean)
    .map((word, i) => {
      const x = Number(word.replace(',', '.'));
      if (!Number.isFinite(x) || x < 0)
        refuse(
          'not_a_number',
          'trays',
          `trays: the ${i + 1}. catch, ${word}, is not a number of 0 or more.`,
          { value: word, allowed: '0 or more' },
        );
      return x;
    });
}

export interface Evenness {
  /**
   * CV at each swath of whole tray pitches, and the widest whose CV is acceptable; null: none is.
   */
  bySwath: { swathM: number; cvPct: number }[];
  effectiveSwathM: number | null;
  singlePassCvPct: number;
}
/**
 * Evenness of a single pass caught in trays, once its neighbours overlap it (chapter 2, 7.6). The
 * throw is not the swath: the widest swath
 * that is still even is.
 *
 * @throws Refusal for fewer than three trays
 * @example evenness({ catches: [1, 3, 5, 6, 6, 5, 3, 1], pitchM: 1, machineKind:
 * 'litter_or_compost_spinner' }).effectiveSwathM // 6
 */
export function evenness(i: {
  catches: readonly number[];
  pitchM: number;
  machineKind: string;
  racetrack?: boolean;
}): Evenness {
  const accept = calibrationLimitOf(i.machineKind).cvAcceptPct;
  const bySwath = i.catches.slice(1).map((_, k) => {
    const m = k + 2;
    return {
      swathM: m * i.pitchM,
      cvPct: overlapCv({ a: i.catches, m, racetrack: i.racetrack }).cvPct,
    };
  });
  return {
    bySwath,
    effectiveSwathM: bySwath.filter((s) => s.cvPct <= accept).at(-1)?.swathM ?? null,
    singlePassCvPct: spreadCv({ xs: i.catches }),
  };
}
