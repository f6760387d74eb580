import { z } from 'zod';
import { stringify } from 'csv-stringify/sync';
import type { IsoDate } from '../quantity/calendar';
import { published, type PublishedSchema } from '../quantity/published';
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

/** The point's own label in a bag's label: with several layers the depth follows a slash. */
export const pointOfBag = (label: string): string => label.split('/')[0]?.trim() ?? label;

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

const cell = (pattern: RegExp, description: string, example: string) =>
  z
    .string()
    .regex(pattern)
    .meta({ description, examples: [example] });
const NUMBER = /^\d+(\.\d+)?$/u;
const DEGREES = /^-?\d+(\.\d+)?$/u;
const row = z.strictObject({
  label: z
    .string()
    .min(1)
    .max(40)
    .meta({ description: 'On the bag; comes back with the results', examples: ['LF-01/0-20'] }),
  farm: z
    .string()
    .min(1)
    .meta({ description: 'Farm', examples: ['Tansy Hollow'] }),
  field: z
    .string()
    .min(1)
    .meta({ description: 'Field', examples: ['Low Fleet'] }),
  sampled_on: cell(/^\d{4}-\d{2}-\d{2}$/u, 'Day, YYYY-MM-DD', '2027-02-26'),
  depth_from_cm: cell(NUMBER, 'Upper limit of the layer, cm', '0'),
  depth_to_cm: cell(NUMBER, 'Lower limit of the layer, cm', '20'),
  cores: cell(/^\d+$/u, 'Cores in the bag', '15'),
  purpose: cell(/^[a-z_]+$/u, 'What the sample is for, by its key', 'routine'),
  longitude: cell(DEGREES, 'Degrees, WGS 84', '-1.25'),
  latitude: cell(DEGREES, 'Degrees, WGS 84', '52.5'),
} satisfies Record<(typeof SAMPLE_LIST_COLUMNS)[number], z.ZodType>);

/** Schemas of a row of the list, each cell as text. */
export const sampleListSchemas = (): PublishedSchema[] => [
  published(
    'sample-list',
    1,
    'Sample list',
    'A row of the list that goes to the laboratory with the bags: CSV with this heading, UTF-8, comma.',
    z.toJSONSchema(row),
  ),
];
