import type { Rule } from '../rules/rule';

export interface LimeFacts {
  ph: number;
  /** Requirement at the depth of mixing, t ECC/ha; null when it could not be worked out. */
  needTHa: number | null;
  limeWanted: boolean;
  surface: boolean;
  /** What one pass of the plan brings, and the most it should, t ECC/ha. */
  passTHa: number | null;
  maxPassTHa: number | null;
  disagreement: { low: number; high: number } | null;
  /** The best placed product when none works by planting. */
  tooLate: { product: string; ph: number; date: string } | null;
  chosen: {
    name: string;
    gypsum: boolean;
    bookValue: boolean;
    cceMin: number;
    cceMax: number;
    caustic: boolean;
  } | null;
  /** Days between caustic lime and the nearest ammonium, urea or manure on the surface. */
  daysToAmmonium: number | null;
  spread: {
    date: string;
    daysAgo: number;
    started: boolean;
    cumMm: number;
    startMm: number;
    retested: boolean;
  } | null;
  forCalciumOnly: boolean;
  ammoniumSulphateN: number;
  ammoniumSulphateAcid: number;
  intervalYears: number | null;
}

const rule = (r: Omit<Rule<LimeFacts>, 'module'>): Rule<LimeFacts> => ({ module: 'ground', ...r });

export const limeRules: readonly Rule<LimeFacts>[] = [
  rule({
    id: 'R09',
    level: 'caution',
    when: 'lime needed and no product reaches the limit by planting',
    message: 'Too late for this planting: {product} gives pH {x} by {date}.',
    action: 'Tolerant crop, fine or fluid lime, or lime now for the next crop.',
    test: (f) =>
      f.tooLate
        ? { product: f.tooLate.product, x: f.tooLate.ph.toFixed(1), date: f.tooLate.date }
        : null,
  }),
  rule({
    id: 'R10',
    level: 'caution',
    when: 'lime spread and the wet clock not started',
    message: 'Only {mm} of {need} mm rain since spreading: lime has not begun to react.',
    action: 'Wait; do not retest yet.',
    test: (f) =>
      f.spread && f.spread.daysAgo > 0 && !f.spread.started
        ? { mm: f.spread.cumMm, need: f.spread.startMm }
        : null,
  }),
  rule({
    id: 'R11',
    level: 'caution',
    when: 'one pass brings more than it should',
    message: '{rate} t/ha in one pass exceeds {max}.',
    action: 'Split into {n} passes, 6-12 months apart, worked in.',
    test: (f) =>
      f.passTHa !== null &&
      f.maxPassTHa !== null &&
      f.passTHa > f.maxPassTHa + 1e-9 &&
      f.passTHa <= 12
        ? {
            rate: f.passTHa.toFixed(1),
            max: f.maxPassTHa.toFixed(1),
            n: String(Math.ceil(f.passTHa / f.maxPassTHa)),
          }
        : null,
  }),
  rule({
    id: 'R12',
    level: 'stop',
    when: 'one pass above 12 t ECC/ha',
    message: 'Lime rate {rate} t/ha ECC is outside practice (limit 12).',
    action: 'Check units (ton/ac against t/ha), buffer kind and buffer pH.',
    test: (f) => (f.passTHa !== null && f.passTHa > 12 ? { rate: f.passTHa.toFixed(1) } : null),
  }),
  rule({
    id: 'R19',
    level: 'caution',
    when: 'lime for calcium at pH 6.8 or above',
    message: 'Lime at pH {ph} raises calcium by the base-saturation system only.',
    action: 'Gypsum or nothing; show both systems.',
    test: (f) => (f.forCalciumOnly && f.ph >= 6.8 && f.ph < 7.3 ? { ph: f.ph.toFixed(1) } : null),
  }),
  rule({
    id: 'R20',
    level: 'stop',
    when: 'lime at pH 7.3 or above',
    message: 'pH {ph}: limestone hardly dissolves and pH is high already.',
    action: 'No lime; manage Zn, P, Fe.',
    test: (f) =>
      (f.limeWanted || f.forCalciumOnly) && f.ph >= 7.3 ? { ph: f.ph.toFixed(1) } : null,
  }),
  rule({
    id: 'R22',
    level: 'stop',
    when: 'gypsum chosen to raise the pH',
    message: 'Gypsum does not raise pH: sulphate takes up no acid.',
    action:
      'Choose a carbonate, oxide, hydroxide or silicate; keep gypsum for Ca, S, sodium or subsoil aluminium.',
    test: (f) => (f.chosen?.gypsum ? {} : null),
  }),
  rule({
    id: 'R36',
    level: 'caution',
    when: 'two lime methods differ more than two-fold',
    message: 'Lime methods give {a} and {b} t/ha ECC: more than two-fold apart.',
    action: 'Retest the buffer pH, or lime to the lower figure and retest after a year.',
    test: (f) =>
      f.disagreement && f.disagreement.high / f.disagreement.low > 2
        ? { a: f.disagreement.low.toFixed(1), b: f.disagreement.high.toFixed(1) }
        : null,
  }),
  rule({
    id: 'R37',
    level: 'info',
    when: 'lime spread 12 to 24 months ago and not retested',
    message: 'Lime was spread on {spread_date}: retest now due.',
    action: 'Sample the same spots, depth and month.',
    test: (f) =>
      f.spread && !f.spread.retested && f.spread.daysAgo >= 365 && f.spread.daysAgo <= 730
        ? { spread_date: f.spread.date }
        : null,
  }),
  rule({
    id: 'R40',
    level: 'caution',
    when: 'more than 2.5 t/ha on the surface of grass or no-till',
    message:
      '{rate} t/ha ECC on the surface: lime moves only 1-2 cm a year; the top 3 cm would be over-limed.',
    action: 'At most 2.5 t/ha, again after 2-3 years.',
    test: (f) =>
      f.surface && f.passTHa !== null && f.passTHa > 2.5 ? { rate: f.passTHa.toFixed(1) } : null,
  }),
  rule({
    id: 'R41',
    level: 'stop',
    when: 'burnt or hydrated lime within 14 days of ammonium, urea or manure on the surface',
    message:
      'Hydrated or burnt lime and ammonium, urea or manure within 14 days: ammonia gas and N loss.',
    action: 'Keep 14 days apart, or work the first one in.',
    test: (f) =>
      f.chosen?.caustic && f.daysToAmmonium !== null && f.daysToAmmonium < 14 ? {} : null,
  }),
  rule({
    id: 'R42',
    level: 'caution',
    when: 'more than 150 kg N/ha as ammonium sulphate',
    message:
      '{n} kg N/ha as ammonium sulphate makes acid equal to {a} kg CaCO3/ha a year: lime interval {y} years.',
    action: 'Change form or lime more often.',
    test: (f) =>
      f.ammoniumSulphateN > 150
        ? {
            n: f.ammoniumSulphateN,
            a: f.ammoniumSulphateAcid,
            y: f.intervalYears === null ? 'not known' : f.intervalYears.toFixed(1),
          }
        : null,
  }),
  rule({
    id: 'R45',
    level: 'caution',
    when: 'chosen lime without an analysis of its own',
    message: 'Book value; real value may be {min}-{max} % CCE.',
    action: 'Ask for CCE and sieve sheet.',
    test: (f) =>
      f.chosen?.bookValue && !f.chosen.gypsum
        ? { min: String(f.chosen.cceMin), max: String(f.chosen.cceMax) }
        : null,
  }),
];
