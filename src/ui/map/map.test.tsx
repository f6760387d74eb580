// @vitest-environment jsdom
import { cleanup, fireEvent, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeAll, describe, expect, it, vi } from 'vitest';
import type { Metre } from '@/core/ground/outline';
import { Chart } from '../chart/Chart';
import { FieldMap } from './FieldMap';
import type { MapModel } from './view';

const setOption = vi.fn();
vi.mock('../chart/engine', () => ({
  init: () => ({ setOption, resize: () => undefined, dispose: () => undefined }),
}));
beforeAll(() => {
  vi.spyOn(HTMLCanvasElement.prototype, 'getContext').mockReturnValue(null);
  HTMLCanvasElement.prototype.setPointerCapture = () => undefined;
});
afterEach(cleanup);
const square: Metre[] = [
  [0, 0],
  [200, 0],
  [200, 100],
  [0, 100],
];
const model: MapModel = {
  outline: [square],
  cells: [],
  marks: [],
  walk: [],
  draft: [],
  points: square.map((at, i) => ({ at, label: String(i + 1), kind: 'corner' })),
};

describe('the ground by keys and pointer', () => {
  it('sets a thing at the middle of the view, and a step of the arrows moves that place', async () => {
    const picked: Metre[] = [];
    render(<FieldMap model={model} label="Field" onPick={(at) => picked.push(at)} />);
    screen.getByRole('img', { name: 'Field' }).focus();
    await userEvent.keyboard('{Enter}{ArrowRight}{Enter}{ArrowUp}{Enter}0{Enter}');
    const [first, right, up, again] = picked as [Metre, Metre, Metre, Metre];
    expect(first).toEqual([100, 50]);
    expect(right[0]).toBeGreaterThan(100);
    expect(up[1]).toBeGreaterThan(50);
    expect(again, 'zero shows the whole field').toEqual([100, 50]);
  });
  it('zooms by keys and by buttons: a step on the ground becomes smaller', async () => {
    const picked: Metre[] = [];
    render(<FieldMap model={model} label="Field" onPick={(at) => picked.push(at)} />);
    screen.getByRole('img', { name: 'Field' }).focus();
    await userEvent.keyboard('{ArrowRight}{Enter}0');
    await userEvent.click(screen.getByRole('button', { name: 'Zoom in' }));
    screen.getByRole('img', { name: 'Field' }).focus();
    await userEvent.keyboard('{ArrowRight}{Enter}');
    const [wide, close] = picked as [Metre, Metre];
    expect(Math.abs(close[0] - 100)).toBeLessThan(Math.abs(wide[0] - 100));
  });
  it('a click sets, a drag pans and sets nothing', () => {
    const onPick = vi.fn();
    render(<FieldMap model={model} label="Field" onPick={onPick} />);
    const canvas = screen.getByRole('img', { name: 'Field' });
    fireEvent.pointerDown(canvas, { clientX: 300, clientY: 300, pointerId: 1 });
    fireEvent.pointerMove(canvas, { clientX: 340, clientY: 300, pointerId: 1 });
    fireEvent.pointerUp(canvas, { clientX: 340, clientY: 300, pointerId: 1 });
    expect(onPick).not.toHaveBeenCalled();
    fireEvent.pointerDown(canvas, { clientX: 300, clientY: 300, pointerId: 1 });
    fireEvent.pointerUp(canvas, { clientX: 300, clientY: 300, pointerId: 1 });
    expect(onPick).toHaveBeenCalledOnce();
  });
  it('offers nothing to set where nothing is asked for', async () => {
    render(<FieldMap model={model} label="Field" />);
    screen.getByRole('img', { name: 'Field' }).focus();
    await userEvent.keyboard('{Enter}');
    expect(screen.queryByText(/Enter sets it at the cross/)).toBeNull();
  });
});

describe('a chart', () => {
  const chart = () =>
    render(
      <Chart
        label="pH over the years"
        fileName="low-fleet"
        option={() => ({ series: [] })}
        table={{
          columns: ['Year', 'pH'],
          rows: [
            [2022, '5.4'],
            [2026, '5.1'],
          ],
        }}
      />,
    );
  it('is drawn by the engine once it has come', async () => {
    chart();
    await waitFor(() => expect(setOption).toHaveBeenCalled());
    expect(screen.getByRole('img', { name: 'pH over the years' })).toBeTruthy();
  });
  it('is the same as a table, and back', async () => {
    chart();
    await userEvent.click(screen.getByRole('button', { name: 'As table' }));
    expect(screen.getAllByRole('row').map((r) => r.textContent)).toEqual([
      'YearpH',
      '20225.4',
      '20265.1',
    ]);
    await userEvent.click(screen.getByRole('button', { name: /chart/i }));
    expect(screen.queryByRole('table')).toBeNull();
  });
  it('is taken away as CSV in which no formula runs', async () => {
    const hrefs: string[] = [];
    vi.spyOn(HTMLAnchorElement.prototype, 'click').mockImplementation(function (
      this: HTMLAnchorElement,
    ) {
      hrefs.push(this.href);
    });
    render(
      <Chart
        label="x"
        fileName="x"
        option={() => ({ series: [] })}
        table={{ columns: ['a'], rows: [['=1+1'], ['-cmd'], [-3.5], ['say "no"']] }}
      />,
    );
    await userEvent.click(screen.getByRole('button', { name: /CSV/ }));
    expect(decodeURIComponent(hrefs[0]?.replace(/^data:[^,]*,/, '') ?? '').split('\r\n')).toEqual([
      '"a"',
      '"\'=1+1"',
      '"\'-cmd"',
      '"-3.5"',
      '"say ""no"""',
    ]);
  });
});
