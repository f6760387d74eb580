// @vitest-environment jsdom
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { afterEach, describe, expect, it } from 'vitest';
import { RANGES } from '@/core/quantity/range';
import { UnitsProvider, useUnits } from '../frame/units';
import { FigureBox, type FigureBoxProps } from './FigureBox';

afterEach(() => {
  cleanup();
  localStorage.clear();
});

function Held(props: Omit<FigureBoxProps, 'onValue' | 'value'> & { start: number | null }) {
  const [value, setValue] = useState(props.start);
  const { toggle } = useUnits();
  return (
    <>
      <FigureBox {...props} value={value} onValue={setValue} />
      <output>{String(value)}</output>
      <button type="button" onClick={toggle}>
        units
      </button>
      <button type="button" onClick={() => setValue(7)}>
        undo
      </button>
    </>
  );
}
const show = (props: Partial<FigureBoxProps> & { start: number | null }) =>
  render(
    <UnitsProvider>
      <Held label="pH in water" range={RANGES.phWater} {...props} />
    </UnitsProvider>,
  );
const box = () => screen.getByRole('textbox') as HTMLInputElement;
const held = () => screen.getByRole('status').textContent;

describe('a figure edited in place', () => {
  it('takes a good value at once, with a decimal comma too', async () => {
    show({ start: 5 });
    await userEvent.clear(box());
    await userEvent.type(box(), '6,4');
    expect(held()).toBe('6.4');
  });
  it('keeps what was typed, says field, value and range, and leaves the plan alone', async () => {
    show({ start: 5 });
    await userEvent.clear(box());
    await userEvent.type(box(), '65');
    expect(screen.getByRole('alert').textContent).toBe('pH in water = 65 is outside 2.5 to 11.');
    expect(box().value).toBe('65');
    expect(box().getAttribute('aria-invalid')).toBe('true');
    await userEvent.tab();
    expect(box().value).toBe('65');
    expect(Number(held())).toBeLessThanOrEqual(11);
  });
  it('empty means not known where that is allowed, and is a fault where not', async () => {
    const { unmount } = show({ start: 5, optional: true });
    await userEvent.clear(box());
    expect(held()).toBe('null');
    unmount();
    show({ start: 5 });
    await userEvent.clear(box());
    expect(screen.getByRole('alert').textContent).toMatch(/missing: give 2.5 to 11/);
  });
  it('a unit suffix is converted; the other unit is shown after a switch', async () => {
    show({ start: 100, label: 'Dose', dimension: 'nutrient_rate', range: RANGES.kgHa });
    await userEvent.clear(box());
    await userEvent.type(box(), '45 lb/ac');
    expect(Number(held())).toBeCloseTo(50.43825, 5);
    await userEvent.tab();
    await userEvent.click(screen.getByText('units'));
    expect(box().value).toBe('45');
    expect(screen.getByText('lb/ac')).toBeTruthy();
  });
  it('a value from elsewhere replaces the text', async () => {
    show({ start: 5 });
    await userEvent.click(screen.getByText('undo'));
    expect(box().value).toBe('7');
  });
});
