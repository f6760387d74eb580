'use client';

import type { Route } from 'next';
import Link from 'next/link';
import type { FieldSummary } from '@/core/farm/fieldSummary';
import { dateInWords } from '@/core/quantity/calendar';
import type { Station } from '@/core/lines/problem';
import { TinyFurrow } from '../furrow/TinyFurrow';
import { stationWord } from '../StationLine';
import { useUnits } from '../frame/units';

export interface TodayRow {
  fieldId: string;
  name: string;
  areaHa: number;
  version: { number: number; status: string; changed: boolean } | null;
  /** Null where the plan could not be reckoned: its page says why. */
  summary: FieldSummary | null;
}
const STATIONS: readonly [Exclude<Station, 'season'>, string][] = [
  ['ground', 'Ground'],
  ['crop', 'Crop'],
  ['budget', 'Budget'],
  ['supply', 'Supply'],
];
interface Answers {
  farmers: readonly string[];
  advisors: readonly string[];
}
const among = (names: readonly string[]): string =>
  names.length === 0 ? 'somebody' : names.join(' or ');
/** Where a plan stands between the two, and whose turn it is. */
function standing(version: TodayRow['version'], { farmers, advisors }: Answers): string {
  if (version === null) return 'not proposed';
  if (version.status === 'proposed') return `waits for ${among(farmers)}`;
  if (version.status === 'change_asked') return `change asked of ${among(advisors)}`;
  return version.changed ? 'changed since agreed' : 'agreed';
}
const short = (text: string): string => (text.length > 96 ? `${text.slice(0, 94)} …` : text);
const counts = ({ stops, cautions }: FieldSummary): string =>
  [
    stops > 0 ? `${stops} ${stops === 1 ? 'stop' : 'stops'}` : '',
    cautions > 0 ? `${cautions} ${cautions === 1 ? 'caution' : 'cautions'}` : '',
  ]
    .filter(Boolean)
    .join(', ');
/** Where the work on a field goes on. */
const openAt = (s: FieldSummary | null): string =>
  s === null || s.stations.ground.state !== 'done' ? 'ground' : 'budget';

export interface TodayGroup {
  id: string;
  name: string;
  answers: Answers;
  /** The farm has no field at all yet. */
  none: boolean;
  rows: TodayRow[];
}

/** What a phone leaves out: it shows the field, what is still to apply, and what to decide. */
const WIDE = 'max-sm:hidden';
function Head({ row }: { row: TodayRow }) {
  const { show, unit } = useUnits();
  const { summary: s } = row;
  const station = s && s.cropName === null ? 'crop' : openAt(s);
  return (
    <th scope="row" className="sm:min-w-32">
      <Link href={`/fields/${row.fieldId}/${station}` as Route} className="font-bold">
        {row.name}
      </Link>
      <span className="note block">
        {show(row.areaHa, 'area', 1)} {unit('area')}, {s?.cropName ?? 'no crop yet'}
        {s && `, ${s.season}`}
      </span>
    </th>
  );
}

function Figures({ row, summary: s }: { row: TodayRow; summary: FieldSummary }) {
  const { show, words } = useUnits();
  return (
    <>
      <td className={WIDE}>
        {s.glance ? (
          <TinyFurrow
            section={s.glance}
            label={`${row.name}: uptake and supply through the season`}
          />
        ) : (
          <span className="note">opens with crop and dates</span>
        )}
      </td>
      {STATIONS.map(([k]) => (
        <td
          key={k}
          className={`${WIDE} pl-4 ${['stopped', 'over'].includes(s.stations[k].state) ? 'text-hot' : s.stations[k].state === 'open' ? 'text-faint' : ''}`}
        >
          <Link
            href={`/fields/${row.fieldId}/${k}` as Route}
            className="no-underline hover:underline"
            title={words(s.stations[k].note) || undefined}
          >
            {stationWord(k, s.stations[k].state)}
          </Link>
        </td>
      ))}
      <td className="num">
        {s.atMost && <span className="note">at most </span>}
        {s.stillToApply === null ? '·' : show(s.stillToApply, 'nutrient_rate')}
      </td>
      <td className="pl-4 sm:min-w-64">
        {s.decide ? (
          <>
            <Link
              href={`/fields/${row.fieldId}/${s.decideAt ?? 'budget'}` as Route}
              className={`no-underline hover:underline ${s.stops > 0 ? 'text-hot' : ''}`}
            >
              {short(words(s.decide))}
            </Link>
            <span className="note block">{counts(s)}</span>
          </>
        ) : (
          <span className="note">nothing</span>
        )}
        {s.leafWindow && (
          <Link
            href={`/fields/${row.fieldId}/season` as Route}
            className="note block no-underline hover:underline"
          >
            take the leaf,{' '}
            {s.leafWindow.open
              ? `open${s.leafWindow.to ? ` to ${dateInWords(s.leafWindow.to)}` : ''}`
              : `opens ${dateInWords(s.leafWindow.from)}`}
          </Link>
        )}
      </td>
    </>
  );
}

/** All fields of the actor's farms in one table: where each stands, and what needs a decision. */
export function TodayTable({ groups }: { groups: readonly TodayGroup[] }) {
  const { unit } = useUnits();
  return (
    <div className="overflow-x-auto">
      <table className="ruled middle sm:min-w-[58rem]">
        <thead>
          <tr>
            <th>Field</th>
            <th className={WIDE}>Season in section</th>
            {STATIONS.map(([k, t]) => (
              <th key={k} className={`${WIDE} pl-4`}>
                {t}
              </th>
            ))}
            <th className="num">
              N still to apply,
              <br />
              {unit('nutrient_rate')}
            </th>
            <th className="pl-4">Needs a decision</th>
            <th className={WIDE}>Plan sheet</th>
          </tr>
        </thead>
        {groups.map((g) => (
          <tbody key={g.id}>
            <tr>
              <th scope="rowgroup" colSpan={9} className="pt-4">
                <h2>{g.name}</h2>
              </th>
            </tr>
            {g.rows.map((r) => (
              <tr key={r.fieldId}>
                <Head row={r} />
                {r.summary ? (
                  <Figures row={r} summary={r.summary} />
                ) : (
                  <td colSpan={STATIONS.length + 3} className="text-hot">
                    This plan could not be reckoned. The others are not touched by it.
                  </td>
                )}
                <td className={`${WIDE} min-w-32`}>
                  <Link href={`/fields/${r.fieldId}/sheet` as Route}>
                    {standing(r.version, g.answers)}
                  </Link>
                  {r.summary?.leafDate && (
                    <span className="note block">leaf of {dateInWords(r.summary.leafDate)}</span>
                  )}
                </td>
              </tr>
            ))}
            {g.none && (
              <tr>
                <td colSpan={9}>
                  No field yet.{' '}
                  <Link href={`/farms/${g.id}/fields` as Route}>Add the first ones</Link>, or stop
                  this program and start it with <code>npm run demo</code> to look around in the
                  demo farms.
                </td>
              </tr>
            )}
          </tbody>
        ))}
      </table>
    </div>
  );
}
