'use client';

import { Check, ChevronLeft, ChevronRight, Minus, Plus } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState, useTransition, type ReactNode } from 'react';
import type { LeafSample } from '@/core/facts/leafSample';
import { sampleWindows, type SampleWindow } from '@/core/views/sampleWindow';
import { DateBox, Part, words } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { TextBox } from '../figure/TextBox';
import { lineId, useBook, useEdit } from '../workspace/context';
import { useDoors } from '../workspace/doors';
import { PrintButton } from '../frame/PrintButton';
import { BiomassBox, RoleBox, TenPlantsBox, WashedBox } from './leafBoxes';
import { PlantDrawing } from './PlantDrawing';
import { PocketCard } from './PocketCard';
import { sentence, STALK, windowWords } from './protocolWords';
import { useCalendar, useKnownPlan } from './useCalendar';

const STATE: Readonly<Record<SampleWindow['state'], string>> = {
  open: 'open now',
  soon: 'opens soon',
  later: 'later',
  not_known: 'by the calendar',
  past: 'past',
};
/** Windows of the season's crop; one is walked step by step. */
export function TakeSample() {
  const plan = useKnownPlan();
  const book = useBook();
  const calendar = useCalendar();
  const { readOnly } = useEdit();
  const [walked, setWalked] = useState<SampleWindow | null>(null);
  const windows = sampleWindows(book, plan, calendar);
  if (walked) return <Walk window={walked} onEnd={() => setWalked(null)} />;
  if (windows.length === 0)
    return (
      <Part title="When and which leaf">
        <p className="note">
          {plan.season.cropKey
            ? 'There is no standard for a leaf of this crop: take a pair of affected and unaffected plants.'
            : 'Choose a crop first.'}
        </p>
      </Part>
    );
  return (
    <Part
      title="When and which leaf"
      aside="by the warmth of a normal year, put right by stages that were seen"
    >
      <p className="no-print mb-2 flex flex-wrap items-baseline gap-3">
        <PrintButton label="Print pocket cards" />
        <span className="note">a card a window, with lines for day, stage and who</span>
      </p>
      {windows.map((w) => (
        <PocketCard key={`card ${w.part} ${w.bbchFrom}`} window={w} />
      ))}
      <ul className="no-print grid gap-4 lg:grid-cols-2" data-testid="sample-windows">
        {windows.map((w) => (
          <li key={`${w.part} ${w.bbchFrom}`} className="flex gap-3 border-b border-rule pb-3">
            <div className="w-[84px] shrink-0 sm:w-[110px]">
              <PlantDrawing form={w.protocol.plantForm} organ={w.protocol.organ} size={110} />
            </div>
            <div className="min-w-0">
              <h3>{w.partLabel}</h3>
              <p>
                {w.stageLabel}, BBCH {w.bbchFrom}-{w.bbchTo}
              </p>
              <p className={w.state === 'open' ? 'font-bold' : 'note'}>
                {STATE[w.state]}: {windowWords(w)}
              </p>
              {!readOnly && (
                <button
                  type="button"
                  className={w.state === 'open' ? 'button button-strong mt-1' : 'button mt-1'}
                  onClick={() => setWalked(w)}
                >
                  Take this leaf
                </button>
              )}
            </div>
          </li>
        ))}
      </ul>
    </Part>
  );
}

interface Taken {
  date: string | null;
  hour: number | null;
  count: number;
  washed: LeafSample['washed'];
  role: LeafSample['role'];
  bbch: number | null;
  place: string;
  takenBy: string;
  tenPlantsG: number | null;
  biomassTHa: number | null;
  laboratoryNumber: string;
  sentOn: string | null;
}
const COUNT_BY = 5;

/** A protocol, step by step: each is ticked off, and place, time, stage and who are kept. */
function Walk({ window: w, onEnd }: { window: SampleWindow; onEnd: () => void }) {
  const plan = useKnownPlan();
  const { addLeaf } = useDoors();
  const router = useRouter();
  const [working, start] = useTransition();
  const [step, setStep] = useState(0);
  const [said, setSaid] = useState<string | null>(null);
  const [taken, setTaken] = useState<Taken>({
    date: plan.asOf,
    hour: null,
    count: 0,
    washed: 'no',
    role: 'survey',
    bbch: null,
    place: '',
    takenBy: '',
    tenPlantsG: null,
    biomassTHa: null,
    laboratoryNumber: '',
    sentOn: null,
  });
  const set = (part: Partial<Taken>) => setTaken((t) => ({ ...t, ...part }));
  const head = useRef<HTMLHeadingElement>(null);
  const moved = useRef(false);
  useEffect(() => {
    // The next step is where the work goes; the first one was opened by its own button.
    if (moved.current) head.current?.focus();
    moved.current = true;
  }, [step]);
  const { protocol } = w;
  const keep = () =>
    start(async () => {
      const { count, place, takenBy, laboratoryNumber, bbch, ...rest } = taken;
      const reply = await addLeaf(
        plan.season.cropKey ?? '',
        {
          ...rest,
          id: lineId(),
          part: w.part,
          system: w.system,
          bbch,
          nOrgans: count > 0 ? count : null,
          place: place.trim() || null,
          takenBy: takenBy.trim() || null,
          laboratoryNumber: laboratoryNumber.trim() || null,
          sprayElements: [],
          daysSinceSpray: null,
          values: [],
        },
        [],
      );
      if (!reply.ok) return setSaid(reply.refusal.message);
      if (reply.value.refused) return setSaid(reply.value.refused.message);
      router.refresh();
      onEnd();
    });
  const pair = taken.role !== 'survey';
  const steps: { title: string; body: ReactNode }[] = [
    {
      title: 'Before you go',
      body: (
        <>
          <p>
            <strong>{windowWords(w)}</strong>, {w.stageLabel}, BBCH {w.bbchFrom} to {w.bbchTo}.
          </p>
          <p>{sentence(protocol.blockRule)}</p>
          <p>Keep away from {protocol.avoid}.</p>
          <p className="note">
            Clean dry hands; paper bags; no rubber, brass or galvanised tools, no sunscreen.
          </p>
          <RoleBox value={taken.role} onValue={(role) => set({ role })} />
          {pair && (
            <p className="problem">
              A pair has four bags: leaves and soil (0 to 20 cm) of both, the same leaf on the same
              day, washed alike. Plants that just begin to show it, never dead tissue.
            </p>
          )}
        </>
      ),
    },
    {
      title: 'Which leaf',
      body: (
        <div className="flex flex-wrap gap-4">
          <PlantDrawing form={protocol.plantForm} organ={protocol.organ} size={220} />
          <div className="min-w-[14rem] flex-1">
            <p className="text-[1.1rem] font-bold">{sentence(protocol.partExact)}</p>
            <p>{sentence(protocol.howToFindIt)}</p>
            {STALK[protocol.petioleRemoved] && <p>{STALK[protocol.petioleRemoved]}</p>}
            <p className="problem">The usual mistake: {words(protocol.typicalMistake)}.</p>
          </div>
        </div>
      ),
    },
    {
      title: 'How many',
      body: (
        <>
          <p className="flex items-baseline justify-between">
            <strong className="text-[1.8rem]" data-testid="leaf-count">
              {taken.count} of {protocol.recommendedCount}
            </strong>
            <span className="note">at the least {protocol.minCount}</span>
          </p>
          <div className="my-2 grid grid-cols-2 gap-2">
            <button
              type="button"
              className="button thumb"
              disabled={taken.count === 0}
              onClick={() => set({ count: Math.max(0, taken.count - COUNT_BY) })}
            >
              <Minus size={16} aria-hidden /> {COUNT_BY}
            </button>
            <button
              type="button"
              className="button button-strong thumb"
              onClick={() => set({ count: Math.min(1000, taken.count + COUNT_BY) })}
            >
              <Plus size={16} aria-hidden /> {COUNT_BY} leaves
            </button>
          </div>
          <p>{sentence(protocol.pattern)}</p>
        </>
      ),
    },
    {
      title: 'Wash and dry',
      body: (
        <>
          <p>{sentence(protocol.wash)}</p>
          <p>{sentence(protocol.dryAndPack)}</p>
          <p className="note">
            To the laboratory or dry within {protocol.maxHoursToDryOrShip} h; early in the week.
          </p>
          <WashedBox value={taken.washed} onValue={(washed) => set({ washed })} />
        </>
      ),
    },
    {
      title: 'Label',
      body: (
        <div className="grid gap-2 sm:grid-cols-2">
          <DateBox
            label="Taken on"
            value={taken.date}
            max={plan.asOf}
            onValue={(v) => set({ date: v })}
          />
          <FigureBox
            label="At the hour"
            optional
            value={taken.hour}
            range={{ label: 'Hour', unit: 'h', min: 0, max: 24 }}
            onValue={(v) => set({ hour: v })}
          />
          <FigureBox
            label="Stage seen (BBCH)"
            value={taken.bbch}
            range={{ label: 'Growth stage (BBCH)', unit: '', min: 0, max: 99 }}
            onValue={(v) => set({ bbch: v })}
          />
          <TextBox label="Where" value={taken.place} onValue={(place) => set({ place })} />
          <TextBox
            label="Who took it"
            value={taken.takenBy}
            onValue={(takenBy) => set({ takenBy })}
          />
          <TextBox
            label="Number on the bag"
            value={taken.laboratoryNumber}
            onValue={(laboratoryNumber) => set({ laboratoryNumber })}
          />
          {w.part === 'whole_shoot' && (
            <BiomassBox value={taken.biomassTHa} onValue={(biomassTHa) => set({ biomassTHa })} />
          )}
          {pair && (
            <TenPlantsBox value={taken.tenPlantsG} onValue={(tenPlantsG) => set({ tenPlantsG })} />
          )}
        </div>
      ),
    },
    {
      title: 'Send it',
      body: (
        <>
          <p>
            Ask for N, P, K, S, Ca, Mg, B, Zn, Mn, Fe, Cu and Al (the mark of dust); Mo for legumes
            and brassicas, Cl and Na where salt is possible.
          </p>
          <DateBox
            label="Sent on"
            value={taken.sentOn}
            max={plan.asOf}
            onValue={(v) => set({ sentOn: v })}
          />
          <p className="note">The sample waits under “Read it” until its values are in.</p>
          {taken.count > 0 && taken.count < protocol.minCount && (
            <p className="problem">
              Only {taken.count}; at least {protocol.minCount} are needed: it will be a hint.
            </p>
          )}
          {taken.bbch === null && (
            <p className="problem">The stage that you saw is missing: step 5.</p>
          )}
        </>
      ),
    },
  ];
  const now = steps[step] as (typeof steps)[0];
  const last = step === steps.length - 1;
  return (
    <section aria-label="Take the leaf" className="max-w-[40rem]" data-testid="walk">
      <p className="note flex justify-between">
        <span>{w.partLabel}</span>
        <span>
          step {step + 1} of {steps.length}
        </span>
      </p>
      <h2 ref={head} tabIndex={-1}>
        {now.title}
      </h2>
      <div className="my-2 grid gap-2">{now.body}</div>
      {said && (
        <p role="alert" className="problem">
          {said}
        </p>
      )}
      <div className="grid grid-cols-2 gap-2">
        <button
          type="button"
          className="button thumb"
          onClick={() => (step === 0 ? onEnd() : setStep(step - 1))}
        >
          <ChevronLeft size={16} aria-hidden /> {step === 0 ? 'Leave' : 'Back'}
        </button>
        {last ? (
          <button
            type="button"
            className="button button-strong thumb"
            disabled={working || taken.bbch === null || taken.date === null}
            onClick={keep}
          >
            <Check size={16} aria-hidden /> Keep the sample
          </button>
        ) : (
          <button
            type="button"
            className="button button-strong thumb"
            onClick={() => setStep(step + 1)}
          >
            Done <ChevronRight size={16} aria-hidden />
          </button>
        )}
      </div>
    </section>
  );
}
