'use client';

import { MARK_KINDS, type MarkKind } from '@/core/ground/samplingMarks';
import type { SamplingPlan } from '@/core/ground/samplingPlan';
import { ChoiceBox, Part } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { useUnits } from '../frame/units';
import { replaceAt, without } from '../workspace/context';
import { MARK_WORDS } from './samplingModel';
import { RemoveButton, RemoveHead } from '../figure/RemoveButton';

export type Tool = 'look' | 'mark' | 'zone' | 'pair';

/** What a click on the map does. */
export function MapTools({
  tool,
  onTool,
  markKind,
  onMarkKind,
  onCloseZone,
}: {
  tool: Tool;
  onTool: (tool: Tool) => void;
  markKind: MarkKind;
  onMarkKind: (kind: MarkKind) => void;
  onCloseZone: () => void;
}) {
  return (
    <div
      className="mt-1 mb-3 flex flex-wrap items-baseline gap-x-3 gap-y-1"
      role="group"
      aria-label="What a click on the map does"
    >
      {(
        [
          ['look', 'Look around'],
          ['mark', 'Mark what to avoid'],
          ['zone', 'Draw a zone'],
          ['pair', 'Bad and good spot'],
        ] as const
      ).map(([key, word]) => (
        <button
          key={key}
          type="button"
          className={`button ${tool === key ? 'button-strong' : ''}`}
          aria-pressed={tool === key}
          onClick={() => onTool(key)}
        >
          {word}
        </button>
      ))}
      {tool === 'mark' && (
        <ChoiceBox
          label="Mark"
          value={markKind}
          options={MARK_KINDS.map((k) => ({ value: k, label: MARK_WORDS[k] }))}
          onValue={(v) => v && onMarkKind(v as MarkKind)}
        />
      )}
      {tool === 'zone' && (
        <button type="button" className="button" onClick={onCloseZone}>
          Close the zone
        </button>
      )}
    </div>
  );
}

interface ListProps {
  plan: SamplingPlan;
  set: (part: Partial<SamplingPlan>) => void;
  readOnly: boolean;
}

/** Spots that no core is taken from, with how far to keep off. */
export function MarksList({ plan, set, readOnly }: ListProps) {
  const { unit } = useUnits();
  return (
    <Part title="Marks to avoid">
      <table className="ruled max-w-[38rem]">
        <thead>
          <tr>
            <th>Mark</th>
            <th>Radius, {unit('length')}</th>
            <th>Note</th>
            <RemoveHead />
          </tr>
        </thead>
        <tbody>
          {plan.marks.map((m, i) => (
            <tr key={m.id}>
              <th scope="row">{MARK_WORDS[m.kind]}</th>
              <td>
                <FigureBox
                  label={`Radius of mark ${i + 1}`}
                  hideLabel
                  disabled={readOnly}
                  value={m.radiusM}
                  range={{ label: 'Radius', unit: '', min: 1, max: 300 }}
                  onValue={(v) =>
                    v !== null && set({ marks: replaceAt(plan.marks, i, { radiusM: v }) })
                  }
                />
              </td>
              <td>
                <input
                  className="box"
                  aria-label={`Note of mark ${i + 1}`}
                  value={m.note}
                  maxLength={200}
                  disabled={readOnly}
                  onChange={(e) =>
                    set({ marks: replaceAt(plan.marks, i, { note: e.target.value }) })
                  }
                />
              </td>
              <td>
                {!readOnly && (
                  <RemoveButton
                    label={`Remove mark ${i + 1}`}
                    onClick={() => set({ marks: without(plan.marks, i) })}
                  />
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </Part>
  );
}

/** Zones that are sampled each by itself. */
export function ZonesList({ plan, set, readOnly }: ListProps) {
  return (
    <Part title="Zones" aside="keep two apart only if they differ by more than twice their error">
      <ul className="max-w-[30rem]">
        {plan.zones.map((z, i) => (
          <li key={i} className="flex items-baseline gap-2 border-b border-rule py-1">
            <input
              className="box"
              aria-label={`Name of zone ${i + 1}`}
              value={z.name}
              maxLength={40}
              disabled={readOnly}
              onChange={(e) => set({ zones: replaceAt(plan.zones, i, { name: e.target.value }) })}
            />
            {!readOnly && (
              <RemoveButton
                label={`Remove zone ${i + 1}`}
                onClick={() => set({ zones: without(plan.zones, i) })}
              />
            )}
          </li>
        ))}
      </ul>
    </Part>
  );
}

/** Samples in the order in which they are walked. */
export function PointsList({ plan }: { plan: SamplingPlan }) {
  const { show, unit } = useUnits();
  return (
    <Part title="Samples in walking order">
      <div
        className="max-h-[24rem] overflow-y-auto"
        tabIndex={0}
        role="region"
        aria-label="Samples"
      >
        <table className="ruled max-w-[46rem]" data-testid="sample-points">
          <thead>
            <tr>
              <th>Label</th>
              <th>Kind</th>
              <th className="num">Stands for, {unit('area')}</th>
              <th className="num">Longitude</th>
              <th className="num">Latitude</th>
              <th className="pl-4">Note</th>
            </tr>
          </thead>
          <tbody>
            {plan.points.slice(0, 400).map((p) => (
              <tr key={p.label}>
                <th scope="row">{p.label}</th>
                <td>{p.kind}</td>
                <td className="num">{show(p.areaHa, 'area', 2)}</td>
                <td className="num">{p.at[0].toFixed(6)}</td>
                <td className="num">{p.at[1].toFixed(6)}</td>
                <td className="pl-4 text-faint">{p.note}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {plan.points.length > 400 && (
        <p className="note">
          The first 400 of {plan.points.length} are listed; all are in the list for the laboratory
          and in the GeoJSON.
        </p>
      )}
    </Part>
  );
}
