// @vitest-environment jsdom
import { cleanup, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, expect, it, vi } from 'vitest';
import { ReportFile } from './ReportFile';

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});
interface Told {
  samples?: { label: string }[];
  questions?: unknown[];
  left_out?: { column: string; reason: string }[];
}
const open = async (reply: (form: FormData) => { ok: boolean; body: unknown }) => {
  const onTake = vi.fn();
  vi.stubGlobal('fetch', (_: string, init: { body: FormData }) => {
    const { ok, body } = reply(init.body);
    return Promise.resolve({ ok, json: () => Promise.resolve(body) });
  });
  render(
    <ReportFile
      kind="leaf"
      samplesOf={(r) => r.samples.map((s) => ({ name: s.label ?? '' }))}
      disabled={false}
      said={(s) => `${s.name} is taken.`}
      onTake={onTake}
    />,
  );
  await userEvent.upload(
    screen.getByLabelText('Values from a laboratory file'),
    new File(['x'], 'leaf.csv', { type: 'text/csv' }),
  );
  return onTake;
};
const told = ({ samples = [{ label: 'S-1' }], questions = [], left_out = [] }: Told) => ({
  ok: true,
  body: { kind: 'leaf', samples, questions, waiting: [], left_out },
});

it('takes the only sample, and says what stays out', async () => {
  const onTake = await open(() => told({ left_out: [{ column: 'Xx', reason: 'not recognised' }] }));
  await screen.findByText('S-1 is taken.');
  expect(onTake).toHaveBeenCalledWith({ name: 'S-1' });
  expect(screen.getByText(/Not brought in: Xx: not recognised/u)).toBeTruthy();
});
it('lets one of several samples be taken', async () => {
  const onTake = await open(() => told({ samples: [{ label: 'S-1' }, { label: 'S-2' }] }));
  await userEvent.click(await screen.findByRole('button', { name: 'S-2' }));
  expect(onTake).toHaveBeenCalledExactlyOnceWith({ name: 'S-2' });
});
it('asks before it takes', async () => {
  const question = {
    key: 'value: Zn',
    about: 'value',
    column: 'Zn',
    cell: '0.0024',
    choices: [{ answer: 'pct', means: 'in %: 24 mg/kg' }],
  };
  const onTake = await open((form) =>
    told({ questions: String(form.get('answers')).includes('pct') ? [] : [question] }),
  );
  await userEvent.click(await screen.findByRole('radio', { name: 'in %: 24 mg/kg' }));
  await waitFor(() => expect(onTake).toHaveBeenCalledOnce());
});
it('tells what is no table', async () => {
  const error = { code: 'inconsistent', field: 'file', message: 'This is a PDF.' };
  const onTake = await open(() => ({ ok: false, body: { error } }));
  expect((await screen.findByRole('alert')).textContent).toBe('This is a PDF.');
  expect(onTake).not.toHaveBeenCalled();
});
