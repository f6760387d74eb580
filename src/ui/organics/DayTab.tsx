'use client';

import { Plus } from 'lucide-react';
import type { MaterialRecords, SpreadingDay } from '@/core/document/organicDocument';
import { BLANK_DAY, BLANK_RECORDS } from '@/core/document/organicDefaults';
import type { OrganicApplication } from '@/core/document/document';
import { SMELLS } from '@/core/document/organicKeys';
import { maturityOf } from '@/core/lines/organicLines';
import { setbacks } from '@/core/book/organicTables';
import { ChoiceBox, TickBox, words } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { editField, replaceAt, without, useEdit, usePlan } from '../workspace/context';
import { RemoveButton } from '../figure/RemoveButton';

type Set = (part: Partial<OrganicApplication>) => void;
const ticks = <T extends object>(
  of: readonly (readonly [keyof T & string, string])[],
  value: T,
  readOnly: boolean,
  put: (part: Partial<T>) => void,
) =>
  of.map(([k, label]) => (
    <TickBox
      key={k}
      label={label}
      disabled={readOnly}
      value={value[k] as boolean}
      onValue={(v) => put({ [k]: v } as Partial<T>)}
    />
  ));
const DAY_TICKS = [
  ['drainsOpen', 'drains run, or cracks are open over them'],
  ['ponding', 'liquid was seen to run or pond'],
  ['inhibitor', 'with a nitrification inhibitor'],
  ['leavesWet', 'leaves are wet'],
  ['windToRawCrop', 'wind toward a crop eaten raw'],
  ['hoseOnRoad', 'a hose crosses a road'],
] as const satisfies readonly (readonly [keyof SpreadingDay, string])[];
const RECORD_TICKS = [
  ['certifierApproval', 'the certifier agreed in writing'],
  ['permit', 'permit and batch metals on file'],
  ['herbicideAsked', 'asked about pyridine herbicides on its ground'],
  ['rationChanged', 'ration, bedding or storage changed since the analysis'],
  ['heapHot', 'the heap is still hot'],
  ['ashOrLimeMixed', 'ash or lime mixed in'],
  ['touchesSeed', 'it will touch seed or roots'],
] as const satisfies readonly (readonly [keyof MaterialRecords, string])[];

const METALS = [
  ['cuMgKgDm', 'Copper', 20_000],
  ['znMgKgDm', 'Zinc', 50_000],
  ['cdMgKgDm', 'Cadmium', 500],
] as const satisfies readonly (readonly [keyof MaterialRecords, string, number])[];
const READY = [
  ['selfHeatRiseC', 'Self-heating in a flask', '°C', 80],
  ['o2UptakeMmolKgH', 'Oxygen uptake', 'mmol/kg h', 500],
  ['co2MgGD', 'Respiration', 'mg C/g d', 200],
  ['cressPct', 'Cress against control', '%', 200],
  ['ecDsM15', 'Salt in 1:5 water', 'dS/m', 60],
  ['glassPctDm', 'Glass, metal, plastic', '% of dry matter', 100],
] as const satisfies readonly (readonly [keyof MaterialRecords, string, string, number])[];

/** The day of spreading, what lies beside the field, and what is on file about the material. */
export function DayTab({ o, set }: { o: OrganicApplication; set: Set }) {
  const plan = usePlan('field');
  const { edit, readOnly } = useEdit();
  const { field } = plan;
  const day = o.day ?? BLANK_DAY;
  const records = o.records ?? BLANK_RECORDS;
  const ready = maturityOf(o);
  const tested = ready.tests.filter((t) => t.value !== null);
  const putDay = (part: Partial<SpreadingDay>) => set({ day: { ...day, ...part } });
  const putRecords = (part: Partial<MaterialRecords>) => set({ records: { ...records, ...part } });
  const near = (list: typeof field.near) => edit(editField({ near: list }));
  const features = [...new Set(setbacks().map((s) => s.feature))];
  const situations = (feature: string) =>
    setbacks()
      .filter((s) => s.feature === feature)
      .map((s) => ({ value: s.situation, label: words(s.situation) }));
  return (
    <>
      <h2 className="text-[1rem]">The day</h2>
      <div className="fields">
        <FigureBox
          label="Rain within 48 h, forecast"
          optional
          disabled={readOnly}
          value={day.rain48hMm}
          range={{ label: 'Rain within 48 h', unit: 'mm', min: 0, max: 400 }}
          onValue={(v) => putDay({ rain48hMm: v })}
        />
        <ChoiceBox
          label="Ground"
          disabled={readOnly}
          value={day.ground}
          empty="not looked at"
          options={[
            { value: 'ok', label: 'carries, open' },
            { value: 'frozen', label: 'frozen' },
            { value: 'snow', label: 'under snow' },
            { value: 'saturated', label: 'saturated' },
          ]}
          onValue={(v) => putDay({ ground: v as SpreadingDay['ground'] })}
        />
        <FigureBox
          label="Soil at 10 cm"
          optional
          disabled={readOnly}
          value={day.soilTempC}
          range={{ label: 'Soil temperature', unit: '°C', min: -10, max: 45 }}
          onValue={(v) => putDay({ soilTempC: v })}
        />
        {ticks<SpreadingDay>(DAY_TICKS, day, readOnly, putDay)}
      </div>
      <h2 className="mt-3 text-[1rem]">Slope, and what lies beside the field</h2>
      <div className="fields">
        <FigureBox
          label="Slope"
          optional
          disabled={readOnly}
          value={field.slopePct}
          range={{ label: 'Slope', unit: '%', min: 0, max: 60 }}
          onValue={(v) => edit(editField({ slopePct: v }))}
        />
      </div>
      <ul>
        {field.near.map((n, i) => (
          <li key={i} className="flex flex-wrap items-baseline gap-x-4 py-1">
            <ChoiceBox
              label={`Beside the field ${i + 1}`}
              hideLabel
              disabled={readOnly}
              value={n.feature}
              options={features.map((f) => ({ value: f, label: words(f) }))}
              onValue={(v) =>
                v &&
                near(
                  replaceAt(field.near, i, {
                    feature: v,
                    situation: situations(v)[0]?.value ?? 'any',
                  }),
                )
              }
            />
            <ChoiceBox
              label={`Spread how ${i + 1}`}
              hideLabel
              disabled={readOnly}
              value={n.situation}
              options={situations(n.feature)}
              onValue={(v) => v && near(replaceAt(field.near, i, { situation: v }))}
            />
            <FigureBox
              label="kept clear"
              disabled={readOnly}
              value={n.metres}
              range={{ label: 'Kept clear', unit: 'm', min: 0, max: 2000 }}
              onValue={(v) => v !== null && near(replaceAt(field.near, i, { metres: v }))}
            />
            {!readOnly && (
              <RemoveButton
                label={`Remove ${words(n.feature)}`}
                onClick={() => near(without(field.near, i))}
              />
            )}
          </li>
        ))}
      </ul>
      {!readOnly && field.near.length < 12 && (
        <button
          type="button"
          className="button"
          onClick={() =>
            near([...field.near, { feature: 'surface_water', situation: 'broadcast', metres: 30 }])
          }
        >
          <Plus size={13} aria-hidden /> Water, well, house or road
        </button>
      )}
      <h2 className="mt-3 text-[1rem]">On file about the material</h2>
      <div className="fields">
        <ChoiceBox
          label="Time and temperature of composting"
          disabled={readOnly}
          value={records.heatRecords === null ? null : records.heatRecords ? 'yes' : 'no'}
          empty="nobody asked"
          options={[
            { value: 'yes', label: 'recorded' },
            { value: 'no', label: 'no record: raw manure' },
          ]}
          onValue={(v) => putRecords({ heatRecords: v === null ? null : v === 'yes' })}
        />
        <FigureBox
          label="Bean test, 0 to 3"
          optional
          disabled={readOnly}
          value={records.bioassayScore}
          range={{ label: 'Bean test', unit: '', min: 0, max: 3 }}
          onValue={(v) => putRecords({ bioassayScore: v })}
        />
        <FigureBox
          label="Ammonium-N of its dry matter"
          optional
          disabled={readOnly}
          value={records.nh4MgKgDm}
          range={{ label: 'Ammonium-N', unit: 'mg/kg', min: 0, max: 100_000 }}
          onValue={(v) => putRecords({ nh4MgKgDm: v })}
        />
        <FigureBox
          label="Nitrate to ammonium"
          optional
          disabled={readOnly}
          value={records.no3ToNh4}
          range={{ label: 'Nitrate to ammonium', unit: '', min: 0, max: 1000 }}
          onValue={(v) => putRecords({ no3ToNh4: v })}
        />
        {METALS.map(([key, label, max]) => (
          <FigureBox
            key={key}
            label={`${label} of its dry matter`}
            optional
            disabled={readOnly}
            value={records[key]}
            range={{ label, unit: 'mg/kg', min: 0, max }}
            onValue={(v) => putRecords({ [key]: v })}
          />
        ))}
        {ticks<MaterialRecords>(RECORD_TICKS, records, readOnly, putRecords)}
      </div>
      <h2 className="mt-3 text-[1rem]">Is a compost ready</h2>
      <div className="fields">
        {READY.map(([key, label, unit, max]) => (
          <FigureBox
            key={key}
            label={label}
            optional
            disabled={readOnly}
            value={records[key]}
            range={{ label, unit, min: key === 'selfHeatRiseC' ? -20 : 0, max }}
            onValue={(v) => putRecords({ [key]: v })}
          />
        ))}
        <ChoiceBox
          label="It smells"
          disabled={readOnly}
          value={records.smell}
          empty="nobody smelt it"
          options={SMELLS.map((x) => ({
            value: x,
            label: { earthy: 'of earth', ammonia: 'of ammonia', sour: 'sour or rotten' }[x],
          }))}
          onValue={(v) => putRecords({ smell: v as MaterialRecords['smell'] })}
        />
      </div>
      <p className="mt-1" data-testid="maturity">
        By its tests: <strong>{ready.verdict}</strong>.{' '}
        {tested.length > 0
          ? tested
              .map(
                (t) =>
                  `${t.name} ${t.value}, ${{ good: 'good', between: 'between', beyond: 'beyond its limit', unknown: '' }[t.reading]}`,
              )
              .join('; ')
          : 'Nothing tested yet'}
        .{' '}
        <span className="note">
          Mature takes C:N, ammonium (or nitrate to ammonium) and one of self-heating, respiration
          and cress, all good; what nobody tested is not good. C:N comes from the analysis.
        </span>
      </p>
      <p className="note mt-1">
        Bean test: three pots of one part material and one or two of clean mix, three of clean mix
        alone, four beans each; score the newest leaves at day 14 and 21 to 28: 0 none, 1 slight
        cupping, 2 clear, 3 severe. A clean 0 lowers the risk, it does not prove absence.
      </p>
    </>
  );
}
