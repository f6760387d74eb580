'use client';

import { useRouter } from 'next/navigation';
import { Tabs } from 'radix-ui';
import { useMemo } from 'react';
import type { ReadLeaf } from '@/core/lines/leaf';
import { dateInWords } from '@/core/quantity/calendar';
import { leafBeside } from '@/core/views/leafBeside';
import { Part } from '../figure/fields';
import { ActionsPart } from '../leaf/ActionsPart';
import { BesideParts, YearsPart } from '../leaf/BesideParts';
import { FeedPart } from '../leaf/FeedPart';
import { FruitDropPart } from '../leaf/FruitDropPart';
import { FruitSprays } from '../leaf/FruitSprays';
import { NewLeaf, type SeasonStationProps } from '../leaf/NewLeaf';
import { OwnBesideParts } from '../leaf/OwnBesideParts';
import { SapPart } from '../leaf/SapPart';
import { SymptomsPart } from '../leaf/SymptomsPart';
import { TakeSample } from '../leaf/TakeSample';
import { useKnownPlan } from '../leaf/useCalendar';
import { SeenInSeason } from '../season/SeenInSeason';
import { Warnings } from '../Warnings';
import { useBook, useEdit, useWholeAssessment, useWholePlan } from '../workspace/context';
import { useDoors } from '../workspace/doors';
import { LeafResults } from './LeafResults';

const TABS = [
  ['take', 'Take the leaf'],
  ['read', 'Read it'],
  ['ails', 'What ails it'],
  ['act', 'Act'],
  ['years', 'Over the years'],
  ['seen', 'Stages and meters'],
] as const;

/**
 * Season: does the leaf say the plan is working? Take it, read it against its own standard, find
 * the cause, and act only where that helps.
 */
export function SeasonStation(props: SeasonStationProps) {
  const plan = useKnownPlan();
  const a = useWholeAssessment();
  const book = useBook();
  const beside = useMemo(() => leafBeside(book, plan, a), [book, plan, a]);
  return (
    <Tabs.Root defaultValue="read">
      <Tabs.List
        aria-label="What to do with the leaf"
        className="no-print mb-3 flex flex-wrap gap-x-5 gap-y-1 border-b border-rule"
      >
        {TABS.map(([key, label]) => (
          <Tabs.Trigger
            key={key}
            value={key}
            className="cursor-pointer border-b-2 border-transparent pb-1 data-[state=active]:border-ink data-[state=active]:font-bold"
          >
            {label}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      <Tabs.Content value="take">
        <TakeSample />
      </Tabs.Content>
      <Tabs.Content value="read">
        <ReadIt {...props} beside={beside} />
      </Tabs.Content>
      <Tabs.Content value="ails">
        <SymptomsPart beside={beside} />
        <FruitDropPart beside={beside} />
      </Tabs.Content>
      <Tabs.Content value="act">
        <ActionsPart beside={beside} />
        <FruitSprays beside={beside} />
        <FeedPart beside={beside} />
      </Tabs.Content>
      <Tabs.Content value="years">
        <Part
          title="Over the years"
          aside="the same leaf at the same stage; one value a year, and what chance alone does not make"
        >
          <YearsPart list={beside.years} />
        </Part>
      </Tabs.Content>
      <Tabs.Content value="seen">
        <SeenInSeason />
        <SapPart />
      </Tabs.Content>
    </Tabs.Root>
  );
}

function ReadIt({
  beside,
  ...props
}: SeasonStationProps & { beside: ReturnType<typeof leafBeside> }) {
  const { dropLeaf } = useDoors();
  const a = useWholeAssessment();
  const plan = useWholePlan();
  const { readOnly } = useEdit();
  const router = useRouter();
  const read = a.leaf.leaves.filter((l) => l.sample.values.length > 0);
  const waiting = a.leaf.leaves.filter((l) => l.sample.values.length === 0).map((l) => l.sample);
  const now = read.filter((s) => s.sample.date >= plan.season.startDate);
  const before = read.filter((s) => s.sample.date < plan.season.startDate);
  const remove = (id: string) => void dropLeaf(id).then(() => router.refresh());
  const counts = beside.leaf;
  const others = now.filter((l) => l !== counts);
  const earlier = before.filter((l) => l !== counts);
  const drop = (l: ReadLeaf) =>
    readOnly || l.sample.date < plan.season.startDate ? undefined : () => remove(l.sample.id);
  return (
    <div className="grid gap-x-8 xl:grid-cols-2">
      <div>
        <Part title="The leaf that counts">
          {counts ? (
            <LeafResults leaf={counts} onRemove={drop(counts)} />
          ) : (
            <p className="note">No leaf sample of this season yet.</p>
          )}
          <Warnings list={beside.warnings} />
        </Part>
        <BesideParts beside={beside} />
        <OwnBesideParts beside={beside} />
        {others.length > 0 && (
          <Part title="Others of this season">
            {others.map((l) => (
              <LeafResults key={l.sample.id} leaf={l} onRemove={drop(l)} />
            ))}
          </Part>
        )}
        {earlier.length > 0 && (
          <details>
            <summary className="cursor-pointer font-bold">Earlier, {earlier.length}</summary>
            {earlier.map((l) => (
              <LeafResults key={l.sample.id} leaf={l} />
            ))}
          </details>
        )}
      </div>
      <div>
        <Part title="Leaf sample">
          <NewLeaf {...props} waiting={waiting} />
        </Part>
        {waiting.length > 0 && (
          <Part title="On the way">
            <ul data-testid="leaves-waiting">
              {waiting.map((s) => (
                <li key={s.id}>
                  {dateInWords(s.date)}, {s.part.replaceAll('_', ' ')}
                  {s.place ? `, ${s.place}` : ''}
                  {s.takenBy ? `, ${s.takenBy}` : ''}:{' '}
                  {s.sentOn ? `sent on ${dateInWords(s.sentOn)}` : 'not sent yet'}
                  {!readOnly && (
                    <button type="button" className="plain note ml-2" onClick={() => remove(s.id)}>
                      remove
                    </button>
                  )}
                </li>
              ))}
            </ul>
          </Part>
        )}
      </div>
    </div>
  );
}
