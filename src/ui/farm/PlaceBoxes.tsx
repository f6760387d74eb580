'use client';

import { Upload } from 'lucide-react';
import { useId, useState, useTransition } from 'react';
import type { OwnClimate } from '@/core/document/farmTerms';
import { monthName } from '@/core/quantity/calendar';
import { RANGES } from '@/core/quantity/range';
import type { Answer } from '@/core/quantity/refusal';
import { ChoiceBox } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { Scrolled } from '../figure/Scrolled';
import { TextBox } from '../figure/TextBox';
import { WorldMap } from './WorldMap';

/** A climate of the book, with its months. */
export interface BookClimate {
  climateId: string;
  name: string;
  latitudeDeg: number;
  months: readonly { tMeanC: number; rainMm: number }[];
}
export interface Place {
  place: string;
  latitudeDeg: number | null;
  longitudeDeg: number | null;
  climateId: string | null;
  climate: OwnClimate | null;
  currency: string | null;
}
export interface PlaceDoors {
  land: string;
  climates: readonly BookClimate[];
  readClimate: (form: FormData) => Promise<Answer<OwnClimate>>;
}

/** The climate of the book that lies nearest by latitude. */
const nearestClimate = (climates: readonly BookClimate[], latitudeDeg: number): string | null =>
  climates.toSorted(
    (a, b) => Math.abs(a.latitudeDeg - latitudeDeg) - Math.abs(b.latitudeDeg - latitudeDeg),
  )[0]?.climateId ?? null;

function Months({
  months,
}: {
  months: readonly { tMeanC: number; rainMm: number; et0Mm?: number | null }[];
}) {
  const evaporation = months.some((m) => m.et0Mm != null);
  const rows = [
    { label: 'Mean temperature, °C', figures: months.map((m) => m.tMeanC.toFixed(1)) },
    { label: 'Rain, mm', figures: months.map((m) => m.rainMm.toFixed(0)) },
    ...(evaporation
      ? [{ label: 'Evaporation, mm', figures: months.map((m) => m.et0Mm?.toFixed(0) ?? '·') }]
      : []),
  ];
  return (
    <Scrolled label="The months of a normal year">
      <table className="ruled max-w-[52rem]">
        <thead>
          <tr>
            <th>A normal year</th>
            {months.map((_, i) => (
              <th key={i} className="num">
                {monthName(`2025-${String(i + 1).padStart(2, '0')}-01`).slice(0, 3)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(({ label, figures }) => (
            <tr key={label}>
              <th scope="row">{label}</th>
              {figures.map((figure, i) => (
                <td key={i} className="num">
                  {figure}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </Scrolled>
  );
}

/** Where a farm lies, which normal year its seasons are reckoned with, and what money is in. */
export function PlaceBoxes({
  value,
  onValue,
  disabled,
  land,
  climates,
  readClimate,
}: PlaceDoors & {
  value: Place;
  onValue: (part: Partial<Place>) => void;
  disabled: boolean;
}) {
  const id = useId();
  const [said, setSaid] = useState<string | null>(null);
  const [pending, start] = useTransition();
  const { latitudeDeg, longitudeDeg, climateId, climate } = value;
  const placed = (lat: number | null, lon: number | null) =>
    onValue({
      latitudeDeg: lat,
      longitudeDeg: lon,
      ...(lat === null ? {} : { climateId: nearestClimate(climates, lat) }),
    });
  const chosen = climates.find((c) => c.climateId === climateId);
  const load = (file: File | undefined) => {
    if (!file) return;
    start(async () => {
      const form = new FormData();
      form.set('file', file);
      form.set('name', file.name.replace(/\.[^.]*$/u, ''));
      const reply = await readClimate(form);
      setSaid(reply.ok ? null : reply.refusal.message);
      if (reply.ok) onValue({ climate: reply.value });
    });
  };
  return (
    <>
      <div className="mb-2 fields">
        <TextBox
          label="Place, in words"
          disabled={disabled}
          value={value.place}
          onValue={(place) => onValue({ place })}
        />
        <FigureBox
          label="Latitude"
          disabled={disabled}
          value={latitudeDeg}
          range={RANGES.latitudeDeg}
          onValue={(v) => placed(v, longitudeDeg)}
        />
        <FigureBox
          label="Longitude"
          optional
          disabled={disabled}
          value={longitudeDeg}
          range={{ label: 'Longitude', unit: 'degrees', min: -180, max: 180 }}
          onValue={(v) => onValue({ longitudeDeg: v })}
        />
        <span className="note">south and west are negative; or click on the map</span>
      </div>
      <WorldMap
        land={land}
        latitudeDeg={latitudeDeg}
        longitudeDeg={longitudeDeg}
        onPlace={(lat, lon) =>
          !disabled &&
          lat >= RANGES.latitudeDeg.min &&
          lat <= RANGES.latitudeDeg.max &&
          placed(lat, lon)
        }
      />
      <div className="mt-3 fields">
        {climate ? (
          <>
            <span>
              Climate: <strong>{climate.name}</strong>, the farm’s own
            </span>
            <button
              type="button"
              className="button"
              disabled={disabled}
              onClick={() => onValue({ climate: null })}
            >
              Back to a climate of the book
            </button>
          </>
        ) : (
          <ChoiceBox
            label="Climate, the nearest of the book"
            disabled={disabled || latitudeDeg === null}
            value={climateId}
            empty="place first"
            options={climates.map((c) => ({
              value: c.climateId,
              label: `${c.name} (${Math.abs(c.latitudeDeg)}° ${c.latitudeDeg < 0 ? 'S' : 'N'})`,
            }))}
            onValue={(v) => v !== null && onValue({ climateId: v })}
          />
        )}
        <label
          className={`button inline-flex cursor-pointer items-center gap-1.5 focus-within:outline-2 ${disabled || pending || climateId === null ? 'opacity-60' : ''}`}
        >
          <Upload size={14} aria-hidden />
          Own normals from a file
          <input
            type="file"
            className="sr-only"
            accept=".csv,.txt,.tsv,.xlsx"
            aria-describedby={`${id}-file`}
            disabled={disabled || pending || climateId === null}
            onChange={(e) => {
              load(e.target.files?.[0]);
              e.target.value = '';
            }}
          />
        </label>
        <span id={`${id}-file`} className="note">
          twelve rows: month, temperature °C, rain mm, evaporation mm where known
        </span>
      </div>
      {said && (
        <p role="alert" className="problem">
          {said}
        </p>
      )}
      {(climate ?? chosen) && <Months months={(climate ?? chosen)?.months ?? []} />}
      <p className="mt-3">
        <TextBox
          label="Money is in"
          disabled={disabled}
          max={8}
          value={value.currency ?? ''}
          onValue={(v) => onValue({ currency: v.trim() === '' ? null : v })}
        />{' '}
        <span className="note">as you write it: EUR, £, KSh; prices stay numbers as they are</span>
      </p>
    </>
  );
}
