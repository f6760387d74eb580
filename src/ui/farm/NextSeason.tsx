'use client';

import type { Route } from 'next';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import type { CarriedLine, FieldHandsOn } from '@/core/account/carryOver';
import type { Answer } from '@/core/quantity/refusal';
import { Part } from '../figure/fields';
import { Scrolled } from '../figure/Scrolled';
import { useHydrated } from '../frame/hydrated';
import { useUnits } from '../frame/units';

type Ticks = Readonly<Record<string, readonly string[]>>;
type Open = (
  picks: { seasonId: string; take: string[] }[],
) => Promise<Answer<{ opened: number; added: number }>>;

const STATE_WORDS = { offered: '', there: 'in the plan', left: 'stays behind' } as const;
/** A line ticked or cleared; those that exclude it are cleared, and so is what needs it. */
function ticked(
  lines: readonly CarriedLine[],
  now: readonly string[],
  line: CarriedLine,
): string[] {
  if (now.includes(line.id))
    return now.filter((id) => id !== line.id && lines.find((l) => l.id === id)?.needs !== line.id);
  const others = lines.filter((l) => l.group !== null && l.group === line.group).map((l) => l.id);
  return [...now.filter((id) => !others.includes(id)), line.id];
}
const proposedOf = (lines: readonly CarriedLine[]): string[] =>
  lines.filter((l) => l.proposed).map((l) => l.id);

function FieldLines({
  field,
  now,
  readOnly,
  onTick,
}: {
  field: FieldHandsOn;
  now: readonly string[];
  readOnly: boolean;
  onTick: (line: CarriedLine) => void;
}) {
  const { words } = useUnits();
  return (
    <Scrolled label={`What ${field.name} hands on, line by line`}>
      <table className="ruled max-w-[62rem]">
        <thead>
          <tr>
            <th>Take</th>
            <th>{field.from}</th>
            <th>in {field.to}</th>
          </tr>
        </thead>
        <tbody>
          {field.lines.map((line) => {
            const waits = line.needs !== null && !now.includes(line.needs);
            return (
              <tr key={line.id} className={line.state === 'offered' ? '' : 'text-faint'}>
                <td>
                  {line.state === 'offered' ? (
                    <input
                      type="checkbox"
                      className="size-4 accent-[var(--ink)]"
                      aria-label={`${field.name}: ${words(line.title)}`}
                      disabled={readOnly || waits}
                      checked={now.includes(line.id)}
                      onChange={() => onTick(line)}
                    />
                  ) : (
                    <span className="note">{STATE_WORDS[line.state]}</span>
                  )}
                </td>
                <th scope="row">{words(line.title)}</th>
                <td>{words(line.says)}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </Scrolled>
  );
}

/** What a farm's fields hand to their next season: each line to take or to leave. */
export function NextSeason({
  fields,
  readOnly,
  open,
}: {
  fields: readonly FieldHandsOn[];
  readOnly: boolean;
  open: Open;
}) {
  const router = useRouter();
  const hydrated = useHydrated();
  const [changed, setChanged] = useState<Ticks>({});
  const [left, setLeft] = useState<readonly string[]>([]);
  const [said, setSaid] = useState<{ text: string; ok: boolean } | null>(null);
  const [pending, start] = useTransition();
  const ticks = (f: FieldHandsOn) => changed[f.seasonId] ?? proposedOf(f.lines);
  const chosen = fields.filter((f) => !left.includes(f.seasonId));
  const news = chosen.filter((f) => !f.opened || ticks(f).length > 0);
  const go = () =>
    start(async () => {
      const reply = await open(news.map((f) => ({ seasonId: f.seasonId, take: [...ticks(f)] })));
      setChanged({});
      setSaid(
        reply.ok
          ? {
              ok: true,
              text: [
                ...(reply.value.opened > 0 ? [`Opened for ${counted(reply.value.opened)}.`] : []),
                ...(reply.value.added > 0 ? [`Added to ${counted(reply.value.added)}.`] : []),
              ].join(' '),
            }
          : { ok: false, text: reply.refusal.message },
      );
      router.refresh();
    });
  const begins = [...new Set(news.filter((f) => !f.opened).map((f) => f.to))];
  return (
    <>
      {fields.map((f) => (
        <Part
          key={f.seasonId}
          title={f.name}
          aside={`${f.from}${f.cropName ? `, ${f.cropName}` : ', no crop'}${f.opened ? `; ${f.to} stands already` : ''}`}
        >
          {fields.length > 1 && (
            <label className="mb-1 inline-flex items-center gap-1.5">
              <input
                type="checkbox"
                className="size-4 accent-[var(--ink)]"
                disabled={readOnly}
                checked={!left.includes(f.seasonId)}
                onChange={() =>
                  setLeft((l) =>
                    l.includes(f.seasonId) ? l.filter((x) => x !== f.seasonId) : [...l, f.seasonId],
                  )
                }
              />
              {f.opened ? `add to ${f.to}` : `open ${f.to}`}
            </label>
          )}
          {!left.includes(f.seasonId) && (
            <FieldLines
              field={f}
              now={ticks(f)}
              readOnly={readOnly || pending || !hydrated}
              onTick={(line) =>
                setChanged((c) => ({ ...c, [f.seasonId]: ticked(f.lines, ticks(f), line) }))
              }
            />
          )}
          {f.opened && (
            <p className="note mt-1">
              <Link href={`/fields/${f.fieldId}/crop?season=${encodeURIComponent(f.to)}` as Route}>
                {f.name} {f.to}
              </Link>
            </p>
          )}
        </Part>
      ))}
      <p className="note max-w-[46rem]">
        N that was left over on paper, passes that were only planned and a yield that was only hoped
        for are never handed on. A green manure grown in between is entered at Crop of the new
        season.
      </p>
      {!readOnly && (
        <p className="mt-2 flex flex-wrap items-baseline gap-3">
          <button
            type="button"
            className="button button-strong"
            disabled={pending || !hydrated || news.length === 0}
            onClick={go}
          >
            {begins.length > 0
              ? `Open ${begins.join(' and ')} for ${counted(news.length)}`
              : `Add to ${counted(news.length)}`}
          </button>
          <span
            role={said?.ok === false ? 'alert' : 'status'}
            className={said?.ok ? '' : 'problem'}
          >
            {said?.text}
          </span>
        </p>
      )}
    </>
  );
}
const counted = (n: number): string => `${n} ${n === 1 ? 'field' : 'fields'}`;
