'use client';

import { Scrolled } from '../figure/Scrolled';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import { RANGES, type Range } from '@/core/quantity/range';
import { useUnits } from '../frame/units';
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
  make,
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
  make: (layer: Layer, value: number) => L;
  onChange: (change: (layers: readonly L[]) => L[]) => void;
}) {
  const { unit } = useUnits();
  // A layer without its figure is no finding yet: until one is typed, nothing of it counts.
  const [draft, setDraft] = useState<Layer | null>(null);
  const shown: readonly (L | Layer)[] = draft ? [...layers, draft] : layers;
  const bottom = shown[shown.length - 1]?.bottomCm ?? 0;
  const set = (i: number, part: Partial<Layer>) => {
    if (i < layers.length) onChange((list) => replaceAt(list, i, part as Partial<L>));
    else setDraft((d) => d && { ...d, ...part });
  };
  const find = (i: number, value: number) => {
    if (i < layers.length)
      return onChange((list) => replaceAt(list, i, { [figure]: value } as Partial<L>));
    if (!draft) return;
    onChange((list) => [...list, make(draft, value)]);
    setDraft(null);
  };
  const remove = (i: number) => {
    if (i < layers.length) onChange((list) => without(list, i));
    else setDraft(null);
  };
  const box = (
    i: number,
    label: string,
    value: number | null,
    at: Range,
    take: (v: number) => void,
  ) => (
    <td>
      <FigureBox
        label={`${word} ${i + 1} ${label}`}
        hideLabel
        disabled={readOnly}
        value={value}
        range={at}
        hideUnit
        onValue={(v) => v !== null && take(v)}
      />
    </td>
  );
  return (
    <>
      {shown.length > 0 && (
        <Scrolled label={`Layers of ${what}`}>
          <table className="ruled mt-1">
            <thead>
              <tr>
                <th>From, {unit('depth')}</th>
                <th>To, {unit('depth')}</th>
                <th className="first-letter:uppercase">{what}, mg/kg</th>
                <th>Bulk density, g/cm3</th>
                <RemoveHead />
              </tr>
            </thead>
            <tbody>
              {shown.map((l, i) => (
                <tr key={i}>
                  {box(i, 'from', l.topCm, RANGES.layerCm, (v) => set(i, { topCm: v }))}
                  {box(i, 'to', l.bottomCm, RANGES.layerCm, (v) => set(i, { bottomCm: v }))}
                  {box(i, what, layers[i] ? (layers[i][figure] as number) : null, range, (v) =>
                    find(i, v),
                  )}
                  <td>
                    <FigureBox
                      label={`${word} ${i + 1} bulk density`}
                      hideLabel
                      optional
                      disabled={readOnly}
                      value={l.bulkDensityGCm3}
                      range={RANGES.bulkDensityGCm3}
                      hideUnit
                      onValue={(v) => set(i, { bulkDensityGCm3: v })}
                    />
                  </td>
                  <td>
                    {!readOnly && (
                      <RemoveButton
                        label={`Remove ${word.toLowerCase()} ${i + 1}`}
                        onClick={() => remove(i)}
                      />
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </Scrolled>
      )}
      {!readOnly && !draft && layers.length < MOST_LAYERS && bottom <= DEEPEST_CM && (
        <button
          type="button"
          className="button mt-2"
          onClick={() =>
            setDraft({
              topCm: bottom,
              bottomCm: bottom + 30,
              bulkDensityGCm3: null,
              stonesVolFrac: null,
            })
          }
        >
          <Plus size={13} aria-hidden /> {word} {bottom}-{bottom + 30} cm
        </button>
      )}
    </>
  );
}
