import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { DateBox } from './DateBox';

let day: string | null;
function Kept({ start = null, min, max }: { start?: string | null; min?: string; max?: string }) {
  const [value, setValue] = useState<string | null>(start);
  return (
    <DateBox
      label="First harvest"
      value={value}
      onValue={(v) => {
        day = v;
        setValue(v);
      }}
      {...(min ? { min } : {})}
      {...(max ? { max } : {})}
    />
  );
}
const box = () => screen.getByLabelText<HTMLInputElement>('First harvest', { selector: 'input' });
const type = async (text: string) => {
  await userEvent.clear(box());
  await userEvent.type(box(), text);
  await userEvent.tab();
};

describe('a box for a day', () => {
  beforeEach(() => {
    day = null;
  });
  afterEach(cleanup);
  it.each([
    ['2027-03-28', '2027-03-28'],
    ['28 mar 2027', '2027-03-28'],
    ['March 28, 2027', '2027-03-28'],
    ['28.3.2027', '2027-03-28'],
    ['28/3/27', '2027-03-28'],
    ['3/28/2027', '2027-03-28'],
  ])('takes %s and writes it in the one way', async (text, wanted) => {
    render(<Kept />);
    await type(text);
    expect(day).toBe(wanted);
    expect(box().value).toBe('28 Mar 2027');
  });
  it('asks where day and month may change places, and takes the answer', async () => {
    render(<Kept />);
    await type('3/4/2027');
    expect(day).toBeNull();
    expect(screen.getByRole('alert').textContent).toContain('“3/4/2027” reads two ways');
    await userEvent.click(screen.getByRole('button', { name: '4 Mar 2027' }));
    expect(day).toBe('2027-03-04');
    expect(document.activeElement).toBe(box());
  });
  it('keeps what is no day, says so, and leaves the day before as it is', async () => {
    render(<Kept start="2027-08-20" />);
    await type('31 Apr 2027');
    expect(box().value).toBe('31 Apr 2027');
    expect(screen.getByRole('alert').textContent).toContain(
      'First harvest: “31 Apr 2027” is no day of the calendar. Write it like 28 Mar 2027.',
    );
  });
  it('says which days it takes', async () => {
    render(<Kept min="2026-09-01" max="2027-02-26" />);
    await type('2027-03-01');
    expect(screen.getByRole('alert').textContent).toContain(
      'First harvest = 1 Mar 2027 is outside 1 Sep 2026 to 26 Feb 2027.',
    );
  });
  it('may be emptied', async () => {
    render(<Kept start="2027-08-20" />);
    await userEvent.clear(box());
    expect(day).toBeNull();
  });
  it('picks a day from its month with the keyboard', async () => {
    render(<Kept start="2027-08-20" />);
    await userEvent.click(screen.getByRole('button', { name: 'Pick a day' }));
    await userEvent.click(await screen.findByRole('button', { name: /August 23rd, 2027/ }));
    expect(day).toBe('2027-08-23');
  });
});
