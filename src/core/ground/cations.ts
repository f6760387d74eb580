import { refuse } from '../quantity/refusal';
import { RANGES, within } from '../quantity/range';

/** mg/kg that make one cmol(+)/kg (chapter 3, section 3 step 6; equivalent masses). */
export const MG_PER_CMOL = {
  ca: 200.39,
  mg: 121.53,
  k: 390.98,
  na: 229.9,
  al: 89.94,
  h: 10.08,
} as const;
/**
 * Above this pH carbonate dissolves in the extract and the sum of cations is too high (chapter 3,
 * section 3 step 10).
 */
const LIMY_PH = 7.3;

export interface CationInput {
  ca: number;
  mg: number;
  k: number;
  na?: number | null;
  ph?: number | null;
  bufferSmp?: number | null;
  bufferAe?: number | null;
  acidityCmolKg?: number | null;
}
export interface Cations {
  cec: number;
  caSat: number;
  mgSat: number;
  kSat: number;
  naSat: number;
  acidSat: number;
}
const TEST = { min: 0, max: 60000, unit: 'mg/kg', label: 'Test' };

/**
 * Acidity in cmol/kg: as reported, or from the buffer (convention of chapter 3, section 3 step 7).
 */
function acidity(i: CationInput): number {
  if (i.acidityCmolKg != null)
    return within('acidity_cmol_kg', i.acidityCmolKg, {
      min: 0,
      max: 100,
      unit: 'cmol/kg',
      label: 'Acidity',
    });
  if (i.bufferSmp != null) {
    if (i.bufferSmp > 7.1 || i.bufferSmp < 6)
      refuse(
        'out_of_range',
        'buffer_smp',
        `Buffer pH (buffer_smp) = ${i.bufferSmp} is outside 6.0 to 7.1: acidity cannot be worked out from it; ask for measured acidity.`,
        { value: i.bufferSmp, allowed: '6.0 to 7.1' },
      );
    return Math.max(0, 12 * (7 - i.bufferSmp));
  }
  if (i.bufferAe != null)
    return Math.max(
      0,
      8 *
        (8 -
          within('buffer_ae', i.bufferAe, {
            min: 7,
            max: 8.1,
            unit: '',
            label: 'Adams-Evans buffer pH',
          })),
    );
  return 0;
}

/**
 * CEC as the sum of cations and acidity, and the share of each, % (chapter 3, section 3).
 *
 * @throws Refusal above pH 7.3, where dissolved carbonate inflates the sum (R33)
 * @example cations({ ca: 1400, mg: 180, k: 150, bufferSmp: 6.6 }) // { cec: 13.65, caSat: 51.2 }
 */
export function cations(i: CationInput): Cations {
  for (const x of ['ca', 'mg', 'k'] as const) within(x, i[x], TEST);
  if (i.ph != null && within('ph', i.ph, RANGES.phWater) > LIMY_PH)
    refuse(
      'inconsistent',
      'ph',
      `CEC was summed on limy soil (pH ${i.ph}): dissolved carbonate inflates it, so calcium saturation cannot be computed. Ask for a measured CEC.`,
      { value: i.ph, allowed: `up to ${LIMY_PH}`, rule: 'R33' },
    );
  const parts = {
    ca: i.ca / MG_PER_CMOL.ca,
    mg: i.mg / MG_PER_CMOL.mg,
    k: i.k / MG_PER_CMOL.k,
    na: within('na', i.na ?? 0, TEST) / MG_PER_CMOL.na,
    acid: acidity(i),
  };
  const cec = parts.ca + parts.mg + parts.k + parts.na + parts.acid;
  if (cec <= 0)
    refuse('out_of_range', 'ca', 'All cations are 0: a CEC of 0 cannot be, check the report.', {
      value: 0,
    });
  const share = (x: number) => (100 * x) / cec;
  return {
    cec,
    caSat: share(parts.ca),
    mgSat: share(parts.mg),
    kSat: share(parts.k),
    naSat: share(parts.na),
    acidSat: share(parts.acid),
  };
}

/**
 * Effective CEC and aluminium saturation, with aluminium from a KCl extract.
 *
 * @example cationsAl({ ca: 300, mg: 60, k: 60, al: 2 }) // { ecec: 4.14, alSat: 48.3 }
 */
export function cationsAl(
  i: CationInput & { al: number },
): Cations & { ecec: number; alSat: number } {
  within('al', i.al, RANGES.alCmolKg);
  if (i.ph != null && i.ph > 5.8 && i.al > 0.5)
    refuse(
      'inconsistent',
      'al',
      `Exchangeable aluminium (al) = ${i.al} cmol/kg at pH ${i.ph}: above pH 5.5 it is near zero. Check unit and sample.`,
      { value: i.al, allowed: 'up to 0.5 above pH 5.8' },
    );
  const sums = cations({ ...i, bufferSmp: null, bufferAe: null, acidityCmolKg: null });
  const ecec = sums.cec + i.al;
  return { ...sums, ecec, alSat: (100 * i.al) / ecec };
}

/**
 * What a CEC should roughly be from clay and organic matter; a report below a third or above three
 * times of it is asked about.
 *
 * @example cecEstimate({ clayPct: 22, omPct: 2.6 }) // 14 cmol/kg
 */
export const cecEstimate = (i: { clayPct: number; omPct: number; clayCec?: number }): number =>
  (i.clayPct / 100) * (i.clayCec ?? 40) + 2 * i.omPct;
