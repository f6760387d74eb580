'use client';

import { Plus } from 'lucide-react';
import type { Route } from 'next';
import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import type { RefusalDetail } from '@/core/quantity/refusal';
import { RANGES } from '@/core/quantity/range';
import { ChoiceBox } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { useHydrated } from '../frame/hydrated';

type Create = (
  raw: unknown,
) => Promise<{ ok: true; value: string } | { ok: false; refusal: RefusalDetail }>;

export function NewField({
  farms,
  soils,
  create,
  open: startOpen,
}: {
  farms: { value: string; label: string }[];
  soils: { value: string; label: string }[];
  create: Create;
  open: boolean;
}) {
  const router = useRouter();
  const [open, setOpen] = useState(startOpen);
  const [farmId, setFarm] = useState<string | null>(farms[0]?.value ?? null);
  const [name, setName] = useState('');
  const [areaHa, setArea] = useState<number | null>(null);
  const [soil, setSoil] = useState<string | null>('loam');
  const [said, setSaid] = useState<string | null>(null);
  const [working, start] = useTransition();
  const hydrated = useHydrated();
  const pending = working || !hydrated;
  if (!open)
    return (
      <button type="button" className="button mt-2" onClick={() => setOpen(true)}>
        <Plus size={13} aria-hidden /> Field
      </button>
    );
  const send = () =>
    start(async () => {
      const reply = await create({ farmId, name, areaHa, soilTextureId: soil });
      if (reply.ok) router.push(`/fields/${reply.value}/ground` as Route);
      else setSaid(reply.refusal.message);
    });
  return (
    <form
      className="mt-2 flex flex-wrap items-baseline gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        send();
      }}
    >
      {farms.length > 1 && (
        <ChoiceBox label="Farm" value={farmId} options={farms} onValue={setFarm} />
      )}
      <label className="inline-flex items-baseline gap-1.5">
        Name of the field
        <input
          className="box"
          disabled={pending}
          value={name}
          maxLength={80}
          onChange={(e) => setName(e.target.value)}
        />
      </label>
      <FigureBox
        label="Area"
        disabled={pending}
        value={areaHa}
        dimension="area"
        range={RANGES.areaHa}
        onValue={setArea}
      />
      <ChoiceBox label="Texture" value={soil} options={soils} onValue={setSoil} />
      <button type="submit" className="button button-strong" disabled={pending}>
        Add the field
      </button>
      {said && (
        <span role="alert" className="problem basis-full">
          {said}
        </span>
      )}
    </form>
  );
}
