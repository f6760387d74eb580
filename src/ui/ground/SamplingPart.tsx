'use client';

import { Download, Printer, Trash2 } from 'lucide-react';
import type { Route } from 'next';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useCallback, useMemo, useState, useTransition } from 'react';
import { planeOf, type Metre, type Outline } from '@/core/ground/outline';
import { layOutSamples, walkLengthM, zigzagCores } from '@/core/ground/samplingLayout';
import type { MarkKind } from '@/core/ground/samplingMarks';
import type { SamplePoint, SamplingPlan } from '@/core/ground/samplingPlan';
import { dateInWords } from '@/core/quantity/calendar';
import { Refusal } from '@/core/quantity/refusal';
import { ChoiceBox } from '../figure/fields';
import { useUnits } from '../frame/units';
import { FieldMap } from '../map/FieldMap';
import { editField, lineId, useEdit, usePlan } from '../workspace/context';
import { useDoors } from '../workspace/doors';
import { OutlineEditor } from './OutlineEditor';
import { Design, Worth } from './SamplingDesign';
import { MapTools, MarksList, PointsList, ZonesList, type Tool } from './SamplingLists';
import { samplingModel } from './samplingModel';

export interface StoredPlan {
  id: string;
  name: string;
  createdOn: string;
  document: SamplingPlan;
  version: number;
}
export interface SamplingPartProps {
  outline: Outline | null;
  /** Where the farm lies; null where nobody said. */
  longitudeDeg: number | null;
  plans: StoredPlan[];
}
const initials = (name: string): string =>
  name
    .split(/\s+/)
    .map((w) => w[0] ?? '')
    .join('')
    .toUpperCase()
    .slice(0, 3);
const startPlan = (
  fieldName: string,
  areaHa: number,
  today: string,
  taken: number,
): SamplingPlan => ({
  // Chapter 3, section 19: the whole field up to 8 ha, else a grid of 1 ha.
  purpose: 'ph_p_k_tilled',
  scheme: areaHa <= 8 ? 'whole_field' : 'grid',
  cellAreaHa: 1,
  coresPerSample: areaHa <= 8 ? 20 : 10,
  layers: [{ fromCm: 0, toCm: 20 }],
  headlandM: 12,
  prefix: `${initials(fieldName)}${today.slice(2, 4)}${taken > 0 ? String.fromCharCode(97 + taken) : ''}-`,
  labPricePerSample: 14,
  labourPerSample: 3,
  labourPerCore: 0.25,
  zones: [],
  marks: [],
  points: [],
});
/** A spot that looks wrong, or the good one beside it: whichever of the two is wanting. */
function pairedPoint(plan: SamplingPlan, at: [number, number]): SamplePoint {
  const bad = plan.points.filter((x) => x.kind === 'problem').length;
  const good = plan.points.filter((x) => x.kind === 'good').length;
  const kind = bad > good ? 'good' : 'problem';
  return {
    label: `${plan.prefix}${kind === 'problem' ? 'bad' : 'good'}${kind === 'problem' ? bad + 1 : good + 1}`,
    kind,
    at,
    areaHa: 0.01,
    shape: [],
    note:
      kind === 'problem'
        ? 'the spot that looks wrong, 12 cores; take leaves as well'
        : 'a good spot nearby, 12 cores; take leaves as well',
  };
}
const inDegrees = (outline: Outline, m: Metre): [number, number] =>
  planeOf(outline)
    .toDegrees(m)
    .map((x) => Number(x.toFixed(7))) as [number, number];

/** Which plan, its name, and what can be done with it as a whole. */
function SamplingBar({
  plans,
  openId,
  opened,
  name,
  onName,
  onOpen,
  onLay,
  onSave,
  onDraw,
  onRemove,
  dirty,
  pending,
  readOnly,
  points,
  done,
}: {
  plans: StoredPlan[];
  openId: string | null;
  opened: StoredPlan | null;
  name: string;
  onName: (name: string) => void;
  onOpen: (plan: StoredPlan | null) => void;
  onLay: () => void;
  onSave: () => void;
  onDraw: () => void;
  onRemove: () => void;
  dirty: boolean;
  pending: boolean;
  readOnly: boolean;
  points: number;
  done: string | null;
}) {
  return (
    <div className="mb-3 flex flex-wrap items-baseline gap-x-4 gap-y-2">
      <ChoiceBox
        label="Sampling plan"
        value={openId}
        empty="a new one"
        options={plans.map((p) => ({
          value: p.id,
          label: `${p.name}, ${dateInWords(p.createdOn)}`,
        }))}
        onValue={(v) => onOpen(plans.find((p) => p.id === v) ?? null)}
      />
      <label className="inline-flex items-baseline gap-1.5">
        Name
        <input
          className="box"
          value={name}
          maxLength={80}
          disabled={readOnly}
          onChange={(e) => onName(e.target.value)}
        />
      </label>
      {!readOnly && (
        <button type="button" className="button" onClick={onLay}>
          Lay the samples
        </button>
      )}
      {!readOnly && (
        <button
          type="button"
          className="button button-strong"
          disabled={pending || !dirty || points === 0}
          onClick={onSave}
        >
          Save
        </button>
      )}
      {!readOnly && (
        <button type="button" className="button" onClick={onDraw}>
          Outline
        </button>
      )}
      {opened && !dirty && (
        <>
          <Link className="button no-underline" href={`/sampling/${opened.id}` as Route}>
            <Printer size={14} aria-hidden /> Labels and map
          </Link>
          <a
            className="button no-underline"
            href={`/sampling/${opened.id}/sample-list.csv`}
            download
          >
            <Download size={14} aria-hidden /> List for the laboratory
          </a>
          <a
            className="button no-underline"
            href={`/sampling/${opened.id}/points.geojson`}
            download
          >
            <Download size={14} aria-hidden /> GeoJSON
          </a>
        </>
      )}
      {opened && !readOnly && (
        <button type="button" className="button" disabled={pending} onClick={onRemove}>
          <Trash2 size={14} aria-hidden /> Remove
        </button>
      )}
      <span role="status" className="note">
        {done ?? (dirty && points > 0 ? 'not saved yet' : '')}
      </span>
    </div>
  );
}

/** How far it is to walk, and what stays out of a composite. */
function WalkNote({
  plan,
  outline,
  areaHa,
}: {
  plan: SamplingPlan;
  outline: Outline;
  areaHa: number;
}) {
  const { show, unit } = useUnits();
  const walk = plan.points.length > 1 ? walkLengthM(plan.points, outline) : 0;
  return (
    <p className="note">
      {show(areaHa, 'area', 2)} {unit('area')}
      {plan.points.length > 1
        ? `; ${plan.points.length} samples, about ${(walk / 1000).toFixed(1)} km to walk`
        : ''}
      . Keep out of the composite: dung and urine patches, feeding and water points, gateways,
      headlands, trees and hedges, old heaps, spills, wet holes, eroded knolls. Clean steel probe,
      plastic bucket, 300-500 g in a lined bag; no galvanised or brass tools where zinc or copper is
      wanted.
    </p>
  );
}

/**
 * A plan of where and how to sample a field: laid on its outline, labelled, in walking order, with
 * what it will know and what it costs.
 */
export function SamplingPart({ outline: stored, longitudeDeg, plans }: SamplingPartProps) {
  const doors = useDoors();
  const router = useRouter();
  const fieldPlan = usePlan('asOf', 'field');
  const { edit, readOnly } = useEdit();
  const [outline, setOutline] = useState(stored);
  const [drawing, setDrawing] = useState(stored === null && !readOnly);
  const [openId, setOpenId] = useState<string | null>(plans[0]?.id ?? null);
  const opened = plans.find((p) => p.id === openId) ?? null;
  const [version, setVersion] = useState(opened?.version ?? 1);
  const [name, setName] = useState(
    opened?.name ?? `${fieldPlan.field.name} ${fieldPlan.asOf.slice(0, 4)}`,
  );
  const [plan, setPlan] = useState<SamplingPlan>(
    () =>
      opened?.document ??
      startPlan(fieldPlan.field.name, fieldPlan.field.areaHa, fieldPlan.asOf, 0),
  );
  const [dirty, setDirty] = useState(opened === null);
  const [tool, setTool] = useState<Tool>('look');
  const [markKind, setMarkKind] = useState<MarkKind>('gateway');
  const [draft, setDraft] = useState<Metre[]>([]);
  const [said, setSaid] = useState<string | null>(null);
  const [done, setDone] = useState<string | null>(null);
  const [pending, start] = useTransition();
  const set = useCallback((part: Partial<SamplingPlan>) => {
    setPlan((p) => ({ ...p, ...part }));
    setDirty(true);
    setDone(null);
  }, []);

  const open = (p: StoredPlan | null) => {
    setOpenId(p?.id ?? null);
    setPlan(
      p?.document ??
        startPlan(fieldPlan.field.name, fieldPlan.field.areaHa, fieldPlan.asOf, plans.length),
    );
    setName(p?.name ?? `${fieldPlan.field.name} ${fieldPlan.asOf.slice(0, 4)}`);
    setVersion(p?.version ?? 1);
    setDirty(p === null);
    setSaid(null);
  };
  const lay = (from: SamplingPlan = plan) => {
    if (!outline) return;
    try {
      set({ ...from, points: layOutSamples(outline, from) });
      setSaid(null);
    } catch (e) {
      if (!(e instanceof Refusal)) throw e;
      setSaid(e.message);
    }
  };
  const pick = (at: Metre) => {
    if (!outline || tool === 'look') return;
    const p = inDegrees(outline, at);
    if (tool === 'mark')
      set({
        marks: [...plan.marks, { id: lineId(), kind: markKind, at: p, radiusM: 20, note: '' }],
      });
    else if (tool === 'zone') setDraft((d) => [...d, at]);
    else {
      set({ points: [...plan.points, pairedPoint(plan, p)] });
    }
  };
  const closeZone = () => {
    if (!outline || draft.length < 3) return setSaid('A zone needs three corners or more.');
    const ring = [...draft, draft[0] as Metre].map((m) => inDegrees(outline, m));
    set({ zones: [...plan.zones, { name: `Zone ${plan.zones.length + 1}`, ring }] });
    setDraft([]);
  };
  const cores = useMemo(
    () =>
      outline && plan.scheme === 'whole_field' && plan.points.length > 0
        ? zigzagCores(outline, plan.marks, plan.headlandM, plan.coresPerSample)
        : [],
    [outline, plan],
  );
  const model = useMemo(
    () => (outline ? samplingModel(outline, plan, { cores, draft }) : null),
    [outline, plan, cores, draft],
  );
  const save = () =>
    start(async () => {
      setSaid(null);
      const reply = opened
        ? await doors.changeSamplingPlan(opened.id, version, name, plan)
        : await doors.createSamplingPlan(name, plan);
      if (!reply.ok) return setSaid(reply.refusal.message);
      const kept: { id?: string; version: number } = reply.value;
      if (kept.id) setOpenId(kept.id);
      setVersion(kept.version);
      setDirty(false);
      setDone('The sampling plan is saved.');
      router.refresh();
    });
  const remove = () =>
    start(async () => {
      if (!opened) return;
      const reply = await doors.dropSamplingPlan(opened.id);
      if (!reply.ok) return setSaid(reply.refusal.message);
      open(null);
      router.refresh();
    });

  if (drawing || !outline)
    return readOnly ? (
      <p>No outline yet: the advisor draws it, or imports it from a file.</p>
    ) : (
      <OutlineEditor
        outline={outline}
        latitudeDeg={fieldPlan.field.latitudeDeg}
        longitudeDeg={longitudeDeg}
        fieldName={fieldPlan.field.name}
        save={doors.saveOutline}
        readFile={doors.readOutlines}
        onDone={(o, areaHa) => {
          setOutline(o);
          setDrawing(false);
          // The server has the area already; the open plan learns it too, and the two meet in the
          // merge.
          edit(editField({ areaHa }));
          router.refresh();
        }}
        onCancel={outline ? () => setDrawing(false) : null}
      />
    );
  const nSamples = Math.max(1, plan.points.length);
  return (
    <>
      <SamplingBar
        plans={plans}
        openId={openId}
        opened={opened}
        name={name}
        onName={(n) => {
          setName(n);
          setDirty(true);
        }}
        onOpen={open}
        onLay={() => lay()}
        onSave={save}
        onDraw={() => setDrawing(true)}
        onRemove={remove}
        dirty={dirty}
        pending={pending}
        readOnly={readOnly}
        points={plan.points.length}
        done={done}
      />
      {said && (
        <p role="alert" className="problem mb-2">
          {said}
        </p>
      )}
      <div className="grid gap-x-8 xl:grid-cols-[3fr_2fr]">
        <div>
          {model && (
            <FieldMap
              model={model}
              label={`Sampling plan of ${fieldPlan.field.name}: ${plan.points.length} samples`}
              onPick={tool === 'look' || readOnly ? undefined : pick}
              fitKey={openId ?? 'new'}
            />
          )}
          {!readOnly && (
            <MapTools
              tool={tool}
              onTool={(t) => {
                setTool(t);
                setDraft([]);
              }}
              markKind={markKind}
              onMarkKind={setMarkKind}
              onCloseZone={closeZone}
            />
          )}
          <WalkNote plan={plan} outline={outline} areaHa={fieldPlan.field.areaHa} />
        </div>
        <div>
          <Design plan={plan} set={set} areaHa={fieldPlan.field.areaHa} readOnly={readOnly} />
          <Worth plan={plan} nSamples={nSamples} />
        </div>
      </div>
      {plan.marks.length > 0 && <MarksList plan={plan} set={set} readOnly={readOnly} />}
      {plan.zones.length > 0 && plan.scheme === 'zone' && (
        <ZonesList plan={plan} set={set} readOnly={readOnly} />
      )}
      {plan.points.length > 0 && <PointsList plan={plan} />}
    </>
  );
}
