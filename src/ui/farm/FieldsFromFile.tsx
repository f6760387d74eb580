'use client';

import { useState, useTransition } from 'react';
import type { OutlineFile, ReadOutline } from '@/core/ground/outlineFile';
import type { Answer } from '@/core/quantity/refusal';
import { ChoiceBox, Part } from '../figure/fields';
import { Scrolled } from '../figure/Scrolled';
import { useUnits } from '../frame/units';
import { OutlineFileBox } from '../map/OutlineFileBox';
import type { Choice } from './AddFields';

interface MatchedOutline extends ReadOutline {
  field: { id: string; name: string; areaHa: number } | null;
  differs: boolean;
}
export type FarmOutlines = Omit<OutlineFile, 'outlines'> & { outlines: MatchedOutline[] };
/** What becomes of one outline: an id of a field, a new field, or nothing. */
interface Pick {
  to: string;
  name: string;
}
const NEW = 'new';
const NOTHING = '';

const picked = (outlines: readonly MatchedOutline[]): Pick[] => {
  const given = new Set<string>();
  return outlines.map((o, i) => {
    const name = o.name ?? `Field ${i + 1}`;
    if (!o.field) return { to: NEW, name };
    // Two outlines of one name are two things: somebody has to say which is meant.
    const twice = given.has(o.field.id);
    given.add(o.field.id);
    return { to: twice ? NOTHING : o.field.id, name };
  });
};

/** Outlines of many fields out of one file, each beside the field that it is of, or a new one. */
export function FieldsFromFile({
  fields,
  soils,
  read,
  bring,
  onBrought,
}: {
  fields: readonly { id: string; name: string; areaHa: number }[];
  soils: readonly Choice[];
  read: (form: FormData) => Promise<Answer<FarmOutlines>>;
  bring: (picks: unknown) => Promise<Answer<{ changed: number; made: number }>>;
  onBrought: () => void;
}) {
  const { show, unit } = useUnits();
  const [file, setFile] = useState<{ name: string; outlines: MatchedOutline[] } | null>(null);
  const [picks, setPicks] = useState<Pick[]>([]);
  const [soil, setSoil] = useState<string | null>(null);
  const [meant, setMeant] = useState(false);
  const [said, setSaid] = useState<{ text: string; ok: boolean } | null>(null);
  const [pending, start] = useTransition();
  const ha = (v: number) => `${show(v, 'area', 2)} ${unit('area')}`;
  const outlines = file?.outlines ?? [];
  const set = (i: number, part: Partial<Pick>) => {
    setMeant(false);
    setPicks((list) => list.map((p, k) => (k === i ? { ...p, ...part } : p)));
  };
  const fresh = picks.filter((p) => p.to === NEW).length;
  const changed = outlines.flatMap((o, i) => {
    const field = fields.find((f) => f.id === picks[i]?.to);
    return field && Math.abs(o.areaHa - field.areaHa) > 0.02 * field.areaHa
      ? [{ name: field.name, was: field.areaHa, is: o.areaHa }]
      : [];
  });
  const count = picks.filter((p) => p.to !== NOTHING).length;
  const ready = count > 0 && (fresh === 0 || soil !== null) && (changed.length === 0 || meant);
  const go = () =>
    start(async () => {
      const reply = await bring(
        outlines.flatMap((o, i) => {
          const pick = picks[i];
          if (!pick || pick.to === NOTHING) return [];
          const { outline } = o;
          return [
            pick.to === NEW
              ? { to: 'new', name: pick.name, soilTextureId: soil, outline }
              : { to: 'field', fieldId: pick.to, outline },
          ];
        }),
      );
      if (!reply.ok) return setSaid({ ok: false, text: reply.refusal.message });
      const { made, changed: drawn } = reply.value;
      setFile(null);
      setPicks([]);
      setSaid({
        ok: true,
        text: [
          ...(made > 0 ? [`${made} ${made === 1 ? 'field' : 'fields'} made.`] : []),
          ...(drawn > 0 ? [`${drawn} ${drawn === 1 ? 'outline' : 'outlines'} stored.`] : []),
        ].join(' '),
      });
      onBrought();
    });
  return (
    <Part title="Fields from a file" aside="outlines with their names, of many fields at once">
      <OutlineFileBox
        read={read}
        onRead={(found, name) => {
          setFile({ name, outlines: found.outlines });
          setPicks(picked(found.outlines));
          setMeant(false);
          setSaid(null);
        }}
      />
      {said && (
        <p role={said.ok ? 'status' : 'alert'} className={said.ok ? '' : 'problem'}>
          {said.text}
        </p>
      )}
      {file && (
        <>
          <Scrolled label={`Outlines of ${file.name}`}>
            <table className="ruled max-w-[56rem]">
              <thead>
                <tr>
                  <th>In the file</th>
                  <th className="num">Area</th>
                  <th>Becomes</th>
                  <th>Name</th>
                </tr>
              </thead>
              <tbody>
                {outlines.map((o, i) => {
                  const pick = picks[i] ?? { to: NOTHING, name: '' };
                  const field = fields.find((f) => f.id === pick.to);
                  return (
                    <tr key={i}>
                      <th scope="row">{o.name ?? `polygon ${i + 1}`}</th>
                      <td className="num whitespace-nowrap">
                        {ha(o.areaHa)}
                        {field && Math.abs(o.areaHa - field.areaHa) > 0.02 * field.areaHa
                          ? `, was ${ha(field.areaHa)}`
                          : ''}
                      </td>
                      <td>
                        <ChoiceBox
                          label={`What ${o.name ?? `polygon ${i + 1}`} becomes`}
                          hideLabel
                          value={pick.to === NOTHING ? null : pick.to}
                          empty="is left out"
                          options={[
                            { value: NEW, label: 'a new field' },
                            ...fields.map((f) => ({ value: f.id, label: f.name })),
                          ]}
                          onValue={(v) => set(i, { to: v ?? NOTHING })}
                        />
                      </td>
                      <td>
                        {pick.to === NEW && (
                          <input
                            className="box"
                            aria-label={`Name of the new field for ${o.name ?? `polygon ${i + 1}`}`}
                            maxLength={80}
                            value={pick.name}
                            onChange={(e) => set(i, { name: e.target.value })}
                          />
                        )}
                      </td>
                    </tr>
                  );
                })}
              </tbody>
            </table>
          </Scrolled>
          {changed.length > 0 && (
            <label className="problem mt-2 flex items-baseline gap-1.5">
              <input
                type="checkbox"
                className="size-4 accent-[var(--ink)]"
                checked={meant}
                onChange={(e) => setMeant(e.target.checked)}
              />
              <span>
                The area of{' '}
                {changed.map((c) => `${c.name} (${ha(c.was)} to ${ha(c.is)})`).join(', ')} changes,
                and every sum with it: it is meant so.
              </span>
            </label>
          )}
          <p className="mt-2 flex flex-wrap items-baseline gap-3">
            {fresh > 0 && (
              <ChoiceBox
                label="Texture of the new fields"
                value={soil}
                options={soils}
                onValue={setSoil}
              />
            )}
            <button
              type="button"
              className="button button-strong"
              disabled={pending || !ready}
              onClick={go}
            >
              Bring in {count} {count === 1 ? 'outline' : 'outlines'}
            </button>
            {fresh > 0 && <span className="note">each field can be changed at Ground</span>}
          </p>
        </>
      )}
    </Part>
  );
}
