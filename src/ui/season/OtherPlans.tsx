'use client';

import { useEffect, useState } from 'react';
import { exchanged, heldAside, MOST_OTHERS } from '@/core/document/others';
import type { Plan } from '@/core/document/document';
import type { ComparedPlan, Comparison } from '@/core/season/compare';
import type { Spread } from '@/core/season/years';
import { useReckoner } from '../farm/useReckoner';
import { Part } from '../figure/fields';
import { Scrolled } from '../figure/Scrolled';
import { useUnits } from '../frame/units';
import { lineId, useEdit, useWholePlan } from '../workspace/context';

const PAUSE_MS = 900;
const MOST_LETTERS = 120;

/** The plan and others for the same season, weighed in the same weather years. */
export function OtherPlans() {
  const plan = useWholePlan();
  const { edit, readOnly } = useEdit();
  const { value, running, failed, start } = useReckoner<{
    plan: Plan;
    found: Comparison | string;
  }>();
  const { others } = plan;
  useEffect(() => {
    if (others.length === 0) return;
    const timer = setTimeout(
      () => start(async (r) => ({ plan, found: await r.compare(plan, others) })),
      PAUSE_MS,
    );
    return () => clearTimeout(timer);
  }, [plan, others, start]);
  if (readOnly && others.length === 0) return null;
  const found = value && value.plan === plan ? value.found : null;
  return (
    <Part
      title="Another supply beside this plan"
      aside="weighed in the same weather years; the sheet follows the plan alone"
    >
      {others.length > 0 && (
        <p role="status" className="note" data-testid="compare-progress">
          {failed ?? (running !== null || found === null ? 'The plans are being weighed.' : '')}
        </p>
      )}
      {typeof found === 'string' && <p className="note">{found}</p>}
      {found !== null && typeof found !== 'string' && others.length > 0 && <Beside found={found} />}
      {/* Another name, out of another hand or an exchange, is another line. */}
      {others.map((o) => (
        <OtherLine key={`${o.id} ${o.name}`} id={o.id} name={o.name} />
      ))}
      {!readOnly && others.length < MOST_OTHERS && (
        <button
          type="button"
          className="button mt-1"
          onClick={() =>
            edit((p) => ({
              ...p,
              others: [...p.others, heldAside(p, lineId(), `plan ${p.others.length + 2}`)],
            }))
          }
        >
          Hold these passes and dressings beside the plan
        </button>
      )}
      {others.length === 0 && (
        <p className="note">
          Hold what is planned now, then change it: both are weighed in the same years, and either
          can be taken.
        </p>
      )}
    </Part>
  );
}

function OtherLine({ id, name }: { id: string; name: string }) {
  const { edit, readOnly } = useEdit();
  const [typed, setTyped] = useState(name);
  const named = (next: string) =>
    edit((p) => ({ ...p, others: p.others.map((o) => (o.id === id ? { ...o, name: next } : o)) }));
  return (
    <p className="mt-1 flex flex-wrap items-baseline gap-2">
      <label className="inline-flex items-baseline gap-1.5">
        <span>Held as</span>
        <input
          className="box"
          value={typed}
          maxLength={MOST_LETTERS}
          disabled={readOnly}
          onChange={(e) => setTyped(e.target.value)}
          onBlur={() => (typed.trim() === '' ? setTyped(name) : named(typed.trim()))}
        />
      </label>
      {!readOnly && (
        <>
          <button
            type="button"
            className="button"
            onClick={() => edit((p) => exchanged(p, id, `before “${name}”`.slice(0, MOST_LETTERS)))}
          >
            Take “{name}” as the plan
          </button>
          <button
            type="button"
            className="button"
            onClick={() => edit((p) => ({ ...p, others: p.others.filter((o) => o.id !== id) }))}
          >
            Drop “{name}”
          </button>
        </>
      )}
    </p>
  );
}

function Beside({ found }: { found: Comparison }) {
  const { show, unit, words } = useUnits();
  const kg = (v: number) => show(v, 'nutrient_rate');
  const money = (v: number) => show(v, 'price_per_area');
  const middle = (s: Spread | null) => (s === null ? '·' : `${kg(s.p50)} (${kg(s.p90)})`);
  const is = (p: ComparedPlan): string =>
    [
      found.leastLoss === p.id ? 'least loss' : '',
      found.fewestShort === p.id ? 'fewest short years' : '',
      found.cheapest === p.id ? 'cheapest' : '',
    ]
      .filter((x) => x !== '')
      .join(', ');
  const rows: [string, (p: ComparedPlan) => string][] = [
    [`N in passes and dressings, ${unit('nutrient_rate')}`, (p) => kg(p.nKgHa)],
    ['passes', (p) => String(p.passes)],
    [`products, ${unit('price_per_area')}`, (p) => money(p.costHa)],
    ['years in which it ends short, %', (p) => (100 * p.shortShare).toFixed(0)],
    [`to the air, middle (high), ${unit('nutrient_rate')}`, (p) => middle(p.ammonia)],
    ['gas from wet soil', (p) => middle(p.gas)],
    ['leached and run off', (p) => middle(p.leached)],
    ['lost in all', (p) => middle(p.loss)],
    [`what the middle loss is worth, ${unit('price_per_area')}`, (p) => money(p.lossWorthHa)],
    ['nitrate left at harvest', (p) => middle(p.residual)],
    ['best of them in', is],
  ];
  return (
    <>
      <Scrolled label="Plans in the same weather years">
        <table className="ruled max-w-[64rem]" data-testid="compare">
          <thead>
            <tr>
              <th>In the same {found.years} years</th>
              {found.plans.map((p) => (
                <th key={p.id} className="num">
                  {p.name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map(([label, told]) => (
              <tr key={label}>
                <th scope="row">{label}</th>
                {found.plans.map((p) => (
                  <td key={p.id} className="num">
                    {told(p)}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </Scrolled>
      <ul className="mt-1" data-testid="compare-words">
        {found.paired.map((p) => (
          <li key={p.id} className={p.clear ? '' : 'text-faint'}>
            {words(p.words)}
          </li>
        ))}
        {found.notRun.map((n) => (
          <li key={n.name} className="note">
            {n.name}: {n.why}
          </li>
        ))}
      </ul>
    </>
  );
}
