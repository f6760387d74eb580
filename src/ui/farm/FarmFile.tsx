'use client';

import type { Answer } from '@/core/quantity/refusal';
import { Download, Upload } from 'lucide-react';
import type { Route } from 'next';
import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import { TextBox } from '../figure/TextBox';
import { useHydrated } from '../frame/hydrated';

const TABLES = [
  ['tables/seasons.csv', 'seasons'],
  ['tables/passes.csv', 'passes'],
  ['tables/dressings.csv', 'manure and compost'],
  ['tables/soil_samples.csv', 'soil samples'],
  ['tables/soil_results.csv', 'soil results'],
  ['tables/leaf_results.csv', 'leaf results'],
  ['fields.geojson', 'outlines (GeoJSON)'],
] as const;

/**
 * A farm goes out as one file, and comes in as a farm of its own: nothing that is here is written
 * over.
 */
export function FarmFile({
  farmId,
  bringIn,
}: {
  farmId: string;
  bringIn: (form: FormData) => Promise<Answer<string>>;
}) {
  const router = useRouter();
  const hydrated = useHydrated();
  const [name, setName] = useState('');
  const [said, setSaid] = useState<string | null>(null);
  const [pending, start] = useTransition();
  const read = (file: File | undefined) =>
    start(async () => {
      if (!file) return;
      const form = new FormData();
      form.set('file', file);
      form.set('name', name);
      const r = await bringIn(form);
      setSaid(r.ok ? null : r.refusal.message);
      if (r.ok) router.push(`/farms/${r.value}` as Route);
    });
  return (
    <>
      <div className="flex flex-wrap items-center gap-3">
        <a className="button no-underline" href={`/farms/${farmId}/farm.json`} download>
          <Download size={14} aria-hidden /> Whole farm as JSON
        </a>
        <a className="button no-underline" href={`/farms/${farmId}/farm.xlsx`} download>
          <Download size={14} aria-hidden /> Fields as XLSX
        </a>
        <a className="button no-underline" href={`/farms/${farmId}/data.zip`} download>
          <Download size={14} aria-hidden /> All tables as a data package
        </a>
        <a className="button no-underline" href={`/farms/${farmId}/library.zip`} download>
          <Download size={14} aria-hidden /> Library as a data package
        </a>
      </div>
      <p className="mt-2 flex flex-wrap items-baseline gap-x-4">
        <span className="note">one table a file:</span>
        {TABLES.map(([path, words]) => (
          <a key={path} href={`/farms/${farmId}/${path}`} download>
            {words}
          </a>
        ))}
      </p>
      <div className="mt-2 flex flex-wrap items-center gap-3">
        <TextBox label="Name of a farm to bring in" value={name} onValue={setName} />
        <span className="note">empty: as in the file</span>
        <label className={`button ${pending || !hydrated ? 'opacity-60' : ''}`}>
          <Upload size={14} aria-hidden /> Bring a farm file in
          <input
            type="file"
            accept=".json,application/json"
            className="sr-only"
            disabled={pending || !hydrated}
            onChange={(e) => {
              read(e.target.files?.[0]);
              e.target.value = '';
            }}
          />
        </label>
      </div>
      {said && (
        <p role="alert" className="problem">
          {said}
        </p>
      )}
    </>
  );
}
