'use client';

import { useMemo, useState } from 'react';
import { bookOf, type LibraryChange } from '@/core/book/book';
import { materials } from '@/core/book/organicMaterials';
import type { PlannedMachine } from '@/core/document/organicDocument';
import { flowDrift, judgeCalibration, speedFor } from '@/core/organics/calibration';
import { evenness, testedRate, traysOf, type SpreadTest } from '@/core/organics/spreadTest';
import { daysBetween } from '@/core/quantity/calendar';
import { Refusal } from '@/core/quantity/refusal';
import type { Warning } from '@/core/rules/rule';
import { ChoiceBox, DateBox, TickBox } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { TextBox } from '../figure/TextBox';
import { Warnings } from '../Warnings';

export type Calibration = NonNullable<PlannedMachine['calibration']>;
interface Told<T> {
  value: T | null;
  problem: string | null;
}
const told = <T,>(work: () => T): Told<T> => {
  try {
    return { value: work(), problem: null };
  } catch (e) {
    if (e instanceof Refusal) return { value: null, problem: e.message };
    throw e;
  }
};
const span = (label: string, unit: string, max: number) => ({ label, unit, min: 0, max });
const firstTests = (capacity: number): Record<SpreadTest['kind'], SpreadTest> => ({
  sheets: { kind: 'sheets', netKg: 18, sheets: 3, sheetM2: 3 },
  load: { kind: 'load', load: capacity, distanceM: 400, swathM: 12 },
  flow: { kind: 'flow', tankM3: capacity, emptyMin: 4, speedKmH: 6, swathM: 12 },
});

/** Minutes that the first and the last third of a load take to empty. */
interface Thirds {
  first: number | null;
  last: number | null;
}
/** All that is entered for a calibration. */
interface Entered {
  test: SpreadTest;
  target: number;
  date: string;
  materialKey: string;
  catches: string;
  pitchM: number;
  racetrack: boolean;
  sightGlass: boolean;
  thirds: Thirds;
}
interface Reckoned {
  rate: Told<number>;
  even: Told<ReturnType<typeof evenness>> | null;
  swathM: number | null;
  cvPct: number | null;
  trays: number | null;
  speed: Told<number> | null;
  drift: ReturnType<typeof flowDrift> | null;
  warnings: Warning[];
}

/** What the test found: rate, evenness, the speed for the target, and what stands against it. */
function reckoned(e: Entered, machineKind: string, today: string): Reckoned {
  const { test, thirds } = e;
  const rate = told(() => testedRate(test));
  const even =
    e.catches.trim() === ''
      ? null
      : told(() =>
          evenness({
            catches: traysOf(e.catches),
            pitchM: e.pitchM,
            machineKind,
            racetrack: e.racetrack,
          }),
        );
  const swathM = even?.value?.effectiveSwathM ?? null;
  const bySwath = even?.value?.bySwath ?? [];
  const cvPct = bySwath.find((s) => s.swathM === swathM)?.cvPct ?? bySwath.at(-1)?.cvPct ?? null;
  const trays = even?.value ? bySwath.length + 1 : null;
  const found = rate.value;
  return {
    rate,
    even,
    swathM,
    cvPct,
    trays,
    drift:
      test.kind === 'flow' && thirds.first !== null && thirds.last !== null
        ? flowDrift({ first: 60 / thirds.first, last: 60 / thirds.last })
        : null,
    speed:
      test.kind === 'flow' && found !== null
        ? told(() =>
            speedFor({
              flowM3H: test.tankM3 / (test.emptyMin / 60),
              rateM3Ha: e.target,
              swathM: test.swathM,
            }),
          )
        : null,
    warnings:
      found === null
        ? []
        : (told(() =>
            judgeCalibration({
              machineKind,
              date: e.date,
              target: e.target,
              actual: found,
              cvPct,
              trays,
              sheets: test.kind === 'sheets' ? test.sheets : null,
              ageDays: Math.max(0, daysBetween(e.date, today)),
              changed: false,
              sightGlass: e.sightGlass,
            }),
          ).value ?? []),
  };
}

type Kind<K extends SpreadTest['kind']> = Extract<SpreadTest, { kind: K }>;
type Set = (part: object) => void;
function SheetBoxes({ test, set }: { test: Kind<'sheets'>; set: Set }) {
  return (
    <>
      <FigureBox
        label="Net on all sheets"
        value={test.netKg}
        range={span('Net on the sheets', 'kg', 2000)}
        onValue={(v) => v !== null && set({ netKg: v })}
      />
      <FigureBox
        label="Sheets"
        value={test.sheets}
        range={span('Sheets', '', 100)}
        onValue={(v) => v !== null && set({ sheets: v })}
      />
      <FigureBox
        label="Area of a sheet"
        value={test.sheetM2}
        range={span('Sheet', 'm2', 20)}
        onValue={(v) => v !== null && set({ sheetM2: v })}
      />
    </>
  );
}
function LoadBoxes({ test, liquid, set }: { test: Kind<'load'>; liquid: boolean; set: Set }) {
  return (
    <>
      <FigureBox
        label="Load spread"
        value={test.load}
        range={span('Load', liquid ? 'm3' : 't', 60)}
        onValue={(v) => v !== null && set({ load: v })}
      />
      <FigureBox
        label="Distance driven"
        value={test.distanceM}
        range={span('Distance', 'm', 50_000)}
        onValue={(v) => v !== null && set({ distanceM: v })}
      />
      <FigureBox
        label="Effective swath"
        value={test.swathM}
        range={span('Swath', 'm', 60)}
        onValue={(v) => v !== null && set({ swathM: v })}
      />
    </>
  );
}
function FlowBoxes({
  entered,
  test,
  set,
  put,
}: {
  entered: Entered;
  test: Kind<'flow'>;
  set: Set;
  put: (part: Partial<Entered>) => void;
}) {
  const { thirds, sightGlass } = entered;
  return (
    <>
      <FigureBox
        label="Tank"
        value={test.tankM3}
        range={span('Tank', 'm3', 60)}
        onValue={(v) => v !== null && set({ tankM3: v })}
      />
      <FigureBox
        label="empties in"
        value={test.emptyMin}
        range={span('Time to empty', 'min', 120)}
        onValue={(v) => v !== null && set({ emptyMin: v })}
      />
      <FigureBox
        label="Speed"
        value={test.speedKmH}
        range={span('Speed', 'km/h', 30)}
        onValue={(v) => v !== null && set({ speedKmH: v })}
      />
      <FigureBox
        label="Effective swath"
        value={test.swathM}
        range={span('Swath', 'm', 60)}
        onValue={(v) => v !== null && set({ swathM: v })}
      />
      <FigureBox
        label="First third empties in"
        optional
        value={thirds.first}
        range={{ ...span('Time of a third', 'min', 60), above: true }}
        onValue={(first) => put({ thirds: { ...thirds, first } })}
      />
      <FigureBox
        label="last third in"
        optional
        value={thirds.last}
        range={{ ...span('Time of a third', 'min', 60), above: true }}
        onValue={(last) => put({ thirds: { ...thirds, last } })}
      />
      <TickBox
        label="read from a sight glass"
        value={sightGlass}
        onValue={(v) => put({ sightGlass: v })}
      />
    </>
  );
}

/** What was found, in words. */
function Found({ r, target, unit }: { r: Reckoned; target: number; unit: string }) {
  const { even, swathM: swath, cvPct, speed, drift } = r;
  const found = r.rate.value;
  return (
    <>
      {r.rate.problem && (
        <p role="alert" className="problem">
          {r.rate.problem}
        </p>
      )}
      <p className="mt-2" data-testid="calibration-result">
        {found !== null && (
          <>
            <strong>
              {found.toFixed(1)} {unit}
            </strong>{' '}
            found, {((100 * found) / target - 100).toFixed(0)} % off the target
            {cvPct !== null
              ? `; CV ${cvPct.toFixed(0)} % once passes overlap${swath === null ? ', not even at any swath' : ` at an effective swath of ${swath.toFixed(1)} m`} (one pass alone ${even?.value?.singlePassCvPct.toFixed(0)} %)`
              : ''}
            .{' '}
            {speed
              ? speed.value === null
                ? speed.problem
                : `For ${target} ${unit} drive ${speed.value.toFixed(1)} km/h.`
              : `For the target multiply the speed by ${(found / target).toFixed(2)} (with a ground-driven feed change the gate).`}
          </>
        )}
      </p>
      {drift && (
        <p className={drift.caution ? 'text-hot' : 'note'} data-testid="drift">
          The flow falls by {drift.driftPct.toFixed(0)} % from the first third of a load to the last
          {drift.caution
            ? ': over 15 %, the end of each load is thin. A flow control, or a lower speed as it empties.'
            : '.'}
        </p>
      )}
      <Warnings list={r.warnings} />
    </>
  );
}

/** A calibration entered, reckoned as it is typed, and kept with its machine. */
export function CalibrationForm({
  machine,
  library,
  today,
  keep,
}: {
  machine: { name: string; kind: string; capacity: number };
  library: readonly LibraryChange[];
  today: string;
  keep: (c: Calibration) => void;
}) {
  const liquid = /slurry|tanker|hose|inject/.test(machine.kind);
  const tests = firstTests(machine.capacity);
  const [entered, setEntered] = useState<Entered>({
    test: tests[liquid ? 'flow' : 'sheets'],
    target: 20,
    date: today,
    materialKey: liquid ? 'dairy_slurry_medium' : 'sheep_bedded',
    catches: '',
    pitchM: 1,
    racetrack: false,
    sightGlass: false,
    thirds: { first: null, last: null },
  });
  const { test, target, date, materialKey } = entered;
  const put = (part: Partial<Entered>) => setEntered((e) => ({ ...e, ...part }));
  const set = (part: object) =>
    setEntered((e) => ({ ...e, test: { ...e.test, ...part } as SpreadTest }));
  const r = useMemo(() => reckoned(entered, machine.kind, today), [entered, machine.kind, today]);
  const found = r.rate.value;
  const unit = liquid ? 'm3/ha' : 't/ha';
  return (
    <section className="my-2 border-l-2 border-ink pl-4" aria-label="Calibration">
      <h3>Calibrate {machine.name}</h3>
      <p className="note">
        At least three sheets down the middle of the pass, three runs; trays in a row across the
        whole throw. Keep people clear of the machine and the throw.
      </p>
      <div className="mt-1 flex flex-wrap items-baseline gap-x-4 gap-y-2">
        <DateBox label="On" value={date} max={today} onValue={(v) => v && put({ date: v })} />
        <ChoiceBox
          label="with"
          value={materialKey}
          options={materials(bookOf(library)).map((m) => ({ value: m.key, label: m.name }))}
          onValue={(v) => v && put({ materialKey: v })}
        />
        <FigureBox
          label="Target rate"
          value={target}
          range={{ label: 'Target rate', unit, min: 0, max: 400, above: true }}
          onValue={(v) => v !== null && put({ target: v })}
        />
        <ChoiceBox
          label="Rate by"
          value={test.kind}
          options={[
            { value: 'sheets', label: 'sheets on the ground' },
            { value: 'load', label: 'a load and its ground' },
            { value: 'flow', label: 'flow of a tanker' },
          ]}
          onValue={(v) => v && put({ test: tests[v as SpreadTest['kind']] })}
        />
      </div>
      <div className="mt-1 flex flex-wrap items-baseline gap-x-4 gap-y-2">
        {test.kind === 'sheets' && <SheetBoxes test={test} set={set} />}
        {test.kind === 'load' && <LoadBoxes test={test} liquid={liquid} set={set} />}
        {test.kind === 'flow' && <FlowBoxes entered={entered} test={test} set={set} put={put} />}
      </div>
      <div className="mt-1 flex flex-wrap items-baseline gap-x-4 gap-y-2">
        <TextBox
          label="Catches across one pass"
          wide
          max={400}
          value={entered.catches}
          problem={r.even?.problem}
          onValue={(v) => put({ catches: v })}
        />
        <FigureBox
          label="Tray pitch"
          value={entered.pitchM}
          range={{ label: 'Tray pitch', unit: 'm', min: 0.1, max: 5 }}
          onValue={(v) => v !== null && put({ pitchM: v })}
        />
        <TickBox
          label="driven round and round"
          value={entered.racetrack}
          onValue={(v) => put({ racetrack: v })}
        />
      </div>
      <Found r={r} target={target} unit={unit} />
      <button
        type="button"
        className="button button-strong mt-1"
        disabled={found === null || Boolean(r.even?.problem)}
        onClick={() =>
          found !== null &&
          keep({
            date,
            materialKey,
            target,
            actual: Number(found.toFixed(3)),
            cvPct: r.cvPct === null ? null : Number(r.cvPct.toFixed(1)),
            trays: r.trays,
            sightGlass: entered.sightGlass,
          })
        }
      >
        Keep with the machine
      </button>
    </section>
  );
}
