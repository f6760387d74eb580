'use client';

import { useMemo, useState } from 'react';
import { dateInWords } from '@/core/quantity/calendar';
import { NUTRIENT_KEYS, type LedgerLine, type NutrientKey } from '@/core/lines/line';
import { wholeKilograms } from '@/core/views/wholeKilograms';
import { Live } from '../figure/Live';
import { WhyFigure } from '../frame/why';
import { useUnits } from '../frame/units';
import { useAssessed, useEdit } from '../workspace/context';

const SYMBOL: Record<NutrientKey, string> = { n: 'N', p: 'P', k: 'K', s: 'S' };
const signedText = (v: string): string => v.replace('-', '−');
const MAY_STRIKE = ['credit', 'applied'];

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

/** Doses that a spreader still places evenly, kg/ha (chapter 1, 8.5). */
const EVEN_FROM = { n: 15, p: 5, k: 10 } as const;

/**
 * The ruled sheet: requirement, what is found already, and what is still to bring, for N, P, K and
 * S. Whole figures that add up.
 */
export function LedgerSheet({
  withPlan = false,
  strike = false,
}: {
  withPlan?: boolean;
  strike?: boolean;
}) {
  'use memo';
  const a = useAssessed('caps', 'figures', 'lines', 'runDownDate', 'sums', 'uncertainty');
  const { readOnly } = useEdit();
  const { show, unit, system, words } = useUnits();
  const rounded = useMemo(() => wholeKilograms(a.lines), [a.lines]);
  if (a.lines.length === 0)
    return <p className="note">Choose a crop and a yield goal, and the sheet fills itself.</p>;
  // In kg/ha the rounded lines add up by largest remainder; another unit is converted from the
  // exact figure.
  const cell = (l: LedgerLine, x: NutrientKey): string => {
    const whole = rounded.get(l.id)?.[x];
    if (whole === null || whole === undefined) return '·';
    const sign = l.kind === 'requirement' || l.kind === 'debit' ? 1 : -1;
    return system === 'metric' ? String(whole) : show(sign * (l[x] ?? 0), 'nutrient_rate');
  };
  const fixation = a.sums.n.fixation;
  const total = (x: NutrientKey): number =>
    system === 'metric'
      ? [...rounded.values()].reduce((s, r) => s + (r[x] ?? 0), 0) -
        (x === 'n' ? Math.round(fixation) : 0)
      : a.sums[x].net;
  const shown = (v: number) =>
    system === 'metric' ? String(Math.round(v)) : show(v, 'nutrient_rate');
  const step = (x: NutrientKey) => a.figures.find((f) => f.id === `balance.${x}`);
  const over = (v: number) => v < -0.5;
  const little = (['n', 'p', 'k'] as const)
    .filter((x) => a.sums[x].toBring > 0.5 && a.sums[x].toBring < EVEN_FROM[x])
    .map((x) => SYMBOL[x]);
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
            <tr key={l.id} className={l.struck !== null ? 'line-through decoration-1' : ''}>
              <th scope="row">
                {words(l.label)}
                <span className="note no-underline">
                  {' '}
                  {words(l.detail)}
                  {l.date ? `, ${dateInWords(l.date)}` : ''}
                </span>
                {l.struck !== null && <span className="note"> struck out: {l.struck}</span>}{' '}
                {strike && !readOnly && MAY_STRIKE.includes(l.kind) && <StrikeButton line={l} />}
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
          {fixation > 0 && (
            <tr>
              <th scope="row">Fixed from the air by the crop</th>
              <td className="note">by nodules</td>
              <td className="num">−{shown(fixation)}</td>
              <td />
              <td />
              <td />
            </tr>
          )}
          <tr className="sum" data-testid="still-to-bring">
            <th scope="row">Still to bring</th>
            <td />
            {NUTRIENT_KEYS.map((x) => (
              <td key={x} className="num">
                <WhyFigure step={step(x)} label={`Still to bring, ${SYMBOL[x]}`}>
                  <Live text={shown(Math.max(0, total(x)))} />
                </WhyFigure>
              </td>
            ))}
          </tr>
          {NUTRIENT_KEYS.some((x) => over(total(x))) && (
            <tr className="total">
              <th scope="row">Surplus before any fertiliser</th>
              <td />
              {NUTRIENT_KEYS.map((x) => (
                <td key={x} className="num">
                  {over(total(x)) ? shown(-total(x)) : '·'}
                </td>
              ))}
            </tr>
          )}
          {withPlan && (
            <>
              <tr className="total" data-testid="planned">
                <th scope="row">Planned passes</th>
                <td />
                {NUTRIENT_KEYS.map((x) => (
                  <td key={x} className="num">
                    <Live text={shown(a.sums[x].planned)} />
                  </td>
                ))}
              </tr>
              <tr className="total" data-testid="after-plan">
                <th scope="row">Over (+) or short (−) after the plan</th>
                <td />
                {NUTRIENT_KEYS.map((x) => {
                  const v = Math.round(a.sums[x].planned) - total(x);
                  return (
                    <td key={x} className={`num ${Math.abs(v) > 15 ? 'text-hot' : ''}`}>
                      <Live text={`${v > 0 ? '+' : ''}${signedText(shown(v))}`} />
                    </td>
                  );
                })}
              </tr>
            </>
          )}
        </tbody>
      </table>
      <p className="note mt-1">
        N to bring is {shown(a.sums.n.toBring)} ± {shown(a.uncertainty.sdNetKgHa)}{' '}
        {unit('nutrient_rate')}
        {a.uncertainty.testFirst ? `; most of the doubt lies in "${a.uncertainty.testFirst}"` : ''}.
        {a.sums.n.toBring > 0 &&
          ` Low, middle, high: ${[-1, 0, 1].map((k) => shown(Math.max(0, a.sums.n.net + k * a.uncertainty.sdNetKgHa))).join(', ')}.${a.runDownDate ? ' Late N spoils this crop: plan the low figure, and top up in the season if the leaf asks for it.' : ''}`}
        {little.length > 0 &&
          ` ${little.join(' and ')} left to bring ${little.length > 1 ? 'are' : 'is'} below what a spreader places evenly: leave ${little.length > 1 ? 'them' : 'it'} out, or put ${little.length > 1 ? 'them' : 'it'} with the starter.`}
        {a.caps.binding &&
          ` ${a.caps.binding === 'legal_cap' ? 'The legal ceiling' : 'The crop’s ceiling'} allows ${shown(a.caps.nAllowedKgHa)}.`}
      </p>
    </div>
  );
}
