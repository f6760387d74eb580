'use client';

import { dateInWords } from '@/core/quantity/calendar';
import { Plus, Trash2 } from 'lucide-react';
import { Tabs } from 'radix-ui';
import { useState } from 'react';
import type { OrganicApplication } from '@/core/document/document';
import { runningMean } from '@/core/lines/labReading';
import { BLANK_LAB } from '@/core/document/organicDefaults';
import { materialOf } from '@/core/book/organicMaterials';
import { RatePlanner } from '../budget/RatePlanner';
import type { Store } from '../farm/StoresPart';
import { ChoiceBox, Part } from '../figure/fields';
import { WhyFigure } from '../frame/why';
import { useUnits } from '../frame/units';
import { DressingHead, newApplication } from '../stations/OrganicRows';
import { Problems } from '../stations/Problems';
import { CautionsAbout } from '../Cautions';
import { replaceAt, useBook, without, useAssessed, useEdit, usePlan } from '../workspace/context';
import { DressingFate } from './DressingFate';
import { DayTab } from './DayTab';
import type { FarmGear } from './gear';
import { LabEntry } from './LabEntry';
import { LaidTab } from './LaidTab';
import { PlacementTab, WorthTab } from './WorthTab';
import { Scrolled } from '../figure/Scrolled';

const TABS = [
  ['rate', 'Which rate'],
  ['report', 'Analysis'],
  ['placement', 'Placement'],
  ['worth', 'Worth and haulage'],
  ['laid', 'How it is laid'],
  ['day', 'Day, ground and records'],
] as const;

function Dressing({ o, index, gear }: { o: OrganicApplication; index: number; gear: FarmGear }) {
  const a = useAssessed('organics');
  const { edit, readOnly } = useEdit();
  const { show, unit } = useUnits();
  const own = a.organics.find((x) => x.app.id === o.id);
  const book = useBook();
  const material = materialOf(book, o.materialKey);
  const set = (part: Partial<OrganicApplication>) =>
    edit((p) => ({ ...p, organics: replaceAt(p.organics, index, part) }));
  const fitting = gear.stores.filter((s) => s.materialKey === o.materialKey);
  const store = gear.stores.find((s) => s.id === o.storeId);
  const newest = store?.labs[0];
  const mean = store ? runningMean(store.labs) : null;
  const takeFrom = (s: Store | undefined) =>
    set(
      s
        ? {
            storeId: s.id,
            pricePerT: s.pricePerT,
            ...(s.labs[0]
              ? {
                  lab: {
                    ...s.labs[0],
                    earlier: s.labs[1]?.date
                      ? {
                          date: s.labs[1].date,
                          totalNKgT: s.labs[1].totalNKgT,
                          pKgT: s.labs[1].pKgT,
                        }
                      : null,
                  },
                }
              : {}),
          }
        : { storeId: null },
    );
  const n = (v: number) => show(v, 'nutrient_rate');
  return (
    <section aria-label={material.name}>
      <DressingHead o={o} index={index} />
      <div className="mt-2 fields">
        <ChoiceBox
          label="From the store"
          disabled={readOnly}
          value={o.storeId}
          empty="none named"
          options={fitting.map((s) => ({ value: s.id, label: s.name }))}
          onValue={(id) => takeFrom(gear.stores.find((s) => s.id === id))}
        />
        {newest && newest.date !== o.lab?.date && !readOnly && (
          <button type="button" className="button" onClick={() => takeFrom(store)}>
            Take its analysis of {newest.date ? dateInWords(newest.date) : 'an unknown day'}
          </button>
        )}
        {mean &&
          !readOnly &&
          (mean.agrees ? (
            <button type="button" className="button" onClick={() => set({ lab: mean.lab })}>
              Take the mean of its last {mean.n}
            </button>
          ) : (
            <span className="note">
              its last {mean.n} analyses differ by up to {mean.spreadPct.toFixed(0)} % from their
              mean: no mean of them
            </span>
          ))}
      </div>
      {own && (
        <Scrolled label="What the dressing brings">
          <table className="ruled mt-2 max-w-[52rem]" data-testid="dressing">
            <thead>
              <tr>
                <th>{unit('nutrient_rate')}</th>
                <th className="num">N in all</th>
                <th className="num">to the air</th>
                <th className="num">N this crop</th>
                <th className="num">organic, later</th>
                <th className="num">P</th>
                <th className="num">K</th>
                <th className="num">S</th>
                <th className="num">lime, kg CaCO3</th>
              </tr>
            </thead>
            <tbody>
              <tr className="font-bold">
                <th scope="row" className="font-bold">
                  {show(o.rate, o.rateUnit === 'm3_ha' ? 'volume_rate' : 'mass_rate')}{' '}
                  {unit(o.rateUnit === 'm3_ha' ? 'volume_rate' : 'mass_rate')}
                </th>
                <td className="num">{n(own.rateTHa * own.analysis.totalNKgT)}</td>
                <td className="num">
                  <WhyFigure step={own.loss.why} label="Ammonium lost">
                    {n(own.loss.lossFrac * own.tanKgHa)}
                  </WhyFigure>
                </td>
                <td className="num">
                  <WhyFigure step={own.pan.why} label="Available N of a tonne">
                    {n(own.nKgHa)}
                  </WhyFigure>
                </td>
                <td className="num">
                  {n(Math.max(0, own.rateTHa * own.pan.orgNKgT * (1 - Math.max(0, own.pan.y1Eff))))}
                </td>
                <td className="num">{n(own.pTotalKgHa)}</td>
                <td className="num">{n(own.kKgHa)}</td>
                <td className="num">{n(own.sKgHa)}</td>
                <td className="num">{Math.round(own.rateTHa * material.ccePct * 10)}</td>
              </tr>
            </tbody>
          </table>
        </Scrolled>
      )}
      {own && <DressingFate own={own} />}
      <Tabs.Root defaultValue="rate" className="mt-3">
        <Tabs.List
          aria-label={`What to work out for ${material.name}`}
          className="no-print mb-2 flex flex-wrap gap-x-5 gap-y-1 border-b border-rule"
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
        {own ? (
          <>
            <Tabs.Content value="rate">
              <RatePlanner application={o} take={(rate) => set({ rate })} />
            </Tabs.Content>
            <Tabs.Content value="report">
              <LabEntry
                lab={o.lab ?? BLANK_LAB}
                material={material}
                readOnly={readOnly}
                onLab={(lab) => set({ lab })}
              />
            </Tabs.Content>
            <Tabs.Content value="placement">
              <PlacementTab o={o} own={own} set={set} />
            </Tabs.Content>
            <Tabs.Content value="worth">
              <WorthTab o={o} own={own} set={set} gear={gear} />
            </Tabs.Content>
            <Tabs.Content value="laid">
              <LaidTab o={o} own={own} set={set} />
            </Tabs.Content>
            <Tabs.Content value="day">
              <DayTab o={o} set={set} />
            </Tabs.Content>
          </>
        ) : (
          <Problems station="budget" />
        )}
      </Tabs.Root>
      {!readOnly && (
        <p className="mt-3">
          <button
            type="button"
            className="button"
            onClick={() => edit((p) => ({ ...p, organics: without(p.organics, index) }))}
          >
            <Trash2 size={14} aria-hidden /> Remove this dressing
          </button>
        </p>
      )}
    </section>
  );
}

/** Manure and compost worked out: rate, analysis, placement, worth, how it is laid, and the day. */
export function OrganicsPart({ gear }: { gear: FarmGear }) {
  const plan = usePlan('asOf', 'organics');
  const { edit, readOnly } = useEdit();
  const now = plan.organics.map((o, index) => ({ o, index })).filter((x) => x.o.cropYear < 2);
  const book = useBook();
  const [chosen, setChosen] = useState<string | null>(null);
  const open = now.find((x) => x.o.id === chosen) ?? now[0];
  const nameOf = (o: OrganicApplication) => materialOf(book, o.materialKey).name;
  const add = () => {
    const first = gear.stores[0]?.materialKey ?? 'sheep_bedded';
    const o = newApplication(materialOf(book, first), plan.asOf, 1);
    edit((p) => ({ ...p, organics: [...p.organics, o] }));
    setChosen(o.id);
  };
  return (
    <div className="grid gap-x-8 xl:grid-cols-[3fr_1fr]">
      <div>
        <div
          className="mb-3 flex flex-wrap items-center gap-2"
          role="group"
          aria-label="Dressings of this season"
        >
          {now.map(({ o }) => (
            <button
              key={o.id}
              type="button"
              className={`button ${o.id === open?.o.id ? 'button-strong' : ''}`}
              aria-pressed={o.id === open?.o.id}
              onClick={() => setChosen(o.id)}
            >
              {nameOf(o)}, {dateInWords(o.date)}
            </button>
          ))}
          {!readOnly && (
            <button type="button" className="button" onClick={add}>
              <Plus size={13} aria-hidden /> Dressing
            </button>
          )}
        </div>
        {open ? (
          <Dressing key={open.o.id} o={open.o} index={open.index} gear={gear} />
        ) : (
          <p>
            No manure or compost this season yet. Add the first dressing; its material and analysis
            come from a store of the farm, or from the book.
          </p>
        )}
      </div>
      <Part title="To settle">
        <CautionsAbout
          about={({ warning, also, about }) =>
            [warning, ...also].some((w) => w.module === 'organics') &&
            (!open ||
              about.length === 0 ||
              about.includes(nameOf(open.o)) ||
              about.includes(open.o.machine?.name ?? ''))
          }
          empty="Nothing to settle."
        />
      </Part>
    </div>
  );
}
