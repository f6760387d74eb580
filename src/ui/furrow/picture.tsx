import { dateInWords, dayOfMonth, monthName } from '@/core/quantity/calendar';
import { dateOf } from '@/core/lines/days';
import type { FurrowSection as Section, Mark } from '@/core/views/furrow';
import { useUnits } from '../frame/units';
import { STRATUM_FILL, type FurrowGeometry } from './geometry';

/** What every part of the picture is drawn by. */
export interface Drawn {
  section: Section;
  g: FurrowGeometry;
  width: number;
  /** Room above and below the soil line, px. */
  up: number;
  down: number;
  /** How an amount of N is told, with its unit. */
  kg: (v: number) => string;
}

const FLAG_WIDTH = 114;
const RUN_DOWN_WIDTH = 134;
const DARK = ['organic_matter', 'manure'];

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

const passesOf = (section: Section): Mark[] => section.marks.filter((m) => m.kind === 'pass');
const flagLeft = ({ g, width }: Drawn, day: number): number => Math.min(g.x(day), width - 122);

/** A line and a name where each month begins; on a narrow picture every other name. */
export function Months({
  section,
  g,
  width,
  top,
  bottom,
}: Drawn & { top: number; bottom: number }) {
  const { calendar } = section;
  const months = Array.from({ length: calendar.days + 1 }, (_, d) => d).filter(
    (d) => dayOfMonth(dateOf(calendar, d)) === 1,
  );
  const stepEvery = width < 600 ? 2 : 1;
  return (
    <>
      {months.map((d, i) => (
        <g key={d}>
          <line x1={g.x(d)} x2={g.x(d)} y1={top - 6} y2={bottom} stroke="var(--rule)" />
          {i % stepEvery === 0 && (
            <text x={g.x(d) + 3} y={bottom + 16} fontSize={12} fill="var(--faint)">
              {monthName(dateOf(calendar, d))}
            </text>
          )}
        </g>
      ))}
    </>
  );
}

/** Demand above the soil line, what the ground gives below it, and where the one outruns the other. */
export function Strata({ drawn, pattern }: { drawn: Drawn; pattern: string }) {
  const { section, g, width, up, kg } = drawn;
  const { show } = useUnits();
  return (
    <>
      <path d={g.demandPath} fill="var(--demand-fill)" stroke="var(--demand)" strokeWidth={2} />
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
      {section.target !== null && (
        <g>
          <line
            x1={width * 0.55}
            x2={width - 8}
            y1={-section.target * g.k}
            y2={-section.target * g.k}
            stroke="var(--ink)"
            strokeWidth={1.4}
            strokeDasharray="8 3"
          />
          <text x={width * 0.55} y={-section.target * g.k - 4} fontSize={11.5} fill="var(--ink)">
            target {kg(section.target)}
          </text>
        </g>
      )}
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
        y={-Math.min(up, section.demandTotal * g.k) - 6}
        textAnchor="end"
        fontSize={13}
        fontWeight={700}
        fill="var(--demand)"
      >
        {section.uptakeTotal < section.demandTotal - 1 ||
        section.uptakeTotal > section.demandTotal + 1
          ? `requirement ${kg(section.demandTotal)}`
          : `crop uptake ${kg(section.demandTotal)}`}
      </text>
    </>
  );
}

/** Periods in which nothing may be spread. */
export function ClosedPeriods({ section, g, width }: Drawn) {
  return (
    <>
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
    </>
  );
}

/** The words of the run-down date go to the side where no flag of a pass hangs over them. */
function RunDown({ drawn, mark }: { drawn: Drawn; mark: Mark }) {
  const { section, g, width, up, down } = drawn;
  const at = g.x(mark.day);
  const flags = passesOf(section).map((q) => flagLeft(drawn, q.day));
  const right =
    flags.some((left) => left < at && left + FLAG_WIDTH > at - RUN_DOWN_WIDTH) &&
    at + RUN_DOWN_WIDTH < width;
  return (
    <g>
      <line x1={at} x2={at} y1={-up - 8} y2={down} stroke="var(--ink)" strokeDasharray="2 4" />
      <text
        x={at + (right ? 4 : -4)}
        y={-up + 2}
        textAnchor={right ? 'start' : 'end'}
        fontSize={11.5}
        fill="var(--faint)"
      >
        {mark.label}
      </text>
    </g>
  );
}

/** Manure, samples and what is seen in the field, on the soil line. */
function MarkOnLine({ mark, x }: { mark: Mark; x: number }) {
  return (
    <g>
      <title>{`${mark.label}, ${dateInWords(mark.date)}`}</title>
      {mark.kind === 'manure' ? (
        <rect x={x - 5} y={-5} width={10} height={10} fill="var(--manure)" stroke="var(--paper)" />
      ) : mark.kind === 'sample' ? (
        <path
          d={`M${x} -7l6 7l-6 7l-6 -7z`}
          fill="var(--paper)"
          stroke="var(--ink)"
          strokeWidth={1.5}
        />
      ) : (
        <line x1={x} x2={x} y1={-9} y2={9} stroke="var(--demand)" strokeWidth={3} />
      )}
    </g>
  );
}
export const Marks = ({ drawn }: { drawn: Drawn }) =>
  drawn.section.marks.map((m) =>
    m.kind === 'pass' ? null : m.kind === 'run_down' ? (
      <RunDown key={m.id} drawn={drawn} mark={m} />
    ) : (
      <MarkOnLine key={m.id} mark={m} x={drawn.g.x(m.day)} />
    ),
  );

/** Each pass: a flag with its N and stage, and a ring on the soil line. */
export function PassFlags({ drawn, y0 }: { drawn: Drawn; y0: number }) {
  const { section, g, kg } = drawn;
  return (
    <>
      {inRows(passesOf(section), g.x).map(({ mark, row }) => {
        const px = flagLeft(drawn, mark.day);
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
    </>
  );
}

/** The picture in figures. */
export function SectionTable({ section }: { section: Section }) {
  const { show, unit } = useUnits();
  const middle = section.days.indexOf(section.middleDay);
  const atMiddle = (values: readonly number[]): number => values[middle] ?? values.at(-1) ?? 0;
  return (
    <table className="ruled max-w-[34rem]">
      <thead>
        <tr>
          <th>Source</th>
          <th className="num">In all, {unit('nutrient_rate')}</th>
          <th className="num">
            By half of the crop’s uptake, {dateInWords(dateOf(section.calendar, section.middleDay))}
          </th>
        </tr>
      </thead>
      <tbody>
        {section.strata.map((s) => (
          <tr key={s.id}>
            <th scope="row">{s.label}</th>
            <td className="num">{show(s.total, 'nutrient_rate')}</td>
            <td className="num">{show(atMiddle(s.given), 'nutrient_rate')}</td>
          </tr>
        ))}
        <tr className="sum">
          <th scope="row">Requirement</th>
          <td className="num">{show(section.demandTotal, 'nutrient_rate')}</td>
          <td className="num">{show(atMiddle(section.demand), 'nutrient_rate')}</td>
        </tr>
      </tbody>
    </table>
  );
}
