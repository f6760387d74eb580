import type { Book } from '../book/book';
import { cropOf, CROPS, tissueCropOf } from '../book/crops';
import { leafStandards } from '../book/leafStandards';
import { UNSAID_OF_LEAF, type LeafSample } from '../facts/leafSample';
import { assessLeaf, sumProblem, type LeafAssessment } from '../lines/leaf';
import { rangeProblem } from '../quantity/range';
import { partsOfPlants, standardsFor } from '../tissue/standard';
import type { LeafFileRow } from '../laboratory/leafFile';
import type { Answers, Question } from '../laboratory/questions';

// Which leaves of a laboratory's file come in, what of them is asked, and which stay out and why.

/** A field as a leaf is read for it. */
export interface LeafField {
  name: string;
  areaHa: number;
  /** Crop and use by the day from which the season runs, newest first. */
  seasons: readonly { startDate: string; cropKey: string | null; use: string | null }[];
  /** Samples that are here already: those with values, and those that wait for theirs. */
  known: readonly {
    id: string;
    date: string;
    part: string;
    label: string | null;
    waits: boolean;
  }[];
}
export interface LeafToBring {
  row: number;
  fieldName: string;
  cropKey: string;
  sample: LeafSample;
  assessment: LeafAssessment;
  /** The waiting sample that gets these values; null: a new one. */
  fills: string | null;
}
export interface LeafLeftOut {
  row: number;
  name: string;
  reasons: string[];
}
export interface LeavesBrought {
  good: LeafToBring[];
  left: LeafLeftOut[];
  questions: Question[];
}
/** What a leaf file holds, before anything of it is brought in. */
export interface LeafFileLook {
  readAs: string;
  good: {
    row: number;
    fieldName: string;
    part: string;
    bbch: number;
    date: string;
    values: number;
    short: string[];
    fills: boolean;
  }[];
  left: LeafLeftOut[];
  questions: Question[];
}
const AS_WRITTEN = 'as_written';
const lower = (s: string): string => s.trim().toLowerCase();
const wordsOf = (key: string): string => key.replaceAll('_', ' ');
/** Leaf samples that a plan of a field holds. */
export const MOST_OF_FIELD = 60;

/** The part by its key, by its label, or as somebody said for words of this laboratory. */
function partOf(
  row: LeafFileRow,
  standards: readonly { part: string; partLabel: string }[],
  crop: string,
  answers: Answers,
  ask: (q: Question) => void,
): string | null {
  const parts = [...new Map(standards.map((s) => [s.part, s.partLabel]))];
  if (row.part !== null) {
    const direct = parts.find(
      ([key, label]) => key === row.part || lower(label) === wordsOf(row.part ?? ''),
    );
    if (direct) return direct[0];
  }
  const key = `part:${row.part ?? 'not said'}:${crop}`;
  const said = answers[key];
  if (said !== undefined && parts.some(([p]) => p === said)) return said;
  ask({
    key,
    about: 'part',
    column: 'Part',
    cell: `${row.part === null ? 'nothing' : wordsOf(row.part)}, ${wordsOf(crop)}`,
    choices: parts.map(([answer, means]) => ({ answer, means })),
  });
  return null;
}

/** Figures that may be meant otherwise are asked; what was answered is put in. */
function valuesOf(
  row: LeafFileRow,
  assessment: LeafAssessment,
  answers: Answers,
  ask: (q: Question) => void,
): LeafSample['values'] | null {
  let open = false;
  const values = row.values.map((v) => {
    const meant = assessment.results.find((r) => r.nutrient === v.nutrient)?.meant ?? null;
    if (meant === null) return v;
    const key = `meant:${row.row}:${v.nutrient}`;
    const other = `${meant.reported} ${meant.unit}`;
    const said = answers[key];
    if (said === AS_WRITTEN) return v;
    if (said === other) return { ...v, reported: meant.reported, unit: meant.unit };
    open = true;
    ask({
      key,
      about: 'value',
      column: v.nutrient.replace('_', '-'),
      cell: `line ${row.row}: ${v.reported} ${v.unit}`,
      choices: [
        ...(other === `${v.reported} ${v.unit}` ? [] : [{ answer: other, means: other }]),
        {
          answer: AS_WRITTEN,
          means: meant.impossible ? 'as it stands, shown and not counted' : 'as it stands',
        },
      ],
    });
    return v;
  });
  return open ? null : values;
}

/**
 * Sorts the leaves of a file: the good ones come in, of the others each says why not; what can be
 * read two ways is asked.
 *
 * @param rows samples of the file
 * @param only a farm with one field needs no name of it
 */
export function leafBringIn(
  book: Book,
  rows: readonly LeafFileRow[],
  fields: readonly LeafField[],
  { today, answers, newId }: { today: string; answers: Answers; newId: () => string },
): LeavesBrought {
  const questions = new Map<string, Question>();
  const ask = (q: Question) => {
    if (!questions.has(q.key)) questions.set(q.key, q);
  };
  const standards = leafStandards(book);
  const plantParts = partsOfPlants(standards.ranges);
  const byName = new Map(fields.map((f) => [lower(f.name), f]));
  const seen = new Set<string>();
  const counted = new Map<string, number>();
  const good: LeafToBring[] = [];
  const left: LeafLeftOut[] = [];
  for (const row of rows) {
    const out = (...reasons: string[]) => left.push({ row: row.row, name: row.name, reasons });
    const field =
      row.field === null
        ? fields.length === 1
          ? fields[0]
          : undefined
        : byName.get(lower(row.field));
    if (!field) {
      out(
        `${row.field === null ? 'The field is missing' : `${row.field} is not a field of this farm`}: ${fields.map((f) => f.name).join(', ')}.`,
      );
      continue;
    }
    if (row.date === null) {
      out('The day of sampling is missing.');
      continue;
    }
    const { date } = row;
    if (date > today) {
      out(`${date} lies in the future.`);
      continue;
    }
    const season = field.seasons.find((s) => s.startDate <= date);
    if (!season?.cropKey) {
      out(`${field.name} has no crop for ${date}.`);
      continue;
    }
    if (!book.rows(CROPS).has(season.cropKey)) {
      out(`The crop of ${field.name} is not in the library: ${season.cropKey}.`);
      continue;
    }
    const crop = cropOf(book, season.cropKey);
    const tissueCrop = tissueCropOf(book, season.cropKey, season.use);
    const stage =
      row.bbch === null
        ? 'The growth stage is missing: a leaf is read by its stage.'
        : rangeProblem('bbch', row.bbch, {
            label: 'Growth stage (BBCH)',
            unit: '',
            min: 0,
            max: 99,
          });
    // A crop without ranges is kept as well: for pairs, the years and a standard of its own.
    const ownStandards = tissueCrop === null ? [] : standardsFor(standards.ranges, tissueCrop);
    const part = partOf(
      row,
      tissueCrop === null ? plantParts : ownStandards,
      tissueCrop ?? season.cropKey,
      answers,
      ask,
    );
    if (row.bbch === null || stage !== null) {
      out(typeof stage === 'string' ? stage : 'The growth stage lies outside 0 to 99.');
      continue;
    }
    if (part === null) continue;
    const held = (counted.get(field.name) ?? field.known.length) + 1;
    if (held > MOST_OF_FIELD) {
      out(`${field.name} holds ${MOST_OF_FIELD} leaf samples already: take old ones away first.`);
      continue;
    }
    const key = [field.name, date, part, row.label ?? '', row.role].join('|');
    if (seen.has(key)) {
      out('It stands twice in the file: the same field, day, part and number.');
      continue;
    }
    seen.add(key);
    const alike = field.known.filter((k) => k.date === date && k.part === part);
    if (alike.some((k) => !k.waits && k.label === row.label)) {
      out('It is here already: the same field, day, part and number.');
      continue;
    }
    const fills =
      field.known.find((k) => k.waits && k.label !== null && k.label === row.label) ??
      alike.find((k) => k.waits && (k.label === null || row.label === null)) ??
      null;
    const system = ownStandards.find((s) => s.part === part)?.system ?? null;
    const sample: LeafSample = {
      ...UNSAID_OF_LEAF,
      id: fills?.id ?? newId(),
      date,
      part,
      bbch: row.bbch,
      system,
      nOrgans: null,
      washed: 'no',
      sprayElements: [],
      daysSinceSpray: null,
      role: row.role,
      laboratoryNumber: row.label?.slice(0, 40) ?? null,
      values: row.values,
    };
    const context = {
      use: season.use,
      cropKey: season.cropKey,
      areaHa: field.areaHa,
      perennial: crop.nBaseKgHa > 0,
      legume: crop.nFixing === 'grain_legume' || crop.nFixing === 'forage_legume',
      herbage: crop.group.startsWith('forage'),
    };
    const first = assessLeaf(book, standards, sample, context);
    if (first.refused) {
      out(first.refused.message);
      continue;
    }
    const bad = first.results.filter((r) => r.refused !== null).map((r) => r.refused as string);
    if (bad.length > 0 || row.values.length === 0) {
      out(...(row.values.length === 0 ? ['It holds no value that can be read.'] : bad));
      continue;
    }
    const values = valuesOf(row, first, answers, ask);
    if (values === null) continue;
    const meant = { ...sample, values };
    const asWritten = values.every((v, k) => v === row.values[k]);
    const assessment = asWritten ? first : assessLeaf(book, standards, meant, context);
    const sum = sumProblem(assessment);
    if (sum !== null) {
      out(sum);
      continue;
    }
    counted.set(field.name, held);
    good.push({
      row: row.row,
      fieldName: field.name,
      cropKey: season.cropKey,
      sample: meant,
      assessment,
      fills: fills?.id ?? null,
    });
  }
  return { good, left, questions: [...questions.values()] };
}
