import { normalFrom, randomStream, seedOf } from '../core/quantity/random';

// Stand-ins for a sap meter and a leaf-colour meter, to practise with: made-up plants, each field with
// its own bent, the same question always with the same answer.

/** How far a made-up field lies from the middle of its span, as a share of it. */
const FIELD_SWING = 0.5;
/** Error of a meter and of the stalks that were pressed. */
const SAP_CV = 0.12;
/** What leaves of a rich strip show, in the units of a colour meter, and the error of 30 leaves. */
const STRIP = 46;
const COLOUR_CV = 0.015;
/** The least that a made-up field shows of its strip. */
const PALEST = 0.86;
/** Where no span is known, in mg/L of the meter's element. */
const NO_SPAN = { low: 400, high: 800 };

/**
 * A reading of pressed sap, as the meter shows it.
 *
 * @param i.elementShare what the meter's figure holds of the element: 0.2259 of NO3, 1 of NO3-N and K
 * @example simulateSap({ of: 'Long Field|2027-06-24', low: 500, high: 700, elementShare: 1 }) // 480
 */
export function simulateSap(i: {
  of: string;
  low: number | null;
  high: number | null;
  elementShare: number;
}): number {
  const low = i.low ?? NO_SPAN.low;
  const high = i.high ?? NO_SPAN.high;
  const [field = ''] = i.of.split('|');
  const bent = 1 + FIELD_SWING * (2 * randomStream(seedOf(field))() - 1);
  const error = Math.exp(SAP_CV * normalFrom(randomStream(seedOf(i.of))));
  const shown = (((low + high) / 2) * bent * error) / i.elementShare;
  return Math.round(shown / 10) * 10;
}

/**
 * The field and its richly fed strip, each the mean of 30 leaves of one leaf-colour meter.
 *
 * @example simulateColour('Long Field|2027-06-24').strip // 45.9
 */
export function simulateColour(of: string): { field: number; strip: number } {
  const [field = ''] = of.split('|');
  const share = PALEST + (1 - PALEST) * randomStream(seedOf(`colour ${field}`))();
  const error = randomStream(seedOf(`colour ${of}`));
  const shown = (v: number) => Math.round(10 * v * Math.exp(COLOUR_CV * normalFrom(error))) / 10;
  return { field: shown(STRIP * share), strip: shown(STRIP) };
}
