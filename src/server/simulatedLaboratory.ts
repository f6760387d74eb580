import { stringify } from 'csv-stringify/sync';
import { bookOf, type LibraryChange } from '@/core/book/book';
import { tissueCropOf } from '@/core/book/crops';
import { leafStandards } from '@/core/book/leafStandards';
import type { Db } from '@/data/client';
import { fieldsOf, libraryOf } from '@/data/farms';
import { leafFactsOf } from '@/data/samples';
import { simulateLeaves } from '@/demo/simulatedLeaves';
import { authorise, type Actor } from './authorise';
import { simulateLaboratory, type ListedSample } from '@/demo/simulatedLaboratory';
import { SAMPLE_LIST_COLUMNS } from '@/core/ground/sampleList';
import { trueGround } from '@/demo/trueGround';
import { seedOf } from '@/core/quantity/random';
import { refuse } from '@/core/quantity/refusal';
import { today } from './clock';
import { readCsv } from './csvFile';

export interface SimulatedReport {
  fileName: string;
  csv: string;
  samples: number;
  receivedOn: string;
  reportedOn: string;
}

/** Reads the list that went with the bags, as the app writes it. */
function listed(bytes: Uint8Array): ListedSample[] {
  const file = readCsv(bytes);
  const missing = SAMPLE_LIST_COLUMNS.filter((c) => !file.headers.includes(c));
  if (missing.length > 0)
    refuse(
      'missing',
      'file',
      `This is not a sample list of this program: ${missing.join(', ')} ${missing.length === 1 ? 'is' : 'are'} missing.`,
      { allowed: SAMPLE_LIST_COLUMNS.join(', ') },
    );
  return file.rows.map(({ row, cells }) => {
    const number = (column: string): number => {
      const v = Number(cells[column]);
      return cells[column]?.trim() && Number.isFinite(v)
        ? v
        : refuse(
            'not_a_number',
            column,
            `Line ${row}, column ${column}: ${cells[column] || 'nothing'} is not a number.`,
            { value: cells[column] },
          );
    };
    // A leading quote keeps a spreadsheet from running a formula; it is not part of the name.
    return {
      label: (cells.label ?? '').replace(/^'/, ''),
      field: (cells.field ?? '').replace(/^'/, ''),
      fromCm: number('depth_from_cm'),
      toCm: number('depth_to_cm'),
      cores: number('cores'),
      lon: number('longitude'),
      lat: number('latitude'),
      date: cells.sampled_on ?? today(),
    };
  });
}

/**
 * The stand-in laboratory's door: a list goes in, a results file comes out as a real laboratory
 * would send it.
 */
export function sendToSimulatedLaboratory(bytes: Uint8Array): SimulatedReport {
  const samples = listed(bytes);
  const report = simulateLaboratory({
    samples,
    ground: trueGround,
    receivedOn: today(),
    seed: seedOf(`${today()}|${samples.map((s) => s.label).join('|')}`),
  });
  return {
    fileName: `simulated-results-${report.reportedOn}.csv`,
    csv: stringify([report.headers, ...report.rows], { escape_formulas: true }),
    samples: samples.length,
    receivedOn: report.receivedOn,
    reportedOn: report.reportedOn,
  };
}

/**
 * Answers the leaf samples of a farm that wait for their values, as a file of a laboratory: it is
 * brought in like a real one.
 */
export async function simulatedLeaves(
  db: Db,
  actor: Actor,
  farmId: string,
): Promise<SimulatedReport> {
  await authorise(db, actor, 'sample', farmId);
  const book = bookOf(
    (await libraryOf(db, [farmId])).map(({ farmId: _, ...c }): LibraryChange => c),
  );
  const fields = await fieldsOf(db, [farmId]);
  const facts = await leafFactsOf(
    db,
    fields.map((f) => f.id),
  );
  const waiting = fields.flatMap((f) =>
    (facts.get(f.id) ?? []).flatMap((sample) => {
      return sample.values.length === 0
        ? [{ fieldName: f.name, tissueCrop: tissueCropOf(book, sample.cropKey, null), sample }]
        : [];
    }),
  );
  if (waiting.length === 0)
    refuse('missing', 'leaves', 'No leaf of this farm waits for its values: take one first.');
  const { headers, rows } = simulateLeaves(leafStandards(book), waiting);
  return {
    fileName: `simulated-leaves-${today()}.csv`,
    csv: stringify([headers, ...rows], { escape_formulas: true }),
    samples: rows.length,
    receivedOn: today(),
    reportedOn: today(),
  };
}
