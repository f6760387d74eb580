import { fromChapter, inOurNames } from './fields';
import { METHODS } from './registry';

/**
 * A worked example of the chapters, or our own (`own.json`) for a method that they describe without
 * one: what goes into a method and what must come out.
 */
export interface WorkedExample {
  id: string;
  method: string;
  input: unknown;
  expected: Record<string, unknown>;
  tolerance?: number;
  working?: string;
}

const FILES = [
  () => import('./examples/01-requirement-credits.json'),
  () => import('./examples/02-manure-compost.json'),
  () => import('./examples/03-soil-lime-pk.json'),
  () => import('./examples/04-nitrogen-plan.json'),
  () => import('./examples/05-tissue.json'),
  () => import('./examples/own.json'),
];

/** An example of the chapters in the names of the open edge. */
function carriedOver(example: WorkedExample): WorkedExample {
  const fields = METHODS.find((m) => m.id === example.method)?.fields;
  // A chapter may speak of a calculation that is not built yet.
  if (!fields) return example;
  const { input, expected } = example;
  const refused = typeof expected.refuse === 'string' ? expected.refuse : null;
  return {
    ...example,
    input:
      input !== null && typeof input === 'object'
        ? fromChapter(fields.takes, input as Record<string, unknown>)
        : input,
    expected:
      refused === null
        ? fromChapter(fields.gives, expected)
        : { refuse: inOurNames(fields.takes, refused) },
  };
}

/** All worked examples, fetched when somebody asks. */
export const workedExamples = async (): Promise<WorkedExample[]> =>
  (await Promise.all(FILES.map((load) => load()))).flatMap((m) =>
    (m.default as unknown as WorkedExample[]).map(carriedOver),
  );

/** A case of the method that gives a result, to start a calculator with. */
export const exampleOf = async (method: string): Promise<WorkedExample | undefined> =>
  (await workedExamples()).find((e) => e.method === method && !('refuse' in e.expected));
