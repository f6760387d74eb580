'use client';

import { CircleAlert, OctagonX } from 'lucide-react';
import { useState } from 'react';
import type { Caution } from '@/core/assessment/triage';
import type { Station } from '@/core/lines/problem';
import { dateInWords } from '@/core/quantity/calendar';
import { DateBox } from './figure/DateBox';
import { TextBox } from './figure/TextBox';
import { useUnits } from './frame/units';
import { useAssessed, useEdit, usePlan } from './workspace/context';

const MARK = {
  stop: <OctagonX size={16} aria-hidden className="mt-0.5 flex-none" />,
  caution: <CircleAlert size={16} aria-hidden className="mt-0.5 flex-none" />,
  note: null,
} as const;
const WORD = { stop: 'Stop', caution: 'Caution', note: 'Note' } as const;
const REASON_LETTERS = 10;

/** What somebody answers to a caution: it stays with a reason, or waits until a day. */
function Answer({ caution: c, close }: { caution: Caution; close: () => void }) {
  const { asOf } = usePlan('asOf');
  const { edit } = useEdit();
  const [reason, setReason] = useState('');
  const [until, setUntil] = useState<string | null>(null);
  const [asked, setAsked] = useState(false);
  const short = reason.trim().length < REASON_LETTERS;
  const put = (state: 'accepted' | 'postponed') => {
    edit((p) => ({
      ...p,
      answers: [
        ...p.answers.filter((a) => a.caution !== c.key),
        {
          caution: c.key,
          state,
          words: state === 'accepted' ? reason.trim() : null,
          by: null,
          on: p.asOf,
          until: state === 'postponed' ? until : null,
          kgHa: c.stake ? Math.round(c.stake.kgHa * 100) / 100 : null,
        },
      ],
    }));
    close();
  };
  return (
    <div className="fields my-2">
      <TextBox
        label="Accepted, because"
        wide
        max={200}
        value={reason}
        onValue={setReason}
        problem={asked && short ? `Say why, in ${REASON_LETTERS} letters or more.` : null}
      />
      <button
        type="button"
        className="button"
        onClick={() => (short ? setAsked(true) : put('accepted'))}
      >
        Accept it
      </button>
      {c.level === 'caution' && (
        <>
          <DateBox
            label="Or put off until"
            value={until}
            min={asOf}
            {...(c.by && c.by >= asOf ? { max: c.by } : {})}
            onValue={setUntil}
          />
          <button
            type="button"
            className="button"
            disabled={until === null || until <= asOf || (c.by !== null && until > c.by)}
            onClick={() => put('postponed')}
          >
            Put it off
          </button>
        </>
      )}
    </div>
  );
}

function Line({ caution: c }: { caution: Caution }) {
  const { words } = useUnits();
  const { edit, readOnly } = useEdit();
  const [answering, setAnswering] = useState(false);
  const reopen = () =>
    edit((p) => ({ ...p, answers: p.answers.filter((a) => a.caution !== c.key) }));
  const hot = c.level !== 'note' && c.state === 'open';
  return (
    <li className={`flex gap-2 border-b border-rule py-1.5 ${hot ? 'text-hot' : ''}`}>
      {hot && MARK[c.level]}
      <div>
        <strong>{WORD[c.level]}.</strong>{' '}
        <span className="text-ink">
          {words(c.warning.message)}{' '}
          <em className="not-italic text-faint">{words(c.warning.action)}</em>
        </span>
        {c.by && <span className="note"> by {dateInWords(c.by)}</span>}
        {c.answer && (
          <p className="note">
            {c.answer.state === 'accepted'
              ? `Accepted ${dateInWords(c.answer.on)}${c.answer.by ? ` by ${c.answer.by}` : ''}: ${c.answer.words}`
              : `Put off until ${dateInWords(c.answer.until ?? c.answer.on)}${c.answer.by ? ` by ${c.answer.by}` : ''}`}{' '}
            {!readOnly && (
              <button type="button" className="plain" onClick={reopen}>
                open again
              </button>
            )}
          </p>
        )}
        <details className="inline-block align-top">
          <summary className="note ml-1 inline cursor-pointer">why</summary>
          <div className="note">
            Rule {c.warning.module} {c.warning.id}
            {c.about.length > 0 && ` on ${c.about.join(', ')}`}
            {c.also.length > 0 && '. Also looked at:'}
            <ul>
              {c.also.map((w, i) => (
                <li key={i}>
                  {words(w.message)} ({w.module} {w.id})
                </li>
              ))}
            </ul>
          </div>
        </details>
        {!readOnly && c.state === 'open' && c.mayAccept && !answering && (
          <button type="button" className="plain note ml-2" onClick={() => setAnswering(true)}>
            accept or put off
          </button>
        )}
        {answering && <Answer caution={c} close={() => setAnswering(false)} />}
      </div>
    </li>
  );
}

const Lines = ({ list }: { list: readonly Caution[] }) => (
  <ul className="max-w-[46rem]">
    {list.map((c) => (
      <Line key={c.key} caution={c} />
    ))}
  </ul>
);
/** Kilograms and money of what is folded away, in one line. */
function sumsOf(list: readonly Caution[], show: (v: number) => string, unit: string): string {
  const money = list.reduce((s, c) => s + (c.money ?? 0), 0);
  const kg = (['n', 'p', 'k', 's'] as const)
    .map((x) => ({
      x,
      kg: list.reduce((s, c) => s + (c.stake?.nutrient === x ? c.stake.kgHa : 0), 0),
    }))
    .filter((s) => s.kg >= 1)
    .map((s) => `${show(s.kg)} ${unit} ${s.x.toUpperCase()}`);
  return [...kg, ...(money >= 1 ? [`worth ${money.toFixed(0)} on the field`] : [])].join(', ');
}

/**
 * The same for one thing that is open, a dressing or a nutrient: all of it stands in one list, what
 * was answered too.
 */
export function CautionsAbout({ about, empty }: { about: (c: Caution) => boolean; empty: string }) {
  const { cautions } = useAssessed('cautions');
  const here = cautions.filter(about);
  return here.length > 0 ? <Lines list={here} /> : <p className="note">{empty}</p>;
}

/**
 * What is to be settled at a station: stops and the cautions that weigh most stand open, smaller
 * ones, notes and what was answered are folded away.
 */
export function Cautions({ station, empty }: { station: Station; empty?: string }) {
  const { cautions } = useAssessed('cautions');
  const { show, unit } = useUnits();
  const here = cautions.filter((c) => c.station === station);
  const shown = here.filter((c) => c.shown);
  const smaller = here.filter((c) => c.level === 'caution' && c.state === 'open' && !c.shown);
  const answered = here.filter((c) => c.state !== 'open');
  const notes = here.filter((c) => c.level === 'note' && c.state === 'open');
  const weight = sumsOf(smaller, (v) => show(v, 'nutrient_rate'), unit('nutrient_rate'));
  const folded: [string, readonly Caution[]][] = [
    [`and ${smaller.length} smaller${weight ? `: ${weight}` : ''}`, smaller],
    [`${answered.length} accepted or put off`, answered],
    [`${notes.length} ${notes.length === 1 ? 'note' : 'notes'}`, notes],
  ];
  return (
    <>
      {shown.length > 0 ? (
        <Lines list={shown} />
      ) : (
        empty && smaller.length === 0 && <p className="note">{empty}</p>
      )}
      {folded.map(
        ([label, list]) =>
          list.length > 0 && (
            <details key={label} className="mt-1">
              <summary className="cursor-pointer">{label}</summary>
              <Lines list={list} />
            </details>
          ),
      )}
    </>
  );
}
