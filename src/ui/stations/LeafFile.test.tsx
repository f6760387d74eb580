// @vitest-environment jsdom
import { cleanup, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, expect, it, vi } from 'vitest';
import type { LeafFileRead } from '@/core/laboratory/leafFile';
import { FieldDoorsProvider, type FieldDoors } from '../workspace/doors';
import { LeafFile } from './LeafFile';

afterEach(cleanup);
const leaf = (name: string, reported: string) => ({
  name,
  date: '2026-05-26',
  bbch: 31,
  values: [{ nutrient: 'N', reported, unit: '%' }],
  notFound: [],
});
const open = async (readLeafFile: FieldDoors['readLeafFile']) => {
  const onTake = vi.fn();
  render(
    <FieldDoorsProvider value={{ readLeafFile } as FieldDoors}>
      <LeafFile disabled={false} onTake={onTake} />
    </FieldDoorsProvider>,
  );
  await userEvent.upload(
    screen.getByLabelText('Values from a laboratory file'),
    new File(['x'], 'leaf.csv', { type: 'text/csv' }),
  );
  return onTake;
};
const answers = (value: LeafFileRead) => () => Promise.resolve({ ok: true as const, value });

it('puts the only sample into the boxes, and says what stays out', async () => {
  const onTake = await open(
    answers({ samples: [leaf('S-1', '4.1')], questions: [], remarks: ['Xx: not recognised'] }),
  );
  await screen.findByText(/1 values stand in the boxes/u);
  expect(onTake).toHaveBeenCalledWith(leaf('S-1', '4.1'));
  expect(screen.getByText(/Not brought in: Xx: not recognised/u)).toBeTruthy();
});
it('lets one of several samples be taken', async () => {
  const onTake = await open(
    answers({ samples: [leaf('S-1', '4.1'), leaf('S-2', '3.2')], questions: [], remarks: [] }),
  );
  await userEvent.click(await screen.findByRole('button', { name: 'S-2' }));
  expect(onTake).toHaveBeenCalledExactlyOnceWith(leaf('S-2', '3.2'));
});
it('asks before it takes', async () => {
  const question = {
    key: 'value: Zn',
    about: 'value',
    column: 'Zn',
    cell: '0.0024',
    choices: [{ answer: 'pct', means: 'in %: 24 mg/kg' }],
  };
  const read = vi.fn<FieldDoors['readLeafFile']>((form) =>
    Promise.resolve({
      ok: true,
      value: {
        samples: [leaf('S-1', '4.1')],
        questions: String(form.get('answers')).includes('pct') ? [] : [question],
        remarks: [],
      },
    }),
  );
  const onTake = await open(read);
  await userEvent.click(await screen.findByRole('radio', { name: 'in %: 24 mg/kg' }));
  await waitFor(() => expect(onTake).toHaveBeenCalledOnce());
});
it('tells what is no table', async () => {
  const onTake = await open(() =>
    Promise.resolve({
      ok: false,
      refusal: { code: 'inconsistent', field: 'file', message: 'This is a PDF.' },
    }),
  );
  expect((await screen.findByRole('alert')).textContent).toBe('This is a PDF.');
  expect(onTake).not.toHaveBeenCalled();
});
