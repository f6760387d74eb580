'use client';

import { proxy } from 'comlink';
import { useState } from 'react';
import { heldAside, MOST_OTHERS } from '@/core/document/others';
import { dateInWords } from '@/core/quantity/calendar';
import type { SplitAdvised } from '@/core/views/splitAdvice';
import { useReckoner } from '../farm/useReckoner';
import { FigureBox } from '../figure/FigureBox';
import { Scrolled } from '../figure/Scrolled';
import { useUnits } from '../frame/units';
import { lineId, useEdit, useWholePlan } from '../workspace/context';

const RISK = { label: 'Years that may end short', unit: '%', min: 1, max: 50 };

/**
 * Number, dates and sizes of the passes, searched over weather years: told with its reasons, to be
 * taken, held beside the plan, or left.
 */
export function SplitAdvisor({ productId }: { productId: string }) {
  const plan = useWholePlan();
  const { edit, readOnly } = useEdit();
  const [riskPct, setRiskPct] = useState(10);
  const { value, running, failed, start, cancel } = useReckoner<SplitAdvised | string>();
  const [left, setLeft] = useState(false);
  if (readOnly) return null;
  const search = () => {
    setLeft(false);
    start((r, done) =>
      r.split(plan, { productId, risk: riskPct / 100, id: lineId() }, proxy(done)),
    );
  };
  return (
    <div className="mb-2" data-testid="split-advisor">
      <p className="flex flex-wrap items-baseline gap-2">
        <button type="button" className="button" onClick={search}>
          Search dates and sizes over weather years
        </button>
        <FigureBox
          label="Years that may end short"
          value={riskPct}
          range={RISK}
          onValue={(v) => v !== null && setRiskPct(v)}
        />
        <span role="status" className="note">
          {running !== null && (
            <>
              {running} ways tried{' '}
              <button type="button" className="plain" onClick={cancel}>
                stop
              </button>
            </>
          )}
          {failed}
        </span>
      </p>
      {typeof value === 'string' && !left && (
        <p role="alert" className="problem">
          {value}
        </p>
      )}
      {value !== null && typeof value !== 'string' && !left && running === null && (
        <Advised
          found={value}
          take={() => {
            edit((p) => ({
              ...p,
              passes: [
                ...p.passes.filter((x) => x.status === 'done'),
                ...value.passes.map((x) => x.pass),
              ],
            }));
            setLeft(true);
          }}
          hold={
            plan.others.length < MOST_OTHERS
              ? () => {
                  edit((p) => ({
                    ...p,
                    others: [
                      ...p.others,
                      heldAside(
                        { ...p, passes: value.passes.map((x) => x.pass) },
                        lineId(),
                        `searched, ${value.passes.length} ${value.passes.length === 1 ? 'pass' : 'passes'}`,
                      ),
                    ],
                  }));
                  setLeft(true);
                }
              : null
          }
          leave={() => setLeft(true)}
        />
      )}
    </div>
  );
}

function Advised({
  found,
  take,
  hold,
  leave,
}: {
  found: SplitAdvised;
  take: () => void;
  hold: (() => void) | null;
  leave: () => void;
}) {
  const { show, unit, words } = useUnits();
  const kg = (v: number) => show(v, 'nutrient_rate');
  const percent = (share: number) => Math.round(100 * share);
  return (
    <div className="border-l-4 border-rule pl-3" data-testid="split-advised">
      <ul className="max-w-[52rem] list-disc pl-5">
        {found.words.map((w) => (
          <li key={words(w)}>{words(w)}</li>
        ))}
      </ul>
      <Scrolled label="Proposed split">
        <table className="ruled mt-1 max-w-[52rem]">
          <thead>
            <tr>
              <th>Pass</th>
              <th>Date</th>
              <th>may go out</th>
              <th>by the stages alone</th>
              <th className="num">N, {unit('nutrient_rate')}</th>
              <th className="num">there</th>
            </tr>
          </thead>
          <tbody>
            {found.passes.map((p) => (
              <tr key={p.pass.id}>
                <th scope="row">{p.name}</th>
                <td>{dateInWords(p.date)}</td>
                <td className="note">
                  {p.from <= p.to ? `${dateInWords(p.from)} to ${dateInWords(p.to)}` : 'that day'}
                </td>
                <td>{dateInWords(p.startDate)}</td>
                <td className="num">{kg(p.nKgHa)}</td>
                <td className="num">{kg(p.startKgHa)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Scrolled>
      <p className="note">
        {found.advice.stopped ? 'Stopped: the best so far. ' : ''}
        Short in {percent(found.advice.best.shortShare)} % of {found.advice.years} years, loses{' '}
        {kg(found.advice.best.loss.p10)} to {kg(found.advice.best.loss.p90)} {unit('nutrient_rate')}
        ; by the stages alone {percent(found.advice.start.shortShare)} %,{' '}
        {kg(found.advice.start.loss.p10)} to {kg(found.advice.start.loss.p90)}. {found.advice.tried}{' '}
        ways tried, {found.advice.steps} taken. Within stages, largest doses, closed periods, the
        legal ceiling and the run-down date; what was spread stays.
        {found.unplacedKgHa > 0 && ` ${kg(found.unplacedKgHa)} could not be placed: add a pass.`}
      </p>
      <p className="mt-1 flex flex-wrap gap-2">
        <button type="button" className="button button-strong" onClick={take}>
          Take this split
        </button>
        {hold && (
          <button type="button" className="button" onClick={hold}>
            Hold it beside the plan
          </button>
        )}
        <button type="button" className="button" onClick={leave}>
          Leave it
        </button>
      </p>
    </div>
  );
}
