import { stringify } from 'csv-stringify/sync';
import type { IsoDate } from '../quantity/calendar';
import type { SamplingPlan } from './samplingPlan';

export const SAMPLE_LIST_COLUMNS = [
  'label',
  'farm',
  'field',
  'sampled_on',
  'depth_from_cm',
  'depth_to_cm',
  'cores',
  'purpose',
  'longitude',
  'latitude',
] as const;

/**
 * The labels of a plan: one bag for each point and layer. With more than one layer the depth is
 * part of the label.
 */
export const bagsOf = (
  plan: SamplingPlan,
): {
  label: string;
  fromCm: number;
  toCm: number;
  at: [number, number];
  kind: string;
  note: string;
}[] =>
  plan.points.flatMap((p) =>
    plan.layers.map((l) => ({
      label: plan.layers.length > 1 ? `${p.label}/${l.fromCm}-${l.toCm}` : p.label,
      fromCm: l.fromCm,
      toCm: l.toCm,
      at: p.at,
      kind: p.kind,
      note: p.note,
    })),
  );

/**
 * The list that goes to the laboratory with the bags, as CSV. Cells that a spreadsheet would run as
 * a formula are escaped.
 */
export function sampleListCsv(i: {
  farm: string;
  field: string;
  sampledOn: IsoDate;
  plan: SamplingPlan;
}): string {
  const rows = bagsOf(i.plan).map((b) => [
    b.label,
    i.farm,
    i.field,
    i.sampledOn,
    b.fromCm,
    b.toCm,
    i.plan.coresPerSample,
    i.plan.purpose,
    b.at[0],
    b.at[1],
  ]);
  return stringify([[...SAMPLE_LIST_COLUMNS], ...rows], { escape_formulas: true });
}
