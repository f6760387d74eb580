import { toldThroughout } from '../src/core/why/said';
import fs from 'node:fs';
import readline from 'node:readline';
import { bookOf } from '../src/core/book/book';
import { stringify } from 'csv-stringify/sync';
import { METHODS, namesTable, run } from '../src/core/methods/registry';
import { objectSchema, openApi } from '../src/core/methods/openApi';
import { workedExamples } from '../src/core/methods/workedExample';
import packageFile from '../package.json';
import { rulesPage } from '../src/core/warnings/allRules';
import { assess } from '../src/core/assessment/assess';
import { planFileSchema, readPlanFile } from '../src/core/document/seasonFile';
import { snakeKeys } from '../src/core/quantity/names';
import { Refusal } from '../src/core/quantity/refusal';
import { asLines, findStep } from '../src/core/why/step';

const USAGE = `furrow: the field plan from the command line

  furrow assess plan.json            the assessment of a plan file as JSON
  furrow why plan.json FIGURE        the reasons of one figure, as text (balance.n, credit.legume, ...)
  furrow methods                     all methods with their input and output schemas, as JSON
  furrow method ID < input.json      one method: JSON in, JSON out; exit code 2 and the typed error on bad input
  furrow batch < calls.jsonl         one {id, method, input} a line in, one {id, output} or {id, error} a line out
  furrow names                       the chapters' names of all fields beside ours, as CSV
  furrow openapi                     the description of all methods for programs (OpenAPI 3.1)
  furrow schema                      the JSON schema of the plan file
  furrow rules                       all judgement rules with their messages, as a page`;

const say = (value: unknown): void => {
  process.stdout.write(`${JSON.stringify(value, null, 2)}\n`);
};
const json = (text: string, field: string): unknown => {
  try {
    return JSON.parse(text);
  } catch (e) {
    throw new Refusal({
      code: 'malformed',
      field,
      message: `${field} is not JSON: ${e instanceof Error ? e.message : String(e)}`,
    });
  }
};
const readPlan = (path: string | undefined) => {
  if (!path || !fs.existsSync(path))
    throw new Refusal({
      code: 'missing',
      field: 'file',
      value: path,
      message: `No plan file ${path ?? 'given'}.`,
    });
  return readPlanFile(json(fs.readFileSync(path, 'utf8'), 'file'));
};

const assessed = (path: string | undefined) => {
  const plan = readPlan(path);
  return assess(bookOf(plan.farm.library), plan);
};

async function batch(): Promise<void> {
  for await (const line of readline.createInterface({
    input: process.stdin,
    crlfDelay: Infinity,
  })) {
    if (line.trim() === '') continue;
    let id: unknown = null;
    try {
      const call = json(line, 'line') as { id?: unknown; method?: unknown; input?: unknown };
      id = call.id ?? null;
      process.stdout.write(
        `${JSON.stringify({ id, output: await run(String(call.method), call.input) })}\n`,
      );
    } catch (e) {
      // One bad line must not end the others.
      const error =
        e instanceof Refusal
          ? e.detail
          : { code: 'server', field: 'method', message: `This call failed: ${String(e)}` };
      process.stdout.write(`${JSON.stringify({ id, error })}\n`);
    }
  }
}

async function main([command, ...rest]: string[]): Promise<void> {
  switch (command) {
    case 'assess':
      return say(snakeKeys(toldThroughout(assessed(rest[0]))));
    case 'why': {
      const found = findStep(assessed(rest[0]).figures, rest[1] ?? '');
      if (!found)
        throw new Refusal({
          code: 'unknown_id',
          field: 'figure',
          value: rest[1],
          message: `No figure ${rest[1] ?? ''} in this assessment.`,
        });
      process.stdout.write(`${asLines(found).join('\n')}\n`);
      return;
    }
    case 'methods':
      return say(
        METHODS.map(({ id, title, group, chapter, fields }) => ({
          id,
          title,
          group,
          chapter,
          input: objectSchema(fields.takes, false),
          output: objectSchema(fields.gives, true),
        })),
      );
    case 'method':
      return say(await run(rest[0] ?? '', json(fs.readFileSync(0, 'utf8'), 'input')));
    case 'batch':
      return batch();
    case 'names':
      process.stdout.write(stringify(namesTable(), { header: true }));
      return;
    case 'openapi':
      return say(openApi(packageFile.version, await workedExamples()));
    case 'schema':
      return say(planFileSchema());
    case 'rules':
      process.stdout.write(rulesPage());
      return;
    default:
      process.stderr.write(`${USAGE}\n`);
      process.exitCode = command === undefined || command === 'help' ? 0 : 2;
  }
}

main(process.argv.slice(2)).catch((e: unknown) => {
  if (!(e instanceof Refusal)) throw e;
  say({ error: e.detail });
  process.exitCode = 2;
});
