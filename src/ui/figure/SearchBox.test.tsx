import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { SearchBox } from './SearchBox';

const options = [
  { value: 'winter_wheat', label: 'Winter wheat', group: 'cereal' },
  { value: 'spring_wheat', label: 'Spring wheat (bread)', group: 'cereal' },
  { value: 'leek', label: 'Leek', group: 'vegetable' },
];
const onValue = vi.fn();
const show = (value: string | null, disabled = false) =>
  render(
    <SearchBox
      label="Crop"
      value={value}
      options={options}
      onValue={onValue}
      disabled={disabled}
      empty="choose a crop"
    />,
  );
const open = () => userEvent.click(screen.getByRole('button', { name: /^Crop/ }));
const found = () => screen.getAllByRole('option').map((o) => o.textContent);

describe('a choice out of a long list', () => {
  afterEach(() => {
    cleanup();
    onValue.mockClear();
  });
  it('stands in full, and every word typed has to be in a name', async () => {
    show('leek');
    expect(screen.getByRole('button').textContent).toContain('Leek');
    await open();
    await userEvent.type(screen.getByLabelText('Search crop'), 'wheat spr');
    expect(found()).toEqual(['Spring wheat (bread)']);
    await userEvent.keyboard('{Enter}');
    expect(onValue).toHaveBeenCalledExactlyOnceWith('spring_wheat');
  });
  it('says where nothing fits, and takes back a choice', async () => {
    show('leek');
    await open();
    await userEvent.type(screen.getByLabelText('Search crop'), 'papaya');
    expect(screen.getByText('Nothing has that in its name.')).toBeTruthy();
    await userEvent.clear(screen.getByLabelText('Search crop'));
    await userEvent.click(screen.getByRole('option', { name: 'choose a crop' }));
    expect(onValue).toHaveBeenCalledExactlyOnceWith(null);
  });
  it('shows a key that the library does not know as it is', () => {
    show('quinoa');
    expect(screen.getByRole('button').textContent).toContain('quinoa');
  });
  it('stays shut where nothing may be changed', async () => {
    show('leek', true);
    await open();
    expect(screen.queryByLabelText('Search crop')).toBeNull();
  });
});
