'use client';

import { Scrolled } from '../figure/Scrolled';
import { Plus } from 'lucide-react';
import { useState } from 'react';
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
/** Chloride is told as what the layer 0-60 cm holds. */
const OF_PROFILE = [
  { value: 'kg_ha', label: 'kg/ha in 0-60 cm' },
  { value: 'lb_ac', label: 'lb/ac in 0-60 cm' },
];
const unitsOf = (nutrient: string) => (nutrient === 'cl' ? OF_PROFILE : UNITS);

type Draft = Omit<SoilReading, 'value'> & { value: null };

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
  // A row without its figure is no reading yet: until one is typed, nothing of it counts.
  const [drafts, setDrafts] = useState<readonly Draft[]>([]);
  const begun = drafts.filter((d) => !readings.some((r) => r.nutrient === d.nutrient));
  const shown: readonly (SoilReading | Draft)[] = [...readings, ...begun];
  const drop = (nutrient: SoilReading['nutrient']) =>
    setDrafts((list) => list.filter((d) => d.nutrient !== nutrient));
  const set = (i: number, part: Partial<SoilReading>) => {
    const draft = begun[i - readings.length];
    if (!draft) return onChange((list) => replaceAt(list, i, part));
    const { value = null, ...rest } = { ...draft, ...part };
    if (value === null)
      return setDrafts((list) =>
        list.map((d) => (d.nutrient === draft.nutrient ? { ...rest, value } : d)),
      );
    onChange((list) => [...list, { ...rest, value }]);
    drop(draft.nutrient);
  };
  const remove = (i: number, nutrient: SoilReading['nutrient']) => {
    if (i < readings.length) onChange((list) => without(list, i));
    else drop(nutrient);
  };
  const free = labNutrients().filter(
    (n) => !shown.some((r) => r.nutrient === n),
  ) as SoilReading['nutrient'][];
  return (
    <>
      <Scrolled label="Readings of the soil test">
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
            {shown.map((r, i) => (
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
                    options={unitsOf(r.nutrient)}
                    onValue={(v) => v && set(i, { unit: v as SoilReading['unit'] })}
                  />
                </td>
                <td>
                  {!readOnly && (
                    <RemoveButton
                      label={`Remove ${nutrientSymbol(r.nutrient)}`}
                      onClick={() => remove(i, r.nutrient)}
                    />
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </Scrolled>
      {!readOnly && free.length > 0 && (
        <div className="mt-2 flex flex-wrap gap-1">
          {free.map((n) => (
            <button
              key={n}
              type="button"
              className="button"
              onClick={() =>
                setDrafts((list) => [
                  ...list,
                  {
                    nutrient: n,
                    extractant: extractantsFor(n)[0] ?? 'unknown',
                    value: null,
                    unit: n === 'cl' ? 'kg_ha' : 'mg_kg',
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
