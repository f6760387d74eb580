'use client';

import type { Estimate } from '@/core/ground/extractants';
import { Scrolled } from '../figure/Scrolled';
import { extractantName, nutrientSymbol } from '@/core/book/soilTests';
import { RangeTrough } from '../RangeTrough';
import { words } from '../figure/fields';
import { useUnits } from '../frame/units';
import { WhyFigure } from '../frame/why';
import { useAssessed } from '../workspace/context';

const DECIDE = ['very_low', 'low'];

/** A reading on other scales, folded away: it must never be taken for a test. */
function Estimates({ list }: { list: Estimate[] }) {
  const { words: say } = useUnits();
  if (list.length === 0) return null;
  return (
    <details className="text-faint">
      <summary className="cursor-pointer">estimates on other tests</summary>
      <ul>
        {list.map((e) => (
          <li key={e.to} className="note">
            <WhyFigure step={e.why} label={`Estimate, ${extractantName(e.to)}`}>
              {extractantName(e.to)}: about {e.value.toFixed(0)}
            </WhyFigure>
            . {say(e.warning.message)} {say(e.warning.action)}
          </li>
        ))}
      </ul>
    </details>
  );
}

/** Each reading as a grain on its trough: what this ground holds, at a glance. */
export function GroundList() {
  const a = useAssessed('ground');
  const { planning, gate, readings } = a.ground;
  return (
    <Scrolled label="Readings in their ranges">
      <table className="ruled">
        <caption className="sr-only">Readings of the soil against their ranges</caption>
        <thead className="sr-only">
          <tr>
            <th>Reading</th>
            <th>Range</th>
            <th>Value</th>
            <th>Class</th>
          </tr>
        </thead>
        <tbody>
          {planning && (
            <tr>
              <th scope="row">pH to plan with</th>
              <td>
                {gate && (
                  <RangeTrough
                    value={planning.ph}
                    low={gate.actBelowPh}
                    high={gate.maxPreferredPh}
                    label="pH"
                    word={gate.verdict}
                    decide={gate.level === 'stop' || gate.level === 'caution'}
                  />
                )}
              </td>
              <td className="font-bold">
                <WhyFigure step={gate?.why ?? planning.why} label={`pH ${planning.ph.toFixed(1)}`}>
                  {planning.ph.toFixed(1)}
                </WhyFigure>
              </td>
              <td
                className={
                  gate && gate.level !== 'ok' && gate.level !== 'info' ? 'text-hot' : 'text-faint'
                }
              >
                {gate
                  ? gate.level === 'stop'
                    ? 'stop: lime first'
                    : gate.level === 'caution'
                      ? 'lime advised'
                      : gate.level === 'info'
                        ? gate.verdict.split(':')[0]
                        : 'sufficient'
                  : 'choose a crop to class it'}
              </td>
            </tr>
          )}
          {readings.map(({ reading: r, classified: c, refused, estimates }, i) => (
            <tr key={`${r.nutrient}-${i}`}>
              <th scope="row">
                {nutrientSymbol(r.nutrient)}, {extractantName(r.extractant)}
              </th>
              <td>
                {c && (
                  <RangeTrough
                    value={c.value}
                    low={c.limits[1]}
                    high={c.limits[2]}
                    label={nutrientSymbol(r.nutrient)}
                    word={words(c.cls)}
                    decide={DECIDE.includes(c.cls)}
                  />
                )}
              </td>
              <td className="font-bold whitespace-nowrap">
                <WhyFigure step={c?.why} label={`${nutrientSymbol(r.nutrient)} ${r.value}`}>
                  {r.belowDetection ? 'under ' : ''}
                  {r.value} {words(r.unit).replace(' ', '/')}
                </WhyFigure>
              </td>
              <td className={c ? (DECIDE.includes(c.cls) ? 'text-hot' : 'text-faint') : 'problem'}>
                {c ? words(c.cls) : refused}
                <Estimates list={estimates} />
              </td>
            </tr>
          ))}
          {!planning && readings.length === 0 && (
            <tr>
              <td colSpan={4} className="note">
                No soil test yet.
              </td>
            </tr>
          )}
        </tbody>
      </table>
    </Scrolled>
  );
}
