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
import type { PlaceDoors } from './UseInField';
import { numbersIn } from './values';

beforeEach(() => {
  // The route without the server: the same registry answers.
  vi.stubGlobal('fetch', async (url: string, init: { body?: string }) => {
    if (url.startsWith('/fields/found.json'))
      return {
        json: () =>
          Promise.resolve({ fields: [{ id: 'long', name: 'Long', farm: 'Home' }], farms: [] }),
      };
    const id = url.split('/').at(-1) ?? '';
    try {
      const value = await run(id, JSON.parse(init.body ?? ''));
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
const uses = vi.fn<PlaceDoors['uses']>();
const put = vi.fn<PlaceDoors['put']>();
const doors: PlaceDoors = { uses, put };
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
          initial={null}
          example={{ input, working: '' }}
          doors={doors}
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

describe('use in a field', () => {
  const line = {
    id: 'field.omPct',
    label: 'Organic matter',
    station: 'ground' as const,
    dated: false,
    names: ['om_pct' as const],
    now: { om_pct: 3.1 },
    then: { om_pct: 2 },
    same: false,
    otherCrop: false,
  };
  it('shows now and then, puts in what is ticked, and leads there', async () => {
    uses.mockResolvedValue({ ok: true, value: { season: '2027', version: 4, lines: [line] } });
    put.mockResolvedValue({ ok: true, value: { season: '2027', version: 5, lines: [] } });
    await open('budget.credit_organic_matter');
    fireEvent.click(await screen.findByRole('button', { name: 'Long Home' }));
    const there = within(await screen.findByRole('row', { name: /^Organic matter 3.1 % 2 %/u }));
    expect(there.getByRole('checkbox')).toHaveProperty('checked', true);
    fireEvent.click(screen.getByRole('button', { name: 'Put into the plan of Long' }));
    const link = await screen.findByRole('link', { name: 'See it there' });
    expect(link.getAttribute('href')).toBe('/fields/long/ground');
    expect(put.mock.calls[0]?.[0]).toMatchObject({ version: 4, places: ['field.omPct'] });
  });
  it('ticks nothing that was reckoned for another crop, and tells a refusal', async () => {
    uses.mockResolvedValue({
      ok: true,
      value: { season: '2027', version: 4, lines: [{ ...line, now: null, otherCrop: true }] },
    });
    put.mockResolvedValue({
      ok: false,
      refusal: { code: 'server', field: 'server', message: 'Not today.' },
    });
    await open('budget.credit_organic_matter');
    fireEvent.click(await screen.findByRole('button', { name: 'Long Home' }));
    const box = await screen.findByRole('checkbox');
    expect(box).toHaveProperty('checked', false);
    await screen.findByText('not known');
    fireEvent.click(box);
    fireEvent.click(screen.getByRole('button', { name: 'Put into the plan of Long' }));
    await screen.findByText('Not today.');
  });
  it('is not offered where the plan has no place', async () => {
    await open('organics.spread_uniformity');
    await row('Evenness');
    expect(screen.queryByRole('region', { name: 'Use in a field' })).toBeNull();
  });
  it('has the worked example at hand', async () => {
    await open('budget.credit_organic_matter');
    const box = screen.getByLabelText('Organic matter');
    const before = (box as HTMLInputElement).value;
    type('Organic matter', '1.7');
    fireEvent.click(screen.getByRole('button', { name: 'Enter the worked example' }));
    expect(screen.getByLabelText('Organic matter')).toHaveProperty('value', before);
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
