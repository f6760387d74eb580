// @vitest-environment jsdom
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { DEMO_PLANS } from '@/core/assessment/wildPlan.testkit';
import type { Plan } from '@/core/document/document';
import type { Mark } from '@/core/views/furrow';
import { UnitsProvider } from '../frame/units';
import { PassSizer } from '../furrow/PassSizer';
import { Additives } from '../products/Additives';
import { desk, showPart } from '../workspace/testDesk';
import { SeenInSeason } from './SeenInSeason';

afterEach(() => {
  cleanup();
  localStorage.clear();
});
const seasonOf = (name: string): Plan =>
  (DEMO_PLANS.find(([n]) => n.startsWith(name)) as [string, Plan])[1];
const type = async (label: string, value: string) => {
  await userEvent.type(screen.getByLabelText(label), value);
  await userEvent.tab();
};

describe('a pass that is made larger on its flag', () => {
  const mark: Mark = {
    id: 'pass.a',
    date: '2027-03-28',
    day: 170,
    label: 'Calcium ammonium nitrate',
    kind: 'pass',
    kgN: 30,
    stage: 'BBCH 00',
  };
  const show = (kgN = 30) => {
    const onSize = vi.fn();
    render(
      <UnitsProvider>
        <PassSizer
          flags={[{ mark: { ...mark, kgN }, left: 0, top: 0, width: 114, height: 20 }]}
          onSize={onSize}
        />
      </UnitsProvider>,
    );
    return { onSize, flag: screen.getByRole('slider') };
  };
  it.each([
    ['{ArrowUp}', 35],
    ['{ArrowDown}', 25],
    ['{PageUp}', 50],
    ['{PageDown}', 10],
  ])('by %s it becomes %i', async (key, kgN) => {
    const { onSize, flag } = show();
    flag.focus();
    await userEvent.keyboard(key);
    expect(onSize).toHaveBeenCalledWith('a', kgN);
  });
  it('never to nothing, nor beyond what a pass may be', async () => {
    const small = show(5);
    small.flag.focus();
    await userEvent.keyboard('{ArrowDown}');
    expect(small.onSize).not.toHaveBeenCalled();
  });
  it('says what it is and how much', () => {
    const { flag } = show();
    expect(flag.getAttribute('aria-label')).toBe('Size of the pass of 28 Mar 2027');
    expect(flag.getAttribute('aria-valuetext')).toBe('30 kg/ha N');
  });
});

describe('seen and measured in the crop', () => {
  it('a stage is added, told by its name, and taken away', async () => {
    showPart(<SeenInSeason />, seasonOf('terrace-long 2026'));
    const seen = screen.getByTestId('stages-seen');
    expect(within(seen).getByText(/None yet/u)).toBeTruthy();
    await userEvent.selectOptions(within(seen).getByLabelText('Stage'), '31');
    await userEvent.click(within(seen).getByRole('button', { name: 'Add the stage' }));
    expect(desk.plan.season.observedStages).toMatchObject([{ date: '2027-02-26', stage: '31' }]);
    expect(within(seen).getByText(/26 Feb 2027: 31/u)).toBeTruthy();
    await userEvent.click(within(seen).getByRole('button', { name: /^Remove the stage/u }));
    expect(desk.plan.season.observedStages).toEqual([]);
  });
  it('nothing is taken before both readings of a strip are there', async () => {
    showPart(<SeenInSeason />, seasonOf('low-fleet 2026'));
    await userEvent.click(screen.getByRole('button', { name: 'Strip that was fed richly' }));
    expect(desk.plan.season.richStrip).toMatchObject({ fieldReading: null, stripReading: null });
    expect(screen.getByText('Both readings first.')).toBeTruthy();
    await type('The field reads', '48');
    await type('The rich strip reads', '50');
    expect(screen.getByText(/The field reads 96 % of the strip/u)).toBeTruthy();
    expect(desk.plan.season.richStrip).toMatchObject({ fieldReading: 48, stripReading: 50 });
  });
  it('the sidedress test of another crop than maize is no dose', async () => {
    showPart(<SeenInSeason />, seasonOf('low-fleet 2026'));
    await userEvent.click(screen.getByRole('button', { name: 'Nitrate test before sidedressing' }));
    expect(screen.getByText(/calibrated for maize/u)).toBeTruthy();
  });
  it('a crop without a table of stages says so, a reader may not add', () => {
    showPart(<SeenInSeason />, seasonOf('hazel-bank'), true);
    expect(screen.getByText('There is no table of stages for this crop yet.')).toBeTruthy();
    expect(screen.queryByRole('button')).toBeNull();
  });
});

describe('an additive that is offered', () => {
  it('an unproven one is answered with what it must save and a check strip', async () => {
    showPart(<Additives />, seasonOf('low-fleet 2026'));
    await userEvent.click(screen.getByText('An additive is offered'));
    await userEvent.selectOptions(
      screen.getByLabelText('What it is said to do'),
      screen.getByRole('option', { name: /sugar/iu }),
    );
    await type('It costs', '12');
    expect(screen.getByText(/Evidence unproven/u)).toBeTruthy();
    expect(screen.getByText(/It pays where it saves more than/u)).toBeTruthy();
    expect(screen.getByText(/at least 3 pairs of strips/u)).toBeTruthy();
  });
});
