import { cleanup, fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { PRINTED } from '@/core/book/book';
import { describeFields } from '@/core/methods/describe';
import { methodOf, run } from '@/core/methods/registry';
import { exampleOf } from '@/core/methods/workedExample';
import { Refusal } from '@/core/quantity/refusal';
import { UnitsProvider } from '../frame/units';
import { WhyProvider } from '../frame/why';
import { Calculator } from './Calculator';
import { CalculatorList } from './CalculatorList';
import { numbersIn } from './values';

beforeEach(() => {
  // The route without the server: the same registry answers.
  vi.stubGlobal('fetch', async (url: string, init: { body: string }) => {
    const id = url.split('/').at(-1) ?? '';
    try {
      const value = await run(id, JSON.parse(init.body));
      return { ok: true, json: () => Promise.resolve(value) };
    } catch (e) {
      if (!(e instanceof Refusal)) throw e;
      return { ok: false, json: () => Promise.resolve({ error: e.detail }) };
    }
  });
  window.history.replaceState(null, '', '/');
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
  localStorage.clear();
});
async function open(id: string) {
  const { fields } = methodOf(id);
  const input = ((await exampleOf(id))?.input ?? {}) as Record<string, unknown>;
  render(
    <UnitsProvider>
      <WhyProvider>
        <Calculator
          id={id}
          takes={describeFields(PRINTED, fields.takes)}
          gives={describeFields(PRINTED, fields.gives)}
          initial={input}
        />
      </WhyProvider>
    </UnitsProvider>,
  );
}
const type = (label: string | RegExp, value: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value } });
const row = async (name: string) =>
  within(await screen.findByRole('row', { name: new RegExp(`^${name} `) }));

describe('a calculator', () => {
  it('answers its worked example, and what is typed over it', async () => {
    await open('budget.credit_organic_matter_simple');
    await row('Credit');
    type('Organic matter', '2');
    await waitFor(() =>
      expect(new URLSearchParams(window.location.search).get('in')).toBe(
        '{"om_pct_mineral_soil":2}',
      ),
    );
    await (await row('Credit')).findByText(/kg\/ha/u);
  });
  it('gives no result while a figure is outside its range, and says so at the box', async () => {
    await open('budget.credit_organic_matter_simple');
    await row('Credit');
    type('Organic matter', '21');
    expect(screen.getByText(/is outside 0 to 20 %/u)).toBeTruthy();
    expect(screen.queryByRole('row', { name: /^Credit / })).toBeNull();
    type('Organic matter', '3');
    await row('Credit');
  });
  it('names a refusal of the calculation at its field', async () => {
    await open('budget.credit_organic_matter');
    type('Organic matter', '18');
    expect((await screen.findByRole('alert')).textContent).toContain('organic soil');
  });
  it('takes rows: one more, filled, and away again', async () => {
    await open('budget.credit_soil_nitrate');
    await row('Soil nitrate');
    fireEvent.click(screen.getByRole('button', { name: /Another row/u }));
    const third = within(screen.getByRole('group', { name: 'Layers 3' }));
    for (const [label, value] of [
      ['From', '60'],
      ['To', '90'],
      ['Nitrate-N', '4'],
      ['Bulk density', '1.5'],
    ] as const)
      fireEvent.change(third.getByLabelText(label), { target: { value } });
    // 54.15 of two layers, and 4 x 1.5 x 30 x 0.1 of the third.
    await screen.findByText('72.15 kg/ha');
    fireEvent.click(third.getByRole('button', { name: 'Remove Layers 3' }));
    await screen.findByText('54.15 kg/ha');
  });
  it('takes figures by name, and lists', async () => {
    await open('budget.balance');
    await row('Net');
    const credits = within(screen.getByRole('group', { name: 'Credits' }));
    fireEvent.click(credits.getByRole('button', { name: /Another/u }));
    const names = credits.getAllByLabelText(/^Name/u);
    fireEvent.change(names.at(-1) as Element, { target: { value: 'slurry' } });
    const amounts = credits.getAllByLabelText(/^Credits \d/u);
    fireEvent.change(amounts.at(-1) as Element, { target: { value: '7' } });
    await waitFor(() =>
      expect(new URLSearchParams(window.location.search).get('in')).toContain('"slurry":7'),
    );
    cleanup();
    await open('organics.spread_uniformity');
    type(/^Catches/u, '10, 10 10');
    expect((await row('Evenness')).getByText('0 %')).toBeTruthy();
  });
  it('shows rows of a result as a table of their own', async () => {
    await open('nitrogen.two_tank_plan');
    const settings = within(await screen.findByRole('region', { name: 'Settings' }));
    expect(settings.getAllByRole('row').length).toBeGreaterThan(1);
  });
});

it('finds calculators by what goes in, word by word', () => {
  render(
    <CalculatorList
      entries={[
        { id: 'a.b', title: 'Soil nitrate by layers', group: 'Credits', words: 'Bulk density' },
        { id: 'c.d', title: 'Haul', group: 'Rates', words: 'Distance' },
      ]}
    />,
  );
  fireEvent.change(screen.getByRole('searchbox'), { target: { value: 'DENSITY nitrate' } });
  expect(screen.getByRole('status').textContent).toBe('1 of 2');
  expect(screen.getByRole('link').getAttribute('href')).toBe('/calculators/a.b');
});

it.each([
  ['10, 12 9', [10, 12, 9]],
  ['1,5; 2,5', [1.5, 2.5]],
  ['10,12', ['10,12']],
])('reads the list %s one way or not at all', (text, numbers) => {
  expect(numbersIn(text)).toEqual(numbers);
});
