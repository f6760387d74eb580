'use client';

import type { Route } from 'next';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import type { Answer } from '@/core/quantity/refusal';
import { Part } from '../figure/fields';
import { NameBox } from '../figure/NameBox';
import { RemoveButton } from '../figure/RemoveButton';
import { useHydrated } from '../frame/hydrated';
import { useUnits } from '../frame/units';

export interface NamedField {
  id: string;
  name: string;
  areaHa: number;
}

/** A farm's fields by name: opened, renamed, taken away and brought back. */
export function FieldNames({
  fields,
  readOnly,
  rename,
  remove,
  bringBack,
}: {
  fields: readonly NamedField[];
  readOnly: boolean;
  rename: (id: string, name: string) => Promise<Answer<void>>;
  remove: (id: string) => Promise<Answer<string>>;
  bringBack: (removedId: string) => Promise<Answer<string>>;
}) {
  const router = useRouter();
  const hydrated = useHydrated();
  const { show, unit } = useUnits();
  const [said, setSaid] = useState<string | null>(null);
  const [gone, setGone] = useState<{ id: string; name: string } | null>(null);
  const [pending, start] = useTransition();
  const disabled = readOnly || pending || !hydrated;
  const save = (f: NamedField, name: string) =>
    start(async () => {
      const reply = await rename(f.id, name);
      setSaid(reply.ok ? null : reply.refusal.message);
      router.refresh();
    });
  const take = (f: NamedField) =>
    start(async () => {
      const reply = await remove(f.id);
      setSaid(reply.ok ? null : reply.refusal.message);
      if (reply.ok) setGone({ id: reply.value, name: f.name });
      router.refresh();
    });
  const undo = (id: string) =>
    start(async () => {
      const reply = await bringBack(id);
      setSaid(reply.ok ? null : reply.refusal.message);
      setGone(null);
      router.refresh();
    });
  return (
    <Part
      title="Fields of the farm"
      aside={fields.length === 0 ? 'none yet' : `${fields.length}, in their order`}
    >
      {gone && (
        <p role="status" className="mb-1">
          {gone.name} is taken away with its seasons and samples.{' '}
          <button
            type="button"
            className="button"
            disabled={disabled}
            onClick={() => undo(gone.id)}
          >
            Bring {gone.name} back
          </button>
        </p>
      )}
      {said && (
        <p role="alert" className="problem">
          {said}
        </p>
      )}
      <ul className="max-w-[44rem]">
        {fields.map((f) => (
          <li key={f.id} className="flex flex-wrap items-center gap-3 border-b border-rule py-1">
            <NameBox name={f.name} disabled={disabled} onName={(name) => save(f, name)} />
            <span className="note">
              {show(f.areaHa, 'area', 2)} {unit('area')}
            </span>
            <Link href={`/fields/${f.id}/ground` as Route}>open {f.name}</Link>
            {!readOnly && (
              <span className="ml-auto">
                <RemoveButton label={`Take ${f.name} away`} onClick={() => take(f)} />
              </span>
            )}
          </li>
        ))}
      </ul>
    </Part>
  );
}
