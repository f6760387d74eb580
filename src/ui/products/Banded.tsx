'use client';

import { bandedRates } from '@/core/views/banded';
import { Scrolled } from '../figure/Scrolled';
import { useUnits } from '../frame/units';
import { useBook, useWholeAssessment, useWholePlan } from '../workspace/context';

/** P and K that are still to apply, in a band in place of broadcast. */
export function Banded() {
  const plan = useWholePlan();
  const a = useWholeAssessment();
  const book = useBook();
  const { show, unit, words } = useUnits();
  const rates = bandedRates(book, plan, a);
  if (rates.length === 0) return null;
  const kg = (v: number) => show(v, 'nutrient_rate');
  return (
    <details className="mt-3" data-testid="banded">
      <summary className="cursor-pointer font-bold">
        P and K in a band in place of broadcast
      </summary>
      <Scrolled label="P and K in a band">
        <table className="ruled mt-1 max-w-[52rem]">
          <thead>
            <tr>
              <th>{unit('nutrient_rate')}</th>
              <th className="num">broadcast, worked in</th>
              {rates[0]?.bands.map((b) => (
                <th key={b.placementId} className="num">
                  {b.name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rates.map((r) => (
              <tr key={r.nutrient}>
                <th scope="row">
                  {r.nutrient.toUpperCase()}, the ground tests {r.testClass}
                </th>
                <td className="num">{kg(r.broadcastKgHa)}</td>
                {r.bands.map((b) => (
                  <td key={b.placementId} className="num">
                    {kg(b.rateKgHa)}
                    {b.savesKgHa >= 0.5 && (
                      <span className="note block">saves {kg(b.savesKgHa)}</span>
                    )}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </Scrolled>
      {rates.map((r) => (
        <p key={r.nutrient} className="max-w-[52rem]">
          {words(r.words)}
        </p>
      ))}
      <p className="note max-w-[52rem]">
        Never less than half of what is broadcast. The sheet keeps asking for the broadcast amount:
        to band less is your choice, left out with its reason. Consensus, medium confidence.
      </p>
    </details>
  );
}
