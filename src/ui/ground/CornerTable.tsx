'use client';

import type { Metre } from '@/core/ground/outline';
import { FigureBox } from '../figure/FigureBox';
import { RemoveButton, RemoveHead } from '../figure/RemoveButton';
import { useUnits } from '../frame/units';

const METRE = { label: 'Metres', unit: '', min: -20000, max: 20000 };

/** Corners in metres from the first, each with the length of the side that leads on from it. */
export function CornerTable({
  corners,
  onCorners,
}: {
  corners: readonly Metre[];
  onCorners: (corners: Metre[]) => void;
}) {
  const { show, unit } = useUnits();
  const side = (i: number): string => {
    if (corners.length < 2) return '·';
    const [a, b] = [corners[i] as Metre, corners[(i + 1) % corners.length] as Metre];
    const m = Math.hypot(b[0] - a[0], b[1] - a[1]);
    return `${show(m, 'length')} ${unit('length')}`;
  };
  const set = (i: number, axis: 0 | 1, v: number) =>
    onCorners(corners.map((p, k): Metre => (k !== i ? p : axis === 0 ? [v, p[1]] : [p[0], v])));
  return (
    <table className="ruled">
      <caption className="sr-only">Corners from the first</caption>
      <thead>
        <tr>
          <th>Corner</th>
          <th>East, {unit('length')}</th>
          <th>North, {unit('length')}</th>
          <th>Side</th>
          <RemoveHead />
        </tr>
      </thead>
      <tbody>
        {corners.map((c, i) => (
          <tr key={i}>
            <th scope="row">{i + 1}</th>
            {([0, 1] as const).map((axis) => (
              <td key={axis}>
                <FigureBox
                  label={`Corner ${i + 1} ${axis === 0 ? 'east' : 'north'}`}
                  hideLabel
                  value={Number(c[axis].toFixed(1))}
                  range={METRE}
                  onValue={(v) => v !== null && set(i, axis, v)}
                />
              </td>
            ))}
            <td className="num whitespace-nowrap">{side(i)}</td>
            <td>
              <RemoveButton
                label={`Remove corner ${i + 1}`}
                onClick={() => onCorners(corners.filter((_, k) => k !== i))}
              />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
