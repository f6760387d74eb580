'use client';

import type { Question } from '@/core/laboratory/questions';

const ABOUT: Readonly<Record<string, string>> = {
  date_order: 'In which order are the days written?',
  decimal_mark: 'Which mark parts off the decimals?',
  unit: 'In which unit?',
  form: 'In which form?',
  extractant: 'By which extractant?',
  ph_in: 'pH in what?',
  buffer: 'By which buffer?',
  bulk_density: 'kg/ha of which soil?',
  depth_unit: 'Depth in what?',
  value: 'This does not occur as it stands. What is meant?',
  which_column: 'Two columns say different things. Which one counts?',
  basis: 'Of dry matter, or as it came?',
  part: 'Which part of the plant is it?',
  density: 'Of which density?',
  earlier: 'This lies far from what the field had before. Is it so?',
};

/** What can be read several ways, each with the file's own cells. */
export function Questions({
  questions,
  pending,
  onAnswer,
}: {
  questions: readonly Question[];
  pending: boolean;
  onAnswer: (key: string, answer: string) => void;
}) {
  return (
    <section aria-label="To be answered" className="mt-3">
      <h3>To be answered: {questions.length}</h3>
      {questions.map((q) => (
        <fieldset
          key={q.key}
          disabled={pending}
          className="mt-2 max-w-[52rem] border-l-2 border-rule pl-3"
        >
          <legend>
            <strong>{q.column}</strong>: {ABOUT[q.about] ?? q.about}
          </legend>
          <p className="note">The file says: {q.cell}</p>
          <ul>
            {q.choices.map((c) => (
              <li key={c.answer}>
                <label className="inline-flex items-baseline gap-1.5">
                  <input
                    type="radio"
                    name={q.key}
                    value={c.answer}
                    onChange={() => onAnswer(q.key, c.answer)}
                  />
                  {c.means}
                </label>
              </li>
            ))}
          </ul>
        </fieldset>
      ))}
    </section>
  );
}
