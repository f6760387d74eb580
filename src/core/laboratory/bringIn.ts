import { stringify } from 'csv-stringify/sync';
import { pointOfBag } from '../ground/sampleList';
import { outsideOf, RANGES, rangeProblem, rangeText, type Range } from '../quantity/range';
import type { LeftOut } from './layout';
import type { Answers, Question, Waiting } from './questions';
import type { LabReport } from './readLaboratory';
import type { CellRead, LabReading, SoilReport } from './samples';

// Which samples of a soil report come in, and which wait to be put right.

/** A soil sample that is ready to be stored. */
export interface ParsedSample {
  row: number;
  fieldName: string;
  label: string | null;
  date: string;
  /** The point of a sampling plan that the label names, or null. */
  point: { samplingPlanId: string; label: string } | null;
  depthFromCm: number;
  depthCm: number | null;
  nCores: number | null;
  phWater: number | null;
  phCacl2: number | null;
  bufferKind: 'smp' | 'sikora' | 'adams_evans' | 'mehlich' | null;
  bufferPh: number | null;
  omPct: number | null;
  ocPct: number | null;
  clayPct: number | null;
  stonesPct: number | null;
  /** Longitude and latitude, where the file has them. */
  at: [number, number] | null;
  cecCmolKg: number | null;
  alCmolKg: number | null;
  /** Nitrate-N of the row's layer: goes to the nitrate profile of the field and day. */
  no3nMgKg: number | null;
  /** Sulphate-S of the row's layer, to the same profile. */
  so4sMgKg: number | null;
  readings: LabReading[];
}
export interface CellProblem {
  column: string;
  value: string;
  reason: string;
}
export interface BadRow {
  row: number;
  cells: Record<string, string>;
  problems: CellProblem[];
}
export interface BringContext {
  /** Names of the farm's fields. */
  fieldNames: readonly string[];
  /** No sample lies in the future. */
  today: string;
  /** Field, date, label and depth of samples that are stored already. */
  known: ReadonlySet<string>;
  /**
   * Points of the farm's sampling plans by label in small letters: a label alone says which field
   * a bag came from.
   */
  points: ReadonlyMap<string, { samplingPlanId: string; label: string; fieldName: string }>;
}

export const sampleKey = (
  s: Pick<ParsedSample, 'fieldName' | 'date' | 'label' | 'depthFromCm'>,
): string => [s.fieldName.toLowerCase(), s.date, s.label ?? '', s.depthFromCm].join('|');

const MAX_VALUE: Record<string, number> = { p: 2000, k: 5000, mg: 5000, ca: 60_000 };
const BUFFER: Range = { label: 'Buffer pH', unit: '', min: 4, max: 8.1 };
const BUFFER_KINDS = ['smp', 'sikora', 'adams_evans', 'mehlich'] as const;

/** Figures of a sample with what they are refused outside of. */
const figuresOf = (s: SoilReport): [string, number | null, Range][] => [
  ['pH in water', s.phWater, RANGES.phWater],
  ['pH in CaCl2', s.phCacl2, RANGES.phSalt],
  ['Buffer pH', s.bufferPh, BUFFER],
  ['Organic matter', s.omPct, RANGES.omPct],
  ['CEC', s.cecCmolKg, RANGES.cecCmolKg],
  ['Clay', s.clayPct, RANGES.clayPct],
  ['Aluminium', s.alCmolKg, RANGES.alCmolKg],
  ['Depth', s.depthBottomCm, RANGES.sampleDepthCm],
  ['Cores', s.nCores, RANGES.nCores],
  ['Nitrate-N', s.nitrate[0]?.no3nMgKg ?? null, RANGES.no3nMgKg],
  ['Sulphate-S', s.sulphate[0]?.so4sMgKg ?? null, RANGES.so4sMgKg],
  ...s.readings.map((r): [string, number, Range] => [
    r.nutrient.toUpperCase(),
    r.value,
    {
      ...RANGES.testMgKg,
      label: `${r.nutrient.toUpperCase()} test`,
      max: MAX_VALUE[r.nutrient] ?? 60_000,
    },
  ]),
];

/** What of a sample does not fit together, or is not there. */
function problemsOf(s: SoilReport, fieldName: string, context: BringContext): string[] {
  const { phWater: ph, phCacl2: salt, bufferPh: buffer, date } = s;
  const says =
    s.readings.length > 0 ||
    s.nitrate.length > 0 ||
    s.sulphate.length > 0 ||
    [ph, salt, buffer, s.omPct, s.ocPct, s.cecCmolKg, s.alCmolKg, s.clayPct].some(
      (v) => v !== null,
    );
  return [
    ...(fieldName === ''
      ? [
          `${s.field === null ? 'The field is missing' : `${s.field} is not a field of this farm`}: ${context.fieldNames.join(', ')}.`,
        ]
      : []),
    ...(date !== null && date > context.today ? [`${date} lies in the future.`] : []),
    ...figuresOf(s).flatMap(([name, value, range]) =>
      value === null || rangeProblem(name, value, range) === null
        ? []
        : [`${name} ${value} ${outsideOf(rangeText(range))}`],
    ),
    ...(ph !== null && salt !== null && salt > ph + 0.5
      ? [`pH in CaCl2 ${salt} lies far above pH in water ${ph}.`]
      : []),
    ...(buffer !== null && ph !== null && buffer < ph - 2
      ? [`Buffer pH ${buffer} lies more than 2 below pH in water ${ph}: one of them is wrong.`]
      : []),
    ...(s.sulphate.length > 0 && s.depthBottomCm === null
      ? ['Sulphate belongs to a layer: its depth is missing, such as 0-30.']
      : []),
    ...(s.nitrate.length > 0 && s.depthBottomCm === null
      ? ['Nitrate belongs to a layer: its depth is missing, such as 0-30.']
      : []),
    ...(s.depthTopCm !== null && s.depthBottomCm !== null && s.depthTopCm >= s.depthBottomCm
      ? ['The layer ends above where it begins.']
      : []),
    ...(says ? [] : ['This row holds no value.']),
  ];
}

/** The field of a sample, by its name or by the point of a plan that its label names. */
function placeOf(s: SoilReport, { fieldNames, points }: BringContext) {
  const point = s.label ? points.get(pointOfBag(s.label).toLowerCase()) : undefined;
  const said = s.field ?? point?.fieldName ?? '';
  const fieldName = fieldNames.find((n) => n.toLowerCase() === said.toLowerCase()) ?? '';
  return {
    fieldName,
    point:
      point && point.fieldName.toLowerCase() === fieldName.toLowerCase()
        ? { samplingPlanId: point.samplingPlanId, label: point.label }
        : null,
  };
}

/**
 * Sorts the samples of a soil report: those that come in, and those that wait whole, with their
 * cells and what is wrong with them.
 */
export function soilBringIn(
  report: Pick<LabReport, 'samples' | 'waiting' | 'sourceOf'>,
  context: BringContext,
): { good: ParsedSample[]; bad: BadRow[] } {
  const good: ParsedSample[] = [];
  const bad: BadRow[] = [];
  const seen = new Set(context.known);
  const waiting = new Map<number, Waiting[]>();
  for (const w of report.waiting) waiting.set(w.sample, [...(waiting.get(w.sample) ?? []), w]);
  (report.samples as SoilReport[]).forEach((s, i) => {
    const { fieldName, point } = placeOf(s, context);
    const waits = waiting.get(i) ?? [];
    const reasons = waits.length > 0 ? [] : problemsOf(s, fieldName, context);
    const sample: ParsedSample = {
      row: s.row,
      fieldName,
      label: s.label,
      date: s.date ?? '',
      point,
      depthFromCm: s.depthTopCm ?? 0,
      depthCm: s.depthBottomCm,
      nCores: s.nCores,
      phWater: s.phWater,
      phCacl2: s.phCacl2,
      bufferKind: BUFFER_KINDS.find((k) => k === s.bufferKind) ?? null,
      bufferPh: s.bufferPh,
      omPct: s.omPct,
      ocPct: s.ocPct,
      clayPct: s.clayPct,
      stonesPct: s.stonesPct,
      at: s.position,
      cecCmolKg: s.cecCmolKg,
      alCmolKg: s.alCmolKg,
      no3nMgKg: s.nitrate[0]?.no3nMgKg ?? null,
      so4sMgKg: s.sulphate[0]?.so4sMgKg ?? null,
      readings: s.readings,
    };
    if (waits.length === 0 && reasons.length === 0 && seen.has(sampleKey(sample)))
      reasons.push('The same field, date, label and depth is here already.');
    if (waits.length === 0 && reasons.length === 0) {
      seen.add(sampleKey(sample));
      good.push(sample);
      return;
    }
    const cells = report.sourceOf(i);
    const [column = ''] = Object.keys(cells);
    bad.push({
      row: s.row,
      cells,
      problems: [
        ...waits.map((w) => ({ column: w.column, value: w.value, reason: w.reason })),
        ...reasons.map((reason) => ({ column, value: cells[column] ?? '', reason })),
      ],
    });
  });
  return { good, bad };
}

/** The cells of a waiting row as a file of one row, to be read like any other. */
export const fileOfRow = (cells: Readonly<Record<string, string>>): Uint8Array =>
  new TextEncoder().encode(
    `sep=\t\n${stringify([Object.keys(cells), Object.values(cells)], { delimiter: '\t' })}`,
  );

/** What is said of a file before anything of it is brought in. */
export interface FileLook {
  readAs: string;
  shape: string;
  samples: number;
  /** Samples that can come in, when no question is open. */
  good: number;
  bad: BadRow[];
  questions: Question[];
  /** Answers that hold already, with those that were remembered of the laboratory. */
  answers: Answers;
  remembered: boolean;
  cells: CellRead[];
  moreCells: number;
  leftOut: LeftOut[];
}

/** A file that was brought in, as a list shows it. */
export interface ImportLine {
  id: string;
  farm: string;
  laboratory: string;
  fileName: string;
  author: string;
  on: string;
  samples: number;
  leaves: number;
  profiles: number;
  waiting: number;
}
