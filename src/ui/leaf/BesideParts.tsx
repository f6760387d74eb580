'use client';

import { tissueNutrientOf } from '@/core/book/tissueNutrients';
import { dateInWords } from '@/core/quantity/calendar';
import {
  nutritionWords,
  type LeafBeside,
  type LeafPair,
  type LeafYears,
  type PairRow,
  type SoilBesideLeaf,
} from '@/core/views/leafBeside';
import { Scrolled } from '../figure/Scrolled';
import { useUnits } from '../frame/units';
import { editSeason, useEdit } from '../workspace/context';
import { words } from '../figure/fields';

// What stands beside the classes of a leaf: its mate, the soil, ratios, biomass and years.

const figure = (v: number): string => String(Number(v.toPrecision(3)));
const W = 160;
/** The widest log ratio that is drawn to scale: a factor of three. */
const FARTHEST = Math.log(3);
/** How far affected plants lie from the others, with the error that it has to exceed. */
function PairBar({ row }: { row: PairRow }) {
  const { logRatio, u, strength } = row.reading;
  const at = (v: number) =>
    W / 2 + (Math.max(-FARTHEST, Math.min(FARTHEST, v)) / FARTHEST) * (W / 2 - 4);
  const [zero, end] = [at(0), at(logRatio)];
  return (
    <svg
      viewBox={`0 0 ${W} 18`}
      width={W}
      height={18}
      role="img"
      aria-label={`${row.nutrient}: ${row.reading.pctDiff.toFixed(0)} %, ${words(strength)}`}
      className="inline-block align-middle"
    >
      <path d={`M${zero} 0V18`} stroke="var(--rule)" />
      <rect
        x={Math.min(zero, end)}
        y={5}
        width={Math.max(1, Math.abs(end - zero))}
        height={8}
        fill={strength === 'no_difference' ? 'none' : 'var(--manure)'}
        stroke="var(--manure)"
      />
      <path
        d={`M${at(-2 * u)} 9H${at(2 * u)}M${at(-2 * u)} 6V12M${at(2 * u)} 6V12`}
        stroke="var(--ink)"
        strokeWidth={1}
      />
    </svg>
  );
}
function Pair({ pair }: { pair: LeafPair }) {
  const { words: told } = useUnits();
  return (
    <section
      aria-label="Affected beside unaffected plants"
      data-testid="leaf-pair"
      className="mb-4"
    >
      <h3>Affected beside unaffected plants, {dateInWords(pair.affected.sample.date)}</h3>
      {pair.refused !== null && <p className="problem">{pair.refused}</p>}
      {pair.words.map((w) => (
        <p key={told(w)} className="font-bold">
          {told(w)}
        </p>
      ))}
      {pair.rows.length > 0 && (
        <Scrolled label="Affected beside unaffected plants">
          <table className="ruled">
            <thead>
              <tr>
                <th>Nutrient</th>
                <th className="num">affected</th>
                <th className="num">unaffected</th>
                <th>less, or more, and the error of a pair</th>
                <th className="num">difference</th>
                <th className="pl-2">it is</th>
                <th className="pl-2">with the mass</th>
              </tr>
            </thead>
            <tbody>
              {pair.rows.map((r) => (
                <tr
                  key={r.nutrient}
                  className={r.reading.strength === 'no_difference' ? 'text-faint' : ''}
                >
                  <th scope="row">{r.nutrient}</th>
                  <td className="num">
                    {figure(r.affected)} {r.unit}
                  </td>
                  <td className="num">{figure(r.unaffected)}</td>
                  <td>
                    <PairBar row={r} />
                  </td>
                  <td className="num">
                    {r.reading.pctDiff > 0 ? '+' : r.reading.pctDiff < 0 ? '−' : ''}
                    {Math.abs(r.reading.pctDiff).toFixed(0)} %
                  </td>
                  <td className="pl-2">{words(r.reading.strength)}</td>
                  <td className="pl-2">
                    {r.reading.vector ? words(r.reading.vector) : 'not weighed'}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </Scrolled>
      )}
    </section>
  );
}

function Soil({ rows }: { rows: SoilBesideLeaf[] }) {
  const { edit, readOnly } = useEdit();
  const answer = (id: string, holds: boolean) =>
    edit((p) =>
      editSeason({
        soilLeafAnswers: [...p.season.soilLeafAnswers.filter((x) => x.id !== id), { id, holds }],
      })(p),
    );
  return (
    <section aria-label="Soil beside leaf" data-testid="soil-beside-leaf" className="mb-4">
      <h3>Soil beside leaf</h3>
      <table className="ruled">
        <thead>
          <tr>
            <th>Nutrient</th>
            <th>soil</th>
            <th>leaf</th>
            <th className="pl-2">together</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => {
            const first = r.reading.specific[0] ?? r.reading.cell;
            return (
              <tr key={r.nutrient}>
                <th scope="row">{r.nutrient}</th>
                <td>{r.soil}</td>
                <td>{words(r.leaf)}</td>
                <td className="pl-2">
                  <strong>{first.diagnosis}.</strong>
                  {first.firstCheck && ` First look at ${first.firstCheck}.`}
                  {r.reading.specific.length > 0 && (
                    <span className="note block">{r.reading.cell.diagnosis}.</span>
                  )}
                  {!readOnly &&
                    r.reading.asked.map((q) => (
                      <span key={q.cellId} className="mt-1 flex flex-wrap items-center gap-2">
                        <span>{q.modifier?.replace(/^./u, (c) => c.toUpperCase())}?</span>
                        <button
                          type="button"
                          className="button"
                          onClick={() => answer(q.cellId, true)}
                        >
                          Yes
                        </button>
                        <button
                          type="button"
                          className="button"
                          onClick={() => answer(q.cellId, false)}
                        >
                          No
                        </button>
                      </span>
                    ))}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}

const LEVEL = {
  ok: 'in its good span',
  info_low: 'below its good span',
  info_high: 'above its good span',
  borderline_low: 'on the lower alert, within its error',
  borderline_high: 'on the upper alert, within its error',
  caution: 'beyond its alert',
} as const;
function Ratios({ list }: { list: LeafBeside['ratios'] }) {
  return (
    <section aria-label="Ratios" data-testid="leaf-ratios" className="mb-4">
      <h3>Ratios</h3>
      <table className="ruled">
        <thead>
          <tr>
            <th>Ratio</th>
            <th className="num">leaf</th>
            <th className="num">good</th>
            <th className="pl-2">it lies</th>
          </tr>
        </thead>
        <tbody>
          {list.map(({ row, reading, quiet }) => (
            <tr key={row.ratioId}>
              <th scope="row">{row.formula}</th>
              <td className="num">{figure(reading.ratio)}</td>
              <td className="num note">
                {row.goodLow ?? ''} to {row.goodHigh ?? ''}
              </td>
              <td className="pl-2">
                {LEVEL[reading.level]}
                {reading.means && !quiet ? `: ${reading.means}` : ''}
                <span className="note">
                  {' '}
                  ({row.source}, {row.confidence})
                </span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="note">A ratio is a second look: nothing is fertilised from a ratio alone.</p>
    </section>
  );
}

const NUTRITION = {
  severe: 'severely short',
  short: 'short',
  near_optimal: 'near the optimum',
  ample: 'ample',
  luxury: 'luxury',
} as const;
function Nutrition({ of: n }: { of: NonNullable<LeafBeside['nutrition']> }) {
  const { words: told } = useUnits();
  return (
    <section aria-label="N by biomass" data-testid="nutrition-index" className="mb-4">
      <h3>N by biomass</h3>
      {typeof n === 'string' ? (
        <p className="note">{n}</p>
      ) : (
        <>
          <p>
            Nutrition index <strong>{n.nni.toFixed(2)}</strong>, {NUTRITION[n.cls]}; 0.9 to 1.1 is
            fed. {told(nutritionWords(n))}
          </p>
          <p className="note">
            Critical N {n.criticalNPct.toFixed(2)} % by the curve of {n.curve}
            {n.validity === 'too_little_biomass'
              ? '; below the biomass for which it was measured: unreliable'
              : n.validity === 'beyond_the_curve'
                ? '; beyond the biomass for which it was measured'
                : ''}
            . It stands before the range of N.
          </p>
        </>
      )}
    </section>
  );
}

/** Pair, soil, ratios and biomass of the newest leaf. */
export function BesideParts({ beside }: { beside: LeafBeside }) {
  return (
    <>
      {beside.nutrition !== null && <Nutrition of={beside.nutrition} />}
      {beside.pair && <Pair pair={beside.pair} />}
      {beside.soil.length > 0 && <Soil rows={beside.soil} />}
      {beside.ratios.length > 0 && <Ratios list={beside.ratios} />}
    </>
  );
}

const TREND = {
  rising: 'rises',
  falling: 'falls',
  possible_rise: 'may rise',
  possible_fall: 'may fall',
  no_trend: 'no trend',
  too_few_years: 'too few years',
} as const;
const H = 26;
/** Values over the years, with the range as a band behind them. */
function YearsLine({ row }: { row: LeafYears }) {
  const { points, limits } = row;
  const [first, last] = [points[0]?.year ?? 0, points.at(-1)?.year ?? 1];
  const values = [...points.map((p) => p.value), ...(limits ? [limits.sl, limits.sh] : [])];
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const x = (year: number) => 4 + ((year - first) / Math.max(1, last - first)) * (W - 8);
  const y = (v: number) => H - 3 - ((v - low) / (high - low || 1)) * (H - 6);
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      width={W}
      height={H}
      role="img"
      aria-label={`${row.nutrient}: ${points.map((p) => `${p.year} ${figure(p.value)}`).join(', ')}`}
      className="inline-block align-middle"
    >
      {limits && (
        <rect
          x={0}
          y={y(limits.sh)}
          width={W}
          height={Math.max(1, y(limits.sl) - y(limits.sh))}
          fill="var(--rule)"
          opacity={0.5}
        />
      )}
      <polyline
        points={points.map((p) => `${x(p.year)},${y(p.value)}`).join(' ')}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={1.5}
      />
      {points.map((p) => (
        <circle key={p.year} cx={x(p.year)} cy={y(p.value)} r={2.6} fill="var(--ink)" />
      ))}
    </svg>
  );
}

/** The same organ at the same stage over the years. */
export function YearsPart({ list }: { list: readonly LeafYears[] }) {
  if (list.length === 0)
    return (
      <p className="note">
        Two samples of the same leaf at the same stage, in two years or more, make a line; four make
        a trend.
      </p>
    );
  const years = [...new Set(list.flatMap((r) => r.points.map((p) => p.year)))].toSorted(
    (a, b) => a - b,
  );
  return (
    <Scrolled label="Leaf values over the years">
      <table className="ruled" data-testid="leaf-years">
        <thead>
          <tr>
            <th>Nutrient</th>
            <th>range as a band</th>
            {years.map((y) => (
              <th key={y} className="num">
                {y}
              </th>
            ))}
            <th className="num">a year</th>
            <th className="pl-2">it</th>
          </tr>
        </thead>
        <tbody>
          {list.map((r) => (
            <tr key={r.nutrient}>
              <th scope="row">
                {r.nutrient} <span className="note">{r.unit}</span>
              </th>
              <td>
                <YearsLine row={r} />
              </td>
              {years.map((y) => {
                const value = r.points.find((p) => p.year === y)?.value;
                return (
                  <td key={y} className="num">
                    {value === undefined ? '·' : figure(value)}
                  </td>
                );
              })}
              <td className="num">
                {r.trend.slopePerYear === null
                  ? '·'
                  : figure(r.trend.slopePerYear).replace('-', '−')}
              </td>
              <td className="pl-2">
                {TREND[r.trend.cls]}
                {r.trend.yearsToLimit !== null &&
                  `, at the limit in about ${r.trend.yearsToLimit.toFixed(1)} years`}
                <span className="note">
                  {' '}
                  (chance: ±{tissueNutrientOf(r.nutrient).combinedCvPct} %)
                </span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </Scrolled>
  );
}
