// @vitest-environment jsdom
import { bookOf } from '@/core/book/book';
import { cleanup, fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { tansyHollow } from '@/demo/tansyHollow';
import { libraryEntries, LIBRARY_COLUMNS } from '@/core/book/libraryColumns';
import { UnitsProvider } from '../frame/units';
import { LibraryTable, type LibraryTableProps } from '../library/LibraryTable';
import { MachinesPart, type MachinesPartProps } from './MachinesPart';
import { StoresPart, type StoresPartProps } from './StoresPart';
import { TermsPart, type TermsPartProps } from './TermsPart';

vi.mock('next/navigation', () => ({ useRouter: () => ({ refresh: () => {}, push: () => {} }) }));
afterEach(() => {
  cleanup();
  localStorage.clear();
});
const show = (part: React.ReactNode) => render(<UnitsProvider>{part}</UnitsProvider>);
const put = (label: string | RegExp, value: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value } });
/**
 * Press a button as a person does: not before it can be pressed. While a save still ends, it is
 * out of use.
 */
const press = async (name: string | RegExp) => {
  await waitFor(() =>
    expect((screen.getByRole('button', { name }) as HTMLButtonElement).disabled).toBe(false),
  );
  await userEvent.click(screen.getByRole('button', { name }));
};
const no = (message: string) => ({
  ok: false as const,
  refusal: { code: 'inconsistent' as const, field: 'x', message },
});

describe('money, systems and limits of a farm', () => {
  const { library: _, ...terms } = tansyHollow.farm;
  const setbacks = [
    {
      feature: 'surface_water',
      situation: 'broadcast',
      metres: 30,
      min: 3,
      max: 150,
      level: 'stop',
    },
  ];
  const part = (save: TermsPartProps['save'], readOnly = false) =>
    show(
      <TermsPart
        terms={terms}
        version={3}
        setbacks={setbacks}
        readOnly={readOnly}
        save={save}
        products={[{ id: 'urea_46', name: 'Urea', densityKgL: null }]}
        today="2027-02-26"
        readPrices={readPrices}
      />,
    );
  const readPrices = vi.fn<TermsPartProps['readPrices']>(async () => ({
    ok: true,
    value: {
      prices: [{ product: 'urea_46', price: 410, per: 't', bagKg: null, from: '2027-02-01' }],
      left: [{ row: 3, text: 'Super Grow', reason: 'no product of the library has this name' }],
    },
  }));
  it('a price list is written by hand or comes in as a file, and is saved with the rest', async () => {
    const save = vi.fn<TermsPartProps['save']>(async () => ({ ok: true, value: 4 }));
    part(save);
    expect(screen.getByRole('button', { name: 'Add' })).toHaveProperty('disabled', true);
    await userEvent.selectOptions(screen.getByLabelText('Product of a new price'), 'urea_46');
    await userEvent.selectOptions(
      screen.getByLabelText('Price of Urea, from 2027-02-26, is per'),
      'bag',
    );
    put('A bag of Urea, from 2027-02-26', '25');
    put('Price of Urea, from 2027-02-26', '11.5');
    await press('Add');
    await userEvent.upload(
      screen.getByLabelText('Prices from a file'),
      new File(['Product,Price,Per\nUrea,410,t\n'], 'p.csv', { type: 'text/csv' }),
    );
    expect(
      await screen.findByText('1 price stands in the list: look at it, then save.'),
    ).toBeTruthy();
    expect(
      screen.getByRole('list', { name: 'Rows of the file that stay out' }).textContent,
    ).toContain('Line 3, Super Grow');
    await press('Save money, systems and limits');
    expect(save.mock.calls[0]?.[1].prices).toEqual([
      { product: 'urea_46', price: 11.5, per: 'bag', bagKg: 25, from: '2027-02-26' },
      { product: 'urea_46', price: 410, per: 't', bagKg: null, from: '2027-02-01' },
    ]);
  });
  it('are saved together, with the version that they were read at', async () => {
    const save = vi.fn<TermsPartProps['save']>(async () => ({ ok: true, value: 4 }));
    part(save);
    put('N price', '1.5');
    await userEvent.selectOptions(screen.getByLabelText('N by'), 'index_ceiling');
    put('Yearly limit of N from manure', '170');
    await userEvent.selectOptions(screen.getByLabelText('Ammonia by'), 'simple_table');
    await userEvent.selectOptions(screen.getByLabelText('N of manure by'), 'dry_matter_n');
    await userEvent.selectOptions(screen.getByLabelText('P and K of manure'), 'full_credit');
    await userEvent.selectOptions(screen.getByLabelText('Soil in the season'), 'cool');
    put('Years 5 to 10 give, a year', '0.02');
    put('Setback, surface water, broadcast', '50');
    await press('Closed period');
    put('Closed period 2 from', '12-01');
    await press('Save money, systems and limits');
    expect(save).toHaveBeenCalledWith(
      3,
      expect.objectContaining({
        nPricePerKg: 1.5,
        nSchool: 'index_ceiling',
        manureNLimitKgHa: 170,
        ammoniaSchool: 'simple_table',
        manureNSchool: 'dry_matter_n',
        manurePkSchool: 'full_credit',
        soilWarmth: 'cool',
        residualTailFrac: 0.02,
        setbacks: [{ feature: 'surface_water', situation: 'broadcast', metres: 50 }],
        closedPeriods: [
          { from: '10-15', to: '01-31' },
          { from: '12-01', to: '01-31' },
        ],
      }),
    );
    expect((await screen.findByRole('status')).textContent).toContain('Saved');
    await press('Save money, systems and limits');
    expect(save).toHaveBeenLastCalledWith(4, expect.anything());
  });
  it('keep what was typed when the save is refused, and name a bad date', async () => {
    part(async () => no('Somebody else saved this farm meanwhile.'));
    put('P price', '3.3');
    put('Closed period 1 from', '15 Oct');
    expect(screen.getByRole('alert').textContent).toContain('is not MM-DD');
    await press('Save money, systems and limits');
    expect(await screen.findByText('Somebody else saved this farm meanwhile.')).toBeTruthy();
    expect((screen.getByLabelText('P price') as HTMLInputElement).value).toBe('3.3');
  });
  it('are shown and not changed to who may not', () => {
    part(vi.fn<TermsPartProps['save']>(), true);
    expect(screen.queryByRole('button', { name: /Save/ })).toBeNull();
    expect((screen.getByLabelText('N price') as HTMLInputElement).disabled).toBe(true);
  });
});

describe('stores of a farm', () => {
  const stores = tansyHollow.stores.map(({ key, ...s }) => ({ id: key, ...s }));
  const part = (save: StoresPartProps['save']) =>
    show(
      <StoresPart
        stores={stores}
        library={[]}
        readOnly={false}
        today="2027-02-26"
        save={save}
        remove={async () => ({ ok: true, value: undefined })}
      />,
    );
  it('tell whose figures are a laboratory’s and whose the book’s', () => {
    part(vi.fn<StoresPartProps['save']>());
    expect(
      within(screen.getByRole('row', { name: /Dairy-wash pit/ })).getByText('none: book values'),
    ).toBeTruthy();
    expect(
      within(screen.getByRole('row', { name: /Sheep house heap/ })).getByText('2026-11-03'),
    ).toBeTruthy();
  });
  it('take an analysis as it was printed', async () => {
    const save = vi.fn<StoresPartProps['save']>(async () => ({ ok: true, value: 'dairy-wash' }));
    part(save);
    await press('Dairy-wash pit');
    await press('Analysis');
    await userEvent.selectOptions(screen.getByLabelText('The report is in'), 'kg_m3');
    put('Total N', '2.01');
    await press('Save this store');
    expect(save.mock.calls[0]?.[0]).toMatchObject({
      id: 'dairy-wash',
      labs: [{ date: '2027-02-26', report: { unit: 'kg_m3' } }],
    });
    // 2.01 kg/m3 of a slurry of 1005 kg/m3 is 2 kg/t.
    expect(save.mock.calls[0]?.[0].labs[0]?.totalNKgT).toBeCloseTo(2, 6);
  });
  it('a refusal stands beside what was typed', async () => {
    part(async () => no('Name is too short.'));
    await press('Store');
    put('Store', 'Clamp');
    await press('Save this store');
    expect((await screen.findByRole('alert')).textContent).toBe('Name is too short.');
    expect((screen.getByLabelText('Store') as HTMLInputElement).value).toBe('Clamp');
  });
});

describe('machines of a farm', () => {
  const machines = tansyHollow.machines.map(({ key, ...m }) => ({ id: key, ...m }));
  it('are calibrated by load, with the result kept', async () => {
    const save = vi.fn<MachinesPartProps['save']>(async () => ({
      ok: true,
      value: 'rear-spreader',
    }));
    show(
      <MachinesPart
        library={[]}
        machines={machines}
        readOnly={false}
        today="2027-02-26"
        save={save}
        remove={async () => ({ ok: true, value: undefined })}
      />,
    );
    await press('Rear-discharge spreader');
    await press('Calibrate');
    put('Sheets', '1');
    expect(screen.getByText('Too few trays for a trustworthy CV.')).toBeTruthy();
    await userEvent.selectOptions(screen.getByLabelText('Rate by'), 'load');
    expect(screen.queryByText('Too few trays for a trustworthy CV.')).toBeNull();
    put('Load spread', '10');
    put('Distance driven', '400');
    put('Effective swath', '12');
    expect(screen.getByTestId('calibration-result').textContent).toContain('20.8 t/ha');
    put('Catches across one pass', '1 3 5 6 6 5 3 1');
    expect(screen.getByTestId('calibration-result').textContent).toContain('effective swath of');
    await press('Keep with the machine');
    await waitFor(() => expect(save).toHaveBeenCalled());
    expect(save.mock.calls[0]?.[0].calibrations[0]).toMatchObject({
      date: '2027-02-26',
      target: 20,
      actual: 20.833,
      trays: 8,
    });
    expect(save.mock.calls[0]?.[0].calibrations.length).toBe(2);
  });
  it('a tanker that empties too fast is told which speed, or to change the flow', async () => {
    show(
      <MachinesPart
        library={[]}
        machines={machines}
        readOnly={false}
        today="2027-02-26"
        save={vi.fn<MachinesPartProps['save']>()}
        remove={async () => ({ ok: true, value: undefined })}
      />,
    );
    await press('Tanker with splash plate');
    await press('Calibrate');
    put('First third empties in', '1');
    expect(screen.queryByTestId('drift')).toBeNull();
    put('last third in', '1.1');
    expect(screen.getByTestId('drift').textContent).toBe(
      'The flow falls by 9 % from the first third of a load to the last.',
    );
    put('last third in', '1.4');
    expect(screen.getByTestId('drift').textContent).toContain(
      'over 15 %, the end of each load is thin',
    );
    put('Target rate', '30');
    expect(screen.getByTestId('calibration-result').textContent).toMatch(/For 30 m3\/ha drive \d/);
    put('Target rate', '200');
    expect(screen.getByTestId('calibration-result').textContent).toContain('change the flow');
  });
});

describe('a table of the library', () => {
  const part = async (props: Partial<LibraryTableProps> = {}) => {
    const own = [
      {
        table: 'limes' as const,
        key: 'calcitic_ag',
        like: 'calcitic_ag',
        values: { ccePct: 88 },
        by: 'Odo Merrick',
        on: '2027-02-01',
        why: 'certificate of the quarry',
      },
    ];
    const handlers = {
      override: vi.fn<LibraryTableProps['override']>(async () => ({ ok: true, value: undefined })),
      reset: vi.fn<LibraryTableProps['reset']>(async () => ({ ok: true, value: undefined })),
      bringIn: vi.fn<LibraryTableProps['bringIn']>(async () => ({
        ok: true,
        value: {
          changed: 0,
          unchanged: 3,
          problems: [{ row: 4, column: 'ccePct', value: 'x', reason: 'is not a number' }],
        },
      })),
    };
    show(
      <LibraryTable
        farmId="f"
        table="limes"
        columns={LIBRARY_COLUMNS.limes}
        entries={await libraryEntries(bookOf(own), 'limes')}
        readOnly={false}
        {...handlers}
        {...props}
      />,
    );
    return handlers;
  };
  const rows = () => within(screen.getByTestId('library-rows')).getAllByRole('button');
  it('is searched, and shows whose value is whose', async () => {
    await part();
    put('Search', 'dolomitic');
    expect(rows().length).toBeGreaterThan(1);
    put('Search', 'no such lime');
    expect(screen.getByText(/Nothing by that name/)).toBeTruthy();
    put('Search', '');
    await userEvent.click(screen.getByLabelText('own values only'));
    expect(rows().length).toBe(1);
    await userEvent.click(rows()[0] as HTMLElement);
    expect(screen.getByText(/by Odo Merrick: certificate of the quarry/)).toBeTruthy();
  });
  it('takes own values with their reason, a row of its own, and puts the book back', async () => {
    const h = await part();
    await userEvent.click(screen.getByLabelText('own values only'));
    await userEvent.click(rows()[0] as HTMLElement);
    put('Neutralising value', '250');
    expect(screen.getByRole('alert').textContent).toContain('outside 1 to 180');
    put('Neutralising value', '90');
    put('Why these figures', 'second certificate');
    await press('Use for this farm');
    expect(h.override).toHaveBeenCalledWith({
      table: 'limes',
      key: 'calcitic_ag',
      like: 'calcitic_ag',
      values: { ccePct: 90 },
      why: 'second certificate',
    });
    await userEvent.click(rows()[0] as HTMLElement);
    put('Or as a row of its own, named', 'Quarry dust');
    await press('Add it');
    expect(h.override).toHaveBeenLastCalledWith(
      expect.objectContaining({
        key: 'quarry_dust',
        like: 'calcitic_ag',
        values: { name: 'Quarry dust' },
      }),
    );
    await userEvent.click(rows()[0] as HTMLElement);
    await press('Back to the book');
    expect(h.reset).toHaveBeenCalledWith('limes', 'calcitic_ag', false);
  });
  it('reads a file back, and lists what does not fit', async () => {
    const h = await part();
    await userEvent.upload(
      screen.getByLabelText('Read the file'),
      new File(['key\n'], 'limes.csv', { type: 'text/csv' }),
    );
    await waitFor(() => expect(h.bringIn).toHaveBeenCalled());
    expect(await screen.findByText('Line 4, ccePct = x: is not a number')).toBeTruthy();
    expect(screen.getByText(/Nothing was taken: 1 figure does not fit/)).toBeTruthy();
  });
});
