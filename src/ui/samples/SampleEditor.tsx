'use client';

import type { Route } from 'next';
import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import type { CorrectedSample, GroundOffer } from '@/core/facts/soilSample';
import { RANGES, type Range } from '@/core/quantity/range';
import type { Answer } from '@/core/quantity/refusal';
import { ChoiceBox, DateBox, optionsOf, Part } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { TextBox } from '../figure/TextBox';
import { useHydrated } from '../frame/hydrated';
import { ReadingTable } from '../ground/ReadingTable';

export interface SampleEditorProps {
  version: number;
  kind: 'composite' | 'point' | 'mean';
  fieldId: string;
  fieldName: string;
  author: string | null;
  recordedOn: string | null;
  sample: CorrectedSample;
  offers: readonly GroundOffer[];
  fields: readonly { id: string; name: string }[];
  mayEdit: boolean;
  correct: (expected: number, sample: CorrectedSample) => Promise<Answer<number>>;
  move: (fieldId: string) => Promise<Answer<void>>;
  remove: () => Promise<Answer<void>>;
  takeOver: (column: string) => Promise<Answer<void>>;
}
type Figure = Extract<
  keyof CorrectedSample,
  | 'phWater'
  | 'phCacl2'
  | 'depthFromCm'
  | 'depthCm'
  | 'nCores'
  | 'omPct'
  | 'ocPct'
  | 'cecCmolKg'
  | 'alCmolKg'
  | 'clayPct'
  | 'stonesPct'
>;
const FIGURES: readonly [Figure, string, Range][] = [
  ['phWater', 'pH in water', RANGES.phWater],
  ['phCacl2', 'pH in CaCl2', RANGES.phSalt],
  ['depthFromCm', 'Depth from', { label: 'Depth from', unit: 'cm', min: 0, max: 200 }],
  ['depthCm', 'to', RANGES.sampleDepthCm],
  ['nCores', 'Cores', RANGES.nCores],
  ['omPct', 'Organic matter', RANGES.omPct],
  ['ocPct', 'Organic carbon', { label: 'Organic carbon', unit: '%', min: 0, max: 60 }],
  ['cecCmolKg', 'CEC', RANGES.cecCmolKg],
  ['alCmolKg', 'Aluminium', RANGES.alCmolKg],
  ['clayPct', 'Clay', RANGES.clayPct],
  ['stonesPct', 'Stones', { label: 'Stones', unit: '%', min: 0, max: 95 }],
];

/** What a report tells of the ground, to be taken over by the field. */
function Offers({
  offers,
  fieldName,
  readOnly,
  onTake,
}: {
  offers: readonly GroundOffer[];
  fieldName: string;
  readOnly: boolean;
  onTake: (column: string) => void;
}) {
  if (offers.length === 0) return null;
  return (
    <Part title="It tells of the ground" aside={`${fieldName} says another figure, or none`}>
      <ul className="max-w-[44rem]">
        {offers.map((o) => (
          <li
            key={o.column}
            className="flex flex-wrap items-baseline gap-3 border-b border-rule py-1"
          >
            <span>
              {o.label} {o.value} {o.unit}
              {o.from && <span className="note"> from {o.from}</span>}
            </span>
            <span className="note">
              the field: {o.now === null ? 'not known' : `${o.now} ${o.unit}`}
            </span>
            {!readOnly && (
              <button type="button" className="button ml-auto" onClick={() => onTake(o.column)}>
                The field has {o.label.toLowerCase().replace('cec', 'CEC')} {o.value} {o.unit}
              </button>
            )}
          </li>
        ))}
      </ul>
    </Part>
  );
}

/** A stored sample: its figures to correct, its field to change, or the whole to take away. */
export function SampleEditor({
  version,
  kind,
  fieldId,
  fieldName,
  author,
  recordedOn,
  sample: first,
  offers,
  fields,
  mayEdit,
  correct,
  move,
  remove,
  takeOver,
}: SampleEditorProps) {
  const router = useRouter();
  const hydrated = useHydrated();
  const [sample, setSample] = useState(first);
  const [said, setSaid] = useState<string | null>(null);
  const [pending, start] = useTransition();
  const readOnly = !mayEdit || pending || !hydrated;
  const set = (part: Partial<CorrectedSample>) => setSample((s) => ({ ...s, ...part }));
  const changed = JSON.stringify(sample) !== JSON.stringify(first);
  const ask = <T,>(work: () => Promise<Answer<T>>, after: () => void) =>
    start(async () => {
      const reply = await work();
      setSaid(reply.ok ? null : reply.refusal.message);
      if (reply.ok) after();
    });
  const renew = () => router.refresh();
  return (
    <>
      <Offers
        offers={offers}
        fieldName={fieldName}
        readOnly={pending || !hydrated || (!mayEdit && kind !== 'mean')}
        onTake={(column) => ask(() => takeOver(column), renew)}
      />
      <Part
        title="What was found"
        aside={
          kind === 'mean'
            ? 'worked out of its samples: correct one of those'
            : author === null
              ? undefined
              : `written by ${author}${recordedOn === null ? '' : `, ${recordedOn}`}`
        }
      >
        <div className="mb-2 fields">
          <DateBox
            label="Sampled on"
            disabled={readOnly}
            value={sample.date}
            onValue={(date) => set({ date })}
          />
          <TextBox
            label="Label"
            disabled={readOnly}
            value={sample.label ?? ''}
            onValue={(v) => set({ label: v === '' ? null : v })}
          />
          <TextBox
            label="Laboratory"
            disabled={readOnly}
            value={sample.laboratory ?? ''}
            onValue={(v) => set({ laboratory: v === '' ? null : v })}
          />
          {FIGURES.map(([column, label, range]) => (
            <FigureBox
              key={column}
              label={label}
              optional={column !== 'depthFromCm'}
              disabled={readOnly}
              value={sample[column]}
              range={range}
              onValue={(v) => {
                if (column !== 'depthFromCm') set({ [column]: v });
                else if (v !== null) set({ depthFromCm: v });
              }}
            />
          ))}
          <ChoiceBox
            label="Soil at sampling"
            value={sample.moisture}
            empty="not known"
            options={optionsOf(['dry', 'moist', 'wet'])}
            disabled={readOnly}
            onValue={(v) => set({ moisture: v as CorrectedSample['moisture'] })}
          />
        </div>
        <ReadingTable
          readings={sample.readings}
          readOnly={readOnly}
          onChange={(change) => setSample((s) => ({ ...s, readings: change(s.readings) }))}
        />
        {mayEdit && (
          <p className="mt-2 flex flex-wrap items-baseline gap-3">
            <button
              type="button"
              className="button button-strong"
              disabled={readOnly || !changed}
              onClick={() => ask(() => correct(version, sample), renew)}
            >
              Save the correction
            </button>
            <span className="note">the figures of before stay in its history</span>
          </p>
        )}
        {said && (
          <p role="alert" className="problem">
            {said}
          </p>
        )}
      </Part>
      {mayEdit && (
        <Part title="Another field, or none">
          <div className="fields">
            <ChoiceBox
              label="It was taken in"
              disabled={readOnly}
              value={fieldId}
              options={fields.map((f) => ({ value: f.id, label: f.name }))}
              onValue={(v) => v !== null && v !== fieldId && ask(() => move(v), renew)}
            />
            <button
              type="button"
              className="button"
              disabled={readOnly}
              onClick={() => ask(remove, () => router.push('/samples' as Route))}
            >
              Take this sample away
            </button>
            <span className="note">it can be brought back on the farm’s page</span>
          </div>
        </Part>
      )}
    </>
  );
}
