import { Refusal, refuse } from '../quantity/refusal';
import { RANGES, within } from '../quantity/range';
import { soilTestLevels } from '../reference/soilTests';

/** What a column of a laboratory file holds. A nutrient names its extractant and unit: without them there is no class. */
export type ColumnTarget = { kind: 'ignore' | 'field' | 'label' | 'date' | 'depth_cm' | 'ph_water' | 'ph_cacl2' } | { kind: 'nutrient'; nutrient: string; extractant: string; unit: LabSoilUnit };
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
  depthCm: number | null;
  phWater: number | null;
  phCacl2: number | null;
  readings: { nutrient: string; extractant: string; value: number; unit: LabSoilUnit; belowDetection: boolean }[];
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

const UNIT_SPELLINGS: Record<string, LabSoilUnit> = { 'mg/kg': 'mg_kg', ppm: 'mg_kg', 'mg kg-1': 'mg_kg', 'mg/l': 'mg_l', 'mg/dm3': 'mg_l', 'lb/ac': 'lb_ac', 'lbs/ac': 'lb_ac', 'lb/acre': 'lb_ac' };
const unitOf = (text: string): LabSoilUnit | null => UNIT_SPELLINGS[text.trim().toLowerCase()] ?? null;

const EXTRACTANT_WORDS: readonly (readonly [RegExp, string])[] = [[/olsen/, 'olsen'], [/bray/, 'bray_1'], [/mehlich.*icp|m3.*icp/, 'mehlich_3_icp'], [/mod.*morgan/, 'modified_morgan'], [/morgan/, 'morgan'], [/\bcal\b/, 'cal'], [/amm.*ac|nh4oac/, 'ammonium_acetate'], [/amm.*nit|nh4no3/, 'ammonium_nitrate'], [/mehlich|\bm3\b/, 'mehlich_3'], [/dtpa/, 'dtpa'], [/hot.?water|hws/, 'hot_water'], [/phosphate.*so4|so4/, 'calcium_phosphate_so4']];
const NUTRIENT_WORDS: readonly (readonly [RegExp, string])[] = [[/^(p|phosph\w*)\b/, 'p'], [/^(k|potass\w*)\b/, 'k'], [/^(mg|magnes\w*)\b/, 'mg'], [/^(s|sul\w*)\b/, 's'], [/^(zn|zinc)\b/, 'zn'], [/^(mn|mangan\w*)\b/, 'mn'], [/^(cu|copper)\b/, 'cu'], [/^(fe|iron)\b/, 'fe'], [/^(b|boron)\b/, 'b']];

/** Reads a heading such as "P Olsen (mg/kg)". What cannot be told is left for the user: an extractant is never guessed. */
export function guessColumn(header: string): ColumnTarget {
  const h = header.trim().toLowerCase();
  if (/^(field|block|parcel|paddock)/.test(h)) return { kind: 'field' };
  if (/label|sample.*(no|id|name)|^sample$|reference/.test(h)) return { kind: 'label' };
  if (/date|sampled/.test(h)) return { kind: 'date' };
  if (/depth/.test(h)) return { kind: 'depth_cm' };
  if (/^ph/.test(h)) return { kind: /cacl/.test(h) ? 'ph_cacl2' : 'ph_water' };
  const nutrient = NUTRIENT_WORDS.find(([word]) => word.test(h))?.[1];
  const extractant = EXTRACTANT_WORDS.find(([word]) => word.test(h))?.[1];
  const unit = unitOf(/[([]([^)\]]+)[)\]]/.exec(h)?.[1] ?? '') ?? unitOf(/(mg\/kg|mg\/l|ppm|lb\/ac(?:re)?)/.exec(h)?.[1] ?? '');
  if (nutrient && extractant && unit && extractantsFor(nutrient).includes(extractant)) return { kind: 'nutrient', nutrient, extractant, unit };
  return { kind: 'ignore' };
}
export const extractantsFor = (nutrient: string): string[] => [...new Set(soilTestLevels().filter((r) => r.nutrient === nutrient && r.unit !== 'kg_ha_0_60cm').map((r) => r.extractant))];
export const labNutrients = (): string[] => [...new Set(soilTestLevels().filter((r) => r.nutrient !== 'cl').map((r) => r.nutrient))];

function readDate(text: string, order: DateOrder): string {
  const m = /^(\d{1,4})[-/.](\d{1,2})[-/.](\d{1,4})$/.exec(text.trim());
  const parts = m ? [Number(m[1]), Number(m[2]), Number(m[3])] : null;
  const iso = parts && parts[0] !== undefined && parts[0] > 31;
  const [y, mo, d] = !parts ? [0, 0, 0] : iso || order === 'ymd' ? parts : order === 'dmy' ? [parts[2], parts[1], parts[0]] : [parts[2], parts[0], parts[1]];
  const date = new Date(Date.UTC(y ?? 0, (mo ?? 0) - 1, d ?? 0));
  if (!parts || (y ?? 0) < 1950 || date.getUTCMonth() !== (mo ?? 0) - 1 || date.getUTCDate() !== d) refuse('not_a_number', 'date', `${text} is not a calendar date in the order ${order === 'ymd' ? 'year-month-day' : order === 'dmy' ? 'day/month/year' : 'month/day/year'}.`, { value: text });
  return date.toISOString().slice(0, 10);
}

/** "18", "6,5", "<5", "36 lb/ac". A unit written in the cell wins over the heading's; one that is not known is refused. */
function readFigure(text: string): { value: number; below: boolean; unit: LabSoilUnit | null } {
  const m = /^(<|>)?\s*(-?\d+(?:[.,]\d+)?)\s*(\D.*)?$/.exec(text.trim());
  if (!m) refuse('not_a_number', 'value', `${text} is not a number.`, { value: text });
  if (m[1] === '>') refuse('inconsistent', 'value', `${text} is above the laboratory’s range: ask for the diluted figure.`, { value: text });
  const suffix = m[3]?.trim();
  const unit = suffix ? (unitOf(suffix) ?? refuse('unknown_id', 'unit', `unit ${suffix} is not recognised: mg/kg, mg/L or lb/ac.`, { value: text })) : null;
  const value = Number((m[2] ?? '').replace(',', '.'));
  return { value: m[1] === '<' ? value / 2 : value, below: m[1] === '<', unit };
}

const EMPTY = /^(|-|n\.?d\.?|n\/a)$/i;
const MAX_VALUE: Record<string, number> = { p: 2000, k: 5000, mg: 5000 };
const plainNumber = (text: string): number => { const f = readFigure(text); return f.unit ? refuse('unknown_id', 'unit', `${text}: a number without a unit was expected.`, { value: text }) : f.value; };

function readCell(sample: ParsedSample, target: ColumnTarget, text: string, order: DateOrder): void {
  switch (target.kind) {
    case 'field': sample.fieldName = text.trim(); return;
    case 'label': sample.label = text.trim(); return;
    case 'date': sample.date = readDate(text, order); return;
    case 'depth_cm': sample.depthCm = within('depth', plainNumber(text.replace(/\s*cm$/i, '').replace(/^0\s*-\s*/, '')), RANGES.sampleDepthCm); return;
    case 'ph_water': sample.phWater = within('pH', plainNumber(text), RANGES.phWater); return;
    case 'ph_cacl2': sample.phCacl2 = within('pH', plainNumber(text), RANGES.phSalt); return;
    case 'nutrient': {
      const f = readFigure(text);
      within(target.nutrient.toUpperCase(), f.value, { ...RANGES.testMgKg, label: `${target.nutrient.toUpperCase()} test`, max: MAX_VALUE[target.nutrient] ?? 60000 });
      sample.readings.push({ nutrient: target.nutrient, extractant: target.extractant, value: f.value, unit: f.unit ?? target.unit, belowDetection: f.below });
      return;
    }
    default: return;
  }
}

export interface ReadContext {
  /** Names of the farm's fields. */
  fieldNames: readonly string[];
  /** No sample lies in the future. */
  today: string;
  /** Field, date and label of samples that are stored already. */
  known: ReadonlySet<string>;
}
export const sampleKey = (s: Pick<ParsedSample, 'fieldName' | 'date' | 'label'>): string => [s.fieldName.toLowerCase(), s.date, s.label ?? ''].join('|');

/**
 * Reads the rows of a laboratory file by a mapping. A row is taken whole or not at all: each refused one comes back with the column, what
 * stood there and why.
 */
export function readLabRows(rows: readonly { row: number; cells: Record<string, string> }[], mapping: LabMapping, context: ReadContext): { good: ParsedSample[]; bad: BadRow[] } {
  const columnOf = (kind: ColumnTarget['kind']) => Object.entries(mapping.columns).find(([, t]) => t.kind === kind)?.[0];
  for (const kind of ['field', 'date'] as const) if (!columnOf(kind)) refuse('missing', 'mapping', `No column is mapped to the ${kind}: choose one.`);
  if (!Object.values(mapping.columns).some((t) => t.kind === 'nutrient' || t.kind.startsWith('ph'))) refuse('missing', 'mapping', 'No column is mapped to a pH or a nutrient: choose at least one.');
  const good: ParsedSample[] = [];
  const bad: BadRow[] = [];
  const seen = new Set(context.known);
  for (const { row, cells } of rows) {
    const sample: ParsedSample = { row, fieldName: '', label: null, date: '', depthCm: null, phWater: null, phCacl2: null, readings: [] };
    const problems: CellProblem[] = [];
    const flag = (column: string, reason: string) => problems.push({ column, value: cells[column] ?? '', reason });
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
    const fieldColumn = columnOf('field') as string;
    const dateColumn = columnOf('date') as string;
    const field = context.fieldNames.find((n) => n.toLowerCase() === sample.fieldName.toLowerCase());
    if (!field) flag(fieldColumn, sample.fieldName ? `${sample.fieldName} is not a field of this farm: ${context.fieldNames.join(', ')}.` : 'The field is missing.');
    else sample.fieldName = field;
    if (sample.date === '' && !problems.some((p) => p.column === dateColumn)) flag(dateColumn, 'The sampling date is missing.');
    if (sample.date > context.today) flag(dateColumn, `${sample.date} lies in the future.`);
    if (sample.phWater !== null && sample.phCacl2 !== null && sample.phCacl2 > sample.phWater + 0.5) flag(columnOf('ph_cacl2') as string, `pH in CaCl2 ${sample.phCacl2} lies far above pH in water ${sample.phWater}.`);
    if (problems.length === 0 && seen.has(sampleKey(sample))) flag(fieldColumn, 'The same field, date and label is here already.');
    if (problems.length > 0) bad.push({ row, cells, problems });
    else {
      seen.add(sampleKey(sample));
      good.push(sample);
    }
  }
  return { good, bad };
}
