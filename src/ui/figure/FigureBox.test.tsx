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

describe('in the units of an acre', () => {
  const warmth = { label: 'Soil temperature', unit: '°C', min: -10, max: 45 };
  const us = async (props: Partial<FigureBoxProps> & { start: number | null }) => {
    show(props);
    await userEvent.click(screen.getByRole('button', { name: 'units' }));
  };
  const type = async (text: string) => {
    await userEvent.clear(box());
    await userEvent.type(box(), text);
  };
  it.each<[string, FigureBoxProps['range'], number, string, string, number]>([
    ['warmth', warmth, 10, '50', '59', 15],
    ['depth', { label: 'Depth', unit: 'cm', min: 0, max: 180 }, 30.48, '12', '24', 60.96],
    ['rain', { label: 'Rain', unit: 'mm', min: 0, max: 3000 }, 25.4, '1', '2.5', 63.5],
    [
      'dry matter',
      { label: 'Dry matter', unit: 't DM/ha', min: 0, max: 25 },
      4,
      '1.784',
      '2',
      4.4834,
    ],
    [
      'a price',
      { label: 'Price', unit: 'per kg', min: 0, max: 100 },
      1.2,
      '0.5443',
      '0.55',
      1.2125,
    ],
    ['slurry', { label: 'Rate', unit: 'm3/ha', min: 0, max: 400 }, 30, '3207', '4000', 37.416],
  ])('%s is shown, typed and kept', async (_, range, core, shown, typed, kept) => {
    await us({ range, start: core });
    expect(box().value).toBe(shown);
    await type(typed);
    expect(Number(held())).toBeCloseTo(kept, 3);
    await userEvent.tab();
    expect(box().value).toBe(typed);
  });
  it('says what is allowed in the unit that is shown, and takes the other by name', async () => {
    await us({ label: 'Soil temperature', range: warmth, start: 10 });
    await type('120');
    expect(screen.getByRole('alert').textContent).toBe(
      'Soil temperature = 120 °F is outside 14 to 113 °F.',
    );
    await type('20 °C');
    expect(Number(held())).toBeCloseTo(20, 9);
    await type('12 in');
    expect(screen.getByRole('alert').textContent).toMatch(
      /the unit in does not fit here; use °C or °F/,
    );
  });
});

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
