import { z } from 'zod';
import { refusalOf } from '../quantity/input';
import { Refusal } from '../quantity/refusal';
import type { Answers } from './questions';

const answers = z.record(z.string().max(500), z.string().max(500));
/** Answers out of a file or a form. @throws Refusal */
export function labAnswers(raw: unknown): Answers {
  const parsed = answers.safeParse(raw);
  if (parsed.success) return parsed.data;
  throw new Refusal(refusalOf(parsed.error, raw));
}
