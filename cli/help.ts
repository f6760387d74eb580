import { PRINTED } from '../src/core/book/book';
import { aboutAlternatives, aboutField } from '../src/core/methods/about';
import { describeFields, type FieldDescription } from '../src/core/methods/describe';
import type { Method } from '../src/core/methods/registry';
import { takenAs } from '../src/core/methods/reference';

export const USAGE = `furrow: the field plan from the command line

  furrow assess FILE ...             the assessment of plan files as JSON; - reads standard input
  furrow why FILE FIGURE             the reasons of one figure, as text (balance.n, credit.legume, ...)
  furrow simulate FILE               the plan over weather years: --years 30, --seed 2027, or --weather DAYS.csv of a
                                     station (10 years or more); --answers FILE where it can be read two ways
  furrow season FILE                 windows of the leaf, its reading, causes and what is done, as JSON
  furrow methods                     all methods with their input and output schemas, as JSON
  furrow method ID [FILE]            one method: JSON in (standard input unless a file is named), JSON out
  furrow method ID --help            what the method takes and gives, field by field
  furrow batch [FILE]                one {id, method, input} a line in, one {id, output} or {id, error} a line out
  furrow names                       the chapters' names of all fields beside ours, as CSV
  furrow openapi                     the description of all methods for programs (OpenAPI 3.1)
  furrow reference MODULE            the reference page of one part of the methods
  furrow schema [NAME]               the JSON schema of the plan file, or of season-file-1 ... sample-list-1
  furrow read-laboratory FILE        what a laboratory's file says, in the core's units, and what has to be asked;
                                     --kind soil|leaf|manure|water, --fields "A,B", --answers FILE, --sheet NAME
  furrow rules                       all judgement rules with their messages, as a page

  --compact                          JSON in one line
  --csv                              rows as CSV, where rows come out

Exit code 0 when all went well, 2 when an input was refused: the typed error goes to standard error.
`;

type Side = 'takes' | 'gives';
const line = (f: FieldDescription, side: Side, depth = 0): string[] => {
  const head = `${'  '.repeat(depth + 1)}${f.name}`.padEnd(38);
  return [
    `${head} ${takenAs(f)}`,
    `${''.padEnd(38)} ${f.quantity.label}: ${aboutField(f, side)}`,
    ...(f.of ?? []).flatMap((x) => line(x, side, depth + 1)),
  ];
};

/** What a method takes and gives, for a person at a terminal. */
export const methodHelp = ({ id, title, chapter, fields, either }: Method): string =>
  [
    `${id}: ${title} (chapter ${chapter})`,
    '',
    'takes',
    ...describeFields(PRINTED, fields.takes).flatMap((f) => line(f, 'takes')),
    ...aboutAlternatives({ either }),
    '',
    'gives',
    ...describeFields(PRINTED, fields.gives).flatMap((f) => line(f, 'gives')),
    '',
  ].join('\n');
