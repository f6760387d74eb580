// @vitest-environment jsdom
import { PRINTED } from '@/core/book/book';
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ReactNode } from 'react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { terraceShortWorked } from '@/demo/terraceShortWorked';
import { figuresOf } from '@/core/views/figures';
import { useUnits } from '../frame/units';
import { desk, showPart } from '../workspace/testDesk';
import { BudgetStation } from './BudgetStation';
import { CropStation } from './CropStation';
import { SheetView } from './SheetView';
import { SupplyStation } from './SupplyStation';

vi.mock('next/navigation', () => ({
  useRouter: () => ({ refresh: () => undefined, push: () => undefined }),
}));
afterEach(() => {
  cleanup();
  localStorage.clear();
});

function Toggle() {
  const { toggle } = useUnits();
  return (
    <button type="button" onClick={toggle}>
      other units
    </button>
  );
}
const show = (station: ReactNode, start = terraceShortWorked(), readOnly = false) =>
  showPart(
    <>
      {station}
      <Toggle />
    </>,
    start,
    readOnly,
  );
/** The words of a row without the old figures that fade beside the new ones. */
const cells = (row: HTMLElement) =>
  [...row.querySelectorAll('th,td')].map((c) => {
    const copy = c.cloneNode(true) as HTMLElement;
    copy.querySelectorAll('s').forEach((s) => {
      s.remove();
    });
    return (copy.textContent ?? '').trim();
  });
const line = (name: RegExp) =>
  within(screen.getAllByTestId('ledger')[0] as HTMLElement).getByRole('row', { name });
const stillToApply = () =>
  cells(screen.getAllByTestId('still_to_apply')[0] as HTMLElement).slice(-4);

describe('the budget station', () => {
  it('shows the hand-worked sheet', () => {
    show(<BudgetStation />);
    expect(stillToApply()).toEqual(['1', '0', '0', '30']);
    expect(cells(line(/^Held back for quality/)).slice(-4)).toEqual(['−37', '·', '·', '·']);
    expect(cells(line(/^Soil sulphate\s?not known, usually 0 kg\/ha to 25/)).slice(-4)).toEqual([
      '·',
      '·',
      '·',
      '·',
    ]);
    expect(cells(line(/^Soil nitrate/)).slice(-4)).toEqual(['−54', '·', '·', '·']);
  });
  it('strikes a credit out only with a reason, counts it no more, and puts it back', async () => {
    show(<BudgetStation />);
    await userEvent.click(within(line(/^Red clover/)).getByRole('button', { name: 'strike out' }));
    const button = screen.getByRole('button', { name: 'Strike out' });
    expect(button).toHaveProperty('disabled', true);
    await userEvent.type(screen.getByLabelText('Reason'), 'the stand died in winter');
    await userEvent.click(button);
    expect(Number(stillToApply()[0])).toBeGreaterThan(11);
    expect(line(/^Red clover/).textContent).toContain('struck out: the stand died in winter');
    await userEvent.click(within(line(/^Red clover/)).getByRole('button', { name: 'put back' }));
    expect(stillToApply()[0]).toBe('1');
    expect(desk.plan.struck).toEqual([]);
  });
  it('takes an unknown credit at the low end, calls it assumed, and gives it back', async () => {
    show(<BudgetStation />);
    await userEvent.click(line(/^Soil sulphate/).querySelector('summary') as HTMLElement);
    await userEvent.click(
      screen.getByRole('button', { name: 'Assume the middle of Soil sulphate' }),
    );
    expect(desk.plan.assumed).toEqual([{ id: 'soil_sulphate', take: 'middle', kgHa: null }]);
    expect(line(/^Soil sulphate/).textContent).toContain('assumed, middle');
    expect(cells(line(/^Soil sulphate/)).slice(-4)[3]).toMatch(/^−1[23]$/);
    await userEvent.click(
      screen.getByRole('button', { name: 'not known after all (Soil sulphate)' }),
    );
    expect(desk.plan.assumed).toEqual([]);
  });
  it('follows a figure while it is typed', async () => {
    show(<BudgetStation />);
    const days = screen.getByLabelText('Days of release');
    await userEvent.clear(days);
    await userEvent.type(days, '75');
    expect(desk.plan.season.releaseDays).toBe(75);
    expect(cells(line(/^Soil organic matter/)).slice(-4)[0]).toBe('−16');
  });
  it('keeps a wrong figure on screen and the last good one in the plan', async () => {
    show(<BudgetStation />);
    const days = screen.getByLabelText('Days of release') as HTMLInputElement;
    await userEvent.clear(days);
    await userEvent.type(days, '9999');
    expect(days.value).toBe('9999');
    expect(days.getAttribute('aria-invalid')).toBe('true');
    expect(screen.getByText(/9999 d is outside 30 to 365 d/)).toBeTruthy();
    expect(desk.plan.season.releaseDays).not.toBe(9999);
  });
  it('speaks pounds per acre, with the same total', async () => {
    show(<BudgetStation />);
    await userEvent.click(screen.getByRole('button', { name: 'other units' }));
    expect(Number(stillToApply()[3])).toBeCloseTo(30.08 / 1.12085, 0);
    expect(screen.getAllByTestId('ledger')[0]?.textContent).toContain('lb/ac');
  });
  it('says what to do first when there is no crop', () => {
    const empty = terraceShortWorked();
    show(<BudgetStation />, {
      ...empty,
      season: { ...empty.season, cropKey: null, yieldGoalTHa: null },
    });
    expect(screen.getByText(/Choose a crop and a yield goal/)).toBeTruthy();
  });
  it('offers a farmer nothing to change', () => {
    show(<BudgetStation />, terraceShortWorked(), true);
    expect(screen.queryByRole('button', { name: 'strike out' })).toBeNull();
    expect(screen.getByLabelText('Days of release')).toHaveProperty('disabled', true);
  });
});

describe('the supply station', () => {
  it('splits what is left into passes that add up', async () => {
    const start = terraceShortWorked();
    show(<SupplyStation />, { ...start, passes: [] });
    await userEvent.click(screen.getByRole('button', { name: 'Split the N into passes' }));
    await screen.findByLabelText('Pass 1 date');
    expect(desk.plan.passes.length).toBeGreaterThan(0);
    expect(Math.abs(figuresOf(PRINTED, desk.plan).a.sums.n.stillToApply)).toBeLessThan(3);
  });
  it('brings the rest of a nutrient with a product that holds it', async () => {
    show(<SupplyStation />);
    expect(screen.getByLabelText('Bring the rest of')).toHaveProperty('value', 's');
    await userEvent.click(screen.getByRole('button', { name: 'Add' }));
    const added = desk.plan.passes.at(-1);
    expect(added?.productId).toBe('kieserite');
    expect(Math.abs(figuresOf(PRINTED, desk.plan).a.sums.s.stillToApply)).toBeLessThan(1);
  });
  it('leaves a nutrient out with a reason, and takes it back', async () => {
    show(<SupplyStation />);
    expect(screen.getByLabelText('Leave out')).toHaveProperty('value', 's');
    const button = screen.getByRole('button', { name: 'Leave out' });
    expect(button).toHaveProperty('disabled', true);
    await userEvent.type(screen.getByLabelText('Reason'), 'comes with the gypsum of autumn');
    await userEvent.click(button);
    expect(desk.plan.left).toMatchObject([
      { nutrient: 's', kgHa: null, reason: 'rotation', words: 'comes with the gypsum of autumn' },
    ]);
    expect(figuresOf(PRINTED, desk.plan).a.sums.s).toMatchObject({
      stillToApply: 0,
      leftOut: 30.08,
    });
    await userEvent.click(screen.getByRole('button', { name: 'Apply S after all' }));
    expect(desk.plan.left).toEqual([]);
  });
  it('removes a pass and its figures', async () => {
    show(<SupplyStation />);
    await userEvent.click(screen.getByRole('button', { name: 'Remove Pass 2' }));
    expect(desk.plan.passes).toHaveLength(1);
    expect(cells(screen.getByTestId('passes.planned')).slice(-4)[0]).toBe('−38');
  });
});

describe('the crop station', () => {
  it('changes the requirement with the goal', async () => {
    show(
      <>
        <CropStation />
        <BudgetStation />
      </>,
    );
    const goal = screen.getByLabelText('Yield goal');
    await userEvent.clear(goal);
    await userEvent.type(goal, '50');
    expect(cells(line(/^Requirement, 50/)).slice(-4)[0]).toBe('200');
  });
  it('forgets the use of another crop when the crop changes', async () => {
    const start = terraceShortWorked();
    show(<CropStation />, { ...start, season: { ...start.season, use: 'sugar' } });
    await userEvent.click(screen.getByRole('button', { name: /^Crop / }));
    await userEvent.type(screen.getByLabelText('Search crop'), 'winter wheat{Enter}');
    expect(desk.plan.season).toMatchObject({ cropKey: 'winter_wheat', use: null });
  });
});

describe('the plan sheet', () => {
  it('prints figures, reasons, cautions and room to sign for', () => {
    render(
      <SheetView
        sheet={figuresOf(PRINTED, terraceShortWorked()).sheet}
        standing="Working sheet, not agreed"
      />,
    );
    const table = screen.getByTestId('sheet-ledger');
    const row = (name: RegExp) => cells(within(table).getByRole('row', { name })).slice(-4);
    expect(row(/^Fertiliser, planned/)).toEqual(['−70', '0', '0', '0']);
    expect(row(/^Still to apply, at most/)).toEqual(['1', '0', '0', '30']);
    expect(row(/^Over/)).toEqual(['0', '0', '3', '0']);
    expect(screen.getByText(/watercourses/)).toBeTruthy();
    expect(screen.getAllByText(/confidence/).length).toBeGreaterThan(5);
  });
});

describe('a row of the farm’s own', () => {
  const library = [
    {
      table: 'crops' as const,
      key: 'own_wheat',
      like: 'winter_wheat',
      values: { name: 'our wheat' },
      by: 'advisor',
      on: '2027-02-26',
      why: 'own trials',
    },
  ];
  const plan = terraceShortWorked();
  it('is asked what the row it is like is asked: a protein target', () => {
    show(<CropStation />, {
      ...plan,
      farm: { ...plan.farm, library },
      season: { ...plan.season, cropKey: 'own_wheat', yieldGoalTHa: 8 },
    });
    expect(screen.getByLabelText(/^Protein/)).toBeTruthy();
  });
});
