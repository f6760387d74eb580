import { extractantName, hasClasses, nutrientSymbol } from '../book/soilTests';
import { classify } from '../ground/classify';
import { dateInWords } from '../quantity/calendar';
import { snakeKeys } from '../quantity/names';
import { Refusal, refuse } from '../quantity/refusal';
import type { Read } from './amounts';
import { dayOrders, readDay, type DayOrder } from '../quantity/writtenDay';
import { depthOf, plainDepthUnit } from './depths';
import { markOf, readFigure, type Mark } from './figures';
import { readGrid } from './grid';
import type { About } from './headings';
import { layOut, type Layout, type LeftOut, type Result, type TableSample } from './layout';
import { cropNamed, partNamed, stageNamed } from './names';
import { leafValue, manureSample, manureValue, waterValue } from './otherKinds';
import {
  asker,
  columnKey,
  type Answers,
  type Asker,
  type Question,
  type Waiting,
} from './questions';
import {
  type CellRead,
  type LabKind,
  type LabSample,
  type OtherReport,
  type ReportValue,
  type SoilReport,
} from './samples';
import { namesExtractant, notHeld, soilValue, type SoilValue } from './soil';
import { unitIn } from './units';

export interface LabOptions {
  /** What kind of report; null: told by its headings. */
  kind: LabKind | null;
  /** Names of the farm's fields; null: fields are taken as the file writes them. */
  fields: readonly string[] | null;
  answers: Answers;
  sheet: string | null;
  /** What the rest of the file decided, where only some of its rows are read. */
  given?: { mark: Mark | null; order: DayOrder | null };
}
export interface LabReport {
  kind: LabKind;
  readAs: string;
  shape: Layout['shape'];
  samples: LabSample[];
  questions: Question[];
  waiting: Waiting[];
  leftOut: LeftOut[];
  cells: CellRead[];
  /** The cells of a sample under headings that say all, to be put right and read again. */
  sourceOf: (sample: number) => Record<string, string>;
  /** As what the file was read, for reading a row of it again. */
  given: { mark: Mark | null; order: DayOrder | null };
}

/** What is known while the samples of a file are read. */
interface Reading {
  asker: Asker;
  mark: Mark | null;
  order: DayOrder | null;
  /** Of depths that name none. */
  depthUnit: string | null;
  fields: readonly string[] | null;
  /** The sample that is being read. */
  sample: number;
  waiting: Waiting[];
  leftOut: LeftOut[];
  cells: CellRead[];
}

function kindOf(samples: readonly TableSample[]): LabKind {
  const results = samples.flatMap((s) => s.results);
  const quantities = new Set(results.map((r) => r.measured.quantity));
  const units = new Set(results.map((r) => r.measured.unit?.kind));
  const about = new Set(samples.flatMap((s) => Object.keys(s.about)));
  const has = (...all: string[]) => all.some((q) => quantities.has(q));
  const layered = about.has('depth') || about.has('depth_bottom');
  const extracted = [...new Set(results.map((r) => r.measured.words))].some(namesExtractant);
  const dissolved = units.has('volume') || units.has('molar') || units.has('equivalent');
  if (
    about.has('store') ||
    (has('dry_matter', 'moisture') &&
      has('n', 'kjeldahl_n', 'nh4_n') &&
      !layered &&
      !about.has('part'))
  )
    return 'manure';
  if (about.has('part') || about.has('stage') || has('brix')) return 'leaf';
  if (layered || extracted || has('buffer_ph', 'cec', 'organic_carbon', 'clay')) return 'soil';
  if (has('sar', 'hardness', 'hco3') || (has('ec') && dissolved)) return 'water';
  // A soil report may name the crop that it is for.
  return about.has('crop') && !has('ph') ? 'leaf' : 'soil';
}

/** The file's decimal mark, by all cells that are results; asked for where two would do. */
function markFor(samples: readonly TableSample[], { ask }: Asker): Mark | null {
  const results = samples.flatMap((s) => s.results).filter((r) => !r.cell.typed);
  const { mark, doubtful } = markOf(results.map((r) => r.cell.text));
  if (mark !== null || doubtful.length === 0) return mark ?? '.';
  const of = results.filter((r) => doubtful.includes(r.cell.text));
  const said = ask({
    about: 'decimal_mark',
    column: [...new Set(of.map((r) => r.column))].join(', '),
    cell: doubtful.join('; '),
    choices: [
      { answer: '.', means: 'a point parts off the decimals, a comma thousands' },
      { answer: ',', means: 'a comma parts off the decimals, a point thousands' },
    ],
  });
  return said === '.' || said === ',' ? said : null;
}

const ORDER_WORDS: Record<DayOrder, string> = {
  dmy: 'day, month, year',
  mdy: 'month, day, year',
  ymd: 'year, month, day',
};
const ORDERS = ['dmy', 'mdy', 'ymd'] as const;
/** The order of days, by all of the column; asked for where two would do. */
function orderFor(samples: readonly TableSample[], { ask }: Asker): DayOrder | null {
  const dates = samples.flatMap((s) => (s.about.date ? [s.about.date] : []));
  const orders = dayOrders(dates.map((d) => d.text));
  const [only] = orders;
  const shown = dates.find((d) => new Set(orders.map((o) => readDay(d.text, o))).size > 1);
  if (orders.length < 2 || !shown) return only ?? null;
  const said = ask({
    about: 'date_order',
    column: shown.column,
    cell: shown.text,
    choices: orders.map((o) => ({
      answer: o,
      means: `${ORDER_WORDS[o]}: ${shown.text} is ${dateInWords(readDay(shown.text, o) ?? '')}`,
    })),
  });
  return orders.find((o) => o === said) ?? null;
}

const wait = (r: Reading, at: { row: number; column: string; text: string }, reason: string) =>
  void r.waiting.push({ sample: r.sample, row: at.row, column: at.column, value: at.text, reason });
const leave = ({ leftOut }: Reading, column: string, reason: string): void => {
  if (!leftOut.some((l) => l.column === column && l.reason === reason))
    leftOut.push({ column, reason });
};

function dateOf(sample: TableSample, r: Reading): string | null {
  const { date } = sample.about;
  if (!date) {
    wait(r, { row: sample.row, column: 'date', text: '' }, 'The day of sampling is missing.');
    return null;
  }
  const day = r.order === null ? null : readDay(date.text, r.order);
  if (day !== null) return day;
  // As long as the order is asked for, a day that some order knows is not wrong.
  const open = r.order === null && ORDERS.some((o) => readDay(date.text, o) !== null);
  if (!open) wait(r, date, `${date.text} is no day that can be read.`);
  return null;
}
function fieldOf(sample: TableSample, r: Reading): string | null {
  const { field } = sample.about;
  if (!field) return null;
  if (r.fields === null) return field.text;
  const found = r.fields.find((f) => f.toLowerCase() === field.text.toLowerCase());
  if (found === undefined)
    wait(r, field, `${field.text} is not a field of this farm: ${r.fields.join(', ')}.`);
  return found ?? null;
}

const NO_UNIT = { unit: null, rest: '' };
/** A result with its figure read; what holds none is told and left. */
interface Found extends Read {
  notFound: boolean;
}
function figureOf(result: Result, r: Reading): Found | null {
  const { cell, column, row, measured } = result;
  const at = { row, column, text: cell.text };
  // As long as the mark is asked for, figures with a mark say nothing.
  if (!cell.typed && r.mark === null && /\d[.,]\d/u.test(cell.text)) return null;
  const figure = readFigure(cell.text, cell.typed ? '.' : (r.mark ?? '.'));
  if (figure.kind === 'missing') return null;
  if (figure.kind === 'not_found')
    return { row, column, text: cell.text, measured, value: 0, limit: null, notFound: true };
  if (figure.kind === 'unreadable') {
    wait(r, at, `${cell.text} is not a figure that can be read.`);
    return null;
  }
  if (figure.value < 0) {
    wait(r, at, `${cell.text} is below 0: nothing that is measured here can be.`);
    return null;
  }
  const { unit, rest } = figure.rest === '' ? NO_UNIT : unitIn(figure.rest);
  if (figure.rest !== '' && (!unit || /[\p{L}\p{N}]/u.test(rest))) {
    wait(r, at, `${cell.text}: what stands after the figure is not known.`);
    return null;
  }
  return {
    row,
    column,
    text: cell.text,
    measured: unit ? { ...measured, unit } : measured,
    value: figure.value,
    limit: figure.limit,
    notFound: false,
  };
}

const LIMIT_OF: readonly string[] = ['ph', 'buffer_ph', 'density', 'dry_matter', 'moisture'];
/** A limit stands for half of it, but not of a pH, nor of what others are reckoned with. */
function halved(f: Found, r: Reading, kind: LabKind): Found | null {
  if (f.limit === null) return f;
  if (LIMIT_OF.includes(f.measured.quantity)) {
    wait(r, f, `${f.text} is a limit, not a value: ask the laboratory, or type what it means.`);
    return null;
  }
  if (f.limit === 'above' && kind === 'soil') {
    wait(r, f, `${f.text} is above the laboratory’s range: ask for the diluted figure.`);
    return null;
  }
  return f.limit === 'below' ? { ...f, value: f.value / 2 } : f;
}

const keep = (v: number): number => Number(v.toPrecision(12));
/** Figures that agree this closely say the same in two columns. */
const SAME = 0.02;
const agree = (a: number, b: number): boolean =>
  Math.abs(a - b) <= SAME * Math.max(Math.abs(a), Math.abs(b));

interface Candidate {
  found: Found;
  value: number;
  target: string;
}
/**
 * Of several columns for one target the one that is taken: the first where they agree, else the
 * one that somebody names.
 */
function chosenOf<C extends Candidate>(candidates: readonly C[], r: Reading): C[] {
  const targets = [...new Set(candidates.map((c) => c.target))];
  return targets.flatMap((target) => {
    const all = candidates.filter((c) => c.target === target);
    const [first, ...more] = all;
    if (!first || more.length === 0) return all;
    const rest = (taken: C) => {
      for (const c of all)
        if (c !== taken) leave(r, c.found.column, `${taken.found.column} says it`);
      return [taken];
    };
    if (more.every((c) => agree(c.value, first.value))) return rest(first);
    const columns = all.map((c) => c.found.column);
    const said = r.asker.ask({
      about: 'which_column',
      column: columns.join(', '),
      cell: all.map((c) => c.found.text).join('; '),
      choices: columns.map((name) => ({ answer: name, means: `take ${name}` })),
    });
    const taken = all.find((c) => c.found.column === said);
    return taken ? rest(taken) : [];
  });
}

const SOIL_FIELDS = {
  ph_water: 'phWater',
  ph_cacl2: 'phCacl2',
  om_pct: 'omPct',
  oc_pct: 'ocPct',
  cec_cmol_kg: 'cecCmolKg',
  al_cmol_kg: 'alCmolKg',
  clay_pct: 'clayPct',
  stones_pct: 'stonesPct',
} as const;
const soilTarget = (v: SoilValue): string =>
  v.to === 'reading' ? `${v.nutrient} ${v.extractant}` : v.to;
const told = (v: number): string => String(Number(v.toPrecision(5)));
const SOIL_WORDS: Readonly<Record<Exclude<SoilValue['to'], 'reading'>, (v: string) => string>> = {
  ph_water: (v) => `pH in water ${v}`,
  ph_cacl2: (v) => `pH in calcium chloride ${v}`,
  buffer_ph: (v) => `buffer pH ${v}`,
  om_pct: (v) => `organic matter ${v} %`,
  oc_pct: (v) => `organic carbon ${v} %`,
  cec_cmol_kg: (v) => `CEC ${v} cmol/kg`,
  al_cmol_kg: (v) => `exchangeable aluminium ${v} cmol/kg`,
  clay_pct: (v) => `clay ${v} %`,
  stones_pct: (v) => `stones ${v} %`,
  nitrate: (v) => `nitrate-N ${v} mg/kg of the layer`,
  sulphate: (v) => `sulphate-S ${v} mg/kg of the layer`,
};
const soilSays = (v: SoilValue): string =>
  v.to === 'reading'
    ? `${nutrientSymbol(v.nutrient)}, ${extractantName(v.extractant)}, ${told(v.value)} ${v.unit.replace('_', '/')}`
    : SOIL_WORDS[v.to](told(v.value));

/** The class of a reading beside what else the sample says; null where it has none. */
function classOf(v: SoilValue, all: readonly SoilValue[]): string | null {
  if (v.to !== 'reading' || !hasClasses(v.nutrient)) return null;
  const of = (to: SoilValue['to']) => all.find((x) => x.to === to)?.value ?? null;
  try {
    const { cls } = classify({
      nutrient: v.nutrient,
      extractant: v.extractant,
      value: v.value,
      unit: v.unit,
      ph: of('ph_water'),
      cecCmolKg: of('cec_cmol_kg'),
      omPct: of('om_pct'),
    });
    return cls.replace('_', ' ');
  } catch (e) {
    if (e instanceof Refusal) return null;
    throw e;
  }
}
/** By what a person knows the sample. */
const nameOf = ({ about }: TableSample): string =>
  [about.field ?? about.store, about.label].flatMap((a) => (a ? [a.text] : [])).join(', ');

function coresOf({ about: { cores } }: TableSample, r: Reading): number | null {
  const figure = cores ? readFigure(cores.text, r.mark ?? '.') : null;
  return figure?.kind === 'value' && Number.isInteger(figure.value) ? figure.value : null;
}

function soilSample(sample: TableSample, r: Reading): SoilReport {
  const depth = depthOf(sample, r.mark ?? '.', r.depthUnit);
  if (depth.unreadable)
    wait(r, depth.unreadable, `${depth.unreadable.text} is not a depth: write 20, 0-20 or 20-40.`);
  const thickness =
    depth.topCm === null || depth.bottomCm === null ? null : depth.bottomCm - depth.topCm;
  const candidates = sample.results.flatMap((result) => {
    const reason = notHeld(result.measured.quantity);
    if (reason !== null) {
      leave(r, result.column, reason);
      return [];
    }
    const figure = figureOf(result, r);
    const found = figure && !figure.notFound ? halved(figure, r, 'soil') : null;
    const v = found && soilValue(found, thickness, r.asker);
    if (!found || !v) return [];
    if (v.to === 'left_out') leave(r, found.column, v.reason);
    else if (v.to === 'waits') wait(r, found, v.reason);
    else return [{ found, value: v.value, target: soilTarget(v), v }];
    return [];
  });
  const report: SoilReport = {
    row: sample.row,
    field: fieldOf(sample, r),
    label: sample.about.label?.text ?? null,
    date: dateOf(sample, r),
    depthTopCm: depth.topCm,
    depthBottomCm: depth.bottomCm,
    phWater: null,
    phCacl2: null,
    bufferPh: null,
    bufferKind: null,
    omPct: null,
    ocPct: null,
    cecCmolKg: null,
    alCmolKg: null,
    clayPct: null,
    stonesPct: null,
    nCores: coresOf(sample, r),
    readings: [],
    nitrate: [],
    sulphate: [],
    position: sample.at,
  };
  const layer = { depthTopCm: depth.topCm, depthBottomCm: depth.bottomCm };
  const of = nameOf(sample);
  const taken = chosenOf(candidates, r);
  const chosen = taken.map((t) => t.v);
  for (const { found, v } of taken) {
    const belowDetection = found.limit === 'below';
    r.cells.push({
      of,
      row: found.row,
      column: found.column,
      text: found.text,
      says: soilSays(v),
      means: classOf(v, chosen),
    });
    const value = keep(v.value);
    switch (v.to) {
      case 'reading':
        report.readings.push({
          nutrient: v.nutrient,
          extractant: v.extractant,
          value,
          unit: v.unit,
          belowDetection,
        });
        break;
      case 'nitrate':
        report.nitrate.push({ ...layer, no3nMgKg: value, belowDetection });
        break;
      case 'sulphate':
        report.sulphate.push({ ...layer, so4sMgKg: value, belowDetection });
        break;
      case 'buffer_ph':
        Object.assign(report, { bufferPh: value, bufferKind: v.buffer });
        break;
      default:
        report[SOIL_FIELDS[v.to]] = value;
    }
  }
  return report;
}

const GOOD = /\b(good|healthy|unaffected|normal|green|gut|gesund|bon(ne)?|sain|buen[oa]|sano)\b/iu;
const BAD =
  /\b(poor|bad|affected|sick|weak|yellow|pale|schlecht|krank|mauvais(e)?|malade|mal[oa])\b/iu;
const pairOf = (title: string): OtherReport['pair'] =>
  BAD.test(title) && !/unaffected/iu.test(title) ? 'bad' : GOOD.test(title) ? 'good' : null;

/** Total N out of its parts, where the report has no figure of its own. */
function withTotalN(values: readonly ReportValue[]): ReportValue[] {
  const of = (q: string) => values.find((v) => v.quantity === q && v.value !== null);
  const sum = (...parts: string[]): ReportValue[] => [
    {
      quantity: 'n',
      value: keep(parts.reduce((total, q) => total + (of(q)?.value ?? 0), 0)),
      unit: 'kg/t',
      belowDetection: false,
      derivedFrom: parts,
    },
  ];
  if (of('n')) return [...values];
  if (of('kjeldahl_n') && of('no3_n')) return [...values, ...sum('kjeldahl_n', 'no3_n')];
  return of('organic_n') && of('nh4_n')
    ? [...values, ...sum('organic_n', 'nh4_n', ...(of('no3_n') ? ['no3_n'] : []))]
    : [...values];
}

function otherSample(sample: TableSample, kind: Exclude<LabKind, 'soil'>, r: Reading): OtherReport {
  const { about } = sample;
  const said = (k: About) => about[k]?.text ?? null;
  const part = about.part ? partNamed(about.part.text) : null;
  const figures = sample.results.flatMap((result) => figureOf(result, r) ?? []);
  const found = figures.flatMap((f) => (f.notFound ? f : (halved(f, r, kind) ?? [])));
  const manure = manureSample(found.filter((f) => !f.notFound));
  const valueOf = (f: Found) =>
    kind === 'leaf'
      ? leafValue(f, part ?? '', r.asker)
      : kind === 'manure'
        ? manureValue(f, manure, r.asker)
        : waterValue(f, r.asker);
  const candidates = found.flatMap((f) => {
    // What was not found has a unit, but no figure to doubt.
    const v = f.notFound ? valueOf({ ...f, value: 0, limit: 'below' }) : valueOf(f);
    if (v === null) return [];
    if (v.to === 'left_out') {
      leave(r, f.column, v.reason);
      return [];
    }
    return [{ found: f, value: v.value, target: v.quantity, v }];
  });
  const received = preferReceived(candidates, r);
  const values = chosenOf(received, r).map(({ found: f, v }): ReportValue => {
    const value = f.notFound ? null : keep(v.value);
    r.cells.push({
      of: nameOf(sample),
      row: f.row,
      column: f.column,
      text: f.text,
      says: `${v.quantity.replaceAll('_', ' ')} ${value === null ? 'not found' : told(value)} ${v.unit}`.trim(),
      means: null,
    });
    return {
      quantity: v.quantity,
      value,
      unit: v.unit,
      belowDetection: f.limit === 'below',
      ...(f.limit === 'below' ? { limit: keep(v.value * 2) } : {}),
      ...(f.limit === 'above' ? { aboveRange: true as const } : {}),
      ...(f.notFound ? { notFound: true as const } : {}),
    };
  });
  const moisture = found.find((f) => f.measured.quantity === 'moisture');
  const dry = values.some((v) => v.quantity === 'dry_matter');
  const dryMatter: ReportValue[] =
    kind === 'manure' && moisture && !dry && manure.dryMatterPct !== null
      ? [
          {
            quantity: 'dry_matter',
            value: keep(manure.dryMatterPct),
            unit: '%',
            belowDetection: false,
            derivedFrom: ['moisture'],
          },
        ]
      : [];
  return {
    row: sample.row,
    field: fieldOf(sample, r),
    label: said('label'),
    date: dateOf(sample, r),
    store: said('store'),
    material: said('material'),
    crop: about.crop ? cropNamed(about.crop.text) : null,
    part,
    stage: about.stage ? stageNamed(about.stage.text) : null,
    pair: pairOf(sample.title),
    values: kind === 'manure' ? withTotalN([...dryMatter, ...values]) : values,
  };
}

/** Of one figure on both bases, that of the material as it came. */
function preferReceived<C extends Candidate>(candidates: readonly C[], r: Reading): C[] {
  const fresh = new Set(
    candidates.filter((c) => c.found.measured.basis === 'received').map((c) => c.target),
  );
  return candidates.filter((c) => {
    const twice = c.found.measured.basis === 'dry' && fresh.has(c.target);
    if (twice) leave(r, `${c.found.column}, of dry matter`, 'it stands there as received, too');
    return !twice;
  });
}

/** A heading as somebody said that it is to be read; a unit of its own stays. */
function saidToBe(heading: string, answers: Answers): string {
  const said = answers[columnKey(heading)];
  if (said === undefined) return heading;
  const { unit } = unitIn(heading);
  return unit && !unitIn(said).unit ? `${said} (${unit.told})` : said;
}
/** A heading that says its unit, too, which may have stood elsewhere. */
const wholeHeading = ({ column, measured: { unit } }: Result): string =>
  unit && !unitIn(column).unit ? `${column} (${unit.told})` : column;
const sourceOf = ({ about, results }: TableSample): Record<string, string> => ({
  ...Object.fromEntries(Object.values(about).map((a) => [a.column, a.text])),
  ...Object.fromEntries(results.map((r) => [wholeHeading(r), r.cell.text])),
});

/**
 * Reads a laboratory's report of any kind: what it says sample by sample, what has to be asked,
 * what waits and what is left out. Nothing of it is guessed: a value is taken as the file says it,
 * or asked about.
 *
 * @param bytes the file
 * @throws Refusal for a file that is no table, or none with results
 */
export async function readLaboratory(bytes: Uint8Array, options: LabOptions): Promise<LabReport> {
  const grid = await readGrid(bytes, options.sheet);
  const layout = layOut(grid, (heading) => saidToBe(heading, options.answers));
  const samples = layout.samples.filter((s) => s.results.some((x) => x.cell.text !== ''));
  if (samples.length === 0)
    refuse(
      'inconsistent',
      'file',
      `No results were found in this file (${grid.readAs}), which begins "${(
        grid.rows[0]?.cells.map((c) => c.text).join(' ') ?? ''
      ).slice(0, 80)}". A heading that names field, day and nutrients with their units is wanted.`,
    );
  const questions = asker(options.answers);
  const kind = options.kind ?? kindOf(samples);
  const mark = options.given?.mark ?? markFor(samples, questions);
  const reading: Reading = {
    asker: questions,
    mark,
    depthUnit: kind === 'soil' ? plainDepthUnit(samples, mark ?? '.', questions) : null,
    order: options.given?.order ?? orderFor(samples, questions),
    fields: options.fields,
    sample: 0,
    waiting: [],
    leftOut: [
      ...layout.leftOut,
      ...layout.samples
        .filter((s) => !samples.includes(s))
        .map((s) => ({ column: `row ${s.row}`, reason: 'no value stands there' })),
      ...grid.otherSheets.map((name) => ({ column: `sheet ${name}`, reason: 'another sheet' })),
    ],
    cells: [],
  };
  const read = samples.map((s, sample) => {
    const own = { ...reading, sample };
    return kind === 'soil' ? soilSample(s, own) : otherSample(s, kind, own);
  });
  return {
    kind,
    readAs: grid.readAs,
    shape: layout.shape,
    samples: read,
    questions: questions.questions(),
    waiting: reading.waiting,
    leftOut: reading.leftOut,
    cells: reading.cells,
    sourceOf: (i) => (samples[i] ? sourceOf(samples[i]) : {}),
    given: { mark: reading.mark, order: reading.order },
  };
}

/** A report as the open edge tells it, in the names of the core. */
export type ToldReport = Pick<
  LabReport,
  'kind' | 'readAs' | 'shape' | 'samples' | 'questions' | 'leftOut'
> & { waiting: Omit<Waiting, 'sample'>[] };
/** The same on the command line and over HTTP: snake_case. */
export const laboratoryJson = (report: LabReport): unknown => {
  const { kind, readAs, shape, samples, questions, leftOut } = report;
  const waiting = report.waiting.map(({ sample: _, ...w }) => w);
  return snakeKeys({ kind, readAs, shape, samples, questions, waiting, leftOut });
};
