'use client';

import { Plus } from 'lucide-react';
import type { SoilReading } from '@/core/facts/soilSample';
import { RANGES } from '@/core/quantity/range';
import {
  extractantName,
  extractantsFor,
  labNutrients,
  nutrientSymbol,
} from '@/core/book/soilTests';
import { ChoiceBox } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { RemoveButton, RemoveHead } from '../figure/RemoveButton';
import { replaceAt, without } from '../workspace/context';

const UNITS = [
  { value: 'mg_kg', label: 'mg/kg (ppm)' },
  { value: 'mg_l', label: 'mg/L' },
  { value: 'lb_ac', label: 'lb/ac' },
];

/** Readings of a soil test, each by its own extractant. */
export function ReadingTable({
  readings,
  readOnly,
  onChange,
}: {
  readings: readonly SoilReading[];
  readOnly: boolean;
  /** Told how the list changes, so that what somebody else changed meanwhile stays. */
  onChange: (change: (readings: readonly SoilReading[]) => SoilReading[]) => void;
}) {
  const set = (i: number, part: Partial<SoilReading>) =>
    onChange((list) => replaceAt(list, i, part));
  const free = labNutrients().filter(
    (n) => !readings.some((r) => r.nutrient === n),
  ) as SoilReading['nutrient'][];
  return (
    <>
      <table className="ruled">
        <thead>
          <tr>
            <th>Nutrient</th>
            <th>Extractant</th>
            <th>Value</th>
            <th>Unit</th>
            <RemoveHead />
          </tr>
        </thead>
        <tbody>
          {readings.map((r, i) => (
            <tr key={r.nutrient}>
              <th scope="row">{nutrientSymbol(r.nutrient)}</th>
              <td>
                <ChoiceBox
                  label={`Extractant of ${nutrientSymbol(r.nutrient)}`}
                  hideLabel
                  disabled={readOnly}
                  value={r.extractant}
                  options={[
                    ...new Set([...extractantsFor(r.nutrient), r.extractant, 'unknown']),
                  ].map((e) => ({ value: e, label: extractantName(e) }))}
                  onValue={(v) => set(i, { extractant: v ?? 'unknown' })}
                />
              </td>
              <td>
                <FigureBox
                  label={`${nutrientSymbol(r.nutrient)} test`}
                  hideLabel
                  disabled={readOnly}
                  value={r.value}
                  range={{ ...RANGES.testMgKg, unit: '', max: r.nutrient === 'p' ? 2000 : 5000 }}
                  onValue={(v) => v !== null && set(i, { value: v, belowDetection: false })}
                />
              </td>
              <td>
                <ChoiceBox
                  label={`Unit of ${nutrientSymbol(r.nutrient)}`}
                  hideLabel
                  disabled={readOnly}
                  value={r.unit}
                  options={UNITS}
                  onValue={(v) => v && set(i, { unit: v as SoilReading['unit'] })}
                />
              </td>
              <td>
                {!readOnly && (
                  <RemoveButton
                    label={`Remove ${nutrientSymbol(r.nutrient)}`}
                    onClick={() => onChange((list) => without(list, i))}
                  />
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {!readOnly && free.length > 0 && (
        <div className="mt-2 flex flex-wrap gap-1">
          {free.map((n) => (
            <button
              key={n}
              type="button"
              className="button"
              onClick={() =>
                onChange((list) => [
                  ...list,
                  {
                    nutrient: n,
                    extractant: extractantsFor(n)[0] ?? 'unknown',
                    value: 0,
                    unit: 'mg_kg',
                    belowDetection: false,
                  },
                ])
              }
            >
              <Plus size={13} aria-hidden />
              {nutrientSymbol(n)}
            </button>
          ))}
        </div>
      )}
    </>
  );
}
