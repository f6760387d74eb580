'use client';

import { useUnits } from '../frame/units';
import { useState } from 'react';
import { weighedDryMatter } from '@/core/budget/weighing';
import type { GreenManurePlan } from '@/core/document/previousDocument';
import { Refusal } from '@/core/quantity/refusal';
import { FigureBox } from '../figure/FigureBox';
import { TextBox } from '../figure/TextBox';

type Weighed = NonNullable<GreenManurePlan['weighed']>;
/** 1,250 may be 1.25 or 1250: it is no weight until somebody says which. */
const READS_TWO_WAYS = /^\d{1,3}[.,]\d{3}$/u;
const numbers = (text: string): number[] =>
  text
    .split(/[;\s]+/u)
    .map((t) => t.replace(/[,.]$/u, ''))
    .filter((t) => t !== '')
    .map((t) => (READS_TWO_WAYS.test(t) ? Number.NaN : Number(t.replace(',', '.'))));

/** What one weighs of a cover: frames, their ground, and a sub-sample fresh and dry. */
export function Weighing({
  weighed,
  disabled,
  onWeighed,
}: {
  weighed: GreenManurePlan['weighed'];
  disabled: boolean;
  onWeighed: (weighed: Weighed, dmTHa: number) => void;
}) {
  const { words } = useUnits();
  const [frames, setFrames] = useState(weighed ? weighed.freshG.join(' ') : '');
  const [frameM2, setFrame] = useState<number | null>(weighed?.frameM2 ?? null);
  const [fresh, setFresh] = useState<number | null>(weighed?.subFreshG ?? null);
  const [dry, setDry] = useState<number | null>(weighed?.subDryG ?? null);
  const given = numbers(frames);
  const badly = given.some((g) => !Number.isFinite(g));
  const ready = given.length > 0 && !badly && frameM2 !== null && fresh !== null && dry !== null;
  let told: { dmTHa: number; sdTHa: number | null } | null = null;
  let said: string | null = badly
    ? `${frames} holds what is no weight, or reads two ways: write 700 780 1250.`
    : null;
  if (ready)
    try {
      told = weighedDryMatter({ freshG: given, frameM2, dryPct: (100 * dry) / fresh });
    } catch (e) {
      if (!(e instanceof Refusal)) throw e;
      said = e.message;
    }
  return (
    <fieldset className="mb-2 border-t border-rule pt-2">
      <legend className="note">Weigh it: cut frames, dry a sub-sample</legend>
      <div className="fields">
        <TextBox
          label="Fresh weight of each frame, g"
          value={frames}
          disabled={disabled}
          onValue={setFrames}
          problem={said}
        />
        <FigureBox
          label="Ground of a frame"
          optional
          disabled={disabled}
          value={frameM2}
          range={{ label: 'Ground of a frame', unit: 'm2', min: 0.05, max: 4 }}
          onValue={setFrame}
        />
        <FigureBox
          label="Sub-sample, fresh"
          optional
          disabled={disabled}
          value={fresh}
          range={{ label: 'Sub-sample, fresh', unit: 'g', min: 0, max: 20_000, above: true }}
          onValue={setFresh}
        />
        <FigureBox
          label="Sub-sample, dry"
          optional
          disabled={disabled}
          value={dry}
          range={{ label: 'Sub-sample, dry', unit: 'g', min: 0, max: 20_000, above: true }}
          onValue={setDry}
        />
        {!disabled && (
          <button
            type="button"
            className="button"
            disabled={!told}
            onClick={() =>
              told &&
              frameM2 !== null &&
              fresh !== null &&
              dry !== null &&
              onWeighed(
                { freshG: given, frameM2, subFreshG: fresh, subDryG: dry },
                Number(told.dmTHa.toFixed(2)),
              )
            }
          >
            Take this weight
          </button>
        )}
        {told && (
          <span role="status">
            {words(`${told.dmTHa.toFixed(2)} t DM/ha`)}
            {told.sdTHa === null
              ? ', one frame'
              : words(`, frames differ by ${told.sdTHa.toFixed(2)} t DM/ha`)}
          </span>
        )}
      </div>
    </fieldset>
  );
}
