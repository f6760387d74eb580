'use client';

import { Plus } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import { leavesOf, type LeafOfFile } from '@/core/laboratory/leafFile';
import type { LeafAssessment } from '@/core/lines/leaf';
import type { LeafSample } from '@/core/facts/leafSample';
import { ChoiceBox, DateBox, optionsOf, Part, words } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { useHydrated } from '../frame/hydrated';
import { ReportFile } from '../samples/ReportFile';
import { lineId, useAssessed, useEdit, usePlan } from '../workspace/context';
import { useDoors } from '../workspace/doors';
import { LeafResults } from './LeafResults';
import { SeenInSeason } from '../season/SeenInSeason';

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
  nutrients: string[];
}

const UNITS = ['%', 'mg/kg', 'g/kg'];
const STANDARD_SET = ['N', 'P', 'K', 'S', 'Ca', 'Mg', 'B', 'Zn', 'Mn', 'Fe', 'Cu'];
const PERCENT = ['N', 'P', 'K', 'S', 'Ca', 'Mg', 'Cl', 'Na'];
const unitFor = (nutrient: string): string => (PERCENT.includes(nutrient) ? '%' : 'mg/kg');

interface Draft {
  date: string | null;
  part: string | null;
  system: string | null;
  bbch: number | null;
  nOrgans: number | null;
  washed: LeafSample['washed'];
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
  latest,
  draft,
  set,
  pending,
}: DraftProps & { choices: LeafChoice[]; latest: string }) {
  const parts = [...new Map(choices.map((c) => [c.part, c.partLabel])).entries()].map(
    ([value, label]) => ({ value, label }),
  );
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
        options={[
          ...parts,
          ...(parts.some((p) => p.value === 'leaf_midshoot')
            ? []
            : [{ value: 'leaf_midshoot', label: 'Leaf from the middle of a shoot' }]),
        ]}
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
      <ChoiceBox
        label="Washed"
        value={draft.washed}
        options={[
          { value: 'no', label: 'no' },
          { value: 'distilled', label: 'in distilled water' },
          { value: 'tap', label: 'in tap water' },
        ]}
        onValue={(v) => v && set({ washed: v as LeafSample['washed'] })}
      />
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

function NewLeaf({ choices, nutrients }: SeasonStationProps) {
  const { addLeaf } = useDoors();
  const plan = usePlan('asOf', 'season');
  const router = useRouter();
  const [working, start] = useTransition();
  const hydrated = useHydrated();
  const pending = working || !hydrated;
  const [draft, setDraft] = useState<Draft>({
    date: plan.asOf,
    part: choices[0]?.part ?? null,
    system: choices[0]?.system ?? null,
    bbch: choices[0]?.bbchFrom ?? null,
    nOrgans: null,
    washed: 'no',
    values: {},
  });
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
  const send = () =>
    start(async () => {
      const sample = {
        id: lineId(),
        date: draft.date,
        part: draft.part,
        bbch: draft.bbch,
        system: draft.system,
        nOrgans: draft.nOrgans,
        washed: draft.washed,
        sprayElements: [],
        daysSinceSpray: null,
        role: 'survey',
        values: Object.entries(draft.values)
          .filter(([, v]) => v.reported.trim() !== '')
          .map(([nutrient, v]) => ({ nutrient, reported: v.reported.trim(), unit: v.unit })),
      };
      const reply = await addLeaf(cropKey, sample);
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
      set({ values: {} });
      router.refresh();
    });
  const take = (read: LeafOfFile) => {
    setSaid(null);
    set({
      ...(read.date === null ? {} : { date: read.date }),
      ...(read.bbch === null ? {} : { bbch: read.bbch }),
      values: Object.fromEntries(
        read.values.map((v) => [v.nutrient, { reported: v.reported, unit: v.unit }]),
      ),
    });
  };
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        send();
      }}
    >
      <SampleBoxes choices={choices} latest={plan.asOf} draft={draft} set={set} pending={pending} />
      <p className="note my-1">
        Standards for this crop:{' '}
        {choices.map((c) => `${c.partLabel}, BBCH ${c.bbchFrom}-${c.bbchTo}`).join('; ') ||
          'none; compare a good and a bad area'}
        .
      </p>
      <ValueBoxes nutrients={nutrients} draft={draft} set={set} pending={pending} />
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

/**
 * Season: does the leaf say the plan is working? Each value against the range of its crop, part
 * and stage.
 */
export function SeasonStation(props: SeasonStationProps) {
  const { dropLeaf } = useDoors();
  const a = useAssessed('leaf');
  const plan = usePlan('season');
  const { readOnly } = useEdit();
  const router = useRouter();
  const now = a.leaf.leaves.filter((s) => s.sample.date >= plan.season.startDate);
  const before = a.leaf.leaves.filter((s) => s.sample.date < plan.season.startDate);
  const remove = (id: string) => void dropLeaf(id).then(() => router.refresh());
  const protocol =
    now[0]?.assessment.standard?.protocol ?? before[0]?.assessment.standard?.protocol;
  return (
    <>
      <SeenInSeason />
      <div className="grid gap-x-8 xl:grid-cols-2">
        <div>
          <Part title="Leaf sample">
            <NewLeaf {...props} />
          </Part>
          {protocol && (
            <Part title="How to take it">
              <p>
                {protocol.partExact}. {protocol.howToFindIt}. {protocol.recommendedCount} of them (
                {protocol.minCount} at the least), {protocol.pattern}.
              </p>
              <p className="note">
                Avoid {protocol.avoid}. {protocol.dryAndPack}. The usual mistake:{' '}
                {words(protocol.typicalMistake)}.
              </p>
            </Part>
          )}
        </div>
        <div>
          <Part title="This season">
            {now.length === 0 ? (
              <p className="note">No leaf sample of this season yet.</p>
            ) : (
              now.map((l) => (
                <LeafResults
                  key={l.sample.id}
                  leaf={l}
                  onRemove={readOnly ? undefined : () => remove(l.sample.id)}
                />
              ))
            )}
          </Part>
          {before.length > 0 && (
            <Part title="Earlier years">
              {before.map((l) => (
                <LeafResults key={l.sample.id} leaf={l} />
              ))}
            </Part>
          )}
        </div>
      </div>
    </>
  );
}
