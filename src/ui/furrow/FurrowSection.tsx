'use client';

import dynamic from 'next/dynamic';
import { useEffect, useId, useMemo, useRef, useState } from 'react';
import { dateInWords, dayOfMonth, monthName } from '@/core/quantity/calendar';
import { dateOf } from '@/core/lines/days';
import type { FurrowSection as Section, Mark } from '@/core/views/furrow';
import { useUnits } from '../frame/units';
import { layOut, STRATUM_FILL } from './geometry';

// Only the station where the plan is made moves passes; the others do without the slider's code.
const PassSlider = dynamic(() => import('./PassSlider').then((m) => m.PassSlider));
const FLAG_WIDTH = 114;
const RUN_DOWN_WIDTH = 134;
const DARK = ['organic_matter', 'manure'];
/** Full where the plan is made, low where the picture only goes along. */
const HEIGHTS = {
  full: { up: 104, down: 128, top: 46 },
  low: { up: 56, down: 72, top: 34 },
} as const;

function useWidth(): [React.RefObject<HTMLDivElement | null>, number] {
  const ref = useRef<HTMLDivElement | null>(null);
  const [width, setWidth] = useState(1080);
  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    const observer = new ResizeObserver(() => setWidth(Math.max(320, element.clientWidth)));
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return [ref, width];
}

/**
 * Marks of passes get boxes above the line; neighbours step down a row so that they do not cover
 * each other.
 */
function inRows(marks: Mark[], x: (day: number) => number): { mark: Mark; row: number }[] {
  const ends = [-Infinity, -Infinity, -Infinity];
  return [...marks]
    .sort((a, b) => a.day - b.day)
    .map((mark) => {
      const left = x(mark.day);
      const row = Math.max(
        0,
        ends.findIndex((e) => e < left - 4),
      );
      ends[row] = left + 118;
      return { mark, row };
    });
}

export interface FurrowSectionProps {
  section: Section;
  /** Moves a planned pass; without it the picture is only looked at. */
  onMove?: (passId: string, date: string) => void;
  size: keyof typeof HEIGHTS;
}

/**
 * The season in section: demand above the soil line, what the ground gives below it, passes and
 * samples as marks on it.
 */
export function FurrowSection({ section, onMove, size }: FurrowSectionProps) {
  'use memo';
  const { up: UP, down: DOWN, top: TOP } = HEIGHTS[size];
  const [ref, width] = useWidth();
  const { show, unit } = useUnits();
  const pattern = useId();
  const [open, setOpen] = useState(true);
  const box = useMemo(() => ({ width, left: 8, right: 8, up: UP, down: DOWN }), [width, UP, DOWN]);
  const g = useMemo(() => layOut(section, box), [section, box]);
  const { calendar } = section;
  const months = useMemo(
    () =>
      Array.from({ length: calendar.days + 1 }, (_, d) => d).filter(
        (d) => dayOfMonth(dateOf(calendar, d)) === 1,
      ),
    [calendar],
  );
  const passes = section.marks.filter((m) => m.kind === 'pass');
  const others = section.marks.filter((m) => m.kind !== 'pass');
  const kg = (v: number) => `${show(v, 'nutrient_rate')} ${unit('nutrient_rate')}`;
  // The words of the run-down date go to the side where no flag of a pass hangs over them.
  const flagLeft = (day: number) => Math.min(g.x(day), width - 122);
  const runDownRight = (day: number) =>
    passes.some(
      (q) => flagLeft(q.day) < g.x(day) && flagLeft(q.day) + FLAG_WIDTH > g.x(day) - RUN_DOWN_WIDTH,
    ) && g.x(day) + RUN_DOWN_WIDTH < width;
  const y0 = TOP + UP;
  const height = y0 + DOWN + 22;
  const stepEvery = width < 600 ? 2 : 1;
  return (
    <section aria-label="The season in section" className="no-print mb-3 min-w-0">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h2>The season in section</h2>
        <span className="note">
          nitrogen, {unit('nutrient_rate')}, cumulative, in a normal year
        </span>
        {section.shortest && (
          <strong className="text-hot">
            {kg(section.shortest.kg)} short by {dateInWords(section.shortest.date)}
          </strong>
        )}
        {section.left > 5 && <span>{kg(section.left)} lie untouched at harvest</span>}
        <button
          type="button"
          className="plain ml-auto"
          aria-expanded={open}
          onClick={() => setOpen(!open)}
        >
          {open ? 'Fold away' : 'Unfold'}
        </button>
      </div>
      <div ref={ref} className={open ? 'relative overflow-hidden' : 'hidden'}>
        <svg
          width={width}
          height={height}
          className="block"
          role="img"
          aria-label={`Crop uptake ${kg(section.demandTotal)} above the soil line; ${section.strata.map((s) => `${s.label} ${kg(s.total)}`).join(', ')} below it.${section.shortest ? ` ${kg(section.shortest.kg)} short by ${dateInWords(section.shortest.date)}.` : ''}`}
        >
          <defs>
            <pattern
              id={pattern}
              width="6"
              height="6"
              patternUnits="userSpaceOnUse"
              patternTransform="rotate(45)"
            >
              <line x1="0" y1="0" x2="0" y2="6" stroke="var(--hot)" strokeWidth="1.6" />
            </pattern>
          </defs>
          {months.map((d, i) => (
            <g key={d}>
              <line x1={g.x(d)} x2={g.x(d)} y1={TOP - 6} y2={y0 + DOWN} stroke="var(--rule)" />
              {i % stepEvery === 0 && (
                <text x={g.x(d) + 3} y={height - 6} fontSize={12} fill="var(--faint)">
                  {monthName(dateOf(calendar, d))}
                </text>
              )}
            </g>
          ))}
          <g transform={`translate(0 ${y0})`}>
            <path
              d={g.demandPath}
              fill="var(--demand-fill)"
              stroke="var(--demand)"
              strokeWidth={2}
            />
            {g.strata.map((s) => (
              <path
                key={s.id}
                d={s.path}
                fill={STRATUM_FILL[s.kind]}
                stroke="var(--paper)"
                strokeWidth={0.8}
              />
            ))}
            <path d={g.shortPath} fill={`url(#${pattern})`} />
            <path
              d={g.mirrorPath}
              fill="none"
              stroke="var(--demand)"
              strokeWidth={1.4}
              strokeDasharray="4 4"
            />
            <line x1={0} x2={width} y1={0} y2={0} stroke="var(--ink)" strokeWidth={2.5} />
            {g.strata.map(
              (s) =>
                s.thickness > 14 && (
                  <text
                    key={s.id}
                    x={width - 14}
                    y={s.midY + 4}
                    textAnchor="end"
                    fontSize={12}
                    fill={DARK.includes(s.kind) ? 'var(--on-dark)' : 'var(--on-light)'}
                  >
                    {s.label} {show(s.total, 'nutrient_rate')}
                  </text>
                ),
            )}
            <text
              x={width - 12}
              y={-Math.min(UP, section.demandTotal * g.k) - 6}
              textAnchor="end"
              fontSize={13}
              fontWeight={700}
              fill="var(--demand)"
            >
              crop uptake {kg(section.demandTotal)}
            </text>
            {section.closed.map((c) => (
              <g key={c.fromDay}>
                <rect
                  x={g.x(c.fromDay)}
                  width={Math.max(2, g.x(c.toDay) - g.x(c.fromDay))}
                  y={-5}
                  height={10}
                  fill="none"
                  stroke="var(--ink)"
                  strokeDasharray="4 3"
                />
                <text
                  x={Math.min(g.x(c.fromDay) + 3, width - 74)}
                  y={-9}
                  fontSize={11}
                  fill="var(--faint)"
                >
                  closed period
                </text>
              </g>
            ))}
            {others.map((m) =>
              m.kind === 'run_down' ? (
                <g key={m.id}>
                  <line
                    x1={g.x(m.day)}
                    x2={g.x(m.day)}
                    y1={-UP - 8}
                    y2={DOWN}
                    stroke="var(--ink)"
                    strokeDasharray="2 4"
                  />
                  <text
                    x={g.x(m.day) + (runDownRight(m.day) ? 4 : -4)}
                    y={-UP + 2}
                    textAnchor={runDownRight(m.day) ? 'start' : 'end'}
                    fontSize={11.5}
                    fill="var(--faint)"
                  >
                    {m.label}
                  </text>
                </g>
              ) : (
                <g key={m.id}>
                  <title>{`${m.label}, ${dateInWords(m.date)}`}</title>
                  {m.kind === 'manure' ? (
                    <rect
                      x={g.x(m.day) - 5}
                      y={-5}
                      width={10}
                      height={10}
                      fill="var(--manure)"
                      stroke="var(--paper)"
                    />
                  ) : m.kind === 'sample' ? (
                    <path
                      d={`M${g.x(m.day)} -7l6 7l-6 7l-6 -7z`}
                      fill="var(--paper)"
                      stroke="var(--ink)"
                      strokeWidth={1.5}
                    />
                  ) : (
                    <line
                      x1={g.x(m.day)}
                      x2={g.x(m.day)}
                      y1={-9}
                      y2={9}
                      stroke="var(--demand)"
                      strokeWidth={3}
                    />
                  )}
                </g>
              ),
            )}
          </g>
          {inRows(passes, g.x).map(({ mark, row }) => {
            const px = flagLeft(mark.day);
            return (
              <g key={mark.id}>
                <line
                  x1={g.x(mark.day)}
                  x2={g.x(mark.day)}
                  y1={6 + row * 22 + 20}
                  y2={y0}
                  stroke="var(--ink)"
                />
                <rect
                  x={px}
                  y={6 + row * 22}
                  width={FLAG_WIDTH}
                  height={20}
                  fill="var(--raised)"
                  stroke="var(--faint)"
                />
                <text x={px + 5} y={20 + row * 22} fontSize={12} fontWeight={700} fill="var(--ink)">
                  {kg(mark.kgN)}
                  <tspan fontWeight={400} fill="var(--faint)">
                    {' '}
                    {mark.stage}
                  </tspan>
                </text>
                <circle
                  cx={g.x(mark.day)}
                  cy={y0}
                  r={6.5}
                  fill="var(--paper)"
                  stroke="var(--ink)"
                  strokeWidth={2}
                />
                <circle cx={g.x(mark.day)} cy={y0} r={2.4} fill="var(--ink)" />
              </g>
            );
          })}
        </svg>
        {onMove && passes.length > 0 && (
          <PassSlider
            calendar={calendar}
            passes={passes}
            onMove={onMove}
            style={{ left: box.left, right: box.right, top: y0 - 10, height: 20 }}
          />
        )}
        <details className="mt-1">
          <summary className="note cursor-pointer">
            The same as a table
            {onMove && passes.length > 0
              ? '; drag a pass along the line, or move it with the arrow keys'
              : ''}
          </summary>
          <table className="ruled max-w-[34rem]">
            <thead>
              <tr>
                <th>Source</th>
                <th className="num">In all, {unit('nutrient_rate')}</th>
                <th className="num">By mid-season</th>
              </tr>
            </thead>
            <tbody>
              {section.strata.map((s) => (
                <tr key={s.id}>
                  <th scope="row">{s.label}</th>
                  <td className="num">{show(s.total, 'nutrient_rate')}</td>
                  <td className="num">
                    {show(s.given[Math.floor(s.given.length / 2)] ?? 0, 'nutrient_rate')}
                  </td>
                </tr>
              ))}
              <tr className="sum">
                <th scope="row">Crop uptake</th>
                <td className="num">{show(section.demandTotal, 'nutrient_rate')}</td>
                <td className="num">
                  {show(
                    section.demand[Math.floor(section.demand.length / 2)] ?? 0,
                    'nutrient_rate',
                  )}
                </td>
              </tr>
            </tbody>
          </table>
        </details>
      </div>
    </section>
  );
}
