import { Refusal, type RefusalDetail } from '../quantity/refusal';

export type Station = 'ground' | 'crop' | 'budget' | 'supply' | 'season';
/**
 * An input that core refused, and the station where it is put right. The rest of the sheet goes
 * on.
 */
export interface Problem extends RefusalDetail {
  station: Station;
}

/**
 * Runs one part of the assessment; a refusal becomes a problem of its station and the part is left
 * out.
 */
export function attempt<T>(problems: Problem[], station: Station, part: () => T): T | null {
  try {
    return part();
  } catch (e) {
    if (!(e instanceof Refusal)) throw e;
    problems.push({ ...e.detail, station });
    return null;
  }
}
