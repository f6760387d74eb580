'use client';

import Link from 'next/link';
import { useState } from 'react';
import type { FieldDescription } from '@/core/methods/describe';
import type { PlaceLine, UsesInField } from '@/core/methods/places';
import type { Answer } from '@/core/quantity/refusal';
import { DateBox, TickBox } from '../figure/fields';
import { Scrolled } from '../figure/Scrolled';
import { TextBox } from '../figure/TextBox';
import { useFoundFields, type FoundField } from '../frame/foundFields';
import { useValue } from './told';
import type { Values } from './values';

/** Doors of the server for using figures in a plan. */
export interface PlaceDoors {
  uses: (asked: { method: string; input: Values; fieldId: string }) => Promise<Answer<UsesInField>>;
  put: (asked: {
    method: string;
    input: Values;
    fieldId: string;
    version: number;
    places: string[];
    date: string | null;
  }) => Promise<Answer<UsesInField>>;
}
const MOST_OFFERED = 8;

/** Find the field by words of its name. */
function FieldChoice({ onField }: { onField: (field: FoundField) => void }) {
  const [typed, setTyped] = useState('');
  const { fields, settled } = useFoundFields(typed);
  return (
    <>
      <TextBox label="Field" value={typed} onValue={setTyped} />
      <ul className="mt-1 flex flex-wrap gap-2">
        {fields.slice(0, MOST_OFFERED).map((f) => (
          <li key={f.id}>
            <button type="button" className="button" onClick={() => onField(f)}>
              {f.name} <span className="note">{f.farm}</span>
            </button>
          </li>
        ))}
      </ul>
      {settled && fields.length === 0 && <p className="note">No field has these words.</p>}
      {fields.length > MOST_OFFERED && (
        <p className="note">{fields.length - MOST_OFFERED} more: type some of the name.</p>
      )}
    </>
  );
}

function LinesTable({
  described,
  lines,
  chosen,
  onChosen,
}: {
  described: readonly FieldDescription[];
  lines: readonly PlaceLine[];
  chosen: readonly string[];
  onChosen: (ids: string[]) => void;
}) {
  const shown = useValue();
  const told = (names: readonly string[], figures: PlaceLine['now']): string =>
    figures === null
      ? 'not known'
      : names
          .map((name) => {
            const f = described.find((d) => d.name === name);
            return f ? shown(f, figures[name]) : '';
          })
          .join(', ');
  return (
    <Scrolled label="Places in the plan">
      <table className="ruled">
        <thead>
          <tr>
            <th>Place in the plan</th>
            <th>Now</th>
            <th>Would be</th>
          </tr>
        </thead>
        <tbody>
          {lines.map((l) => (
            <tr key={l.id}>
              <th scope="row">
                <TickBox
                  label={l.label}
                  disabled={l.same}
                  value={chosen.includes(l.id)}
                  onValue={(on) =>
                    onChosen(on ? [...chosen, l.id] : chosen.filter((id) => id !== l.id))
                  }
                />
                {l.otherCrop && (
                  <span className="block text-hot">reckoned for another crop than grows here</span>
                )}
              </th>
              <td>{told(l.names, l.now)}</td>
              <td>{l.same ? 'the same' : told(l.names, l.then)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Scrolled>
  );
}

/** The figures of a calculation, put into the plan of a field where it has a place for them. */
export function UseInField({
  id,
  input,
  described,
  doors,
}: {
  id: string;
  input: Values;
  described: readonly FieldDescription[];
  doors: PlaceDoors;
}) {
  const [field, setField] = useState<FoundField | null>(null);
  const [uses, setUses] = useState<UsesInField | null>(null);
  const [chosen, setChosen] = useState<string[]>([]);
  const [date, setDate] = useState<string | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const [done, setDone] = useState<PlaceLine[] | null>(null);
  const [busy, setBusy] = useState(false);
  const look = async (f: FoundField) => {
    setBusy(true);
    const reply = await doors
      .uses({ method: id, input, fieldId: f.id })
      .finally(() => setBusy(false));
    setField(f);
    setDone(null);
    setSaid(reply.ok ? null : reply.refusal.message);
    setUses(reply.ok ? reply.value : null);
    // What was reckoned for another crop, or is a line of its own, is nobody's by default.
    setChosen(
      reply.ok
        ? reply.value.lines.filter((l) => !l.same && !l.otherCrop && !l.dated).map((l) => l.id)
        : [],
    );
  };
  const put = async () => {
    if (!field || !uses) return;
    setBusy(true);
    const reply = await doors
      .put({ method: id, input, fieldId: field.id, version: uses.version, places: chosen, date })
      .finally(() => setBusy(false));
    if (reply.ok) {
      setSaid(null);
      setDone(uses.lines.filter((l) => chosen.includes(l.id)));
      setUses(null);
      return;
    }
    if (reply.refusal.code === 'conflict') await look(field);
    setSaid(reply.refusal.message);
  };
  const dated = uses?.lines.some((l) => l.dated && chosen.includes(l.id)) ?? false;
  return (
    <section aria-label="Use in a field" className="mt-4 border-t border-rule pt-2">
      <h2>Use in a field</h2>
      <fieldset disabled={busy} className="min-w-0">
        <legend className="sr-only">The field</legend>
        <FieldChoice onField={(f) => void look(f)} />
      </fieldset>
      {field && uses && (
        <fieldset disabled={busy} className="mt-2 min-w-0">
          <legend>
            {field.name}, {uses.season}
          </legend>
          <LinesTable
            described={described}
            lines={uses.lines}
            chosen={chosen}
            onChosen={setChosen}
          />
          {dated && <DateBox label="On the day" value={date} onValue={setDate} />}
          <button
            type="button"
            className="button mt-2"
            disabled={chosen.length === 0 || (dated && date === null)}
            onClick={() => void put()}
          >
            Put into the plan of {field.name}
          </button>
        </fieldset>
      )}
      <div aria-live="polite">
        {said && <p className="problem">{said}</p>}
        {field && done?.[0] && (
          <p>
            {done.map((l) => l.label).join(', ')}: in the plan of {field.name} now.{' '}
            <Link href={`/fields/${field.id}/${done[0].station}`}>See it there</Link>
          </p>
        )}
      </div>
    </section>
  );
}
