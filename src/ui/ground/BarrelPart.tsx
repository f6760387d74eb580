'use client';

import type { Barrel } from '@/core/views/barrel';
import { Part } from '../figure/fields';
import { useUnits } from '../frame/units';
import { WhyFigure } from '../frame/why';
import { Problems } from '../stations/Problems';
import { Scrolled } from '../figure/Scrolled';
import { editSeason, useAssessed, useEdit, usePlan, useWorkspace } from '../workspace/context';

const W = 560;
const H = 240;
const TOP = 26;
const FLOOR = 200;

/** Staves as high as the yield that each factor allows; the water stands at the shortest. */
function BarrelPicture({ b, acid }: { b: Barrel; acid: boolean }) {
  const width = Math.min(78, (W - 70) / b.staves.length);
  const y = (ry: number) => FLOOR - ry * (FLOOR - TOP);
  const left = 52;
  const right = left + width * b.staves.length;
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      className="w-full max-w-[40rem]"
      role="img"
      aria-label={`Limiting factors: ${b.staves.map((s) => `${s.factor} ${(100 * s.ry).toFixed(0)} %`).join(', ')}`}
    >
      {[0, 0.5, 1].map((t) => (
        <g key={t}>
          <line x1={left - 6} x2={right + 6} y1={y(t)} y2={y(t)} stroke="var(--rule)" />
          <text x={left - 10} y={y(t) + 4} textAnchor="end" fontSize="11" fill="var(--faint)">
            {t * 100} %
          </text>
        </g>
      ))}
      {b.shortest && (
        <rect
          x={left}
          y={y(b.shortest.ry)}
          width={right - left}
          height={FLOOR - y(b.shortest.ry)}
          fill="var(--water-fill)"
          opacity="0.35"
        />
      )}
      {b.staves.map((s, i) => {
        const x = left + i * width;
        const short = s === b.shortest && s.ry < 0.97;
        const hot = (acid && s.factor === 'pH') || short;
        return (
          <g key={s.factor}>
            <path
              d={`M${x + 3} ${FLOOR + 8}V${y(s.ry) + 3}q${(width - 6) / 2} -5 ${width - 6} 0V${FLOOR + 8}Z`}
              fill="var(--fertiliser)"
              fillOpacity="0.55"
              stroke={hot ? 'var(--hot)' : 'var(--ink)'}
              strokeWidth={hot ? 2.6 : 1.3}
            />
            {s.other && (
              <g stroke="var(--ink)" strokeWidth="1.3">
                <line
                  x1={x + width / 2}
                  x2={x + width / 2}
                  y1={y(s.other.low)}
                  y2={y(s.other.high)}
                />
                <line
                  x1={x + width / 2 - 5}
                  x2={x + width / 2 + 5}
                  y1={y(s.other.low)}
                  y2={y(s.other.low)}
                />
                <line
                  x1={x + width / 2 - 5}
                  x2={x + width / 2 + 5}
                  y1={y(s.other.high)}
                  y2={y(s.other.high)}
                />
              </g>
            )}
            <text
              x={x + width / 2}
              y={FLOOR + 26}
              textAnchor="middle"
              fontSize="14"
              fontWeight="700"
              fill="var(--ink)"
            >
              {s.factor}
            </text>
          </g>
        );
      })}
      {[TOP + 34, FLOOR - 22].map((h) => (
        <path
          key={h}
          d={`M${left} ${h}q${(right - left) / 2} 7 ${right - left} 0`}
          fill="none"
          stroke="var(--manure)"
          strokeWidth="3"
          opacity="0.5"
        />
      ))}
    </svg>
  );
}

const span = (low: number, high: number, word: (v: number) => string): string =>
  word(low) === word(high) ? word(low) : `${word(low)} to ${word(high)}`;

/** What limits this field for this crop, pH first; and what money spent elsewhere will not do. */
export function BarrelPart() {
  const plan = usePlan('season');
  const a = useAssessed('ground');
  const { edit, readOnly } = useEdit();
  const parts = useWorkspace((w) => w.parts);
  const { show, unit } = useUnits();
  const b = parts?.barrel;
  const acid = a.ground.gate?.level === 'stop' || a.ground.gate?.level === 'caution';
  if (!b)
    return (
      <>
        <Problems station="ground" />
        <p>
          Give a crop and its yield goal first, at Crop, and the readings of the soil: the barrel is
          this field for this crop.
        </p>
      </>
    );
  return (
    <div className="grid gap-x-8 xl:grid-cols-2">
      <Part title="Limiting factors" aside="each as if all the others were adequate">
        <BarrelPicture b={b} acid={acid} />
        <p className="max-w-[40rem]">
          <strong>
            {b.shortest ? (
              <WhyFigure
                step={parts.barrelWhy ?? undefined}
                label="Limiting factor"
              >{`${b.shortest.factor} is the shortest: about ${show(b.attainableTHa, 'mass_rate', 1)} of ${show(plan.season.yieldGoalTHa ?? 0, 'mass_rate', 1)} ${unit('mass_rate')}`}</WhyFigure>
            ) : (
              'nothing limits'
            )}
          </strong>
        </p>
        <p className="mt-1 max-w-[40rem]" data-testid="elsewhere">
          {b.elsewhere}
        </p>
      </Part>
      <Part title="Factor by factor">
        <table className="ruled max-w-[42rem]" data-testid="staves">
          <thead>
            <tr>
              <th>Factor</th>
              <th className="num">Relative yield</th>
              <th className="pl-4">Read another way</th>
            </tr>
          </thead>
          <tbody>
            {b.staves.map((s) => (
              <tr key={s.factor}>
                <th scope="row">{s.factor}</th>
                <td className="num">
                  <WhyFigure step={s.why} label={`Relative yield by ${s.factor}`}>
                    {(100 * s.ry).toFixed(0)} %
                  </WhyFigure>
                </td>
                <td className="pl-4 text-faint">
                  {s.other
                    ? `${(100 * s.other.low).toFixed(0)}${s.other.low === s.other.high ? '' : `-${(100 * s.other.high).toFixed(0)}`} %, ${s.other.label}`
                    : ''}
                </td>
              </tr>
            ))}
            {b.notRead.map((f) => (
              <tr key={f.factor}>
                <th scope="row">{f.factor}</th>
                <td className="num text-faint">not known</td>
                <td className="pl-4 text-faint">
                  {f.least === null ? '' : `could be ${(100 * f.least).toFixed(0)} to 100 %`}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <h3 className="mt-3">What putting each right would bring</h3>
        <Scrolled label="What putting each right would bring">
          <table className="ruled max-w-[42rem]" data-testid="repairs">
            <thead>
              <tr>
                <th>Factor</th>
                <th className="num">now, after</th>
                <th className="num">
                  more yield,
                  <br />
                  {unit('mass_rate')}
                </th>
                <th className="num">
                  worth,
                  <br />
                  {unit('price_per_area')}
                </th>
                <th className="num">
                  fertiliser still to buy,
                  <br />
                  {unit('price_per_area')}
                </th>
              </tr>
            </thead>
            <tbody>
              {b.repairs.map((r) => (
                <tr key={r.factor}>
                  <th scope="row">{r.factor}</th>
                  <td className="num">
                    {(100 * r.ryNow).toFixed(0)}, {(100 * r.ryAfter).toFixed(0)} %
                  </td>
                  <td className="num">
                    {span(r.dyLiebigTHa, r.dyProductTHa, (v) => show(v, 'mass_rate', 1))}
                  </td>
                  <td className="num">
                    {r.waits
                      ? 'only after lime'
                      : r.valueLiebigHa === null || r.valueProductHa === null
                        ? '·'
                        : span(r.valueLiebigHa, r.valueProductHa, (v) => show(v, 'price_per_area'))}
                  </td>
                  <td className="num">
                    {r.costHa === null
                      ? r.factor === 'pH'
                        ? 'see lime'
                        : '·'
                      : show(r.costHa, 'price_per_area')}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </Scrolled>
        <p className="note mt-1 max-w-[42rem]">
          Each alone, the rest as it is: the first figure where the limiting factor decides, the
          second where all multiply. One season repairs a very low soil only in part.
          {plan.season.cropPricePerT === null
            ? ' Give the price of the crop, at Crop, to see money.'
            : ''}
        </p>
        {b.lowerGoal && b.lowerGoal.nSavedKgHa > 0.5 && (
          <p className="mt-2 max-w-[42rem]" data-testid="lower-goal">
            If it can’t be put right this season, plan for{' '}
            <strong>
              {show(b.lowerGoal.attainableTHa, 'mass_rate', 1)} {unit('mass_rate')}
            </strong>
            : that wants {show(b.lowerGoal.nReqKgHa, 'nutrient_rate')} {unit('nutrient_rate')} N,{' '}
            {show(b.lowerGoal.nSavedKgHa, 'nutrient_rate')} less.{' '}
            {!readOnly && (
              <button
                type="button"
                className="button"
                onClick={() =>
                  edit(
                    editSeason({
                      yieldGoalTHa: Number((b.lowerGoal?.attainableTHa ?? 0).toFixed(1)),
                    }),
                  )
                }
              >
                Take this as the goal
              </button>
            )}
          </p>
        )}
        {b.notRead.length > 0 && (
          <p className="note mt-1">
            Not read, so not in the picture: {b.notRead.map((f) => f.factor).join(', ')}. An unknown
            factor may be the limiting one.
          </p>
        )}
        <p className="note mt-1 max-w-[42rem]">
          A test is the chance and size of a response, not a stock. By Liebig only the shortest
          counts, by Mitscherlich and Baule all of them multiply: the field lies between.
        </p>
      </Part>
    </div>
  );
}
