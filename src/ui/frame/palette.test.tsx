import { cleanup, fireEvent, render, screen, waitFor } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Palette } from './Palette';

const push = vi.fn();
vi.mock('next/navigation', () => ({ useRouter: () => ({ push }) }));

const PEAR = { id: 'pear-wall', name: 'Pear Wall', farm: 'Quern Orchard' };
const FARM = { id: 'quern-orchard', name: 'Quern Orchard' };
const toggle = vi.fn();
const actions = [{ label: 'Change between kg/ha and lb/ac', words: 'units acres', run: toggle }];
/** What is asked of the server, answered when a test says so. */
let answers: { q: string; with: (fields: unknown[]) => void }[] = [];

beforeEach(() => {
  answers = [];
  vi.stubGlobal(
    'fetch',
    (url: string) =>
      new Promise((done) => {
        const q = new URL(url, 'http://127.0.0.1').searchParams.get('q') ?? '';
        answers.push({
          q,
          with: (fields) => done({ json: () => Promise.resolve({ fields, farms: [FARM] }) }),
        });
      }),
  );
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
  push.mockClear();
});
const answer = async (q: string, fields: unknown[]) => {
  await waitFor(() => expect(answers.map((a) => a.q)).toContain(q));
  answers.find((a) => a.q === q)?.with(fields);
};
const type = (text: string) => {
  const box = screen.getByRole('combobox');
  fireEvent.change(box, { target: { value: text } });
  fireEvent.keyDown(box, { key: 'Enter' });
};

describe('finding a place by typing', () => {
  it('holds an Enter pressed before the answer, and goes there when it comes', async () => {
    const close = vi.fn();
    render(<Palette actions={actions} onClose={close} />);
    type('pear wall season');
    expect(push).not.toHaveBeenCalled();
    expect(screen.getByText('Looking for it.')).toBeTruthy();
    await answer('pear wall', [PEAR]);
    await waitFor(() => expect(push).toHaveBeenCalledWith('/fields/pear-wall/season'));
    expect(close).toHaveBeenCalled();
  });
  it('forgets the Enter when typing goes on', async () => {
    render(<Palette actions={actions} onClose={() => undefined} />);
    type('pear');
    fireEvent.keyDown(screen.getByRole('combobox'), { key: 'w' });
    await answer('pear', [PEAR]);
    await screen.findByText(/Pear Wall: Season/u);
    expect(push).not.toHaveBeenCalled();
  });
  it('says what it found nothing for only when the server has answered', async () => {
    render(<Palette actions={actions} onClose={() => undefined} />);
    type('quince');
    await answer('quince', []);
    await screen.findByText('Nothing of that name.');
    expect(push).not.toHaveBeenCalled();
  });
  it.each([
    ['backup', 'Quern Orchard: the farm: people, place, money, limits'],
    ['shapefile', 'Quern Orchard: add, rename, take away fields'],
    ['lab report', 'Samples and laboratory files'],
    ['acres', 'Change between kg/ha and lb/ac'],
  ])('%s is a word that people look by', async (words, place) => {
    render(<Palette actions={actions} onClose={() => undefined} />);
    await answer('', []);
    fireEvent.change(screen.getByRole('combobox'), { target: { value: words } });
    await answer(words, []);
    await screen.findByText(place);
  });
  it('does a setting on the spot', async () => {
    const close = vi.fn();
    render(<Palette actions={actions} onClose={close} />);
    fireEvent.change(screen.getByRole('combobox'), { target: { value: 'acres' } });
    await answer('acres', []);
    fireEvent.click(await screen.findByText('Change between kg/ha and lb/ac'));
    expect(toggle).toHaveBeenCalled();
    expect(close).toHaveBeenCalled();
  });
});
