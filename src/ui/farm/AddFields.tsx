'use client';

import { Plus } from 'lucide-react';
import { useRef, useState, useTransition } from 'react';
import { RANGES } from '@/core/quantity/range';
import type { Answer } from '@/core/quantity/refusal';
import { ChoiceBox, Part } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { RemoveButton } from '../figure/RemoveButton';
import { useHydrated } from '../frame/hydrated';

export interface Choice {
  value: string;
  label: string;
}
interface Draft {
  name: string;
  areaHa: number | null;
  soil: string | null;
}
const EMPTY: Draft = { name: '', areaHa: null, soil: null };
const isBlank = (d: Draft): boolean => d.name.trim() === '' && d.areaHa === null;
const isWhole = (d: Draft): boolean => d.name.trim() !== '' && d.areaHa !== null && d.soil !== null;

/** Fields as rows of name, area and texture; a row below begins when the last one does. */
export function AddFields({
  farmId,
  soils,
  create,
  onAdded,
}: {
  farmId: string;
  soils: readonly Choice[];
  create: (raw: unknown) => Promise<Answer<string[]>>;
  onAdded: (ids: string[]) => void;
}) {
  const hydrated = useHydrated();
  const [rows, setRows] = useState<Draft[]>([EMPTY]);
  const [said, setSaid] = useState<string | null>(null);
  const [pending, start] = useTransition();
  const first = useRef<HTMLInputElement>(null);
  const disabled = pending || !hydrated;
  const set = (i: number, part: Partial<Draft>) =>
    setRows((list) => list.map((r, k) => (k === i ? { ...r, ...part } : r)));
  const filled = rows.filter((r) => !isBlank(r));
  const go = () =>
    start(async () => {
      const reply = await create({
        farmId,
        fields: filled.map(({ name, areaHa, soil }) => ({
          name,
          areaHa,
          soilTextureId: soil,
        })),
      });
      setSaid(reply.ok ? null : reply.refusal.message);
      if (!reply.ok) return;
      setRows([EMPTY]);
      onAdded(reply.value);
      first.current?.focus();
    });
  return (
    <Part title="Fields as rows" aside="name, area, and the texture by feel">
      <form
        onSubmit={(e) => {
          e.preventDefault();
          if (filled.length > 0 && filled.every(isWhole)) go();
        }}
      >
        <ul>
          {rows.map((row, i) => (
            <li
              key={i}
              className="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-rule py-1"
            >
              <label className="inline-flex items-baseline gap-1.5">
                Name of the field
                <input
                  ref={i === 0 ? first : undefined}
                  className="box"
                  disabled={disabled}
                  value={row.name}
                  maxLength={80}
                  onChange={(e) => set(i, { name: e.target.value })}
                />
              </label>
              <FigureBox
                label="Area"
                disabled={disabled}
                value={row.areaHa}
                dimension="area"
                range={RANGES.areaHa}
                onValue={(v) => set(i, { areaHa: v })}
              />
              <ChoiceBox
                label="Texture"
                disabled={disabled}
                value={row.soil}
                options={soils}
                onValue={(v) => set(i, { soil: v })}
              />
              {rows.length > 1 && (
                <RemoveButton
                  label={`Remove row ${i + 1}`}
                  onClick={() => setRows((list) => list.filter((_, k) => k !== i))}
                />
              )}
            </li>
          ))}
        </ul>
        <p className="mt-2 flex flex-wrap items-baseline gap-3">
          <button
            type="button"
            className="button inline-flex items-center gap-1.5"
            disabled={disabled}
            onClick={() =>
              setRows((list) => [...list, { ...EMPTY, soil: list.at(-1)?.soil ?? null }])
            }
          >
            <Plus size={13} aria-hidden /> Another row
          </button>
          <button
            type="submit"
            className="button button-strong"
            disabled={disabled || filled.length === 0 || !filled.every(isWhole)}
          >
            {filled.length > 1 ? `Add ${filled.length} fields` : 'Add the field'}
          </button>
          {filled.some((r) => !isWhole(r)) && (
            <span className="note">each row wants name, area and texture</span>
          )}
        </p>
        {said && (
          <p role="alert" className="problem">
            {said}
          </p>
        )}
      </form>
    </Part>
  );
}
