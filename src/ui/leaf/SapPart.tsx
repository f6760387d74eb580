'use client';

import { Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { tissueCropOf } from '@/core/book/crops';
import type { Plan } from '@/core/document/document';
import { dateInWords, daysBetween } from '@/core/quantity/calendar';
import { judge } from '@/core/rules/rule';
import { sapRules } from '@/core/tissue/adviceRules';
import { sapAct, sapReading } from '@/core/tissue/sap';
import { ChoiceBox, DateBox, Part, words } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { Warnings } from '../Warnings';
import { editSeason, lineId, useBook, useEdit } from '../workspace/context';
import { SimulatedMeter } from './SimulatedMeter';
import { useKnownPlan } from './useCalendar';

type Sap = Plan['season']['sap'][number];
const METERS = [
  { value: 'NO3', label: 'nitrate, NO3' },
  { value: 'NO3-N', label: 'nitrate-N, NO3-N' },
  { value: 'K', label: 'potassium' },
];

/** Readings of a quick meter in pressed sap, over the season. */
export function SapPart() {
  const plan = useKnownPlan();
  const book = useBook();
  const { edit, readOnly } = useEdit();
  const [date, setDate] = useState<string | null>(plan.asOf);
  const [bbch, setBbch] = useState<number | null>(null);
  const [meter, setMeter] = useState<Sap['meter'] | null>(null);
  const [value, setValue] = useState<number | null>(null);
  const [dilution, setDilution] = useState(1);
  const { cropKey, use, sap } = plan.season;
  if (!cropKey) return null;
  const crop = tissueCropOf(book, cropKey, use) ?? cropKey;
  const ordered = sap.toSorted((a, b) => a.date.localeCompare(b.date));
  const read = ordered.map((s) => ({
    s,
    r: sapReading({
      crop,
      bbch: s.bbch,
      meterReads: s.meter,
      readingMgL: s.readingMgL,
      dilution: s.dilution,
    }),
  }));
  const nitrate = read.filter(({ s }) => s.meter !== 'K');
  const decision = sapAct(
    nitrate.map(({ s, r }) => ({ day: daysBetween(plan.season.startDate, s.date), reading: r })),
  );
  const ready = date !== null && bbch !== null && meter !== null && value !== null;
  return (
    <Part
      title="Sap by a quick meter"
      aside="20 to 25 stalks pressed within two hours, at the same hour each time; not within two days of fertigation"
    >
      <div data-testid="sap">
        {read.length > 0 && (
          <table className="ruled max-w-[46rem]">
            <thead>
              <tr>
                <th>Read on</th>
                <th className="num">stage</th>
                <th className="num">meter</th>
                <th className="num">in the sap, mg/L</th>
                <th className="num">span</th>
                <th className="pl-2">it is</th>
                <th>
                  <span className="sr-only">Remove</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {read.map(({ s, r }) => (
                <tr key={s.id}>
                  <th scope="row">{dateInWords(s.date)}</th>
                  <td className="num">{s.bbch}</td>
                  <td className="num">
                    {s.readingMgL} {s.meter}
                  </td>
                  <td className="num font-bold">
                    {Math.round(r.mgL)} {s.meter === 'K' ? 'K' : 'NO3-N'}
                  </td>
                  <td className="num note">{r.low === null ? '·' : `${r.low}-${r.high ?? ''}`}</td>
                  <td className="pl-2">
                    {r.cls === null ? 'no standard for this stage' : words(r.cls)}
                  </td>
                  <td>
                    {!readOnly && (
                      <button
                        type="button"
                        className="plain"
                        aria-label={`Remove the reading of ${dateInWords(s.date)}`}
                        onClick={() =>
                          edit((p) =>
                            editSeason({ sap: p.season.sap.filter((x) => x.id !== s.id) })(p),
                          )
                        }
                      >
                        <Trash2 size={13} aria-hidden />
                      </button>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {decision === 'act' && (
          <p className="font-bold">
            Low enough to act: a small step of N by fertigation or a dressing, then read again after
            five to seven days. The reading says whether, the budget says how much.
          </p>
        )}
        <Warnings list={judge(sapRules, { readings: nitrate.length, act: decision === 'act' })} />
        {!readOnly && (
          <div className="mt-1 flex flex-wrap items-baseline gap-x-4 gap-y-2">
            <DateBox label="Sap read on" value={date} max={plan.asOf} onValue={setDate} />
            <FigureBox
              label="Stage then (BBCH)"
              optional
              value={bbch}
              range={{ label: 'Growth stage (BBCH)', unit: '', min: 0, max: 99 }}
              onValue={setBbch}
            />
            <ChoiceBox
              label="The meter shows"
              value={meter}
              empty="choose: a factor of 4.4"
              options={METERS}
              onValue={(v) => setMeter(v as Sap['meter'] | null)}
            />
            <FigureBox
              label="Meter reading"
              optional
              value={value}
              range={{ label: 'Reading', unit: 'mg/L', min: 0, max: 20_000 }}
              onValue={setValue}
            />
            <FigureBox
              label="Diluted, times"
              value={dilution}
              range={{ label: 'Dilution', unit: '', min: 1, max: 100 }}
              onValue={(v) => v !== null && setDilution(v)}
            />
            <SimulatedMeter
              asked={
                date !== null && bbch !== null && meter !== null ? { meter, date, bbch } : null
              }
              onRead={(r) => 'shows' in r && setValue(r.shows)}
            />
            <button
              type="button"
              className="button"
              disabled={!ready || sap.length >= 40}
              onClick={() => {
                if (date === null || bbch === null || meter === null || value === null) return;
                edit((p) =>
                  editSeason({
                    sap: [
                      ...p.season.sap,
                      { id: lineId(), date, bbch, meter, readingMgL: value, dilution },
                    ],
                  })(p),
                );
                setValue(null);
              }}
            >
              <Plus size={13} aria-hidden /> Add the reading
            </button>
          </div>
        )}
      </div>
    </Part>
  );
}
