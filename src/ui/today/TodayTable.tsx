'use client';

import type { Route } from 'next';
import Link from 'next/link';
import type { StationState } from '@/core/assessment/assess';
import type { FurrowSection } from '@/core/views/furrow';
import type { Station } from '@/core/lines/problem';
import { TinyFurrow } from '../furrow/TinyFurrow';
import { useUnits } from '../frame/units';

export interface TodayRow {
  fieldId: string;
  name: string;
  areaHa: number;
  season: string;
  crop: string | null;
  stations: Record<Station, StationState>;
  leaf: string | null;
  toBring: number | null;
  after: number;
  decide: string | null;
  stops: number;
  cautions: number;
  version: { number: number; status: string } | null;
  section: FurrowSection | null;
}
const STATIONS: readonly [Exclude<Station, 'season'>, string][] = [
  ['ground', 'Ground'],
  ['crop', 'Crop'],
  ['budget', 'Budget'],
  ['supply', 'Supply'],
];
const STATUS: Record<string, string> = {
  proposed: 'waits for an answer',
  change_asked: 'change asked for',
  agreed: 'agreed',
};
const short = (text: string): string => (text.length > 96 ? `${text.slice(0, 94)} …` : text);
const counts = (r: TodayRow): string =>
  [
    r.stops > 0 ? `${r.stops} ${r.stops === 1 ? 'stop' : 'stops'}` : '',
    r.cautions > 0 ? `${r.cautions} ${r.cautions === 1 ? 'caution' : 'cautions'}` : '',
  ]
    .filter(Boolean)
    .join(', ');

export interface TodayGroup {
  id: string;
  name: string;
  rows: TodayRow[];
}

/** All fields of the actor's farms in one table: where each stands, and what needs a decision. */
export function TodayTable({ groups }: { groups: readonly TodayGroup[] }) {
  const { show, unit } = useUnits();
  return (
    <div className="overflow-x-auto">
      <table className="ruled middle min-w-[58rem]">
        <thead>
          <tr>
            <th>Field</th>
            <th>Season in section</th>
            {STATIONS.map(([k, t]) => (
              <th key={k} className="pl-4">
                {t}
              </th>
            ))}
            <th className="num">
              N to bring,
              <br />
              {unit('nutrient_rate')}
            </th>
            <th className="pl-4">Needs a decision</th>
            <th>Plan sheet</th>
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
                <th scope="row" className="min-w-32">
                  <Link
                    href={
                      `/fields/${r.fieldId}/${r.crop === null ? 'crop' : r.stations.ground.state === 'done' ? 'budget' : 'ground'}` as Route
                    }
                    className="font-bold"
                  >
                    {r.name}
                  </Link>
                  <span className="note block">
                    {show(r.areaHa, 'area', 1)} {unit('area')}, {r.crop ?? 'no crop yet'}
                  </span>
                </th>
                <td>
                  {r.section ? (
                    <TinyFurrow
                      section={r.section}
                      label={`${r.name}: uptake and supply through the season`}
                    />
                  ) : (
                    <span className="note">opens with crop and dates</span>
                  )}
                </td>
                {STATIONS.map(([k]) => (
                  <td
                    key={k}
                    className={`pl-4 ${r.stations[k].state === 'stopped' ? 'text-hot' : r.stations[k].state === 'open' ? 'text-faint' : ''}`}
                  >
                    <Link
                      href={`/fields/${r.fieldId}/${k}` as Route}
                      className="no-underline hover:underline"
                      title={r.stations[k].note || undefined}
                    >
                      {r.stations[k].state}
                    </Link>
                  </td>
                ))}
                <td className="num">
                  {r.toBring === null ? '·' : show(r.toBring, 'nutrient_rate')}
                </td>
                <td className="min-w-64 pl-4">
                  {r.decide ? (
                    <>
                      <span className={r.stops > 0 ? 'text-hot' : ''}>{short(r.decide)}</span>
                      <span className="note block">{counts(r)}</span>
                    </>
                  ) : (
                    <span className="note">nothing</span>
                  )}
                </td>
                <td className="whitespace-nowrap">
                  <Link href={`/fields/${r.fieldId}/sheet` as Route}>
                    {r.version ? `${STATUS[r.version.status]}` : 'not proposed'}
                  </Link>
                  {r.leaf && <span className="note block">leaf of {r.leaf}</span>}
                </td>
              </tr>
            ))}
            {g.rows.length === 0 && (
              <tr>
                <td colSpan={9}>
                  No field yet. Add the first one below, or stop this program and start it with{' '}
                  <code>npm run demo</code> to look around in the demo farms.
                </td>
              </tr>
            )}
          </tbody>
        ))}
      </table>
    </div>
  );
}
