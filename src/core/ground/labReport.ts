import { Refusal, refuse } from '../quantity/refusal';
import { RANGES, within } from '../quantity/range';
import { soilTestLevels } from '../book/soilTests';

/**
 * Columns without an extractant. A buffer pH names its kind: without it no lime can be worked out.
 */
export const PLAIN_TARGETS = [
  'ignore',
  'field',
  'label',
  'date',
  'depth_cm',
  'cores',
  'ph_water',
  'ph_cacl2',
  'buffer_smp',
  'buffer_sikora',
  'buffer_adams_evans',
  'buffer_mehlich',
  'om_pct',
  'cec_cmol_kg',
  'al_cmol_kg',
  'no3n_mg_kg',
] as const;
export type PlainTarget = (typeof PLAIN_TARGETS)[number];
/**
 * What a column of a laboratory file holds. A nutrient names its extractant and unit: without them
 * there is no class.
 */
export type ColumnTarget =
  | { kind: PlainTarget }
  | { kind: 'nutrient'; nutrient: string; extractant: string; unit: LabSoilUnit };
export type LabSoilUnit = 'mg_kg' | 'mg_l' | 'lb_ac';
export type DateOrder = 'ymd' | 'dmy' | 'mdy';
export interface LabMapping {
  columns: Record<string, ColumnTarget>;
  dateOrder: DateOrder;
}
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
  cecCmolKg: number | null;
  alCmolKg: number | null;
  /** Nitrate-N of the row's layer: goes to the nitrate profile of the field and day. */
  no3nMgKg: number | null;
  readings: {
    nutrient: string;
    extractant: string;
    value: number;
    unit: LabSoilUnit;
    belowDetection: boolean;
  }[];
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

const UNIT_SPELLINGS: Record<string, LabSoilUnit> = {
  'mg/kg': 'mg_kg',
  ppm: 'mg_kg',
  'mg kg-1': 'mg_kg',
  'mg/l': 'mg_l',
  'mg/dm3': 'mg_l',
  'lb/ac': 'lb_ac',
  'lbs/ac': 'lb_ac',
  'lb/acre': 'lb_ac',
};
const unitOf = (text: string): LabSoilUnit | null =>
  UNIT_SPELLINGS[text.trim().toLowerCase()] ?? null;

const EXTRACTANT_WORDS: readonly (readonly [RegExp, string])[] = [
  [/olsen/, 'olsen'],
  [/bray/, 'bray_1'],
  [/mehlich.*icp|m3.*icp/, 'mehlich_3_icp'],
  [/mod.*morgan/, 'modified_morgan'],
  [/morgan/, 'morgan'],
  [/\bcal\b/, 'cal'],
  [/amm.*ac|nh4oac/, 'ammonium_acetate'],
  [/amm.*nit|nh4no3/, 'ammonium_nitrate'],
  [/mehlich|\bm3\b/, 'mehlich_3'],
  [/dtpa/, 'dtpa'],
  [/hot.?water|hws/, 'hot_water'],
  [/phosphate.*so4|so4/, 'calcium_phosphate_so4'],
];
const NUTRIENT_WORDS: readonly (readonly [RegExp, string])[] = [
  [/^(p|phosph\w*)\b/, 'p'],
  [/^(k|potass\w*)\b/, 'k'],
  [/^(mg|magnes\w*)\b/, 'mg'],
  [/^(ca|calcium)\b/, 'ca'],
  [/^(s|sul\w*)\b/, 's'],
  [/^(zn|zinc)\b/, 'zn'],
  [/^(mn|mangan\w*)\b/, 'mn'],
  [/^(cu|copper)\b/, 'cu'],
  [/^(fe|iron)\b/, 'fe'],
  [/^(b|boron)\b/, 'b'],
];

/**
 * Reads a heading such as "P Olsen (mg/kg)". What cannot be told is left for the user: an
 * extractant is never guessed.
 */
export function guessColumn(header: string): ColumnTarget {
  const h = header.trim().toLowerCase();
  if (/^(field|block|parcel|paddock)/.test(h)) return { kind: 'field' };
  if (/label|sample.*(no|id|name)|^sample$|reference/.test(h)) return { kind: 'label' };
  if (/date|sampled/.test(h)) return { kind: 'date' };
  if (/depth/.test(h)) return { kind: 'depth_cm' };
  if (/^cores/.test(h)) return { kind: 'cores' };
  // Nitrate itself (NO3, without -N) weighs 4.43 times its N: it is left for the user to say.
  if (/(no3|nitrate)[\s_-]*n\b/.test(h) && /mg\/kg|ppm/.test(h)) return { kind: 'no3n_mg_kg' };
  if (/buffer/.test(h))
    return {
      kind: /smp/.test(h)
        ? 'buffer_smp'
        : /sikora/.test(h)
          ? 'buffer_sikora'
          : /adams/.test(h)
            ? 'buffer_adams_evans'
            : /mehlich/.test(h)
              ? 'buffer_mehlich'
              : 'ignore',
    };
  if (/organic matter|^om\b/.test(h)) return { kind: 'om_pct' };
  if (/^cec\b/.test(h)) return { kind: 'cec_cmol_kg' };
  if (/^al\b.*(cmol|meq)|exch.*alumin/.test(h)) return { kind: 'al_cmol_kg' };
  if (/^ph/.test(h)) return { kind: /cacl/.test(h) ? 'ph_cacl2' : 'ph_water' };
  const nutrient = NUTRIENT_WORDS.find(([word]) => word.test(h))?.[1];
  const extractant = EXTRACTANT_WORDS.find(([word]) => word.test(h))?.[1];
  const unit =
    unitOf(/[([]([^)\]]+)[)\]]/.exec(h)?.[1] ?? '') ??
    unitOf(/(mg\/kg|mg\/l|ppm|lb\/ac(?:re)?)/.exec(h)?.[1] ?? '');
  if (nutrient && extractant && unit && extractantsFor(nutrient).includes(extractant))
    return { kind: 'nutrient', nutrient, extractant, unit };
  return { kind: 'ignore' };
}
/**
 * Calcium has no class of its own: it serves saturation, by the extract that the laboratory names.
 */
const CALCIUM = ['ammonium_acetate', 'mehlich_3'];
export const extractantsFor = (nutrient: string): string[] =>
  nutrient === 'ca'
    ? CALCIUM
    : [
        ...new Set(
          soilTestLevels()
            .filter((r) => r.nutrient === nutrient && r.unit !== 'kg_ha_0_60cm')
            .map((r) => r.extractant),
        ),
      ];
export const labNutrients = (): string[] => [
  ...new Set([
    ...soilTestLevels()
      .filter((r) => r.nutrient !== 'cl')
      .map((r) => r.nutrient),
    'ca',
  ]),
];

function readDate(text: string, order: DateOrder): string {
  const m = /^(\d{1,4})[-/.](\d{1,2})[-/.](\d{1,4})$/.exec(text.trim());
  const parts = m ? [Number(m[1]), Number(m[2]), Number(m[3])] : null;
  const iso = parts && parts[0] !== undefined && parts[0] > 31;
  const [y, mo, d] = !parts
    ? [0, 0, 0]
    : iso || order === 'ymd'
      ? parts
      : order === 'dmy'
        ? [parts[2], parts[1], parts[0]]
        : [parts[2], parts[0], parts[1]];
  const date = new Date(Date.UTC(y ?? 0, (mo ?? 0) - 1, d ?? 0));
  if (!parts || (y ?? 0) < 1950 || date.getUTCMonth() !== (mo ?? 0) - 1 || date.getUTCDate() !== d)
    refuse(
      'not_a_number',
      'date',
      `${text} is not a calendar date in the order ${order === 'ymd' ? 'year-month-day' : order === 'dmy' ? 'day/month/year' : 'month/day/year'}.`,
      { value: text },
    );
  return date.toISOString().slice(0, 10);
}

/**
 * "18", "6,5", "<5", "36 lb/ac". A unit written in the cell wins over the heading's; one that is
 * not known is refused.
 */
function readFigure(text: string): { value: number; below: boolean; unit: LabSoilUnit | null } {
  const m = /^(<|>)?\s*(-?\d+(?:[.,]\d+)?)\s*(\D.*)?$/.exec(text.trim());
  if (!m) refuse('not_a_number', 'value', `${text} is not a number.`, { value: text });
  if (m[1] === '>')
    refuse(
      'inconsistent',
      'value',
      `${text} is above the laboratory’s range: ask for the diluted figure.`,
      { value: text },
    );
  const suffix = m[3]?.trim();
  const unit = suffix
    ? (unitOf(suffix) ??
      refuse('unknown_id', 'unit', `unit ${suffix} is not recognised: mg/kg, mg/L or lb/ac.`, {
        value: text,
      }))
    : null;
  const value = Number((m[2] ?? '').replace(',', '.'));
  return { value: m[1] === '<' ? value / 2 : value, below: m[1] === '<', unit };
}

const EMPTY = /^(|-|n\.?d\.?|n\/a)$/i;
const MAX_VALUE: Record<string, number> = { p: 2000, k: 5000, mg: 5000, ca: 60000 };
const BUFFER = { label: 'Buffer pH', unit: '', min: 4, max: 8.1 };
/** "20", "0-20", "20-40 cm": a layer from its top to its bottom. */
function readDepth(text: string): { depthFromCm: number; depthCm: number } {
  const m = /^\s*(?:(\d+(?:[.,]\d+)?)\s*(?:-|–|to)\s*)?(\d+(?:[.,]\d+)?)\s*(?:cm)?\s*$/i.exec(text);
  if (!m)
    refuse('not_a_number', 'depth', `${text} is not a depth: write 20, 0-20 or 20-40.`, {
      value: text,
    });
  const read = (x: string) => Number(x.replace(',', '.'));
  const depthFromCm = m[1] ? read(m[1]) : 0;
  const depthCm = within('depth', read(m[2] as string), RANGES.sampleDepthCm);
  if (depthFromCm >= depthCm)
    refuse('inconsistent', 'depth', `Depth ${text}: the layer ends above where it begins.`, {
      value: text,
      allowed: 'from less than to',
    });
  return { depthFromCm, depthCm };
}
const plainNumber = (text: string): number => {
  const f = readFigure(text);
  return f.unit
    ? refuse('unknown_id', 'unit', `${text}: a number without a unit was expected.`, {
        value: text,
      })
    : f.value;
};

function readCell(
  sample: ParsedSample,
  target: ColumnTarget,
  text: string,
  order: DateOrder,
): void {
  switch (target.kind) {
    case 'field':
      sample.fieldName = text.trim();
      return;
    case 'label':
      sample.label = text.trim();
      return;
    case 'date':
      sample.date = readDate(text, order);
      return;
    case 'depth_cm':
      Object.assign(sample, readDepth(text));
      return;
    case 'cores':
      sample.nCores = within('cores', plainNumber(text), RANGES.nCores);
      return;
    case 'om_pct':
      sample.omPct = within('organic matter', plainNumber(text), RANGES.omPct);
      return;
    case 'cec_cmol_kg':
      sample.cecCmolKg = within('CEC', plainNumber(text), RANGES.cecCmolKg);
      return;
    case 'al_cmol_kg':
      sample.alCmolKg = within('aluminium', plainNumber(text), RANGES.alCmolKg);
      return;
    case 'buffer_smp':
    case 'buffer_sikora':
    case 'buffer_adams_evans':
    case 'buffer_mehlich':
      sample.bufferPh = within('buffer pH', plainNumber(text), BUFFER);
      sample.bufferKind = target.kind.slice('buffer_'.length) as ParsedSample['bufferKind'];
      return;
    case 'no3n_mg_kg':
      sample.no3nMgKg = within('nitrate-N', plainNumber(text), RANGES.no3nMgKg);
      return;
    case 'ph_water':
      sample.phWater = within('pH', plainNumber(text), RANGES.phWater);
      return;
    case 'ph_cacl2':
      sample.phCacl2 = within('pH', plainNumber(text), RANGES.phSalt);
      return;
    case 'nutrient': {
      const f = readFigure(text);
      within(target.nutrient.toUpperCase(), f.value, {
        ...RANGES.testMgKg,
        label: `${target.nutrient.toUpperCase()} test`,
        max: MAX_VALUE[target.nutrient] ?? 60000,
      });
      sample.readings.push({
        nutrient: target.nutrient,
        extractant: target.extractant,
        value: f.value,
        unit: f.unit ?? target.unit,
        belowDetection: f.below,
      });
      return;
    }
    default:
      return;
  }
}

export interface ReadContext {
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
/** The point's own label in a bag's label: with several layers the depth follows a slash. */
export const pointOfBag = (label: string): string => label.split('/')[0]?.trim() ?? label;

/**
 * Reads the rows of a laboratory file by a mapping. A row is taken whole or not at all: each
 * refused one comes back with the column, what
 * stood there and why.
 */
export function readLabRows(
  rows: readonly { row: number; cells: Record<string, string> }[],
  mapping: LabMapping,
  context: ReadContext,
): { good: ParsedSample[]; bad: BadRow[] } {
  const columnOf = (kind: ColumnTarget['kind']) =>
    Object.entries(mapping.columns).find(([, t]) => t.kind === kind)?.[0];
  if (!columnOf('field') && !(columnOf('label') && context.points.size > 0))
    refuse(
      'missing',
      'mapping',
      'No column is mapped to the field: choose one, or map the label of a sampling plan.',
    );
  if (!columnOf('date'))
    refuse('missing', 'mapping', 'No column is mapped to the date: choose one.');
  if (
    !Object.values(mapping.columns).some(
      (t) =>
        t.kind === 'nutrient' ||
        t.kind === 'no3n_mg_kg' ||
        t.kind.startsWith('ph') ||
        t.kind.startsWith('buffer'),
    )
  )
    refuse(
      'missing',
      'mapping',
      'No column is mapped to a pH, a nutrient or nitrate: choose at least one.',
    );
  const good: ParsedSample[] = [];
  const bad: BadRow[] = [];
  const seen = new Set(context.known);
  for (const { row, cells } of rows) {
    const sample: ParsedSample = {
      row,
      fieldName: '',
      label: null,
      date: '',
      point: null,
      depthFromCm: 0,
      depthCm: null,
      nCores: null,
      phWater: null,
      phCacl2: null,
      bufferKind: null,
      bufferPh: null,
      omPct: null,
      cecCmolKg: null,
      alCmolKg: null,
      no3nMgKg: null,
      readings: [],
    };
    const problems: CellProblem[] = [];
    const flag = (column: string, reason: string) =>
      problems.push({ column, value: cells[column] ?? '', reason });
    for (const [column, target] of Object.entries(mapping.columns)) {
      const text = cells[column] ?? '';
      if (target.kind === 'ignore' || EMPTY.test(text.trim())) continue;
      try {
        readCell(sample, target, text, mapping.dateOrder);
      } catch (e) {
        if (!(e instanceof Refusal)) throw e;
        flag(column, e.message);
      }
    }
    const fieldColumn = columnOf('field') ?? (columnOf('label') as string);
    const dateColumn = columnOf('date') as string;
    const point = sample.label
      ? context.points.get(pointOfBag(sample.label).toLowerCase())
      : undefined;
    if (point && sample.fieldName === '') sample.fieldName = point.fieldName;
    if (point && point.fieldName.toLowerCase() === sample.fieldName.toLowerCase())
      sample.point = { samplingPlanId: point.samplingPlanId, label: point.label };
    const field = context.fieldNames.find(
      (n) => n.toLowerCase() === sample.fieldName.toLowerCase(),
    );
    if (!field)
      flag(
        fieldColumn,
        sample.fieldName
          ? `${sample.fieldName} is not a field of this farm: ${context.fieldNames.join(', ')}.`
          : 'The field is missing.',
      );
    else sample.fieldName = field;
    if (sample.date === '' && !problems.some((p) => p.column === dateColumn))
      flag(dateColumn, 'The sampling date is missing.');
    if (sample.date > context.today) flag(dateColumn, `${sample.date} lies in the future.`);
    if (sample.phWater !== null && sample.phCacl2 !== null && sample.phCacl2 > sample.phWater + 0.5)
      flag(
        columnOf('ph_cacl2') as string,
        `pH in CaCl2 ${sample.phCacl2} lies far above pH in water ${sample.phWater}.`,
      );
    if (sample.bufferPh !== null && sample.phWater !== null && sample.bufferPh < sample.phWater - 2)
      flag(
        Object.entries(mapping.columns).find(([, t]) => t.kind.startsWith('buffer'))?.[0] as string,
        `Buffer pH ${sample.bufferPh} lies more than 2 below pH in water ${sample.phWater}: one of them is wrong.`,
      );
    const says =
      sample.readings.length > 0 ||
      [sample.phWater, sample.phCacl2, sample.bufferPh, sample.omPct, sample.cecCmolKg].some(
        (v) => v !== null,
      ) ||
      sample.alCmolKg !== null ||
      sample.no3nMgKg !== null;
    if (sample.no3nMgKg !== null && sample.depthCm === null)
      flag(
        columnOf('no3n_mg_kg') as string,
        'Nitrate belongs to a layer: map a column with its depth, such as 0-30.',
      );
    if (problems.length === 0 && !says) flag(fieldColumn, 'This row holds no value.');
    if (problems.length === 0 && seen.has(sampleKey(sample)))
      flag(fieldColumn, 'The same field, date, label and depth is here already.');
    if (problems.length > 0) bad.push({ row, cells, problems });
    else {
      seen.add(sampleKey(sample));
      good.push(sample);
    }
  }
  return { good, bad };
}
