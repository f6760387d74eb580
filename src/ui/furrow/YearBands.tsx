import type { Outlook } from '@/core/season/outlook';
import { daysBetween } from '@/core/quantity/calendar';
import type { Drawn } from './picture';

const BEARS_FROM = 0.8;
/** Room for rain and the days that bear a machine, px. */
export const WEATHER_ROOM = 34;
const RAIN_UP = 14;
/** Rain is drawn by so many of the outlook's steps. */
const TOGETHER = 3;

const dayOf = ({ section }: Drawn, o: Outlook, d: number): number =>
  daysBetween(section.calendar.start, o.start) + d;
const inside = ({ section }: Drawn, day: number): boolean =>
  day >= 0 && day <= section.calendar.days;

/** What is within reach of the crop in eight weather years of ten, over the strata of the sheet. */
export function YearBands({ drawn, outlook: o }: { drawn: Drawn; outlook: Outlook }) {
  const { g } = drawn;
  const points = (values: readonly number[]) =>
    o.days.flatMap((d, i) => {
      const day = dayOf(drawn, o, d);
      return inside(drawn, day)
        ? [`${g.x(day).toFixed(1)} ${((values[i] ?? 0) * g.k).toFixed(1)}`]
        : [];
    });
  const [low, high] = [points(o.supply.p10), points(o.supply.p90)];
  const line = { fill: 'none', stroke: 'var(--water)', strokeWidth: 1.6, strokeDasharray: '1.5 3' };
  return (
    <g data-testid="year-bands">
      <title>within reach of the crop in eight weather years of ten</title>
      <path
        d={`M${low.join('L')}L${high.toReversed().join('L')}Z`}
        fill="var(--water)"
        fillOpacity={0.08}
      />
      <path d={`M${low.join('L')}`} {...line} />
      <path d={`M${high.join('L')}`} {...line} />
    </g>
  );
}

/** Rain of the middle year, what of it drains, and when the ground bears a machine. */
export function WeatherStrip({
  drawn,
  outlook: o,
  top,
}: {
  drawn: Drawn;
  outlook: Outlook;
  top: number;
}) {
  const { g, right, names } = drawn;
  const by = (sums: readonly number[], i: number) =>
    (sums[Math.min(i + TOGETHER, sums.length - 1)] ?? 0) - (sums[i] ?? 0);
  const at = o.days.flatMap((d, i) =>
    i % TOGETHER === 0 && i + TOGETHER < o.days.length && inside(drawn, dayOf(drawn, o, d))
      ? [{ i, x: g.x(dayOf(drawn, o, d)) }]
      : [],
  );
  const most = Math.max(1, ...at.map(({ i }) => Math.max(by(o.rain, i), by(o.drained, i))));
  const bears = o.days.reduce<{ from: number; to: number }[]>((list, d, i) => {
    const day = dayOf(drawn, o, d);
    if ((o.bears[i] ?? 0) < BEARS_FROM || !inside(drawn, day)) return list;
    const last = list.at(-1);
    const step = (o.days[1] ?? 3) - (o.days[0] ?? 0);
    return last && day - last.to <= step
      ? [...list.slice(0, -1), { ...last, to: day }]
      : [...list, { from: day, to: day }];
  }, []);
  const y = top + RAIN_UP;
  return (
    <g aria-hidden data-testid="weather-strip">
      {at.map(({ i, x }) => (
        <g key={i}>
          <line
            x1={x}
            x2={x}
            y1={y}
            y2={y - (RAIN_UP * by(o.rain, i)) / most}
            stroke="var(--water)"
            strokeWidth={2}
          />
          <line
            x1={x + 3}
            x2={x + 3}
            y1={y}
            y2={y - (RAIN_UP * by(o.drained, i)) / most}
            stroke="var(--ink)"
            strokeWidth={2}
          />
        </g>
      ))}
      {bears.map((b) => (
        <rect
          key={b.from}
          x={g.x(b.from)}
          width={Math.max(2, g.x(b.to) - g.x(b.from))}
          y={y + 8}
          height={4}
          fill="var(--demand)"
          opacity={0.6}
        />
      ))}
      {names && (
        <>
          <text x={right + 8} y={y} fontSize={12} fill="var(--water)">
            rain; <tspan fill="var(--ink)">beside it what drains</tspan>
          </text>
          <text x={right + 8} y={y + 14} fontSize={12} fill="var(--demand)">
            bears a machine in 8 years of 10
          </text>
        </>
      )}
    </g>
  );
}
