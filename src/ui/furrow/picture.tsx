import { dateInWords, dayOfMonth, monthName } from '@/core/quantity/calendar';
import { dateOf } from '@/core/lines/days';
import type { FurrowSection as Section, Mark } from '@/core/views/furrow';
import { useUnits } from '../frame/units';
import { beside, STRATUM_FILL, type FurrowGeometry } from './geometry';

/** What the demand is: the crop's own uptake, or the supply that it takes. */
const demandWords = ({ uptakeTotal, demandTotal }: Section): string =>
  Math.abs(uptakeTotal - demandTotal) > 1 ? 'requirement' : 'crop uptake';

/** What every part of the picture is drawn by. */
export interface Drawn {
  section: Section;
  g: FurrowGeometry;
  width: number;
  /** Right end of the season in the picture, px. */
  right: number;
  /** Whether the strata are named beside the picture; on a narrow one they stand below it. */
  names: boolean;
  /** Room above and below the soil line, px. */
  up: number;
  down: number;
  /** How an amount of N is told, with its unit. */
  kg: (v: number) => string;
}

const FLAG_WIDTH = 114;
const FLAG_HEIGHT = 20;
const FLAG_TOP = 6;
const FLAG_STEP = 22;
const RUN_DOWN_WIDTH = 134;
/** Paper round the letters, so that a line behind them does not cross them out. */
const HALO = { stroke: 'var(--paper)', strokeWidth: 3, paintOrder: 'stroke' } as const;
const SWATCH = 9;

/** The strata by name and figure, in a column beside the picture. */
function Names({ drawn: { g, right, down } }: { drawn: Drawn }) {
  const { show } = useUnits();
  const at = new Map(beside(g.strata, down + 12).map((p) => [p.id, p.y]));
  return g.strata.map((s) => {
    const y = at.get(s.id) ?? 0;
    return (
      <g key={s.id}>
        <path
          d={`M${right} ${s.midY}L${right + 6} ${y - 4}`}
          stroke="var(--faint)"
          strokeWidth={0.8}
          fill="none"
        />
        <rect
          x={right + 8}
          y={y - SWATCH}
          width={SWATCH}
          height={SWATCH}
          fill={STRATUM_FILL[s.kind]}
        />
        <text x={right + 21} y={y} fontSize={12} fill="var(--ink)">
          {short(s.label)} {show(s.total, 'nutrient_rate')}
        </text>
      </g>
    );
  });
}
const MOST_LETTERS = 26;
const short = (label: string): string =>
  label.length > MOST_LETTERS ? `${label.slice(0, MOST_LETTERS - 1).trimEnd()}…` : label;
/** The same below a narrow picture. */
export function NamesBelow({ drawn: { g, section } }: { drawn: Drawn }) {
  const { show } = useUnits();
  return (
    <ul className="flex flex-wrap gap-x-3 text-[0.85rem]" aria-hidden>
      <li className="inline-flex items-center gap-1.5 font-bold text-demand">
        <span className="inline-block size-2.5 bg-demand" />
        {demandWords(section)} {show(section.demandTotal, 'nutrient_rate')}
      </li>
      {g.strata.map((s) => (
        <li key={s.id} className="inline-flex items-center gap-1.5">
          <span className="inline-block size-2.5" style={{ background: STRATUM_FILL[s.kind] }} />
          {s.label} {show(s.total, 'nutrient_rate')}
        </li>
      ))}
    </ul>
  );
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

const passesOf = (section: Section): Mark[] => section.marks.filter((m) => m.kind === 'pass');
const flagLeft = ({ g, right }: Drawn, day: number): number =>
  Math.max(2, Math.min(g.x(day), right - FLAG_WIDTH));

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
  const { section, g, up, right, names, kg } = drawn;
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
            x1={right * 0.55}
            x2={right}
            y1={-section.target * g.k}
            y2={-section.target * g.k}
            stroke="var(--ink)"
            strokeWidth={1.4}
            strokeDasharray="8 3"
          />
          <text
            x={right - 6}
            y={-section.target * g.k + 14}
            textAnchor="end"
            fontSize={11.5}
            fill="var(--ink)"
          >
            target {kg(section.target)}
          </text>
        </g>
      )}
      <line x1={0} x2={right + 8} y1={0} y2={0} stroke="var(--ink)" strokeWidth={2.5} />
      {names && <Names drawn={drawn} />}
      {names && (
        <text
          x={right + 8}
          y={5 - Math.min(up, section.demandTotal * g.k)}
          fontSize={13}
          fontWeight={700}
          fill="var(--demand)"
        >
          {demandWords(section)} {kg(section.demandTotal)}
        </text>
      )}
    </>
  );
}

/** Periods in which nothing may be spread. */
const CLOSED_WIDTH = 74;
export function ClosedPeriods({ section, g }: Drawn) {
  return (
    <>
      {section.closed.map((c) => (
        <g key={c.fromDay}>
          <title>closed period</title>
          <rect
            x={g.x(c.fromDay)}
            width={Math.max(2, g.x(c.toDay) - g.x(c.fromDay))}
            y={-5}
            height={10}
            fill="none"
            stroke="var(--ink)"
            strokeDasharray="4 3"
          />
          {g.x(c.toDay) - g.x(c.fromDay) >= CLOSED_WIDTH && (
            <text x={g.x(c.fromDay) + 3} y={-9} fontSize={11} fill="var(--faint)" {...HALO}>
              closed period
            </text>
          )}
        </g>
      ))}
    </>
  );
}

/** The words of the run-down date go to the side where no flag of a pass hangs over them. */
function RunDown({ drawn, mark }: { drawn: Drawn; mark: Mark }) {
  const { section, g, right: end, up, down } = drawn;
  const at = g.x(mark.day);
  const flags = passesOf(section).map((q) => flagLeft(drawn, q.day));
  const right =
    flags.some((left) => left < at && left + FLAG_WIDTH > at - RUN_DOWN_WIDTH) &&
    at + RUN_DOWN_WIDTH < end;
  const covered = flags.some((left) =>
    right
      ? left < at + RUN_DOWN_WIDTH && left + FLAG_WIDTH > at
      : left < at && left + FLAG_WIDTH > at - RUN_DOWN_WIDTH,
  );
  return (
    <g>
      <title>{mark.label}</title>
      <line x1={at} x2={at} y1={-up - 8} y2={down} stroke="var(--ink)" strokeDasharray="2 4" />
      <text
        visibility={covered ? 'hidden' : undefined}
        x={at + (right ? 4 : -4)}
        y={-up + 2}
        textAnchor={right ? 'start' : 'end'}
        fontSize={11.5}
        fill="var(--faint)"
        {...HALO}
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

/** Where the flags of passes stand, px: the handles that size them lie over them. */
export const flagsOf = (
  drawn: Drawn,
): { mark: Mark; left: number; top: number; width: number; height: number }[] =>
  inRows(passesOf(drawn.section), drawn.g.x).map(({ mark, row }) => ({
    mark,
    left: flagLeft(drawn, mark.day),
    top: FLAG_TOP + row * FLAG_STEP,
    width: FLAG_WIDTH,
    height: FLAG_HEIGHT,
  }));

/** Each pass: a flag with its N and stage, and a ring on the soil line; no line crosses a flag. */
export function PassFlags({ drawn, y0 }: { drawn: Drawn; y0: number }) {
  const { g, kg } = drawn;
  const flags = flagsOf(drawn);
  return (
    <>
      {flags.map(({ mark, top }) => (
        <line
          key={mark.id}
          x1={g.x(mark.day)}
          x2={g.x(mark.day)}
          y1={top + FLAG_HEIGHT}
          y2={y0}
          stroke="var(--ink)"
        />
      ))}
      {flags.map(({ mark, left, top }) => (
        <g key={mark.id}>
          <rect
            x={left}
            y={top}
            width={FLAG_WIDTH}
            height={FLAG_HEIGHT}
            fill="var(--raised)"
            stroke="var(--faint)"
          />
          <text x={left + 5} y={top + 14} fontSize={12} fontWeight={700} fill="var(--ink)">
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
      ))}
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
