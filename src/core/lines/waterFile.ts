import type { ToldReport } from '../laboratory/readLaboratory';
import type { OtherReport, ReportValue } from '../laboratory/samples';
import type { Plan } from '../document/document';

/** What a report of irrigation water tells, in the units of the plan. */
export interface WaterFound extends Pick<
  NonNullable<Plan['irrigation']>,
  'no3nMgL' | 'so4sMgL' | 'kMgL' | 'clMgL' | 'sampledOn'
> {
  name: string;
  /** Figures of the report that the budget does not reckon with. */
  beside: string[];
}
const HELD = { no3_n: 'no3nMgL', so4_s: 'so4sMgL', k: 'kMgL', cl: 'clMgL' } as const;
const isHeld = (q: string): q is keyof typeof HELD => q in HELD;
/** Below a limit counts as half of it; looked for and not found, without a limit, as nothing known. */
const figure = ({ value, unit }: ReportValue): number | null => (unit === 'mg/L' ? value : null);

/**
 * Samples of a water report: nitrate, sulphate, potassium and chloride as mg/L of the element.
 *
 * @example watersOf({ samples: [] }) // []
 */
export const watersOf = ({ samples }: Pick<ToldReport, 'samples'>): WaterFound[] =>
  (samples as OtherReport[]).map((s) => {
    const of = (quantity: keyof typeof HELD) => {
      const found = s.values.find((v) => v.quantity === quantity);
      return found ? figure(found) : null;
    };
    return {
      name: [s.label, s.field].filter(Boolean).join(', '),
      no3nMgL: of('no3_n'),
      so4sMgL: of('so4_s'),
      kMgL: of('k'),
      clMgL: of('cl'),
      sampledOn: s.date,
      beside: s.values.filter((v) => !isHeld(v.quantity)).map((v) => v.quantity),
    };
  });
