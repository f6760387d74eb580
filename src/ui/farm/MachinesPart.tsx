'use client';

import { Plus, Trash2 } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useMemo, useState, useTransition } from 'react';
import { bookOf, type LibraryChange } from '@/core/book/book';
import { evenness, testedRate, traysOf, type SpreadTest } from '@/core/organics/spreadTest';
import { flowDrift, judgeCalibration, speedFor } from '@/core/organics/calibration';
import type { PlannedMachine } from '@/core/document/organicDocument';
import { daysBetween } from '@/core/quantity/calendar';
import { Refusal, type Answer } from '@/core/quantity/refusal';
import { calibrationMachines } from '@/core/book/organicTables';
import { materials } from '@/core/book/organicMaterials';
import { ChoiceBox, DateBox, optionsOf, Part, TickBox, words } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { TextBox } from '../figure/TextBox';
import { useHydrated } from '../frame/hydrated';
import { Warnings } from '../Warnings';
import { Scrolled } from '../figure/Scrolled';

type Calibration = NonNullable<PlannedMachine['calibration']>;
export interface Machine {
  id: string;
  name: string;
  kind: string;
  minRate: number;
  maxRate: number;
  capacity: number;
  calibrations: Calibration[];
}
type Draft = Omit<Machine, 'id'> & { id: string | null };
export interface MachinesPartProps {
  machines: Machine[];
  library: readonly LibraryChange[];
  readOnly: boolean;
  today: string;
  save: (machine: Draft) => Promise<Answer<string>>;
  remove: (id: string) => Promise<Answer<void>>;
}
const told = <T,>(work: () => T): { value: T | null; problem: string | null } => {
  try {
    return { value: work(), problem: null };
  } catch (e) {
    if (e instanceof Refusal) return { value: null, problem: e.message };
    throw e;
  }
};
const span = (label: string, unit: string, max: number) => ({ label, unit, min: 0, max });

function CalibrationForm({
  machine,
  library,
  today,
  keep,
}: {
  machine: Draft;
  library: readonly LibraryChange[];
  today: string;
  keep: (c: Calibration) => void;
}) {
  const liquid = /slurry|tanker|hose|inject/.test(machine.kind);
  const [test, setTest] = useState<SpreadTest>(
    liquid
      ? { kind: 'flow', tankM3: machine.capacity, emptyMin: 4, speedKmH: 6, swathM: 12 }
      : { kind: 'sheets', netKg: 18, sheets: 3, sheetM2: 3 },
  );
  const [target, setTarget] = useState(20);
  const [date, setDate] = useState(today);
  const [materialKey, setMaterial] = useState(liquid ? 'dairy_slurry_medium' : 'sheep_bedded');
  const [typed, setTyped] = useState('');
  const [pitch, setPitch] = useState(1);
  const [racetrack, setRacetrack] = useState(false);
  const [sightGlass, setSightGlass] = useState(false);
  const [thirds, setThirds] = useState<{ first: number | null; last: number | null }>({
    first: null,
    last: null,
  });
  const drift =
    test.kind === 'flow' && thirds.first !== null && thirds.last !== null
      ? flowDrift({ first: 60 / thirds.first, last: 60 / thirds.last })
      : null;
  const rate = told(() => testedRate(test));
  const even = useMemo(
    () =>
      typed.trim() === ''
        ? null
        : told(() =>
            evenness({
              catches: traysOf(typed),
              pitchM: pitch,
              machineKind: machine.kind,
              racetrack,
            }),
          ),
    [typed, pitch, racetrack, machine.kind],
  );
  const swath = even?.value?.effectiveSwathM ?? null;
  const cvPct = even?.value
    ? (even.value.bySwath.find((s) => s.swathM === swath)?.cvPct ??
      even.value.bySwath.at(-1)?.cvPct ??
      null)
    : null;
  const trays = even?.value ? even.value.bySwath.length + 1 : null;
  const found = rate.value;
  const rules =
    found === null
      ? []
      : (told(() =>
          judgeCalibration({
            machineKind: machine.kind,
            date,
            target,
            actual: found,
            cvPct,
            trays,
            sheets: test.kind === 'sheets' ? test.sheets : null,
            ageDays: Math.max(0, daysBetween(date, today)),
            changed: false,
            sightGlass,
          }),
        ).value ?? []);
  const unit = liquid ? 'm3/ha' : 't/ha';
  const speed =
    test.kind === 'flow' && found !== null
      ? told(() =>
          speedFor({
            flowM3H: test.tankM3 / (test.emptyMin / 60),
            rateM3Ha: target,
            swathM: test.swathM,
          }),
        )
      : null;
  const set = (part: object) => setTest((t) => ({ ...t, ...part }) as SpreadTest);
  const kinds: Record<SpreadTest['kind'], SpreadTest> = {
    sheets: { kind: 'sheets', netKg: 18, sheets: 3, sheetM2: 3 },
    load: { kind: 'load', load: machine.capacity, distanceM: 400, swathM: 12 },
    flow: { kind: 'flow', tankM3: machine.capacity, emptyMin: 4, speedKmH: 6, swathM: 12 },
  };
  return (
    <section className="my-2 border-l-2 border-ink pl-4" aria-label="Calibration">
      <h3>Calibrate {machine.name}</h3>
      <p className="note">
        At least three sheets down the middle of the pass, three runs; trays in a row across the
        whole throw. Keep people clear of the machine and the throw.
      </p>
      <div className="mt-1 flex flex-wrap items-baseline gap-x-4 gap-y-2">
        <DateBox label="On" value={date} max={today} onValue={(v) => v && setDate(v)} />
        <ChoiceBox
          label="with"
          value={materialKey}
          options={materials(bookOf(library)).map((m) => ({ value: m.key, label: m.name }))}
          onValue={(v) => v && setMaterial(v)}
        />
        <FigureBox
          label="Target rate"
          value={target}
          range={{ label: 'Target rate', unit, min: 0, max: 400, above: true }}
          onValue={(v) => v !== null && setTarget(v)}
        />
        <ChoiceBox
          label="Rate by"
          value={test.kind}
          options={[
            { value: 'sheets', label: 'sheets on the ground' },
            { value: 'load', label: 'a load and its ground' },
            { value: 'flow', label: 'flow of a tanker' },
          ]}
          onValue={(v) => v && setTest(kinds[v as SpreadTest['kind']])}
        />
      </div>
      <div className="mt-1 flex flex-wrap items-baseline gap-x-4 gap-y-2">
        {test.kind === 'sheets' && (
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
        )}
        {test.kind === 'load' && (
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
        )}
        {test.kind === 'flow' && (
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
              onValue={(first) => setThirds((t) => ({ ...t, first }))}
            />
            <FigureBox
              label="last third in"
              optional
              value={thirds.last}
              range={{ ...span('Time of a third', 'min', 60), above: true }}
              onValue={(last) => setThirds((t) => ({ ...t, last }))}
            />
            <TickBox label="read from a sight glass" value={sightGlass} onValue={setSightGlass} />
          </>
        )}
      </div>
      <div className="mt-1 flex flex-wrap items-baseline gap-x-4 gap-y-2">
        <TextBox
          label="Catches across one pass"
          wide
          max={400}
          value={typed}
          problem={even?.problem}
          onValue={setTyped}
        />
        <FigureBox
          label="Tray pitch"
          value={pitch}
          range={{ label: 'Tray pitch', unit: 'm', min: 0.1, max: 5 }}
          onValue={(v) => v !== null && setPitch(v)}
        />
        <TickBox label="driven round and round" value={racetrack} onValue={setRacetrack} />
      </div>
      {rate.problem && (
        <p role="alert" className="problem">
          {rate.problem}
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
      <Warnings list={rules} />
      <button
        type="button"
        className="button button-strong mt-1"
        disabled={found === null || Boolean(even?.problem)}
        onClick={() =>
          found !== null &&
          keep({
            date,
            materialKey,
            target,
            actual: Number(found.toFixed(3)),
            cvPct: cvPct === null ? null : Number(cvPct.toFixed(1)),
            trays,
            sightGlass,
          })
        }
      >
        Keep with the machine
      </button>
    </section>
  );
}

function MachineEditor({
  first,
  library,
  readOnly,
  today,
  save,
  remove,
  close,
}: { first: Draft; close: () => void } & Pick<
  MachinesPartProps,
  'library' | 'readOnly' | 'today' | 'save' | 'remove'
>) {
  const router = useRouter();
  const [machine, setMachine] = useState(first);
  const [calibrating, setCalibrating] = useState(false);
  const [said, setSaid] = useState<string | null>(null);
  const [pending, start] = useTransition();
  const set = (part: Partial<Draft>) => setMachine((m) => ({ ...m, ...part }));
  const keep = (m: Draft, then: () => void) =>
    start(async () => {
      const r = await save(m);
      setSaid(r.ok ? null : r.refusal.message);
      if (r.ok) {
        router.refresh();
        then();
      }
    });
  const drop = () =>
    start(async () => {
      if (machine.id === null) return close();
      const r = await remove(machine.id);
      setSaid(r.ok ? null : r.refusal.message);
      if (r.ok) {
        router.refresh();
        close();
      }
    });
  return (
    <div className="my-2 border-l-2 border-ink pl-4">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-2">
        <TextBox
          label="Machine"
          wide
          value={machine.name}
          disabled={readOnly}
          onValue={(name) => set({ name })}
        />
        <ChoiceBox
          label="Kind"
          disabled={readOnly}
          value={machine.kind}
          options={optionsOf(calibrationMachines())}
          onValue={(v) => v && set({ kind: v })}
        />
        <FigureBox
          label="Lowest even rate"
          disabled={readOnly}
          value={machine.minRate}
          range={span('Lowest even rate', 't or m3/ha', 200)}
          onValue={(v) => v !== null && set({ minRate: v })}
        />
        <FigureBox
          label="Highest rate of a pass"
          disabled={readOnly}
          value={machine.maxRate}
          range={{ ...span('Highest rate of a pass', 't or m3/ha', 400), min: 0.1 }}
          onValue={(v) => v !== null && set({ maxRate: v })}
        />
        <FigureBox
          label="Load"
          disabled={readOnly}
          value={machine.capacity}
          range={{ ...span('Load', 't or m3', 60), min: 0.1 }}
          onValue={(v) => v !== null && set({ capacity: v })}
        />
      </div>
      {machine.calibrations.length > 0 && (
        <table className="ruled mt-2 max-w-[46rem]">
          <thead>
            <tr>
              <th>Calibrated</th>
              <th>With</th>
              <th className="num">Target</th>
              <th className="num">Found</th>
              <th className="num">CV, %</th>
            </tr>
          </thead>
          <tbody>
            {machine.calibrations.map((c, i) => (
              <tr key={i}>
                <th scope="row">{c.date}</th>
                <td>{words(c.materialKey)}</td>
                <td className="num">{c.target}</td>
                <td className="num">{c.actual.toFixed(1)}</td>
                <td className="num">{c.cvPct === null ? '·' : c.cvPct.toFixed(0)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {calibrating && (
        <CalibrationForm
          machine={machine}
          library={library}
          today={today}
          keep={(c) => {
            const next = { ...machine, calibrations: [c, ...machine.calibrations] };
            setMachine(next);
            keep(next, close);
          }}
        />
      )}
      {said && (
        <p role="alert" className="problem">
          {said}
        </p>
      )}
      {!readOnly && (
        <div className="mt-2 flex flex-wrap gap-2">
          <button
            type="button"
            className="button"
            aria-pressed={calibrating}
            onClick={() => setCalibrating((c) => !c)}
          >
            Calibrate
          </button>
          <button
            type="button"
            className="button button-strong"
            disabled={pending}
            onClick={() => keep(machine, close)}
          >
            Save this machine
          </button>
          <button type="button" className="button" onClick={close}>
            Close
          </button>
          {machine.id !== null && (
            <button type="button" className="button" disabled={pending} onClick={drop}>
              <Trash2 size={14} aria-hidden /> Remove
            </button>
          )}
        </div>
      )}
    </div>
  );
}

/** Spreaders and tankers of the farm, with their calibrations. */
export function MachinesPart({
  machines,
  library,
  readOnly,
  today,
  save,
  remove,
}: MachinesPartProps) {
  const hydrated = useHydrated();
  const [open, setOpen] = useState<string | null>(null);
  const blank: Draft = {
    id: null,
    name: '',
    kind: 'solid_manure_spreader',
    minRate: 8,
    maxRate: 40,
    capacity: 10,
    calibrations: [],
  };
  return (
    <Part title="Machines" aside="a calibration counts for twelve months and for its material">
      <Scrolled label="Machines of the farm">
        <table className="ruled max-w-[58rem]">
          <thead>
            <tr>
              <th>Machine</th>
              <th>Kind</th>
              <th className="num">Even from</th>
              <th className="num">to</th>
              <th className="num">Load</th>
              <th className="pl-4">Last calibration</th>
            </tr>
          </thead>
          <tbody>
            {machines.map((m) => (
              <tr key={m.id}>
                <th scope="row">
                  <button
                    type="button"
                    className="plain"
                    disabled={!hydrated}
                    aria-expanded={open === m.id}
                    onClick={() => setOpen(open === m.id ? null : m.id)}
                  >
                    {m.name}
                  </button>
                </th>
                <td>{words(m.kind)}</td>
                <td className="num">{m.minRate}</td>
                <td className="num">{m.maxRate}</td>
                <td className="num">{m.capacity}</td>
                <td className="pl-4">
                  {m.calibrations[0] ? (
                    `${m.calibrations[0].date}: ${m.calibrations[0].actual.toFixed(1)} for ${m.calibrations[0].target}`
                  ) : (
                    <span className="text-hot">never</span>
                  )}
                </td>
              </tr>
            ))}
            {machines.length === 0 && (
              <tr>
                <td colSpan={6} className="note">
                  No machine yet.
                </td>
              </tr>
            )}
          </tbody>
        </table>
      </Scrolled>
      {open !== null && (
        <MachineEditor
          key={open}
          library={library}
          first={machines.find((m) => m.id === open) ?? blank}
          readOnly={readOnly}
          today={today}
          save={save}
          remove={remove}
          close={() => setOpen(null)}
        />
      )}
      {!readOnly && open !== 'new' && (
        <button
          type="button"
          className="button mt-2"
          disabled={!hydrated}
          onClick={() => setOpen('new')}
        >
          <Plus size={13} aria-hidden /> Machine
        </button>
      )}
    </Part>
  );
}
