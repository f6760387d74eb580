'use client';

import { Plus } from 'lucide-react';
import { useCallback, useMemo } from 'react';
import { crops, type Crop } from '@/core/book/crops';
import { dateInWords } from '@/core/quantity/calendar';
import type { LimePlan } from '@/core/document/limeDocument';
import type { LimeAssessment } from '@/core/lines/lime';
import { ChoiceBox, Part } from '../figure/fields';
import { WhyFigure } from '../frame/why';
import { Problems } from '../stations/Problems';
import { Warnings } from '../Warnings';
import {
  useBook,
  without,
  useAssessed,
  useEdit,
  usePlan,
  useWorkspace,
} from '../workspace/context';
import { LimeProducts } from './LimeProducts';
import { RemoveButton } from '../figure/RemoveButton';
import { WetClock } from './WetClock';
import { AcidYears } from './AcidYears';
import { Reaction } from './LimeReaction';
import { Requirement } from './LimeNeed';

/** Changes the lime part; the first edit puts it into the plan. */
function useLimeEdit(): (part: Partial<LimePlan>) => void {
  const { edit } = useEdit();
  const parts = useWorkspace((w) => w.parts);
  return useCallback(
    (part) =>
      edit((p) => {
        const lime = p.lime ?? parts?.limePlan;
        return lime ? { ...p, lime: { ...lime, ...part } } : p;
      }),
    [edit, parts],
  );
}

function Rotation({
  lime,
  assessed,
  set,
}: {
  lime: LimePlan;
  assessed: LimeAssessment | null;
  set: (part: Partial<LimePlan>) => void;
}) {
  const plan = usePlan('season');
  const a = useAssessed('ground');
  const { readOnly } = useEdit();
  const parts = useWorkspace((w) => w.parts);
  const book = useBook();
  const options = useMemo(
    () => crops(book).map((c: Crop) => ({ value: c.key, label: c.name })),
    [book],
  );
  const own = plan.season.cropKey;
  const keys = [...(own ? [own] : []), ...lime.rotation];
  const ph = a.ground.planning?.ph ?? null;
  const band = parts?.band ?? null;
  return (
    <Part title="For which crops" aside="the most sensitive of the next years sets the target">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-2">
        {lime.rotation.map((k, i) => (
          <span key={i} className="inline-flex items-baseline gap-1">
            <ChoiceBox
              label={`Crop ${i + 2}`}
              disabled={readOnly}
              value={k}
              options={options}
              onValue={(v) =>
                v && set({ rotation: lime.rotation.map((x, j) => (j === i ? v : x)) })
              }
            />
            {!readOnly && (
              <RemoveButton
                label={`Remove crop ${i + 2}`}
                onClick={() => set({ rotation: without(lime.rotation, i) })}
              />
            )}
          </span>
        ))}
        {!readOnly && lime.rotation.length < 4 && (
          <button
            type="button"
            className="button"
            onClick={() => set({ rotation: [...lime.rotation, own ?? 'winter_wheat'] })}
          >
            <Plus size={13} aria-hidden /> Next crop
          </button>
        )}
        {keys.length > 1 && (
          <ChoiceBox
            label="Lime is for"
            disabled={readOnly}
            value={lime.targetFor}
            empty="the most sensitive"
            options={keys.map((k) => ({
              value: k,
              label: crops(book).find((c) => c.key === k)?.name ?? k,
            }))}
            onValue={(v) => set({ targetFor: v })}
          />
        )}
      </div>
      {assessed && (
        <p className="note mt-1">
          Target {assessed.target.ph.toFixed(1)}, lime advised below{' '}
          {assessed.target.actBelowPh.toFixed(1)}, none above{' '}
          {assessed.target.maxPreferredPh.toFixed(1)}:{' '}
          {crops(book).find((c) => c.key === assessed.target.cropKey)?.name}.
        </p>
      )}
      {band && ph !== null && (
        <details className="mt-1">
          <summary className="cursor-pointer">What pH {ph.toFixed(1)} does besides</summary>
          <ul className="note max-w-[40rem] list-disc pl-5">
            <li>Aluminium and manganese: {band.alAndMn}.</li>
            <li>Phosphorus: {band.p}.</li>
            <li>Nodules and molybdenum: {band.nodulationMo}.</li>
            <li>Herbicides: {band.herbicides}; each label has its pH limits.</li>
            <li>Trace elements: {band.traceElements}.</li>
          </ul>
        </details>
      )}
    </Part>
  );
}

/**
 * pH and lime: how much by every method the report allows, which lime for this planting, how it
 * works with time, and how long it lasts.
 */
export function LimePart() {
  const a = useAssessed('ground', 'warnings');
  const parts = useWorkspace((w) => w.parts);
  const set = useLimeEdit();
  if (!parts) return null;
  const { limePlan: lime, lime: assessed, limeProblems: problems, curves } = parts;
  const { planning, gate } = a.ground;
  return (
    <>
      <Problems station="ground" />
      {problems.length > 0 && (
        <ul role="alert" className="mb-3">
          {problems.map((p) => (
            <li key={p.message} className="problem">
              {p.message}
            </li>
          ))}
        </ul>
      )}
      {!planning ? (
        <p>Give a pH first, under Readings: without it there is no lime to work out.</p>
      ) : !gate ? (
        <p>Choose a crop first: the target is the crop’s.</p>
      ) : (
        <p className="mb-3">
          pH to plan with{' '}
          <strong>
            <WhyFigure step={gate.why} label="pH to plan with">
              {planning.ph.toFixed(1)}
            </WhyFigure>
          </strong>
          {planning.low !== planning.high
            ? ` (${planning.low.toFixed(1)} to ${planning.high.toFixed(1)})`
            : ''}
          : {gate.verdict}.
          {assessed?.latestSampleDate
            ? ` Last day to sample for this planting: ${dateInWords(assessed.latestSampleDate)}.`
            : ''}
        </p>
      )}
      <div className="grid gap-x-8 xl:grid-cols-2">
        <Requirement lime={lime} assessed={assessed} set={set} />
        <div>
          <Rotation lime={lime} assessed={assessed} set={set} />
          <Part title="What it means">
            <Warnings
              list={[
                ...a.warnings.filter(
                  (w) =>
                    w.module === 'ground' &&
                    ['R01', 'R02', 'R03', 'R05', 'R08', 'R21'].includes(w.id),
                ),
                ...(assessed?.warnings ?? []),
              ]}
              empty="Nothing stands in the way."
            />
          </Part>
        </div>
      </div>
      <LimeProducts lime={lime} assessed={assessed} set={set} />
      {assessed && assessed.rows.length > 0 && (
        <Reaction lime={lime} assessed={assessed} curves={curves} />
      )}
      <div className="grid gap-x-8 xl:grid-cols-2">
        <WetClock lime={lime} assessed={assessed} set={set} />
        <div>{assessed && <AcidYears lime={lime} assessed={assessed} set={set} />}</div>
      </div>
    </>
  );
}
