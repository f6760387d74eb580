'use client';

import type { Route } from 'next';
import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import type { Answer } from '@/core/quantity/refusal';
import { ChoiceBox, Part } from '../figure/fields';
import { TextBox } from '../figure/TextBox';
import { useHydrated } from '../frame/hydrated';
import { useUnits } from '../frame/units';
import { PlaceBoxes, type Place, type PlaceDoors } from './PlaceBoxes';

type FarmRole = 'advisor' | 'farmer' | 'owner';
export const ROLE_WORDS: Record<FarmRole, string> = {
  owner: 'plans and agrees alone',
  advisor: 'advisor: plans and proposes',
  farmer: 'farmer: agrees or asks for a change',
};
const ROLE_OPTIONS = Object.entries(ROLE_WORDS).map(([value, label]) => ({ value, label }));

/** A farm of one's own, from nothing: its name, its place, who works with it. */
export function NewFarm({
  selfName,
  create,
  ...doors
}: PlaceDoors & {
  /** Empty where the program begins and nobody has given a name yet. */
  selfName: string;
  create: (raw: unknown) => Promise<Answer<string>>;
}) {
  const router = useRouter();
  const hydrated = useHydrated();
  const { system, toggle } = useUnits();
  const [name, setName] = useState('');
  const [self, setSelf] = useState(selfName);
  const [role, setRole] = useState<FarmRole>('owner');
  const [other, setOther] = useState('');
  const [place, setPlace] = useState<Place>({
    place: '',
    latitudeDeg: null,
    longitudeDeg: null,
    climateId: null,
    climate: null,
    currency: null,
  });
  const [said, setSaid] = useState<string | null>(null);
  const [pending, start] = useTransition();
  const disabled = pending || !hydrated;
  const missing = [
    ...(name.trim() === '' ? ['the farm’s name'] : []),
    ...(self.trim() === '' ? ['your name'] : []),
    ...(place.latitudeDeg === null ? ['its place'] : []),
    ...(role === 'farmer' && other.trim() === '' ? ['your advisor’s name'] : []),
  ];
  const go = () =>
    start(async () => {
      const reply = await create({
        ...place,
        name,
        self: { name: self, role },
        other:
          other.trim() === ''
            ? null
            : { name: other, role: role === 'farmer' ? 'advisor' : 'farmer' },
      });
      if (reply.ok) router.push(`/farms/${reply.value}/fields` as Route);
      else setSaid(reply.refusal.message);
    });
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        go();
      }}
    >
      <Part title="1 Farm and people">
        <div className="fields">
          <TextBox label="Name of the farm" disabled={disabled} value={name} onValue={setName} />
          <TextBox
            label="Your name"
            // Who has a name already has it on every farm: it is changed under People.
            disabled={disabled || selfName !== ''}
            value={self}
            max={80}
            onValue={setSelf}
          />
          <ChoiceBox
            label="You are"
            disabled={disabled}
            value={role}
            options={ROLE_OPTIONS}
            onValue={(v) => setRole((v ?? 'owner') as FarmRole)}
          />
          <TextBox
            label={
              role === 'farmer'
                ? 'Your advisor’s name'
                : role === 'advisor'
                  ? 'The farmer’s name'
                  : 'Another person who agrees, if there is one'
            }
            disabled={disabled}
            value={other}
            max={80}
            onValue={setOther}
          />
        </div>
      </Part>
      <Part title="2 Place and climate" aside="decides the season, rain, warmth and hemisphere">
        <PlaceBoxes
          {...doors}
          value={place}
          disabled={disabled}
          onValue={(part) => setPlace((p) => ({ ...p, ...part }))}
        />
      </Part>
      <Part title="3 Units" aside="kept in this browser; u changes them anywhere">
        <ChoiceBox
          label="Rates and yields in"
          disabled={disabled}
          value={system}
          options={[
            { value: 'metric', label: 'kg/ha, t/ha' },
            { value: 'us', label: 'lb/ac, ton/ac' },
          ]}
          onValue={(v) => {
            if (v !== null && v !== system) toggle();
          }}
        />
      </Part>
      <p className="flex flex-wrap items-baseline gap-3">
        <button
          type="submit"
          className="button button-strong"
          disabled={disabled || missing.length > 0}
        >
          Make the farm
        </button>
        {missing.length > 0 && <span className="note">still wanted: {missing.join(', ')}</span>}
      </p>
      {said && (
        <p role="alert" className="problem">
          {said}
        </p>
      )}
    </form>
  );
}
