'use client';

import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import type { Answer } from '@/core/quantity/refusal';
import { ChoiceBox, Part } from '../figure/fields';
import { NameBox } from '../figure/NameBox';
import { RemoveButton } from '../figure/RemoveButton';
import { TextBox } from '../figure/TextBox';
import { useHydrated } from '../frame/hydrated';
import { ROLE_WORDS } from './NewFarm';

export interface Member {
  id: string;
  name: string;
  role: 'advisor' | 'farmer' | 'owner';
}
const ROLE_OPTIONS = Object.entries(ROLE_WORDS).map(([value, label]) => ({ value, label }));

/** Who works with a farm, and as what. */
export function PeoplePart({
  members,
  readOnly,
  save,
  rename,
  remove,
}: {
  members: readonly Member[];
  readOnly: boolean;
  save: (raw: unknown) => Promise<Answer<void>>;
  rename: (id: string, name: string) => Promise<Answer<void>>;
  remove: (id: string) => Promise<Answer<void>>;
}) {
  const router = useRouter();
  const hydrated = useHydrated();
  const [name, setName] = useState('');
  const [role, setRole] = useState<string | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const [pending, start] = useTransition();
  const disabled = readOnly || pending || !hydrated;
  const ask = (work: () => Promise<Answer<void>>, after?: () => void) =>
    start(async () => {
      const reply = await work();
      setSaid(reply.ok ? null : reply.refusal.message);
      if (reply.ok) after?.();
      router.refresh();
    });
  return (
    <Part title="People" aside="an advisor proposes, a farmer agrees; what they wrote stays theirs">
      <ul className="max-w-[48rem]">
        {members.map((m) => (
          <li key={m.id} className="flex flex-wrap items-center gap-3 border-b border-rule py-1">
            <NameBox
              name={m.name}
              disabled={disabled}
              onName={(now) => ask(() => rename(m.id, now))}
            />
            <ChoiceBox
              label={`Part of ${m.name}`}
              hideLabel
              disabled={disabled}
              value={m.role}
              options={ROLE_OPTIONS}
              onValue={(v) => v !== null && ask(() => save({ name: m.name, role: v }))}
            />
            {!readOnly && members.length > 1 && (
              <span className="ml-auto">
                <RemoveButton
                  label={`${m.name} no longer works with this farm`}
                  onClick={() => ask(() => remove(m.id))}
                />
              </span>
            )}
          </li>
        ))}
      </ul>
      {!readOnly && (
        <form
          className="mt-2 flex flex-wrap items-baseline gap-3"
          onSubmit={(e) => {
            e.preventDefault();
            if (name.trim() !== '' && role !== null)
              ask(
                () => save({ name, role }),
                () => setName(''),
              );
          }}
        >
          <TextBox
            label="Another person"
            disabled={disabled}
            max={80}
            value={name}
            onValue={setName}
          />
          <ChoiceBox
            label="as"
            disabled={disabled}
            value={role}
            options={ROLE_OPTIONS}
            onValue={setRole}
          />
          <button
            type="submit"
            className="button"
            disabled={disabled || name.trim() === '' || role === null}
          >
            Add the person
          </button>
        </form>
      )}
      {said && (
        <p role="alert" className="problem">
          {said}
        </p>
      )}
    </Part>
  );
}
