'use client';

import { Plus, Trash2 } from 'lucide-react';
import { limeMaterials } from '@/core/book/limes';
import { dateInWords } from '@/core/quantity/calendar';
import { RANGES } from '@/core/quantity/range';
import type { LimePlan } from '@/core/document/limeDocument';
import type { LimeAssessment } from '@/core/lines/lime';
import { ChoiceBox, DateBox, Part, TickBox } from '../figure/fields';
import { useUnits } from '../frame/units';
import { FigureBox } from '../figure/FigureBox';
import { replaceAt, useBook, without, useEdit, usePlan } from '../workspace/context';
import { RemoveButton, RemoveHead } from '../figure/RemoveButton';

export function WetClock({
  lime,
  assessed,
  set,
}: {
  lime: LimePlan;
  assessed: LimeAssessment | null;
  set: (part: Partial<LimePlan>) => void;
}) {
  const plan = usePlan('asOf');
  const { readOnly } = useEdit();
  const { unit } = useUnits();
  const book = useBook();
  const { spread } = lime;
  const clock = assessed?.clock ?? null;
  const change = (part: Partial<NonNullable<typeof spread>>) => {
    if (spread) set({ spread: { ...spread, ...part } });
  };
  if (!spread)
    return (
      <Part title="Lime that was spread" aside="the reaction starts when the soil is wet">
        {readOnly ? (
          <p className="note">None recorded.</p>
        ) : (
          <button
            type="button"
            className="button"
            onClick={() =>
              set({
                spread: {
                  date: plan.asOf,
                  materialKey:
                    lime.candidates.find((c) => c.id === lime.chosenId)?.materialKey ??
                    'calcitic_ag',
                  rateTHa: assessed?.chosen?.productTHa ?? 0,
                  soilMoist: false,
                  records: [],
                },
              })
            }
          >
            <Plus size={13} aria-hidden /> Record a spreading
          </button>
        )}
      </Part>
    );
  return (
    <Part
      title="Lime that was spread"
      aside={
        assessed?.retestDate
          ? `retest from ${dateInWords(assessed.retestDate)}: same spots, depth and month`
          : undefined
      }
    >
      <div className="mb-2 fields">
        <DateBox
          label="Spread on"
          max={plan.asOf}
          disabled={readOnly}
          value={spread.date}
          onValue={(v) => v && change({ date: v })}
        />
        <ChoiceBox
          label="Material"
          disabled={readOnly}
          value={spread.materialKey}
          options={limeMaterials(book).map((m) => ({ value: m.key, label: m.name }))}
          onValue={(v) => v && change({ materialKey: v })}
        />
        <FigureBox
          label="Rate"
          dimension="mass_rate"
          disabled={readOnly}
          value={spread.rateTHa}
          range={{ label: 'Lime spread', unit: 't/ha', min: 0, max: 40 }}
          onValue={(v) => v !== null && change({ rateTHa: v })}
        />
        <TickBox
          label="soil was moist"
          disabled={readOnly}
          value={spread.soilMoist}
          onValue={(v) => change({ soilMoist: v })}
        />
        {!readOnly && (
          <button type="button" className="button" onClick={() => set({ spread: null })}>
            <Trash2 size={14} aria-hidden /> Remove
          </button>
        )}
      </div>
      {clock && (
        <p className="mb-1">
          {clock.started ? (
            <>
              <strong>{clock.tEffMonths.toFixed(1)} effective months</strong> so far, from{' '}
              {clock.cumMm.toFixed(0)} mm.
            </>
          ) : (
            <strong className="text-hot">
              {clock.cumMm.toFixed(0)} mm of the {clock.startMm} mm so far: the clock has not
              started.
            </strong>
          )}
          <svg viewBox="0 0 200 8" width="200" height="8" aria-hidden className="ml-3 inline-block">
            <rect width="200" height="8" fill="var(--rule)" />
            <rect
              width={Math.min(200, (200 * clock.cumMm) / Math.max(1, clock.startMm))}
              height="8"
              fill="var(--water)"
            />
          </svg>
        </p>
      )}
      {spread.records.length > 0 && (
        <table className="ruled max-w-[34rem]">
          <thead>
            <tr>
              <th>Days</th>
              <th>Rain, {unit('water')}</th>
              <th>Irrigation, {unit('water')}</th>
              <th>Soil, {unit('temperature')}</th>
              <RemoveHead />
            </tr>
          </thead>
          <tbody>
            {spread.records.map((r, i) => (
              <tr key={i}>
                {(
                  [
                    ['days', 'days', { label: 'Days', unit: '', min: 1, max: 366 }],
                    ['rainMm', 'rain', { label: 'Rain', unit: 'mm', min: 0, max: 2000 }],
                    ['irrigationMm', 'irrigation', RANGES.irrigationMm],
                  ] as const
                ).map(([key, word, range]) => (
                  <td key={key}>
                    <FigureBox
                      label={`Record ${i + 1} ${word}`}
                      hideLabel
                      disabled={readOnly}
                      value={r[key]}
                      range={range}
                      hideUnit
                      onValue={(v) =>
                        v !== null &&
                        change({ records: replaceAt(spread.records, i, { [key]: v }) })
                      }
                    />
                  </td>
                ))}
                <td>
                  <FigureBox
                    label={`Record ${i + 1} soil temperature`}
                    hideLabel
                    optional
                    disabled={readOnly}
                    value={r.soilTempC}
                    range={{ label: 'Soil temperature', unit: '°C', min: -30, max: 60 }}
                    hideUnit
                    onValue={(v) =>
                      change({ records: replaceAt(spread.records, i, { soilTempC: v }) })
                    }
                  />
                </td>
                <td>
                  {!readOnly && (
                    <RemoveButton
                      label={`Remove record ${i + 1}`}
                      onClick={() => change({ records: without(spread.records, i) })}
                    />
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {!readOnly && spread.records.length < 120 && (
        <button
          type="button"
          className="button mt-1"
          onClick={() =>
            change({
              records: [
                ...spread.records,
                { days: 7, rainMm: 0, irrigationMm: 0, soilTempC: null },
              ],
            })
          }
        >
          <Plus size={13} aria-hidden /> Week of weather
        </button>
      )}
    </Part>
  );
}
