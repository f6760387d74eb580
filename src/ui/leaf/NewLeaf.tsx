'use client';

import { Plus } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import { leavesOf, type LeafOfFile } from '@/core/laboratory/leafFile';
import type { LeafAssessment, LeafMeant } from '@/core/lines/leaf';
import { UNSAID_OF_LEAF, type LeafSample, type LeafSampleFact } from '@/core/facts/leafSample';
import { dateInWords } from '@/core/quantity/calendar';
import { ChoiceBox, DateBox, optionsOf } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { TextBox } from '../figure/TextBox';
import { useHydrated } from '../frame/hydrated';
import { ReportFile } from '../samples/ReportFile';
import { lineId, usePlan } from '../workspace/context';
import { useDoors } from '../workspace/doors';
import { BiomassBox, RoleBox, TenPlantsBox, WashedBox } from './leafBoxes';

export interface LeafChoice {
  setId: string;
  part: string;
  partLabel: string;
  stageLabel: string;
  bbchFrom: number;
  bbchTo: number;
  system: string | null;
  protocolId: string;
}
export interface SeasonStationProps {
  choices: LeafChoice[];
  /** Parts of any plant: for pairs, and for a crop without ranges. */
  parts: { part: string; partLabel: string }[];
  nutrients: string[];
}

const UNITS = ['%', 'mg/kg', 'g/kg'];
const STANDARD_SET = ['N', 'P', 'K', 'S', 'Ca', 'Mg', 'B', 'Zn', 'Mn', 'Fe', 'Cu'];
const PERCENT = ['N', 'P', 'K', 'S', 'Ca', 'Mg', 'Cl', 'Na'];
const unitFor = (nutrient: string): string => (PERCENT.includes(nutrient) ? '%' : 'mg/kg');

interface Draft {
  /** The sample that waits for these values; null: a new one. */
  id: string | null;
  date: string | null;
  part: string | null;
  system: string | null;
  bbch: number | null;
  nOrgans: number | null;
  washed: LeafSample['washed'];
  role: LeafSample['role'];
  sprayed: string;
  daysSinceSpray: number | null;
  biomassTHa: number | null;
  tenPlantsG: number | null;
  laboratoryNumber: string;
  values: Record<string, { reported: string; unit: string }>;
}

type Offered = NonNullable<LeafAssessment['refused']>['choices'];
interface DraftProps {
  draft: Draft;
  set: (part: Partial<Draft>) => void;
  pending: boolean;
}
/** When, where on the plant and at which stage the leaves were taken. */
function SampleBoxes({
  choices,
  parts: ofPlants,
  latest,
  draft,
  set,
  pending,
}: DraftProps & Pick<SeasonStationProps, 'choices' | 'parts'> & { latest: string }) {
  const own = new Map(choices.map((c) => [c.part, c.partLabel]));
  // Each part once: first those that a range reads.
  const parts = [
    ...[...own].map(([value, label]) => ({ value, label })),
    ...ofPlants
      .filter((p) => !own.has(p.part))
      .map(({ part, partLabel }) => ({
        value: part,
        label: own.size === 0 ? partLabel : `${partLabel}, no range`,
      })),
  ];
  const systems = [
    ...new Set(
      choices
        .filter((c) => c.part === draft.part)
        .map((c) => c.system)
        .filter((s) => s !== null),
    ),
  ];
  return (
    <div className="flex flex-wrap items-baseline gap-x-4 gap-y-2">
      <DateBox
        label="Sampled on"
        disabled={pending}
        value={draft.date}
        max={latest}
        onValue={(v) => set({ date: v })}
      />
      <ChoiceBox
        label="Part"
        disabled={pending}
        value={draft.part}
        options={parts}
        onValue={(v) =>
          set({ part: v, bbch: choices.find((c) => c.part === v)?.bbchFrom ?? draft.bbch })
        }
      />
      {systems.length > 0 && (
        <ChoiceBox
          label="System"
          value={draft.system}
          options={optionsOf(systems)}
          onValue={(v) => set({ system: v })}
        />
      )}
      <FigureBox
        label="Stage (BBCH)"
        value={draft.bbch}
        range={{ label: 'Growth stage (BBCH)', unit: '', min: 0, max: 99 }}
        onValue={(v) => set({ bbch: v })}
      />
      <FigureBox
        label="Leaves or plants"
        optional
        value={draft.nOrgans}
        range={{ label: 'Leaves or plants', unit: '', min: 1, max: 1000 }}
        onValue={(v) => set({ nOrgans: v })}
      />
      <WashedBox value={draft.washed} disabled={pending} onValue={(washed) => set({ washed })} />
      <RoleBox value={draft.role} disabled={pending} onValue={(role) => set({ role })} />
      <TextBox
        label="Sprayed with (Mn, Zn …)"
        disabled={pending}
        max={30}
        value={draft.sprayed}
        onValue={(sprayed) => set({ sprayed })}
      />
      <FigureBox
        label="Days since the spray"
        optional
        value={draft.daysSinceSpray}
        range={{ label: 'Days since the spray', unit: 'd', min: 0, max: 400 }}
        onValue={(v) => set({ daysSinceSpray: v })}
      />
      {draft.part === 'whole_shoot' && (
        <BiomassBox value={draft.biomassTHa} onValue={(biomassTHa) => set({ biomassTHa })} />
      )}
      {draft.role !== 'survey' && (
        <TenPlantsBox value={draft.tenPlantsG} onValue={(tenPlantsG) => set({ tenPlantsG })} />
      )}
    </div>
  );
}

/** The results, nutrient by nutrient, each in its unit. */
function ValueBoxes({ nutrients, draft, set, pending }: DraftProps & { nutrients: string[] }) {
  const setValue = (nutrient: string, part: Partial<{ reported: string; unit: string }>) =>
    set({
      values: {
        ...draft.values,
        [nutrient]: {
          reported: draft.values[nutrient]?.reported ?? '',
          unit: draft.values[nutrient]?.unit ?? unitFor(nutrient),
          ...part,
        },
      },
    });
  const shown = [
    ...STANDARD_SET,
    ...nutrients.filter((n) => !STANDARD_SET.includes(n) && draft.values[n]),
  ];
  return (
    <div className="my-2 grid grid-cols-[repeat(auto-fill,minmax(13rem,1fr))] gap-x-4 gap-y-1">
      {shown.map((n) => (
        <span key={n} className="flex items-baseline gap-1.5">
          <label className="w-9 font-bold" htmlFor={`leaf-${n}`}>
            {n.replace('_', '-')}
          </label>
          <input
            id={`leaf-${n}`}
            disabled={pending}
            className="box w-20 text-right"
            inputMode="decimal"
            autoComplete="off"
            value={draft.values[n]?.reported ?? ''}
            onChange={(e) => setValue(n, { reported: e.target.value })}
          />
          <select
            className="box"
            aria-label={`Unit of ${n}`}
            value={draft.values[n]?.unit ?? unitFor(n)}
            onChange={(e) => setValue(n, { unit: e.target.value })}
          >
            {UNITS.map((u) => (
              <option key={u}>{u}</option>
            ))}
          </select>
        </span>
      ))}
    </div>
  );
}

/** Why a leaf was refused, and the parts and stages that would be read. */
function Refused({
  said,
  offered,
  set,
}: {
  said: string;
  offered: Offered;
  set: (part: Partial<Draft>) => void;
}) {
  return (
    <div role="alert" className="mb-2">
      <p className="problem">{said}</p>
      {offered.length > 0 && (
        <>
          <p>Right parts and stages for this crop:</p>
          <ul className="flex flex-wrap gap-1">
            {offered.map((c, i) => (
              <li key={i}>
                <button
                  type="button"
                  className="button"
                  onClick={() => set({ part: c.part, bbch: c.bbchFrom })}
                >
                  {c.partLabel}, BBCH {c.bbchFrom}-{c.bbchTo}
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  );
}

/** Figures that may be meant otherwise: each is asked, and what was typed stays until it is answered. */
function Meant({
  asked,
  onTake,
  onKeep,
}: {
  asked: Asked[];
  onTake: (a: Asked) => void;
  onKeep: (a: Asked) => void;
}) {
  return (
    <section role="alert" aria-label="To be answered" className="mb-2" data-testid="leaf-asked">
      <h3>To be answered: {asked.length}</h3>
      <ul>
        {asked.map((a) => (
          <li key={a.nutrient} className="flex flex-wrap items-baseline gap-2 py-1">
            <span>
              <strong>
                {a.nutrient.replace('_', '-')} {a.reported} {a.unit}
              </strong>{' '}
              {a.meant.impossible ? 'cannot be.' : 'is unusual.'}
              {a.fits && ` ${a.meant.reported} ${a.meant.unit} would fit.`}
            </span>
            {a.fits && (
              <button type="button" className="button button-strong" onClick={() => onTake(a)}>
                It is {a.meant.reported} {a.meant.unit}
              </button>
            )}
            <button type="button" className="button" onClick={() => onKeep(a)}>
              It stands as written{a.meant.impossible ? ', uncounted' : ''}
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
interface Asked {
  nutrient: string;
  reported: string;
  unit: string;
  meant: LeafMeant;
  /** Another reading is known. */
  fits: boolean;
}

/** Values of a leaf, typed in or from a laboratory's file. */
export function NewLeaf({
  choices,
  parts,
  nutrients,
  waiting,
}: SeasonStationProps & { waiting: readonly LeafSampleFact[] }) {
  const { addLeaf } = useDoors();
  const plan = usePlan('asOf', 'season');
  const router = useRouter();
  const [working, start] = useTransition();
  const hydrated = useHydrated();
  const pending = working || !hydrated;
  const [draft, setDraft] = useState<Draft>({
    id: null,
    date: plan.asOf,
    part: choices[0]?.part ?? null,
    system: choices[0]?.system ?? null,
    bbch: choices[0]?.bbchFrom ?? null,
    nOrgans: null,
    washed: 'no',
    role: 'survey',
    sprayed: '',
    daysSinceSpray: null,
    biomassTHa: null,
    tenPlantsG: null,
    laboratoryNumber: '',
    values: {},
  });
  const [asked, setAsked] = useState<Asked[]>([]);
  const [kept, setKept] = useState<string[]>([]);
  const [said, setSaid] = useState<string | null>(null);
  const [offered, setOffered] = useState<Offered>([]);
  const cropKey = plan.season.cropKey;
  if (!cropKey)
    return (
      <p className="note">
        Choose a crop first: a leaf is read against its own crop, part and stage.
      </p>
    );
  const set = (part: Partial<Draft>) => setDraft((d) => ({ ...d, ...part }));
  const chosen = waiting.find((x) => x.id === draft.id);
  const send = (of: Draft, confirmed: readonly string[]) =>
    start(async () => {
      const sample = {
        ...UNSAID_OF_LEAF,
        ...(chosen
          ? {
              hour: chosen.hour,
              place: chosen.place,
              takenBy: chosen.takenBy,
              sentOn: chosen.sentOn,
            }
          : {}),
        id: of.id ?? lineId(),
        date: of.date,
        part: of.part,
        bbch: of.bbch,
        system: of.system,
        nOrgans: of.nOrgans,
        washed: of.washed,
        sprayElements: of.sprayed.split(/[\s,;]+/u).filter((x) => x !== ''),
        daysSinceSpray: of.daysSinceSpray,
        role: of.role,
        biomassTHa: of.biomassTHa,
        tenPlantsG: of.tenPlantsG,
        laboratoryNumber: of.laboratoryNumber.trim() || null,
        values: Object.entries(of.values)
          .filter(([, v]) => v.reported.trim() !== '')
          .map(([nutrient, v]) => ({ nutrient, reported: v.reported.trim(), unit: v.unit })),
      };
      if (sample.values.length === 0) {
        setSaid('Give at least one nutrient value.');
        return;
      }
      const reply = await addLeaf(cropKey, sample, confirmed);
      if (!reply.ok) {
        setSaid(reply.refusal.message);
        setOffered([]);
        return;
      }
      if (reply.value.refused) {
        setSaid(reply.value.refused.message);
        setOffered(reply.value.refused.choices);
        return;
      }
      setSaid(null);
      setOffered([]);
      const open = reply.value.results.flatMap(({ nutrient, reported, unit, meant }): Asked[] =>
        meant === null || confirmed.includes(nutrient)
          ? []
          : [
              {
                nutrient,
                reported,
                unit,
                meant,
                fits: meant.unit !== unit || meant.reported !== reported,
              },
            ],
      );
      setAsked(open);
      if (open.length > 0) return;
      setKept([]);
      set({ values: {}, id: null, laboratoryNumber: '' });
      router.refresh();
    });
  const answer = (a: Asked, next: Draft, confirmed: string[]) => {
    setDraft(next);
    setKept(confirmed);
    const left = asked.filter((x) => x.nutrient !== a.nutrient);
    setAsked(left);
    if (left.length === 0) send(next, confirmed);
  };
  const take = (read: LeafOfFile) => {
    setSaid(null);
    setAsked([]);
    setKept([]);
    set({
      ...(read.date === null ? {} : { date: read.date }),
      ...(read.bbch === null ? {} : { bbch: read.bbch }),
      ...([...choices, ...parts].some((c) => c.part === read.part) ? { part: read.part } : {}),
      ...(read.role === 'survey' ? {} : { role: read.role }),
      laboratoryNumber: read.label ?? '',
      values: Object.fromEntries(
        read.values.map((v) => [v.nutrient, { reported: v.reported, unit: v.unit }]),
      ),
    });
  };
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        setAsked([]);
        send(draft, kept);
      }}
    >
      {waiting.length > 0 && (
        <ChoiceBox
          label="Values of"
          value={draft.id}
          empty="a new sample"
          options={waiting.map((x) => ({
            value: x.id,
            label: [dateInWords(x.date), x.part.replaceAll('_', ' '), x.place, x.laboratoryNumber]
              .filter(Boolean)
              .join(', '),
          }))}
          onValue={(v) => {
            const of = waiting.find((x) => x.id === v);
            set(
              of
                ? {
                    id: of.id,
                    date: of.date,
                    part: of.part,
                    system: of.system,
                    bbch: of.bbch,
                    nOrgans: of.nOrgans,
                    washed: of.washed,
                    role: of.role,
                    biomassTHa: of.biomassTHa,
                    tenPlantsG: of.tenPlantsG,
                    laboratoryNumber: of.laboratoryNumber ?? '',
                  }
                : { id: null },
            );
          }}
        />
      )}
      <SampleBoxes
        choices={choices}
        parts={parts}
        latest={plan.asOf}
        draft={draft}
        set={set}
        pending={pending}
      />
      <p className="note my-1">
        Standards for this crop:{' '}
        {choices.map((c) => `${c.partLabel}, BBCH ${c.bbchFrom}-${c.bbchTo}`).join('; ') ||
          'none; the values are kept for a pair, for the years and for a standard of your own'}
        .
      </p>
      <ValueBoxes nutrients={nutrients} draft={draft} set={set} pending={pending} />
      {asked.length > 0 && (
        <Meant
          asked={asked}
          onTake={(a) =>
            answer(
              a,
              {
                ...draft,
                values: {
                  ...draft.values,
                  [a.nutrient]: { reported: a.meant.reported, unit: a.meant.unit },
                },
              },
              kept,
            )
          }
          onKeep={(a) => answer(a, draft, [...kept, a.nutrient])}
        />
      )}
      {said && <Refused said={said} offered={offered} set={set} />}
      <div className="flex flex-wrap items-center gap-2">
        <button type="submit" className="button button-strong" disabled={pending}>
          <Plus size={14} aria-hidden /> Read this leaf
        </button>
        <ReportFile
          kind="leaf"
          samplesOf={leavesOf}
          disabled={pending}
          said={(s) =>
            `${s.values.length} values stand in the boxes${s.notFound.length > 0 ? `; ${s.notFound.join(', ')} not found` : ''}. Look at them, then read the leaf.`
          }
          onTake={take}
        />
      </div>
    </form>
  );
}
