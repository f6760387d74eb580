'use client';

import { Upload } from 'lucide-react';
import { useState, useTransition } from 'react';
import type { OutlineFile } from '@/core/ground/outlineFile';
import { COMMON_CRS } from '@/core/ground/outline';
import type { Answer } from '@/core/quantity/refusal';
import { ChoiceBox, TickBox } from '../figure/fields';
import { useHydrated } from '../frame/hydrated';

const CRS_OPTIONS = [
  { value: '', label: 'as the file says, else degrees' },
  ...COMMON_CRS.map((c) => ({ value: c.key, label: c.name })),
  { value: 'utm', label: 'a UTM zone, metres' },
  { value: 'epsg', label: 'a national grid, by its EPSG code' },
  { value: 'own', label: 'another, as PROJ text' },
];
/** What is typed beside some of these choices, and what stands there at first. */
const TYPED: Record<string, { label: string; first: string; said: (t: string) => string }> = {
  utm: { label: 'Zone', first: '32n', said: (t) => `utm:${t.trim()}` },
  epsg: { label: 'EPSG code', first: '27700', said: (t) => t.trim() },
  own: { label: 'PROJ text', first: '', said: (t) => t.trim() },
};
const MAX_BYTES = 10 * 1024 * 1024;

/**
 * A file of outlines: GeoJSON, zipped Shapefile, KML. What lies far from the farm is said, and
 * latitude that stands first is asked about.
 */
export function OutlineFileBox<T extends OutlineFile>({
  read,
  onRead,
}: {
  read: (form: FormData) => Promise<Answer<T>>;
  onRead: (file: T, name: string) => void;
}) {
  const hydrated = useHydrated();
  const [crs, setCrs] = useState('');
  const [typed, setTyped] = useState('');
  const [latitudeFirst, setLatitudeFirst] = useState(false);
  const [file, setFile] = useState<File | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const [doubt, setDoubt] = useState<OutlineFile['doubt']>(null);
  const [pending, start] = useTransition();
  const also = TYPED[crs];
  const load = (chosen: File | null, first = latitudeFirst) => {
    if (!chosen) return;
    setFile(chosen);
    setSaid(null);
    if (chosen.size > MAX_BYTES)
      return setSaid(
        `The file has ${(chosen.size / 1048576).toFixed(1)} MB; at most 10 MB are read.`,
      );
    start(async () => {
      const form = new FormData();
      form.set('file', chosen);
      form.set('crs', also ? also.said(typed) : crs);
      form.set('latitudeFirst', String(first));
      const reply = await read(form);
      setDoubt(reply.ok ? reply.value.doubt : null);
      if (reply.ok) onRead(reply.value, chosen.name);
      else setSaid(reply.refusal.message);
    });
  };
  return (
    <>
      <div className="mb-2 fields">
        <ChoiceBox
          label="Projection of the file"
          value={crs}
          options={CRS_OPTIONS}
          onValue={(v) => {
            setCrs(v ?? '');
            setTyped(TYPED[v ?? '']?.first ?? '');
          }}
          empty="as the file says, else degrees"
        />
        {also && (
          <label className="inline-flex items-baseline gap-1.5">
            {also.label}
            <input className="box" value={typed} onChange={(e) => setTyped(e.target.value)} />
          </label>
        )}
        <TickBox
          label="Latitude stands first"
          value={latitudeFirst}
          onValue={(v) => {
            setLatitudeFirst(v);
            load(file, v);
          }}
        />
        <label
          className={`button inline-flex cursor-pointer items-center gap-1.5 focus-within:outline-2 ${pending || !hydrated ? 'opacity-60' : ''}`}
        >
          <Upload size={14} aria-hidden />
          Outlines from a file
          <input
            type="file"
            className="sr-only"
            accept=".geojson,.json,.zip,.kml,.kmz"
            disabled={pending || !hydrated}
            onChange={(e) => {
              load(e.target.files?.[0] ?? null);
              e.target.value = '';
            }}
          />
        </label>
        <span className="note">GeoJSON, zipped Shapefile, KML</span>
      </div>
      {said && (
        <p role="alert" className="problem">
          {said}
        </p>
      )}
      {doubt && (
        <p role="alert" className="problem">
          {doubt.kind === 'latitude_first'
            ? `Read as it stands, the file lies far from the farm; with latitude first it lies ${doubt.distanceKm} km from it.`
            : `The file lies ${doubt.distanceKm === null ? 'far' : `${doubt.distanceKm} km`} from the farm: another place, or another projection.`}
          {doubt.kind === 'latitude_first' && (
            <>
              {' '}
              <button
                type="button"
                className="button"
                onClick={() => {
                  setLatitudeFirst(true);
                  load(file, true);
                }}
              >
                Read it with latitude first
              </button>
            </>
          )}
        </p>
      )}
    </>
  );
}
