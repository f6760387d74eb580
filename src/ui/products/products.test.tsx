// @vitest-environment jsdom
import { cleanup, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it } from 'vitest';
import { DEMO_PLANS } from '@/core/assessment/wildPlan.testkit';
import type { FertiliserPass, Plan } from '@/core/document/document';
import { showPart } from '../workspace/testDesk';
import { Banded } from './Banded';
import { Liquids } from './Liquids';

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
const pass = (productId: string, productKgHa: number, placementId: string): FertiliserPass => ({
  id: productId,
  date: '2027-05-04',
  productId,
  productKgHa,
  placementId,
  status: 'planned',
  pricePerT: null,
});
const beetWith = (...passes: FertiliserPass[]): Plan => ({ ...seasonOf('low-fleet 2026'), passes });

describe('liquids of the plan', () => {
  it('a plan of solids shows nothing of them', () => {
    showPart(<Liquids />, seasonOf('low-fleet 2026'));
    expect(screen.queryByTestId('liquids')).toBeNull();
  });
  it('two of one day stand in the order of the tank, and what may not meet is stopped', () => {
    showPart(
      <Liquids />,
      beetWith(
        pass('calcium_nitrate_solution_9', 200, 'surface_band'),
        pass('app_10_34_0', 100, 'surface_band'),
      ),
    );
    const part = screen.getByTestId('liquids');
    expect(part.textContent).toContain('if they go into one tank');
    expect(part.textContent).toContain('Stop: ');
    expect(part.textContent).toContain('must not share a tank');
  });
  it('two tanks: nothing until all is said, then tanks that are empty together', async () => {
    showPart(
      <Liquids />,
      beetWith(
        pass('uan_32', 264, 'surface_band'),
        pass('ammonium_thiosulphate_12_26s', 66, 'surface_band'),
      ),
    );
    await type('Swath', '9');
    await type('Speed', '10');
    await type('Outlets', '12');
    const tanks = screen.getByTestId('two-tanks');
    expect(within(tanks).queryByText(/L\/min/u)).toBeNull();
    await userEvent.type(within(tanks).getByLabelText(/^Tank of/u), '2000');
    await userEvent.tab();
    expect(tanks.textContent).toContain('a tank of 2000 L');
    expect(tanks.textContent).toMatch(/Both are empty after [\d.]+ ha; 9\.0\s*ha an hour/u);
  });
  it('a spray on the leaf waits for its water', async () => {
    showPart(<Liquids />, beetWith(pass('foliar_urea_low_biuret_46', 20, 'foliar_spray')));
    const sprays = screen.getByTestId('leaf-sprays');
    expect(sprays.textContent).toContain('The water of the spray first');
    await type('Water of the spray', '200');
    expect(sprays.textContent).toContain('there is no burn limit for this product');
    await userEvent.selectOptions(screen.getByLabelText('Sprayed on'), 'potato');
    expect(sprays.textContent).toContain('Stop: 10 % in the spray is above the burn limit of 6 %');
  });
});

describe('P and K in a band', () => {
  it('stands beside what is still to apply, or is not there at all', () => {
    const shown = DEMO_PLANS.filter(([, plan]) => {
      showPart(<Banded />, plan);
      const part = screen.queryByTestId('banded');
      if (part) expect(part.textContent).toContain('The sheet keeps asking for the broadcast');
      cleanup();
      return part !== null;
    });
    expect(shown.length).toBeGreaterThan(0);
    expect(shown.length).toBeLessThan(DEMO_PLANS.length);
  });
});
