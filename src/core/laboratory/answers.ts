import { z } from 'zod';
import { refusalOf } from '../quantity/input';
import { Refusal } from '../quantity/refusal';
import { answerKey, type Answers } from './questions';

const text = z.string().max(500);
/** By key, or a list of questions with their answers. */
const answers = z.union([
  z.record(text, text),
  z
    .array(z.object({ about: text, column: text, answer: text }))
    .transform((list) =>
      Object.fromEntries(list.map((a) => [answerKey(a.about, a.column), a.answer])),
    ),
]);
/** Answers out of a file or a form. @throws Refusal */
export function labAnswers(raw: unknown): Answers {
  const parsed = answers.safeParse(raw);
  if (parsed.success) return parsed.data;
  throw new Refusal(refusalOf(parsed.error, raw));
}
