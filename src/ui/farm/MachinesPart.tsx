'use client';

import { dateInWords } from '@/core/quantity/calendar';
import { Plus, Trash2 } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import { type LibraryChange } from '@/core/book/book';
import { type Answer } from '@/core/quantity/refusal';
import { calibrationMachines } from '@/core/book/organicTables';
import { ChoiceBox, optionsOf, Part, words } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { TextBox } from '../figure/TextBox';
import { useHydrated } from '../frame/hydrated';
import { Scrolled } from '../figure/Scrolled';
import { CalibrationForm, type Calibration } from './CalibrationForm';

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
const span = (label: string, unit: string, max: number) => ({ label, unit, min: 0, max });

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
                <th scope="row">{dateInWords(c.date)}</th>
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
                    `${dateInWords(m.calibrations[0].date)}: ${m.calibrations[0].actual.toFixed(1)} for ${m.calibrations[0].target}`
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
