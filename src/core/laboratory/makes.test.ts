import { expect, it } from 'vitest';
import makes from './makes.json';
import { readLaboratory } from './readLaboratory';

// Tables in the habits of many laboratories, each once read by eye: what every cell becomes, what
// is asked, what waits and what stays out.

it.each(makes)('$name: $kind', async ({ text, kind, says, asks, waits, out, date }) => {
  const report = await readLaboratory(new TextEncoder().encode(text), {
    kind: null,
    fields: null,
    answers: {},
    sheet: null,
  });
  expect({
    kind: report.kind,
    says: report.cells.map((c) => c.says),
    asks: report.questions.map((q) => `${q.about}: ${q.column}`),
    waits: report.waiting.map((w) => w.column),
    out: report.leftOut.map((l) => l.column),
    date: report.samples[0]?.date,
  }).toEqual({ kind, says, asks, waits, out, date });
});
