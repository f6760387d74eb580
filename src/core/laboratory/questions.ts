// What can be read two ways is asked once, with the file's own cells.

export interface Choice {
  answer: string;
  means: string;
}
export interface Question {
  /** By which an answer is given. */
  key: string;
  about: string;
  /** Columns that it is about, as the file writes them. */
  column: string;
  /** Cells of the file that show it. */
  cell: string;
  choices: Choice[];
}
export interface Waiting {
  /** Which of the samples it belongs to. */
  sample: number;
  row: number;
  column: string;
  value: string;
  reason: string;
}
/** By which somebody says what a column is: the answer is a heading that is understood. */
export const columnKey = (heading: string): string => `column: ${heading}`;

/** The key of a question. */
export const answerKey = (about: string, column: string): string => `${about}: ${column}`;
/** Answers by the keys of their questions. */
export type Answers = Readonly<Record<string, string>>;

/** Collects questions, and what the answers say. */
export interface Asker {
  questions: () => Question[];
  /**
   * The answer, or null as long as nobody gave one that fits. What several columns share, as their
   * unit, is one question of all of them.
   */
  ask: (q: Omit<Question, 'key'> & { shared?: string }) => string | null;
}
const MOST_CELLS = 6;

/**
 * Asks each thing once: cells of the same question are shown together.
 *
 * @param answers what was said already
 */
export function asker(answers: Answers): Asker {
  const open = new Map<string, Question & { cells: string[]; columns: string[] }>();
  return {
    questions: () => [...open.values()].map(({ cells: _, columns: __, ...q }) => q),
    ask: ({ shared, ...q }) => {
      const key = answerKey(q.about, shared ?? q.column);
      // Somebody may name one of the columns that share a question, or all of them.
      const said =
        answers[key] ??
        Object.entries(answers).find(
          ([k]) =>
            k.startsWith(answerKey(q.about, '')) &&
            k.slice(answerKey(q.about, '').length).split(', ').includes(q.column),
        )?.[1];
      if (said !== undefined && q.choices.some((c) => c.answer === said)) return said;
      const before = open.get(key);
      const cells = [...new Set([...(before?.cells ?? []), q.cell])].slice(0, MOST_CELLS);
      const columns = [...new Set([...(before?.columns ?? []), q.column])];
      open.set(key, {
        ...(before ?? q),
        key,
        cells,
        columns,
        cell: cells.join(', '),
        column: columns.join(', '),
      });
      return null;
    },
  };
}
/** The answer that leaves a column or a cell out. */
export const LEAVE_OUT: Choice = { answer: 'leave_out', means: 'leave it out' };
