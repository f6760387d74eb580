import readline from 'node:readline';
import { Readable } from 'node:stream';
import { parseArgs } from 'node:util';
import { stringify } from 'csv-stringify/sync';
import packageFile from '../package.json';
import { assess, assessSeason } from '../src/core/assessment/assess';
import { bookOf } from '../src/core/book/book';
import { PLAN_VERSION } from '../src/core/document/document';
import { readPlanFile, seasonFileSchemas } from '../src/core/document/seasonFile';
import { sampleListSchemas } from '../src/core/ground/sampleList';
import { labAnswers } from '../src/core/laboratory/answers';
import { laboratoryJson, readLaboratory } from '../src/core/laboratory/readLaboratory';
import { LAB_KINDS } from '../src/core/laboratory/samples';
import { listedMethod, openApi } from '../src/core/methods/openApi';
import { METHODS, methodOf, namesTable, run } from '../src/core/methods/registry';
import { MODULES, referencePage } from '../src/core/methods/reference';
import { workedExamples } from '../src/core/methods/workedExample';
import { snakeKeys } from '../src/core/quantity/names';
import { oneOf, within } from '../src/core/quantity/range';
import { Refusal, type RefusalDetail } from '../src/core/quantity/refusal';
import { outlookOf } from '../src/core/season/outlook';
import { OUTLOOK_SEED, OUTLOOK_YEARS } from '../src/core/season/prepared';
import { readWeather, weatherAnswers } from '../src/core/season/weatherFile';
import { seasonReading } from '../src/core/views/seasonReading';
import { rulesPage } from '../src/core/warnings/allRules';
import { toldThroughout } from '../src/core/why/said';
import { asLines, findStep } from '../src/core/why/step';
import { methodHelp, USAGE } from './help';
import { bytesOf, json, say, textOf, type Written } from './io';

/** An error as the open edge tells it; whatever is no refusal is a fault of ours. */
const errorOf = (e: unknown): RefusalDetail =>
  e instanceof Refusal
    ? e.detail
    : { code: 'server', field: 'call', message: `This call failed: ${String(e)}` };
const complain = (error: unknown): void => {
  process.stderr.write(`${JSON.stringify({ error }, null, 2)}\n`);
  process.exitCode = 2;
};

const assessed = (file: string) => {
  const plan = readPlanFile(json(textOf(file, 'file'), 'file'));
  return assess(bookOf(plan.farm.library), plan);
};
/** One file gives its assessment; several give one entry a file, and a faulty one costs only itself. */
function assessAll(files: readonly string[], how: Written): void {
  const [first, ...more] = files;
  if (first === undefined)
    throw new Refusal({ code: 'missing', field: 'file', message: 'Name a plan file, or -.' });
  const edge = (file: string) => snakeKeys(toldThroughout(assessed(file)));
  if (more.length === 0) return say(edge(first), how);
  say(
    files.map((file) => {
      try {
        return { file, assessment: edge(file) };
      } catch (e) {
        complain({ ...errorOf(e), file });
        return { file, error: errorOf(e) };
      }
    }),
    how,
  );
}

/** Answers call by call; one bad line does not end the others, but the exit code tells of it. */
async function batch(file: string): Promise<void> {
  const input = file === '-' ? process.stdin : Readable.from([textOf(file, 'file')]);
  let number = 0;
  const failed: number[] = [];
  for await (const text of readline.createInterface({ input, crlfDelay: Infinity })) {
    number += 1;
    const line = text.replace(/^\uFEFF/u, '');
    if (line.trim() === '') continue;
    let id: unknown = null;
    let reply: object;
    try {
      const call = json(line, 'line') as { id?: unknown; method?: unknown; input?: unknown } | null;
      id = call?.id ?? null;
      reply = { output: await run(String(call?.method), call?.input) };
    } catch (e) {
      failed.push(number);
      reply = { error: errorOf(e) };
    }
    process.stdout.write(`${JSON.stringify({ id, ...reply })}\n`);
  }
  if (failed.length === 0) return;
  const lines = failed.slice(0, 20).join(', ') + (failed.length > 20 ? ', ...' : '');
  complain({
    code: 'inconsistent',
    field: 'line',
    value: failed.length,
    message: `${failed.length} of ${number} lines failed: ${lines}.`,
  });
}

/** Options that not every command has. */
const OPTIONS_OF = {
  'read-laboratory': ['kind', 'fields', 'answers', 'sheet'],
  simulate: ['years', 'seed', 'weather', 'answers'],
} as const;
interface How extends Written {
  help: boolean;
  kind?: string;
  fields?: string;
  answers?: string;
  weather?: string;
  sheet?: string;
  years?: string;
  seed?: string;
}
/** A whole number of the command line within its span, or what stands in for it. */
function wholeNumber(
  field: string,
  typed: string | undefined,
  usual: number,
  min: number,
  max: number,
): number {
  if (typed === undefined) return usual;
  const value = within(field, Number(typed), { label: field, unit: '', min, max });
  if (!Number.isInteger(value))
    throw new Refusal({
      code: 'not_a_number',
      field,
      value: typed,
      message: `--${field} = ${typed} is no whole number.`,
    });
  return value;
}
interface Command {
  /** How many words follow it at most. */
  words: number;
  does: (words: readonly string[], how: How) => void | Promise<void>;
}
const COMMANDS: Readonly<Record<string, Command>> = {
  help: { words: 0, does: () => void process.stdout.write(USAGE) },
  assess: { words: Infinity, does: assessAll },
  why: {
    words: 2,
    does: ([file = '', figure = '']) => {
      const found = findStep(assessed(file).figures, figure);
      if (!found)
        throw new Refusal({
          code: 'not_found',
          field: 'figure',
          value: figure,
          message: `No figure ${figure} in this assessment.`,
        });
      process.stdout.write(`${asLines(found).join('\n')}\n`);
    },
  },
  simulate: {
    words: 1,
    does: async ([file = '-'], how) => {
      const given = readPlanFile(json(textOf(file, 'file'), 'file'));
      if (how.weather !== undefined && (how.years ?? how.seed) !== undefined)
        throw new Refusal({
          code: 'inconsistent',
          field: 'weather',
          message: 'The years of a station are run as they are: leave --years and --seed out.',
        });
      const station =
        how.weather === undefined
          ? null
          : await readWeather(
              bytesOf(how.weather, 'weather'),
              how.answers === undefined
                ? {}
                : weatherAnswers(json(textOf(how.answers, 'answers'), 'answers')),
            );
      const book = bookOf(given.farm.library);
      const { plan, calendar, assessment } = assessSeason(book, given);
      const outlook = outlookOf(book, plan, assessment, calendar, {
        years: wholeNumber('years', how.years, OUTLOOK_YEARS, 1, 200),
        seed: wholeNumber('seed', how.seed, OUTLOOK_SEED, 0, 4_294_967_295),
        ...(station ? { station } : {}),
      });
      if (typeof outlook === 'string')
        throw new Refusal({ code: 'missing', field: 'plan', message: outlook });
      say(snakeKeys(toldThroughout(outlook)), how);
    },
  },
  season: {
    words: 1,
    does: ([file = '-'], how) => {
      const given = readPlanFile(json(textOf(file, 'file'), 'file'));
      const book = bookOf(given.farm.library);
      const { plan, calendar, assessment } = assessSeason(book, given);
      say(snakeKeys(toldThroughout(seasonReading(book, plan, assessment, calendar))), how);
    },
  },
  methods: {
    words: 0,
    does: (_, how) =>
      say(
        METHODS.map((m) => {
          const { input, output, ...named } = listedMethod(m);
          return how.csv ? named : { ...named, input, output };
        }),
        how,
      ),
  },
  method: {
    words: 2,
    does: async ([id = '', file = '-'], how) => {
      if (how.help) return void process.stdout.write(methodHelp(methodOf(id)));
      say(await run(id, json(textOf(file, 'input'), 'input')), how);
    },
  },
  batch: { words: 1, does: ([file = '-']) => batch(file) },
  names: {
    words: 0,
    does: () => void process.stdout.write(stringify(namesTable(), { header: true })),
  },
  openapi: {
    words: 0,
    does: async (_, how) => say(openApi(packageFile.version, await workedExamples()), how),
  },
  reference: {
    words: 1,
    does: async ([module = '']) => {
      process.stdout.write(referencePage(oneOf('module', module, MODULES), await workedExamples()));
    },
  },
  schema: {
    words: 1,
    does: ([asked = `season-file-${PLAN_VERSION}`], how) => {
      const all = [...seasonFileSchemas(), ...sampleListSchemas()];
      const name = oneOf(
        'name',
        asked,
        all.map((s) => s.name),
      );
      say(all.find((s) => s.name === name)?.schema, how);
    },
  },
  'read-laboratory': {
    words: 1,
    does: async ([file = '-'], how) => {
      const fields = how.fields?.split(',').map((f) => f.trim());
      const report = await readLaboratory(bytesOf(file, 'file'), {
        kind: how.kind === undefined ? null : oneOf('kind', how.kind, LAB_KINDS),
        fields: fields ?? null,
        answers:
          how.answers === undefined
            ? {}
            : labAnswers(json(textOf(how.answers, 'answers'), 'answers')),
        sheet: how.sheet ?? null,
      });
      say(laboratoryJson(report), how);
    },
  },
  rules: { words: 0, does: () => void process.stdout.write(rulesPage()) },
};

/** What was asked for. @throws Refusal for an option, a command or a word that is not known */
function read(argv: readonly string[]) {
  try {
    return parseArgs({
      args: [...argv],
      allowPositionals: true,
      options: {
        compact: { type: 'boolean', default: false },
        csv: { type: 'boolean', default: false },
        help: { type: 'boolean', short: 'h', default: false },
        kind: { type: 'string' },
        fields: { type: 'string' },
        answers: { type: 'string' },
        sheet: { type: 'string' },
        years: { type: 'string' },
        seed: { type: 'string' },
        weather: { type: 'string' },
      },
    });
  } catch (e) {
    throw new Refusal({
      code: 'unknown_field',
      field: 'option',
      message: `${e instanceof Error ? e.message : String(e)}\n\n${USAGE}`,
    });
  }
}
async function main(argv: readonly string[]): Promise<void> {
  const { values, positionals } = read(argv);
  const [name = 'help', ...words] = positionals;
  const command = Object.hasOwn(COMMANDS, name) ? COMMANDS[name] : undefined;
  if (!command)
    throw new Refusal({
      code: 'not_found',
      field: 'command',
      value: name,
      allowed: Object.keys(COMMANDS).join(', '),
      message: `There is no command ${name}. Commands: ${Object.keys(COMMANDS).join(', ')}.`,
    });
  if (words.length > command.words)
    throw new Refusal({
      code: 'unknown_field',
      field: 'words',
      value: words.slice(command.words).join(' '),
      message: `${name} takes no more than ${command.words} words.`,
    });
  const own: readonly string[] = OPTIONS_OF[name as keyof typeof OPTIONS_OF] ?? [];
  for (const [owner, options] of Object.entries(OPTIONS_OF)) {
    const foreign = options.find((o) => values[o] !== undefined && !own.includes(o));
    if (foreign === undefined) continue;
    throw new Refusal({
      code: 'unknown_field',
      field: 'option',
      value: `--${foreign}`,
      message: `${name} has no option --${foreign}: it belongs to ${owner}.`,
    });
  }
  if (values.help && name !== 'method') return void process.stdout.write(USAGE);
  await command.does(words, values);
}

// Whoever reads may stop reading: a closed pipe is the end of the work, not a fault.
process.stdout.on('error', (e: NodeJS.ErrnoException) => {
  if (e.code === 'EPIPE') process.exit(0);
  throw e;
});
main(process.argv.slice(2)).catch((e: unknown) => {
  if (!(e instanceof Refusal)) throw e;
  complain(e.detail);
});
