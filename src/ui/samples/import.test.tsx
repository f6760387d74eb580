// @vitest-environment jsdom
import { cleanup, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { LabMapping } from '@/core/ground/labReport';
import { ImportFile, type ImportFileProps } from './ImportFile';
import { SimulatedLaboratory } from './SimulatedLaboratory';

const refresh = vi.fn();
vi.mock('next/navigation', () => ({ useRouter: () => ({ refresh }) }));
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
  refresh.mockClear();
});

const mapping: LabMapping = {
  dateOrder: 'ymd',
  columns: { Sample: { kind: 'label' }, 'pH H2O': { kind: 'ph_water' } },
};
const props = (part: Partial<ImportFileProps> = {}): ImportFileProps => ({
  farms: [{ id: 'f', name: 'Tansy Hollow' }],
  laboratories: { f: ['Senn laboratory'] },
  nutrients: [{ nutrient: 'p', extractants: ['olsen', 'bray_1'] }],
  preview: () =>
    Promise.resolve({
      ok: true,
      value: {
        headers: ['Sample', 'pH H2O'],
        rows: 2,
        delimiter: ';',
        firstRows: [{ Sample: 'A1', 'pH H2O': '6.1' }],
        mapping,
        remembered: false,
      },
    }),
  check: () =>
    Promise.resolve({
      ok: true,
      value: {
        good: [{}, {}] as never,
        bad: [
          {
            row: 4,
            cells: {},
            problems: [
              { column: 'pH H2O', value: '65', reason: 'pH in water = 65 is outside 2.5 to 11' },
            ],
          },
        ],
      },
    }),
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
  await userEvent.click(await screen.findByRole('button', { name: 'Check the rows' }));
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
      await screen.findByText('2 samples came in; 1 rows wait below to be put right.'),
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
          preview: () =>
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
  it('a column that is given another meaning is checked anew', async () => {
    const check = vi.fn<ImportFileProps['check']>(() =>
      Promise.resolve({ ok: true, value: { good: [], bad: [] } }),
    );
    render(<ImportFile {...props({ check })} />);
    await throughToCheck();
    await waitFor(() => expect(check).toHaveBeenCalledOnce());
    await userEvent.selectOptions(screen.getByLabelText('pH H2O holds'), 'nutrient:p');
    expect(screen.queryByText(/rows can come in/)).toBeNull();
    await userEvent.selectOptions(screen.getByLabelText('pH H2O extractant'), 'bray_1');
    await userEvent.click(screen.getByRole('button', { name: 'Check the rows' }));
    await waitFor(() => expect(check).toHaveBeenCalledTimes(2));
    const sent = JSON.parse(String(check.mock.calls[1]?.[0].get('mapping'))) as LabMapping;
    expect(sent.columns['pH H2O']).toEqual({
      kind: 'nutrient',
      nutrient: 'p',
      extractant: 'bray_1',
      unit: 'mg_kg',
    });
  });
});

describe('the simulated laboratory on screen', () => {
  const send = (answer: Awaited<ReturnType<Parameters<typeof SimulatedLaboratory>[0]['send']>>) =>
    render(<SimulatedLaboratory send={() => Promise.resolve(answer)} />);
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
