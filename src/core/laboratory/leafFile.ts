import { tissueNutrients } from '../book/tissueNutrients';
import type { LeafSample } from '../facts/leafSample';
import type { ToldReport } from './readLaboratory';
import type { OtherReport } from './samples';

/** A sample of a leaf report, ready for the form. */
export interface LeafOfFile {
  /** By what a person knows it. */
  name: string;
  date: string | null;
  bbch: number | null;
  /** Part of the plant as leaf standards name it, and the sample's own number. */
  part: string | null;
  label: string | null;
  role: LeafSample['role'];
  values: LeafSample['values'];
  /** Nutrients that were looked for and not found. */
  notFound: string[];
}
/** A sample with the row, field and crop that it names. */
export interface LeafFileRow extends LeafOfFile {
  row: number;
  field: string | null;
  crop: string | null;
}
/** The nutrient as leaf standards name it: no3_n is NO3_N, zn is Zn. */
const symbolOf = (quantity: string): string | undefined =>
  tissueNutrients().find((n) => n.toLowerCase() === quantity);

/** Which of a pair it is, in the words of the report. */
const roleOf = (pair: string | null): LeafSample['role'] =>
  pair === 'bad' ? 'affected' : pair === 'good' ? 'unaffected' : 'survey';

function leafOf(s: OtherReport): LeafOfFile {
  const known = s.values.flatMap((v) => {
    const nutrient = symbolOf(v.quantity);
    return nutrient === undefined ? [] : [{ ...v, nutrient }];
  });
  const bbch = /^BBCH (\d+)$/u.exec(s.stage ?? '')?.[1];
  return {
    name: [s.label, s.field, s.crop, s.part, s.stage, s.pair && `${s.pair} area`, s.date]
      .filter(Boolean)
      .join(', '),
    date: s.date,
    bbch: bbch === undefined ? null : Number(bbch),
    part:
      s.part
        ?.trim()
        .toLowerCase()
        .replaceAll(/[\s-]+/gu, '_') ?? null,
    label: s.label,
    role: roleOf(s.pair),
    values: known
      .filter((v) => v.value !== null)
      .map((v) => ({
        nutrient: v.nutrient,
        reported: v.belowDetection
          ? `<${v.limit ?? v.value}`
          : `${v.aboveRange ? '>' : ''}${v.value}`,
        unit: v.unit,
      })),
    notFound: known.filter((v) => v.notFound).map((v) => v.nutrient),
  };
}

/** The samples of a leaf report with the row, field and crop that they name. */
export const leafRowsOf = (samples: readonly OtherReport[]): LeafFileRow[] =>
  samples.map((s) => ({ ...leafOf(s), row: s.row, field: s.field, crop: s.crop }));

/** The samples of a leaf report, ready for the form. */
export const leavesOf = (report: ToldReport): LeafOfFile[] =>
  (report.samples as OtherReport[]).map(leafOf);
