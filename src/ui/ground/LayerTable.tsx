'use client';

import { Plus } from 'lucide-react';
import { RANGES, type Range } from '@/core/quantity/range';
import { FigureBox } from '../figure/FigureBox';
import { RemoveButton, RemoveHead } from '../figure/RemoveButton';
import { replaceAt, without } from '../workspace/context';

export interface Layer {
  topCm: number;
  bottomCm: number;
  bulkDensityGCm3: number | null;
  stonesVolFrac: number | null;
}
const MOST_LAYERS = 6;
const DEEPEST_CM = 150;

/** What was found in the layers of a profile, each on the next. */
export function LayerTable<L extends Layer, K extends keyof L & string>({
  what,
  word,
  figure,
  range,
  layers,
  readOnly,
  blank,
  onChange,
}: {
  /** nitrate-N, sulphate-S. */
  what: string;
  /** What one row is called: Layer, Sulphate layer. */
  word: string;
  /** The column that holds it. */
  figure: K;
  range: Range;
  layers: readonly L[];
  readOnly: boolean;
  blank: (layer: Layer) => L;
  onChange: (change: (layers: readonly L[]) => L[]) => void;
}) {
  const set = (i: number, part: Partial<L>) => onChange((list) => replaceAt(list, i, part));
  const bottom = layers[layers.length - 1]?.bottomCm ?? 0;
  const box = (i: number, label: string, value: number, at: Range, take: (v: number) => void) => (
    <td>
      <FigureBox
        label={`${word} ${i + 1} ${label}`}
        hideLabel
        disabled={readOnly}
        value={value}
        range={{ ...at, unit: '' }}
        onValue={(v) => v !== null && take(v)}
      />
    </td>
  );
  return (
    <>
      {layers.length > 0 && (
        <table className="ruled mt-1">
          <thead>
            <tr>
              <th>From, cm</th>
              <th>To, cm</th>
              <th className="first-letter:uppercase">{what}, mg/kg</th>
              <th>Bulk density, g/cm3</th>
              <RemoveHead />
            </tr>
          </thead>
          <tbody>
            {layers.map((l, i) => (
              <tr key={i}>
                {box(i, 'from', l.topCm, RANGES.layerCm, (v) => set(i, { topCm: v } as Partial<L>))}
                {box(i, 'to', l.bottomCm, RANGES.layerCm, (v) =>
                  set(i, { bottomCm: v } as Partial<L>),
                )}
                {box(i, what, l[figure] as number, range, (v) =>
                  set(i, { [figure]: v } as Partial<L>),
                )}
                <td>
                  <FigureBox
                    label={`${word} ${i + 1} bulk density`}
                    hideLabel
                    optional
                    disabled={readOnly}
                    value={l.bulkDensityGCm3}
                    range={{ ...RANGES.bulkDensityGCm3, unit: '' }}
                    onValue={(v) => set(i, { bulkDensityGCm3: v } as Partial<L>)}
                  />
                </td>
                <td>
                  {!readOnly && (
                    <RemoveButton
                      label={`Remove ${word.toLowerCase()} ${i + 1}`}
                      onClick={() => onChange((list) => without(list, i))}
                    />
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {!readOnly && layers.length < MOST_LAYERS && bottom <= DEEPEST_CM && (
        <button
          type="button"
          className="button mt-2"
          onClick={() =>
            onChange((list) => [
              ...list,
              blank({
                topCm: bottom,
                bottomCm: bottom + 30,
                bulkDensityGCm3: null,
                stonesVolFrac: null,
              }),
            ])
          }
        >
          <Plus size={13} aria-hidden /> {word} {bottom}-{bottom + 30} cm
        </button>
      )}
    </>
  );
}
