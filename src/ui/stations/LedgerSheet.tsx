'use client';

import { useMemo, useState } from 'react';
import { dateInWords } from '@/core/quantity/calendar';
import type { UnknownCredit } from '@/core/document/leftDocument';
import type { Step } from '@/core/why/step';
import { NUTRIENT_KEYS, type LedgerLine, type NutrientKey } from '@/core/lines/line';
import { likely } from '@/core/assessment/placed';
import { wholeSheet, type BalanceRow } from '@/core/views/wholeKilograms';
import { Live } from '../figure/Live';
import { WhyFigure } from '../frame/why';
import { useUnits } from '../frame/units';
import { useAssessed, useEdit } from '../workspace/context';

const SYMBOL: Record<NutrientKey, string> = { n: 'N', p: 'P', k: 'K', s: 'S' };
const signedText = (v: string): string => v.replace('-', '−');
const MAY_STRIKE = ['credit', 'applied', 'planned'];

function StrikeButton({ line }: { line: LedgerLine }) {
  const { edit } = useEdit();
  const [asking, setAsking] = useState(false);
  const [reason, setReason] = useState('');
  if (line.struck !== null)
    return (
      <button
        type="button"
        className="plain note"
        onClick={() => edit((p) => ({ ...p, struck: p.struck.filter((s) => s.line !== line.id) }))}
      >
        put back
      </button>
    );
  if (!asking)
    return (
      <button type="button" className="plain note" onClick={() => setAsking(true)}>
        strike out
      </button>
    );
  const short = reason.trim().length < 3;
  return (
    <form
      className="inline-flex flex-wrap items-baseline gap-1"
      onSubmit={(e) => {
        e.preventDefault();
        if (short) return;
        edit((p) => ({
          ...p,
          struck: [
            ...p.struck.filter((s) => s.line !== line.id),
            { line: line.id, reason: reason.trim() },
          ],
        }));
        setAsking(false);
      }}
    >
      <label className="note">
        Reason{' '}
        <input
          className="box w-44"
          autoFocus
          value={reason}
          onChange={(e) => setReason(e.target.value)}
        />
      </label>
      <button type="submit" className="button" disabled={short}>
        Strike out
      </button>
      <button type="button" className="plain note" onClick={() => setAsking(false)}>
        leave it
      </button>
    </form>
  );
}

const TAKE = [
  ['low', 'the low end'],
  ['middle', 'the middle'],
] as const;
/** What is usual of a credit that nobody knows, how to find out, and a figure to reckon with. */
function NotKnown({ line, usual }: { line: LedgerLine; usual: NonNullable<LedgerLine['usual']> }) {
  const { edit, readOnly } = useEdit();
  const { words } = useUnits();
  const take = (how: 'low' | 'middle') =>
    edit((p) => ({
      ...p,
      assumed: [
        ...p.assumed.filter((t) => t.id !== line.id),
        { id: line.id as UnknownCredit, take: how, kgHa: null },
      ],
    }));
  return (
    <details className="inline">
      <summary className="plain note inline cursor-pointer">find out</summary>
      <span className="note block">
        {usual.findOut}
        {usual.cost > 0 && `; costs about as much as ${usual.cost} kg N for the field`}.
      </span>
      {!readOnly && (
        <span className="flex flex-wrap gap-2">
          {TAKE.map(([how, name]) => (
            <button key={how} type="button" className="button" onClick={() => take(how)}>
              Assume {name} <span className="sr-only">of {words(line.label)}</span>
            </button>
          ))}
        </span>
      )}
    </details>
  );
}
/** A figure that somebody assumed can be taken back. */
function Assumed({ line }: { line: LedgerLine }) {
  const { edit } = useEdit();
  const { words } = useUnits();
  return (
    <button
      type="button"
      className="plain note"
      onClick={() => edit((p) => ({ ...p, assumed: p.assumed.filter((t) => t.id !== line.id) }))}
    >
      not known after all <span className="sr-only">({words(line.label)})</span>
    </button>
  );
}

const END_CLASS: Record<BalanceRow['kind'], string> = {
  passes: '',
  left: '',
  still_to_apply: 'sum',
  over: 'total',
};
function EndRow({
  row,
  told,
  step,
  waits,
}: {
  row: BalanceRow;
  told: (id: string, x: NutrientKey, exact: number | null) => string;
  step: (x: NutrientKey) => Step | undefined;
  /** Pays only once the ground is put right. */
  waits: boolean;
}) {
  const { words } = useUnits();
  const end = row.kind === 'still_to_apply' || row.kind === 'over';
  return (
    <tr className={`${END_CLASS[row.kind]} ${waits && end ? 'paler' : ''}`} data-testid={row.id}>
      <th scope="row">{words(row.label)}</th>
      <td />
      {NUTRIENT_KEYS.map((x) => {
        const text = signedText(told(row.id, x, row.exact[x]));
        return (
          <td key={x} className={`num ${row.kind === 'over' && text !== '0' ? 'text-hot' : ''}`}>
            {end ? (
              <WhyFigure step={step(x)} label={`${words(row.label)}, ${SYMBOL[x]} ${text}`}>
                <Live text={text} />
              </WhyFigure>
            ) : (
              <Live text={text} />
            )}
          </td>
        );
      })}
    </tr>
  );
}

/**
 * The ruled sheet: requirement, what is found already, what is planned and left out, and what is
 * still to apply, for N, P, K and S. Whole figures that add up.
 */
export function LedgerSheet({ strike = false }: { strike?: boolean }) {
  'use memo';
  const a = useAssessed('caps', 'figures', 'lines', 'soilFirst', 'sums', 'supply', 'uncertainty');
  const { readOnly } = useEdit();
  const { show, unit, system, words } = useUnits();
  const { amounts, rows } = useMemo(() => wholeSheet(a), [a]);
  if (a.lines.length === 0)
    return <p className="note">Choose a crop and a yield goal, and the sheet fills itself.</p>;
  // In kg/ha the rounded lines add up by largest remainder; another unit is converted from the
  // exact figure.
  const told = (id: string, x: NutrientKey, exact: number | null): string => {
    const whole = amounts.get(id)?.[x];
    if (whole === null || whole === undefined || exact === null) return '·';
    return system === 'metric' ? String(whole) : show(exact, 'nutrient_rate');
  };
  const cell = (l: LedgerLine, x: NutrientKey): string =>
    told(
      l.id,
      x,
      l[x] === null ? null : (l.kind === 'requirement' || l.kind === 'debit' ? 1 : -1) * l[x],
    );
  const shown = (v: number) =>
    system === 'metric' ? String(Math.round(v)) : show(v, 'nutrient_rate');
  const step = (x: NutrientKey) => a.figures.find((f) => f.id === `balance.${x}`);
  const { n } = a.sums;
  const open = likely(n);
  return (
    <div className="overflow-x-auto">
      <table className="ruled min-w-[34rem]" data-testid="ledger">
        <thead>
          <tr>
            <th>{unit('nutrient_rate')}</th>
            <th>Evidence</th>
            {NUTRIENT_KEYS.map((x) => (
              <th key={x} className="num" style={{ color: `var(--${x})` }}>
                {SYMBOL[x]}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {a.lines.map((l) => (
            <tr
              key={l.id}
              className={
                l.struck !== null ? 'line-through decoration-1' : l.usual ? 'text-faint' : ''
              }
            >
              <th scope="row">
                {words(l.label)}
                <span className="note no-underline">
                  {' '}
                  {words(l.detail)}
                  {l.date ? `, ${dateInWords(l.date)}` : ''}
                </span>
                {l.struck !== null && <span className="note"> struck out: {l.struck}</span>}{' '}
                {l.usual && <NotKnown line={l} usual={l.usual} />}
                {!readOnly && l.evidence === 'assumed' && <Assumed line={l} />}
                {strike &&
                  !readOnly &&
                  !l.usual &&
                  l.evidence !== 'model' &&
                  MAY_STRIKE.includes(l.kind) && <StrikeButton line={l} />}
              </th>
              <td className="note whitespace-nowrap">{l.evidence}</td>
              {NUTRIENT_KEYS.map((x) => (
                <td key={x} className="num">
                  {l.struck === null ? (
                    <WhyFigure
                      step={l.why[x]}
                      label={`${words(l.label)}, ${SYMBOL[x]} ${cell(l, x)}`}
                    >
                      <Live text={signedText(cell(l, x))} />
                    </WhyFigure>
                  ) : (
                    '·'
                  )}
                </td>
              ))}
            </tr>
          ))}
          {rows.map((r) => (
            <EndRow key={r.id} row={r} told={told} step={step} waits={a.soilFirst !== null} />
          ))}
        </tbody>
      </table>
      <p className="note mt-1">
        {n.unknown.high > 0 &&
          n.stillToApply > 0 &&
          `N still to apply is at most ${shown(n.stillToApply)} ${unit('nutrient_rate')}; likely ${shown(open.low)} to ${shown(open.high)}. `}
        {n.net >= 0.5 &&
          a.uncertainty.sdNetKgHa >= 0.5 &&
          `The net requirement of N is ${shown(Math.max(0, n.net))}, give or take ${shown(a.uncertainty.sdNetKgHa)} ${unit('nutrient_rate')}${a.uncertainty.testFirst ? `; most of the doubt lies in "${a.uncertainty.testFirst}"` : ''}.`}
        {a.caps.binding &&
          ` ${a.caps.binding === 'legal_cap' ? 'The legal ceiling' : 'The crop’s ceiling'} allows ${shown(a.caps.nAllowedKgHa)}.`}
      </p>
    </div>
  );
}
