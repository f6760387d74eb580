import fs from 'node:fs';
import path from 'node:path';
import vm from 'node:vm';
import { describe, expect, it } from 'vitest';
import { terraceShortWorked } from '../demo/terraceShortWorked';
import { assessSeason } from './assessment/assess';
import { PRINTED } from './book/book';
import { leafStandards } from './book/leafStandards';
import { sheetOfPlan } from './views/figures';
import { furrowSection } from './views/furrow';

// The examples in doc comments are run: a call, "//", and its answer. What follows the answer on
// the
// line is for the reader. A number agrees to the digits that it is written with.

const here = path.join(process.cwd(), 'src/core');
const files = fs
  .readdirSync(here, { recursive: true, encoding: 'utf8' })
  .filter((f) => f.endsWith('.ts') && !f.endsWith('.test.ts'))
  .toSorted();

interface Example {
  file: string;
  call: string;
  answer: string;
}
/** Examples of a file; one that is wrapped over several lines of its comment is joined again. */
function examplesOf(file: string): Example[] {
  const text = fs.readFileSync(path.join(here, file), 'utf8');
  return [...text.matchAll(/\/\*\*[\s\S]*?\*\//g)].flatMap(([comment]) => {
    const plain = comment.replace(/^\/\*\*|\*\/$/g, '').replace(/^\s*\* ?/gm, '');
    return [...plain.matchAll(/@example\s+([\s\S]*?)(?=\n\s*@|\n\s*\n|$)/g)].map(([, body]) => {
      const line = (body ?? '').replace(/\s*\n\s*/g, ' ').trim();
      const [call, answer] = line.split(/ \/\/ (.*)$/s);
      return { file, call: call?.trim() ?? '', answer: answer?.trim() ?? '' };
    });
  });
}

/** The literal that an answer begins with, in JavaScript's own words. */
function literalOf(answer: string): string | null {
  const simple = /^(?:-?\d[\d,]*(?:\.\d+)?(?:e-?\d+)?|'[^']*'|null|undefined|true|false)/.exec(
    answer,
  );
  if (simple) return simple[0].replaceAll(/(?<=\d),(?=\d)/g, '');
  const open = answer[0];
  if (open !== '{' && open !== '[') return null;
  let depth = 0;
  for (const [i, c] of [...answer].entries()) {
    if (c === '{' || c === '[') depth++;
    if (c === '}' || c === ']') depth--;
    if (depth === 0) return answer.slice(0, i + 1);
  }
  return null;
}
/** Half of the last digit that a number is written with. */
const tolerance = (written: string): number =>
  0.5000001 * 10 ** -(/\.(\d+)/.exec(written)?.[1]?.length ?? 0);

/** What the answer asks for, number by number: written digits decide how exactly. */
function expected(literal: string): unknown {
  const marked = literal.replaceAll(
    /'[^']*'|(?<![\w'])-?\d+(?:\.\d+)?(?:e-?\d+)?(?!\w*\s*:)/g,
    (m) => (m.startsWith("'") ? m : `near(${m}, ${tolerance(m)})`),
  );
  return vm.runInNewContext(`(${marked})`, {
    near: (value: number, within: number) => ({
      asymmetricMatch: (other: unknown) =>
        typeof other === 'number' && Math.abs(other - value) <= within,
      toAsymmetricMatcher: () => `${value} ± ${within}`,
      $$typeof: Symbol.for('jest.asymmetricMatcher'),
    }),
  });
}

const modules = new Map<string, Record<string, unknown>>();
const known: Record<string, unknown> = {};
for (const file of files) {
  const exports = (await import(path.join(here, file))) as Record<string, unknown>;
  modules.set(file, exports);
  for (const [name, value] of Object.entries(exports)) known[name] ??= value;
}
/** What examples may name without building it. */
const plan = terraceShortWorked();
const assessed = assessSeason(PRINTED, plan);
const limits = { d: 2.4, l: 2.7, sl: 2.7, sh: 4, hh: 4, t: null };
const { ranges } = leafStandards(PRINTED);
const [early] = ranges;
const fixtures = {
  book: PRINTED,
  plan,
  farm: plan.farm,
  sheet: sheetOfPlan(plan),
  section: furrowSection(PRINTED, plan, assessed.assessment, assessed.calendar),
  goal: (yieldGoalTHa: number) => ({ ...plan, season: { ...plan.season, yieldGoalTHa } }),
  limits,
  ranges,
  early: { ...early, bbchFrom: 50, bbchTo: 60 },
  late: { ...early, bbchFrom: 64, bbchTo: 70 },
};

describe('examples in doc comments', () => {
  const all = files.flatMap(examplesOf);
  it('are there', () => expect(all.length).toBeGreaterThan(150));
  it.each(all.map((e) => [`${e.file}: ${e.call}`, e] as const))('%s', async (_, e) => {
    const run = () =>
      vm.runInNewContext(`(async () => (${e.call}))()`, {
        ...known,
        ...modules.get(e.file),
        ...fixtures,
      }) as Promise<unknown>;
    const throws = /^throws '(.*)'/.exec(e.answer)?.[1];
    if (throws !== undefined) return expect(run()).rejects.toThrow(throws);
    const literal = literalOf(e.answer);
    expect(literal, `the answer "${e.answer}" begins with no value`).not.toBeNull();
    const { got } = JSON.parse(JSON.stringify({ got: await run() })) as { got?: unknown };
    const want = expected(literal ?? '');
    if (literal?.startsWith('{')) expect(got).toMatchObject(want as object);
    else expect(got).toEqual(want);
  });
});
