'use client';

import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import type { Answer } from '@/core/quantity/refusal';
import { Part } from '../figure/fields';
import { useHydrated } from '../frame/hydrated';
import { PlaceBoxes, type Place, type PlaceDoors } from './PlaceBoxes';

/** Place, climate and currency of a farm, to be seen and changed. */
export function PlacePart({
  first,
  version,
  readOnly,
  save,
  ...doors
}: PlaceDoors & {
  first: Place;
  version: number;
  readOnly: boolean;
  save: (raw: unknown) => Promise<Answer<number>>;
}) {
  const router = useRouter();
  const hydrated = useHydrated();
  const [place, setPlace] = useState(first);
  const [said, setSaid] = useState<{ text: string; ok: boolean } | null>(null);
  const [pending, start] = useTransition();
  const disabled = readOnly || pending || !hydrated;
  const keep = () =>
    start(async () => {
      const reply = await save({ ...place, version });
      setSaid(reply.ok ? { ok: true, text: 'Saved.' } : { ok: false, text: reply.refusal.message });
      if (reply.ok) router.refresh();
    });
  return (
    <Part title="Place and climate" aside="the season’s clock, rain and hemisphere of every field">
      <details>
        <summary className="cursor-pointer">
          {first.place || 'no name of the place'}, {first.latitudeDeg}
          {first.longitudeDeg === null ? '' : `, ${first.longitudeDeg}`};{' '}
          {first.climate?.name ??
            doors.climates.find((c) => c.climateId === first.climateId)?.name ??
            'no climate'}
          ; money in {first.currency ?? 'no currency named'}
        </summary>
        <div className="mt-2">
          <PlaceBoxes
            {...doors}
            value={place}
            disabled={disabled}
            onValue={(part) => {
              setSaid(null);
              setPlace((p) => ({ ...p, ...part }));
            }}
          />
          {!readOnly && (
            <p className="mt-2 flex flex-wrap items-baseline gap-3">
              <button
                type="button"
                className="button button-strong"
                disabled={disabled || place.latitudeDeg === null}
                onClick={keep}
              >
                Save place and climate
              </button>
              <span
                role={said?.ok === false ? 'alert' : 'status'}
                className={said?.ok === false ? 'problem' : ''}
              >
                {said?.text}
              </span>
            </p>
          )}
        </div>
      </details>
    </Part>
  );
}
