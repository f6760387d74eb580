// @vitest-environment jsdom
import { cleanup, fireEvent, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it } from 'vitest';
import { terraceShortWorked } from '@/demo/terraceShortWorked';
import type { Plan } from '@/core/document/document';
import { GreenManure, NEW_GREEN_MANURE, ResidueBoxes } from '../stations/GreenManure';
import { desk, showPart } from '../workspace/testDesk';
import { FieldBalancePart } from './FieldBalancePart';
import { RatePlanner } from './RatePlanner';
import { SchoolsPart } from './SchoolsPart';
import { SideBySide } from './SideBySide';

afterEach(() => {
  cleanup();
  localStorage.clear();
});

const column = (label: string) => {
  const heads = within(screen.getByTestId('side-by-side')).getAllByRole('columnheader');
  return heads.findIndex((h) => h.textContent === label);
};
const figure = (row: RegExp, label: string) => {
  const r = within(screen.getByTestId('side-by-side')).getByRole('row', { name: row });
  return [...r.querySelectorAll('th,td')][column(label)]?.textContent ?? '';
};

describe('recommendation systems', () => {
  it('ask for what each of them needs, and for nothing else', async () => {
    showPart(<SchoolsPart />);
    expect(screen.queryByLabelText('Previous crop group')).toBeNull();
    await userEvent.selectOptions(screen.getByLabelText('N by'), 'index_ceiling');
    expect(screen.getByLabelText('Previous crop group')).toBeTruthy();
    await userEvent.selectOptions(screen.getByLabelText('P and K by'), 'build_maintain');
    fireEvent.change(screen.getByLabelText('Years to build up'), { target: { value: '10' } });
    expect(desk.plan.schools).toMatchObject({
      n: 'index_ceiling',
      pk: 'build_maintain',
      buildYears: 10,
    });
  });
  it('take trial plots row by row', async () => {
    showPart(<SchoolsPart />);
    await userEvent.selectOptions(screen.getByLabelText('N by'), 'economic_optimum');
    for (let k = 0; k < 3; k++)
      await userEvent.click(screen.getByRole('button', { name: 'Trial plot' }));
    fireEvent.change(screen.getByLabelText('Trial 2 yield'), { target: { value: '55' } });
    expect(desk.plan.schools.trials).toEqual([
      { nKgHa: 0, yieldTHa: 0 },
      { nKgHa: 60, yieldTHa: 55 },
      { nKgHa: 120, yieldTHa: 0 },
    ]);
    await userEvent.click(screen.getByRole('button', { name: 'Remove trial 1' }));
    expect(desk.plan.schools.trials).toHaveLength(2);
    await userEvent.selectOptions(screen.getByLabelText('Trials stood'), 'not');
    expect(desk.plan.schools.trialsAfterLegume).toBe(false);
  });
  it('a trial rate out of range is named and kept on screen', async () => {
    showPart(<SchoolsPart />, {
      ...terraceShortWorked(),
      schools: {
        ...terraceShortWorked().schools,
        n: 'economic_optimum',
        trials: [{ nKgHa: 0, yieldTHa: 40 }],
      },
    });
    fireEvent.change(screen.getByLabelText('Trial 1 N rate'), { target: { value: '900' } });
    expect(screen.getByRole('alert').textContent).toMatch(/900 kg\/ha is outside 0 to 600/);
    expect(desk.plan.schools.trials[0]?.nKgHa).toBe(0);
  });
});

describe('side by side', () => {
  it('shows the plan first, and another way beside it', async () => {
    showPart(<SideBySide />);
    expect(figure(/^N net requirement/, 'the plan as it is')).toMatch(/^108 \+\/- \d+$/);
    await userEvent.selectOptions(screen.getByLabelText('Look at it as'), 'no_manure');
    expect(figure(/^N net requirement/, 'without this season’s manure')).toMatch(/^147 /);
    expect(screen.queryByLabelText('Look at it as'), 'four are enough').toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'Put away: P, K built up and held' }));
    expect(column('P, K built up and held')).toBe(-1);
  });
  it('tells what a way refuses instead of guessing', async () => {
    showPart(<SideBySide />);
    await userEvent.selectOptions(screen.getByLabelText('Look at it as'), 'n.economic_optimum');
    expect(screen.getByText(/needs the price of the crop/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Keep: N by economic optimum' })).toBeNull();
  });
  it('keeps one on request, and leaves the passes as they are', async () => {
    showPart(<SideBySide />);
    await userEvent.selectOptions(screen.getByLabelText('Look at it as'), 'goal_90');
    await userEvent.click(screen.getByRole('button', { name: 'Keep: goal a tenth lower' }));
    expect(desk.plan.season.yieldGoalTHa).toBe(58.5);
    expect(desk.plan.passes).toEqual(terraceShortWorked().passes);
    expect(column('goal a tenth lower')).toBe(-1);
  });
  it('offers a farmer the look, not the change', () => {
    showPart(<SideBySide />, terraceShortWorked(), true);
    expect(screen.queryByRole('button', { name: /^Keep/ })).toBeNull();
  });
});

describe('which rate', () => {
  const planner = (plan: Plan) => {
    const o = plan.organics[0];
    return o ? (
      <RatePlanner
        application={o}
        take={(rate) => {
          desk.plan = {
            ...desk.plan,
            organics: desk.plan.organics.map((x) => (x.id === o.id ? { ...x, rate } : x)),
          };
        }}
      />
    ) : null;
  };
  it('one basis binds, and its rate can be taken', async () => {
    showPart(planner);
    const table = within(screen.getByTestId('rate-table'));
    expect(table.getAllByText(/, binds$/)).toHaveLength(1);
    await userEvent.click(table.getByRole('button', { name: 'Take the rate by P' }));
    expect(desk.plan.organics[0]?.rate).toBeCloseTo(16.5, 1);
  });
  it('P paid ahead for three years raises its rate, up to what N allows', () => {
    showPart(planner);
    const rate = (basis: RegExp) =>
      Number(
        within(screen.getByTestId('rate-table'))
          .getByRole('row', { name: basis })
          .querySelectorAll('td')[0]?.textContent,
      );
    const [byP, byN] = [() => rate(/^by P/), rate(/^by N/)];
    const one = byP();
    fireEvent.change(screen.getByLabelText('P paid ahead for'), { target: { value: '3' } });
    expect(byP()).toBeCloseTo(Math.min(byN, 3 * one), 0);
    expect(byP()).toBeGreaterThan(one);
  });
  it('tells when the soil has P enough', () => {
    const rich = terraceShortWorked();
    showPart(planner, {
      ...rich,
      ground: {
        ...rich.ground,
        readings: [
          { nutrient: 'p', extractant: 'olsen', value: 70, unit: 'mg_kg', belowDetection: false },
        ],
      },
    });
    expect(screen.getByText(/an N-based rate would add/)).toBeTruthy();
  });
});

describe('a green manure', () => {
  const gm = (plan: Plan) =>
    plan.previous?.kind === 'green_manure' ? <GreenManure previous={plan.previous} /> : null;
  const start: Plan = { ...terraceShortWorked(), previous: NEW_GREEN_MANURE };
  it('is typed species by species; shares that do not sum are named', async () => {
    showPart(gm, start);
    await userEvent.click(screen.getByRole('button', { name: 'Species' }));
    expect(screen.queryByRole('alert')).toBeNull();
    fireEvent.change(screen.getByLabelText('Share of species 1'), { target: { value: '0.5' } });
    expect(screen.getByRole('alert').textContent).toMatch(/sum to 0.50, not to 1/);
    fireEvent.change(screen.getByLabelText('Share of species 2'), { target: { value: '0.5' } });
    expect(screen.queryByRole('alert')).toBeNull();
    await userEvent.selectOptions(screen.getByLabelText('Stage of species 2'), 'seed_fill');
    fireEvent.change(screen.getByLabelText('N of species 1'), { target: { value: '4.1' } });
    expect(desk.plan.previous).toMatchObject({
      species: [
        { share: 0.5, nPct: 4.1 },
        { speciesKey: 'cereal_rye', share: 0.5, stage: 'seed_fill' },
      ],
    });
    await userEvent.click(screen.getByRole('button', { name: 'Remove species 2' }));
    expect(screen.getByRole('alert')).toBeTruthy();
  });
  it('lies and leaves as it is told', async () => {
    showPart(gm, start);
    await userEvent.selectOptions(screen.getByLabelText('It lies'), 'surface_killed');
    fireEvent.change(screen.getByLabelText('Share of tops carried off'), {
      target: { value: '0.8' },
    });
    fireEvent.change(screen.getByLabelText('Dry matter'), { target: { value: '4.5' } });
    expect(desk.plan.previous).toMatchObject({
      placement: 'surface_killed',
      removedFracTops: 0.8,
      dmTHa: 4.5,
    });
  });
});

describe('residues', () => {
  it('come and go, and their figures with them', async () => {
    showPart(<ResidueBoxes />);
    await userEvent.click(
      screen.getByRole('button', { name: 'Straw or leaves left on the field' }),
    );
    fireEvent.change(screen.getByLabelText('Residue left'), { target: { value: '7' } });
    fireEvent.change(screen.getByLabelText('N in it'), { target: { value: '5.5' } });
    expect(desk.plan.residue).toEqual({
      leftTDmHa: 7,
      nKgTDm: 5.5,
      placement: 'ploughed_in',
      leadWeeks: 0,
    });
    await userEvent.click(screen.getByRole('button', { name: 'No residue' }));
    expect(desk.plan.residue).toBeNull();
  });
});

describe('into the field and out of it', () => {
  const plan = (part: Partial<Plan> = {}): Plan => ({ ...terraceShortWorked(), ...part });
  it('lists what comes, what leaves and what stays', () => {
    showPart(<FieldBalancePart />, plan());
    const table = screen.getByTestId('field-balance');
    expect(table.textContent).toContain('Manure and compost, all their N');
    expect(table.textContent).toMatch(/Stays behind|Taken from the soil/);
    expect(screen.getByText(/of the N brought leaves with the harvest/)).toBeTruthy();
  });
  it('with nothing brought the crop lives on the soil', () => {
    showPart(<FieldBalancePart />, plan({ organics: [], passes: [], irrigation: null }));
    expect(screen.getByTestId('field-balance').textContent).toContain('Taken from the soil');
    expect(screen.getByText(/Nothing is brought/)).toBeTruthy();
  });
  it('is not there before crop and goal', () => {
    showPart(
      <FieldBalancePart />,
      plan({ season: { ...terraceShortWorked().season, yieldGoalTHa: null } }),
    );
    expect(screen.queryByTestId('field-balance')).toBeNull();
  });
});
