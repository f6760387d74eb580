import type { Route } from 'next';
import Link from 'next/link';
import type { StationState } from '@/core/assessment/stations';
import { useUnits } from './frame/units';

/** A station's state as it is told: of supply, where all is placed or left out, it is settled. */
export const stationWord = (key: string, state: StationState['state']): string =>
  key === 'supply' && state === 'done' ? 'settled' : state;

export interface StationEntry {
  key: string;
  title: string;
  state: StationState;
}
const asksDecision = (key: string, s: StationState): boolean =>
  s.state === 'stopped' ||
  s.state === 'over' ||
  // A settled supply says how; of the others a note is something to settle.
  (s.state === 'done' && s.note !== '' && key !== 'supply');

/**
 * The stations as one furrowed line with a grain in each dip: done, open or stopped, in words too.
 */
export function StationLine({
  fieldId,
  stations,
  current,
  seasonQuery,
}: {
  fieldId: string;
  stations: readonly StationEntry[];
  current: string;
  seasonQuery: string;
}) {
  const { words } = useUnits();
  return (
    <nav aria-label="Stations" className="no-print mb-3 overflow-x-auto">
      <ol className="flex min-w-[42rem]">
        {stations.map((s, i) => {
          const here = s.key === current;
          const hot = asksDecision(s.key, s.state);
          const note = words(s.state.note);
          const word =
            s.state.state === 'stopped' ? 'stopped' : note || stationWord(s.key, s.state.state);
          return (
            <li key={s.key} className="relative min-w-0 flex-1">
              <svg className="block h-[24px] w-full" aria-hidden>
                <svg x="0" y="0" width="76" height="24" overflow="visible">
                  <path
                    d="M0 8H14C24 8 24 19 38 19S52 8 62 8H76"
                    fill="none"
                    stroke="var(--ink)"
                    strokeWidth={here ? 2.4 : 1.5}
                  />
                  <circle
                    cx="38"
                    cy="12"
                    r="5"
                    fill={
                      hot ? 'var(--hot)' : s.state.state === 'done' ? 'var(--ink)' : 'var(--paper)'
                    }
                    stroke={hot ? 'var(--hot)' : 'var(--ink)'}
                    strokeWidth="1.5"
                  />
                </svg>
                <line x1="76" y1="8" x2="100%" y2="8" stroke="var(--ink)" strokeWidth={1.5} />
              </svg>
              <Link
                href={`/fields/${fieldId}/${s.key}${seasonQuery}` as Route}
                aria-current={here ? 'step' : undefined}
                title={note || undefined}
                className={`block pr-3 pl-3.5 no-underline ${here ? 'font-bold' : ''}`}
              >
                <span className="block">
                  {i + 1} {s.title}
                </span>
                <span
                  className={`block truncate text-[0.82rem] font-normal ${hot ? 'text-hot' : 'text-faint'}`}
                >
                  {word}
                </span>
              </Link>
            </li>
          );
        })}
      </ol>
    </nav>
  );
}
