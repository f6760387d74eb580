'use client';

import { useState } from 'react';
import { foliarGroups } from '@/core/book/mixes';
import { twoTankPlan } from '@/core/nitrogen/tank';
import { dateInWords } from '@/core/quantity/calendar';
import { Refusal } from '@/core/quantity/refusal';
import { leafSprays, liquidDays, type LiquidDay, type Told } from '@/core/views/liquids';
import { ChoiceBox } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { Scrolled } from '../figure/Scrolled';
import { useUnits } from '../frame/units';
import { useBook, useWholeAssessment } from '../workspace/context';

const WATER = { label: 'Water of the spray', unit: 'L/ha', min: 10, max: 5000 };
const LEVEL = { stop: 'Stop', caution: 'Caution', info: 'Note' } as const;

/** Liquids that go out on one day, as if they shared a tank; and what sprays on the leaf carry. */
export function Liquids() {
  const a = useWholeAssessment();
  const book = useBook();
  const { show, unit } = useUnits();
  const [water, setWater] = useState<number | null>(null);
  const [leaves, setLeaves] = useState<string | null>(null);
  const days = liquidDays(book, a);
  const onLeaf = a.supply.passes.some(
    (p) => p.pass.placementId === 'foliar_spray' && p.pass.status === 'planned',
  );
  if (days.length === 0 && !onLeaf) return null;
  return (
    <details className="mt-3" data-testid="liquids">
      <summary className="cursor-pointer font-bold">Liquids and sprays of the plan</summary>
      {days.map((d) => (
        <div key={d.date} className="mt-1">
          <h3>
            {dateInWords(d.date)}
            {d.parts.length > 1 && ', if they go into one tank'}
          </h3>
          <Scrolled label={`Liquids of ${dateInWords(d.date)}`}>
            <table className="ruled max-w-[40rem]">
              <thead>
                <tr>
                  <th>{d.parts.length > 1 ? 'Into the tank in this order' : 'Liquid'}</th>
                  <th className="num">{unit('liquid_rate')}</th>
                  <th className="num">kg/L</th>
                </tr>
              </thead>
              <tbody>
                {d.parts.map((p) => (
                  <tr key={p.id}>
                    <th scope="row" className="font-normal">
                      {p.name}
                    </th>
                    <td className="num">{show(p.lHa, 'liquid_rate')}</td>
                    <td className="num">{p.densityKgL.toFixed(2)}</td>
                  </tr>
                ))}
                {d.parts.length > 1 && (
                  <tr className="sum">
                    <th scope="row">the mix</th>
                    <td className="num">
                      {show(
                        d.parts.reduce((s, p) => s + p.lHa, 0),
                        'liquid_rate',
                      )}
                    </td>
                    <td className="num">{d.mix.densityKgL.toFixed(2)}</td>
                  </tr>
                )}
              </tbody>
            </table>
          </Scrolled>
          <Words list={d.words} />
          {d.parts.length > 1 && <TwoTanks day={d} />}
        </div>
      ))}
      {onLeaf && (
        <div className="mt-2" data-testid="leaf-sprays">
          <h3>On the leaf</h3>
          <div className="flex flex-wrap items-baseline gap-2">
            <FigureBox
              label="Water of the spray"
              optional
              value={water}
              range={WATER}
              onValue={setWater}
            />
            <ChoiceBox
              label="Sprayed on"
              value={leaves}
              empty="not said: no burn limit"
              options={foliarGroups().map((g) => ({ value: g, label: g.replaceAll('_', ' ') }))}
              onValue={setLeaves}
            />
          </div>
          {water === null && <p className="note">The water of the spray first.</p>}
          {leafSprays(book, a, { waterLHa: water, leaves }).map((s) => (
            <div key={s.id}>
              <h4>
                {s.name}, {dateInWords(s.date)}
              </h4>
              <Words list={s.words} />
            </div>
          ))}
        </div>
      )}
      <p className="note max-w-[52rem]">
        Acid into water, never water into acid; thiosulphate never with acid. Goggles and gloves.
        The label and the jar test rank above this page.
      </p>
    </details>
  );
}

function Words({ list }: { list: Told[] }) {
  const { words } = useUnits();
  return (
    <ul className="max-w-[52rem]">
      {list.map((w) => (
        <li key={words(w.words)} className={w.level === 'info' ? '' : 'problem'}>
          {w.level !== 'info' && `${LEVEL[w.level]}: `}
          {words(w.words)}
        </li>
      ))}
    </ul>
  );
}

/** Two tanks on one toolbar: flows, and where to stop so that both are empty together. */
function TwoTanks({ day }: { day: LiquidDay }) {
  const book = useBook();
  const [swathM, setSwath] = useState<number | null>(null);
  const [speedKmH, setSpeed] = useState<number | null>(null);
  const [outlets, setOutlets] = useState<number | null>(null);
  const [tankL, setTank] = useState<number | null>(null);
  const first = day.parts[0];
  const said = swathM !== null && speedKmH !== null && outlets !== null && tankL !== null;
  const planOrWhy = (() => {
    if (!said || !first) return null;
    try {
      return twoTankPlan(book, {
        swathM,
        speedKmH,
        outlets,
        // Tanks in the ratio of their rates are empty together.
        tanks: day.parts.map((p) => ({
          productId: p.productId,
          lHa: p.lHa,
          tankL: (tankL * p.lHa) / first.lHa,
        })),
      });
    } catch (e) {
      if (e instanceof Refusal) return e.message;
      throw e;
    }
  })();
  return (
    <details data-testid="two-tanks">
      <summary className="note cursor-pointer">A tank and a pump for each</summary>
      <div className="flex flex-wrap items-baseline gap-2">
        <FigureBox
          label="Swath"
          optional
          value={swathM}
          range={{ label: 'Swath', unit: 'm', min: 0.5, max: 60 }}
          onValue={setSwath}
        />
        <FigureBox
          label="Speed"
          optional
          value={speedKmH}
          range={{ label: 'Speed', unit: 'km/h', min: 1, max: 40 }}
          onValue={setSpeed}
        />
        <FigureBox
          label="Outlets"
          optional
          value={outlets}
          range={{ label: 'Outlets', unit: '', min: 1, max: 200 }}
          onValue={(v) => setOutlets(v === null ? null : Math.round(v))}
        />
        <FigureBox
          label={`Tank of ${first?.name ?? 'the first'}`}
          optional
          value={tankL}
          range={{ label: 'Tank', unit: 'L', min: 10, max: 50_000 }}
          onValue={setTank}
        />
      </div>
      {typeof planOrWhy === 'string' && (
        <p role="alert" className="problem">
          {planOrWhy}
        </p>
      )}
      {planOrWhy && typeof planOrWhy !== 'string' && first && tankL !== null && (
        <ul className="max-w-[52rem]">
          {day.parts.map((p) => {
            const t = planOrWhy.tanks[p.productId];
            return t ? (
              <li key={p.id}>
                {p.name}: a tank of {((tankL * p.lHa) / first.lHa).toFixed(0)} L,{' '}
                {t.lMinPerOutlet.toFixed(2)} L/min at each outlet; orifice for{' '}
                {t.waterEquivalentLMin.toFixed(2)} L/min of water.
              </li>
            ) : null;
          })}
          <li>
            Both are empty after {planOrWhy.haPerStop.toFixed(1)} ha;{' '}
            {planOrWhy.workRateHaH.toFixed(1)} ha an hour. Look at each pump’s range at the slowest
            and the fastest speed.
          </li>
        </ul>
      )}
    </details>
  );
}
