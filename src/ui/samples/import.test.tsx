// @vitest-environment jsdom
import { cleanup, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { ImportFile, type ImportFileProps } from './ImportFile';
import type { FileLook } from '@/core/laboratory/bringIn';
import { Imports } from './Imports';
import { SimulatedLaboratory } from './SimulatedLaboratory';

const refresh = vi.fn();
vi.mock('next/navigation', () => ({ useRouter: () => ({ refresh }) }));
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
  refresh.mockClear();
});

const seen: FileLook = {
  readAs: 'UTF-8, semicolon between columns',
  shape: 'a row a sample',
  samples: 3,
  good: 2,
  bad: [
    {
      row: 4,
      cells: {},
      problems: [
        { column: 'pH H2O', value: '65', reason: 'pH in water = 65 is outside 2.5 to 11' },
      ],
    },
  ],
  questions: [],
  answers: {},
  remembered: false,
  cells: [
    {
      row: 2,
      of: 'Rookery, A1',
      column: 'P Olsen',
      text: '18',
      says: 'P, 18 mg/kg',
      means: 'high',
    },
  ],
  moreCells: 0,
  leftOut: [{ column: 'Xyz', reason: 'not recognised as a result' }],
};
const asked: FileLook = {
  ...seen,
  questions: [
    {
      key: 'date_order: Sampled',
      about: 'date_order',
      column: 'Sampled',
      cell: '03/02/2027',
      choices: [
        { answer: 'dmy', means: '3 February' },
        { answer: 'mdy', means: '2 March' },
      ],
    },
  ],
};
const props = (part: Partial<ImportFileProps> = {}): ImportFileProps => ({
  farms: [{ id: 'f', name: 'Tansy Hollow' }],
  laboratories: { f: ['Senn laboratory'] },
  headings: [{ answer: 'pH H2O', means: 'pH in water' }],
  look: () => Promise.resolve({ ok: true, value: seen }),
  ...part,
});
/**
 * What the server streams: progress lines, then the answer; parted in the middle of a line, as a
 * network may.
 */
const streamed = (text: string, cut: number) =>
  vi.stubGlobal('fetch', () =>
    Promise.resolve(
      new Response(
        new ReadableStream({
          start(c) {
            const e = new TextEncoder();
            c.enqueue(e.encode(text.slice(0, cut)));
            c.enqueue(e.encode(text.slice(cut)));
            c.close();
          },
        }),
      ),
    ),
  );
async function throughToCheck() {
  await userEvent.upload(
    screen.getByLabelText('File'),
    new File(['Sample;pH H2O\nA1;6.1\n'], 'r.csv', { type: 'text/csv' }),
  );
  await userEvent.click(screen.getByRole('button', { name: 'Look at the file' }));
  // The boxes are closed until the look has ended: a choice before that would be none.
  await waitFor(() =>
    expect(screen.getByLabelText('Laboratory')).toHaveProperty('disabled', false),
  );
}

describe('a laboratory file on screen', () => {
  it('goes from columns to rows to the answer, and says what waits', async () => {
    streamed(
      '{"progress":{"done":1,"of":2}}\n{"progress":{"done":2,"of":2}}\n{"ok":true,"value":{"imported":2,"waiting":1}}\n',
      45,
    );
    render(<ImportFile {...props()} />);
    await throughToCheck();
    expect((await screen.findByTestId('bad-rows')).textContent).toContain(
      'pH in water = 65 is outside 2.5 to 11',
    );
    await userEvent.click(
      screen.getByRole('button', { name: 'Bring in 2 rows, keep 1 for later' }),
    );
    expect(
      await screen.findByText('2 samples came in; 1 row waits below to be put right.'),
    ).toBeTruthy();
    expect(refresh).toHaveBeenCalled();
  });
  it('a line that breaks off is told, and what was chosen stays', async () => {
    streamed('{"progress":{"done":1,"of":2}}\n', 10);
    render(<ImportFile {...props()} />);
    await throughToCheck();
    await userEvent.click(await screen.findByRole('button', { name: /^Bring in/ }));
    expect((await screen.findByRole('alert')).textContent).toMatch(/did not answer to the end/);
    expect(screen.getByTestId('bad-rows')).toBeTruthy();
    expect(refresh).not.toHaveBeenCalled();
  });
  it('what the server refuses stands there in its words', async () => {
    render(
      <ImportFile
        {...props({
          look: () =>
            Promise.resolve({
              ok: false,
              refusal: {
                code: 'missing',
                field: 'laboratory',
                message: 'Laboratory: give its name.',
              },
            }),
        })}
      />,
    );
    await userEvent.upload(
      screen.getByLabelText('File'),
      new File(['x'], 'r.csv', { type: 'text/csv' }),
    );
    await userEvent.click(screen.getByRole('button', { name: 'Look at the file' }));
    expect((await screen.findByRole('alert')).textContent).toBe('Laboratory: give its name.');
  });
  it('asks with the file’s own cells, and brings nothing in before it is answered', async () => {
    const look = vi.fn<ImportFileProps['look']>((form) =>
      Promise.resolve({
        ok: true,
        value: String(form.get('answers')).includes('dmy') ? seen : asked,
      }),
    );
    render(<ImportFile {...props({ look })} />);
    await throughToCheck();
    const question = within(await screen.findByRole('group', { name: /^Sampled:/u }));
    expect(question.getByText(/The file says: 03\/02\/2027/u)).toBeTruthy();
    expect(screen.getByRole('button', { name: /^Bring in/u })).toHaveProperty('disabled', true);
    await userEvent.click(question.getByRole('radio', { name: '3 February' }));
    await waitFor(() =>
      expect(screen.getByRole('button', { name: /^Bring in/u })).toHaveProperty('disabled', false),
    );
    expect(screen.queryByRole('group', { name: /^Sampled:/u })).toBeNull();
  });
  it('shows every cell with what it becomes and its class', async () => {
    render(<ImportFile {...props()} />);
    await throughToCheck();
    const cells = within(await screen.findByTestId('cells'));
    expect(
      cells.getByRole('row', { name: /Rookery, A1 P Olsen 18 P, 18 mg\/kg high$/u }),
    ).toBeTruthy();
  });
  it('a column that is given a meaning is read anew', async () => {
    const look = vi.fn<ImportFileProps['look']>(() => Promise.resolve({ ok: true, value: seen }));
    render(<ImportFile {...props({ look })} />);
    await throughToCheck();
    await userEvent.selectOptions(await screen.findByLabelText('Xyz is'), 'pH H2O');
    await waitFor(() => expect(look).toHaveBeenCalledTimes(2));
    expect(look.mock.calls[1]?.[0].get('answers')).toBe('{"column: Xyz":"pH H2O"}');
  });
  it('what was remembered of a laboratory is shown, and asked anew on demand', async () => {
    const look = vi.fn<ImportFileProps['look']>(() =>
      Promise.resolve({
        ok: true,
        value: { ...seen, remembered: true, answers: { 'ph_in: pH': 'water' } },
      }),
    );
    render(<ImportFile {...props({ look })} />);
    await throughToCheck();
    await screen.findByText(/ph_in: pH = water/u);
    await userEvent.click(screen.getByRole('button', { name: 'Ask me anew' }));
    await waitFor(() => expect(look.mock.calls[1]?.[0].get('anew')).toBe('true'));
  });
});

describe('the simulated laboratory on screen', () => {
  const send = (answer: Awaited<ReturnType<Parameters<typeof SimulatedLaboratory>[0]['send']>>) =>
    render(
      <SimulatedLaboratory
        send={() => Promise.resolve(answer)}
        farms={[{ id: 'f', name: 'F' }]}
        leaves={() => Promise.resolve(answer)}
      />,
    );
  const give = () =>
    userEvent.upload(
      screen.getByLabelText('Sample list (CSV of a sampling plan)'),
      new File(['label\n'], 'list.csv', { type: 'text/csv' }),
    );
  it('gives the results to take away, labelled as simulated', async () => {
    send({
      ok: true,
      value: {
        fileName: 'simulated-results-2027-03-04.csv',
        csv: 'a,b\n',
        samples: 3,
        receivedOn: '2027-02-26',
        reportedOn: '2027-03-04',
      },
    });
    await give();
    expect((await screen.findByRole('status')).textContent).toContain(
      '3 samples received on 26 Feb 2027, reported on 4 Mar 2027 (simulated turn-round)',
    );
    expect(screen.getByRole('link', { name: 'Results, CSV' }).getAttribute('download')).toBe(
      'simulated-results-2027-03-04.csv',
    );
  });
  it('says what it cannot read', async () => {
    send({
      ok: false,
      refusal: {
        code: 'missing',
        field: 'file',
        message: 'This is not a sample list of this program.',
      },
    });
    await give();
    expect((await screen.findByRole('alert')).textContent).toContain('not a sample list');
  });
});

describe('files brought in', () => {
  const line = {
    id: 'i1',
    farm: 'Tansy Hollow',
    laboratory: 'Vale testing house',
    fileName: 'vale.csv',
    author: 'Ines Calloway',
    on: '2027-02-26',
    samples: 3,
    leaves: 0,
    profiles: 1,
    waiting: 2,
  };
  it('are taken back as a whole, after a second press', async () => {
    const takeBack = vi.fn(() =>
      Promise.resolve({ ok: true as const, value: { samples: 3, leaves: 0, changed: 1 } }),
    );
    render(<Imports lines={[line]} takeBack={takeBack} />);
    expect(screen.getByText('3 samples, nitrate of 1 field, 2 kept waiting')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Take back vale.csv' }));
    expect(takeBack).not.toHaveBeenCalled();
    await userEvent.click(screen.getByRole('button', { name: 'Keep it' }));
    await userEvent.click(screen.getByRole('button', { name: 'Take back vale.csv' }));
    await userEvent.click(screen.getByRole('button', { name: 'Yes, take all of it back' }));
    expect(
      await screen.findByText(/is taken back: 3 samples went, 1 of them changed/u),
    ).toBeTruthy();
    expect(takeBack).toHaveBeenCalledExactlyOnceWith('i1');
  });
  it('a file of leaves says so, before and after', async () => {
    const takeBack = vi.fn(() =>
      Promise.resolve({ ok: true as const, value: { samples: 0, leaves: 1, changed: 0 } }),
    );
    render(
      <Imports
        lines={[{ ...line, samples: 0, leaves: 1, profiles: 0, waiting: 0 }]}
        takeBack={takeBack}
      />,
    );
    expect(screen.getByText('1 leaf')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Take back vale.csv' }));
    await userEvent.click(screen.getByRole('button', { name: 'Yes, take all of it back' }));
    expect(await screen.findByText(/is taken back: 1 leaf went\./u)).toBeTruthy();
  });
  it('are not there where nothing came in', () => {
    const { container } = render(<Imports lines={[]} takeBack={vi.fn()} />);
    expect(container.textContent).toBe('');
  });
});
