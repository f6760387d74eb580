'use client';

import dynamic from 'next/dynamic';
import { dateInWords } from '@/core/quantity/calendar';
import { Plus, Trash2 } from 'lucide-react';
import { memo, useState } from 'react';
import { Refusal } from '@/core/quantity/refusal';
import { RANGES } from '@/core/quantity/range';
import { dateOf } from '@/core/lines/days';
import { productRate } from '@/core/nitrogen/product';
import { seedRowOpeners } from '@/core/nitrogen/seedRow';
import { fertilisers, placementOf, placements, type Fertiliser } from '@/core/book/fertilisers';
import { drainageClasses } from '@/core/book/soils';
import type { FertiliserPass } from '@/core/document/document';
import { ChoiceBox, DateBox, optionsOf, Part, SearchBox } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { WhyFigure, useWhy } from '../frame/why';
import { isPlaced } from '@/core/assessment/placed';
import { LeaveOut } from './LeaveOut';
import { useUnits } from '../frame/units';
import { Cautions } from '../Cautions';
import {
  lineId,
  replaceAt,
  useBook,
  without,
  useAssessed,
  useEdit,
  usePlan,
  useWholePlan,
  useWorkspace,
} from '../workspace/context';
import { LedgerSheet } from './LedgerSheet';
import { Problems } from './Problems';

const optionsAmong = (list: readonly Fertiliser[], filter: (f: Fertiliser) => boolean) =>
  list.filter(filter).map((f) => ({ value: f.productId, label: f.name }));

function SplitProposer() {
  'use memo';
  const { words } = useUnits();
  const plan = useWholePlan();
  const a = useAssessed('sums');
  const { edit, readOnly } = useEdit();
  const book = useBook();
  const { open } = useWhy();
  const [product, setProduct] = useState('can_27');
  const [said, setSaid] = useState<string | null>(null);
  if (readOnly) return null;
  const propose = async () => {
    try {
      // Fetched when asked for: the templates and the rule are not needed to look at a plan.
      const { proposeSplit } = await import('@/core/views/splitProposal');
      const split = proposeSplit(book, plan, product, () => lineId());
      edit((p) => ({
        ...p,
        passes: [...p.passes.filter((x) => x.status === 'done'), ...split.passes],
      }));
      setSaid(
        split.unplacedKgHa > 0
          ? words(`${Math.round(split.unplacedKgHa)} kg N/ha could not be placed: add a pass.`)
          : null,
      );
      const why = split.why[1];
      if (why) open(why);
    } catch (e) {
      if (!(e instanceof Refusal)) throw e;
      setSaid(e.message);
    }
  };
  return (
    <div className="mb-2 flex flex-wrap items-baseline gap-2">
      <ChoiceBox
        label="N product"
        value={product}
        options={optionsAmong(
          fertilisers(book),
          (f) => f.nTotalPct >= 8 && f.slowType !== 'organic',
        )}
        onValue={(v) => v && setProduct(v)}
      />
      <FigureBox
        label="Drainage from first pass to half uptake"
        value={plan.season.springDrainageMm}
        range={{ label: 'Drainage', unit: 'mm', min: 0, max: 1500 }}
        onValue={(v) =>
          v !== null && edit((p) => ({ ...p, season: { ...p.season, springDrainageMm: v } }))
        }
      />
      {plan.passes.some((p) => placementOf(p.placementId).withSeed) && (
        <>
          <FigureBox
            label="Rows"
            optional
            value={plan.season.rowCm}
            range={{ label: 'Row spacing', unit: 'cm', min: 10, max: 150 }}
            onValue={(v) => edit((p) => ({ ...p, season: { ...p.season, rowCm: v } }))}
          />
          <ChoiceBox
            label="Opener"
            value={plan.season.openerId}
            empty="as usual for the crop"
            options={seedRowOpeners().map((o) => ({
              value: o.openerId,
              label: `${o.openerId.replaceAll('_', ' ')}, ${o.spreadWidthCm} cm`,
            }))}
            onValue={(v) => edit((p) => ({ ...p, season: { ...p.season, openerId: v } }))}
          />
        </>
      )}
      <ChoiceBox
        label="The field drains"
        value={plan.field.drainageClass}
        empty="not said: taken as well drained"
        options={drainageClasses().map((d) => ({
          value: d.drainageClass,
          label: `${d.name.toLowerCase()}: ${d.fieldSign}`,
        }))}
        onValue={(v) => edit((p) => ({ ...p, field: { ...p.field, drainageClass: v } }))}
      />
      <FigureBox
        label="Residues cover"
        optional
        value={plan.season.residueCoverFrac === null ? null : 100 * plan.season.residueCoverFrac}
        range={{ label: 'Residue cover', unit: '%', min: 0, max: 100 }}
        onValue={(v) =>
          edit((p) => ({
            ...p,
            season: { ...p.season, residueCoverFrac: v === null ? null : v / 100 },
          }))
        }
      />
      <button
        type="button"
        className="button button-strong"
        onClick={() => void propose()}
        disabled={a.sums.n.net <= 0}
      >
        Split the N into passes
      </button>
      {said && (
        <span role="alert" className="problem">
          {said}
        </span>
      )}
      <div className="w-full">
        <SplitAdvisor productId={product} />
      </div>
    </div>
  );
}

/** The day on which a pass begins to stand in the season, until somebody moves it. */
const useFirstDay = (): string =>
  useWorkspace(
    ({ plan, section }) =>
      plan.season.plantingDate ??
      (section ? dateOf(section.calendar, section.calendar.planting) : plan.asOf),
  );

function FillGap() {
  'use memo';
  const { show, unit } = useUnits();
  const a = useAssessed('sums');
  const date = useFirstDay();
  const { edit, readOnly } = useEdit();
  const book = useBook();
  const [product, setProduct] = useState<string | null>(null);
  const gaps = (['p', 'k', 's'] as const).filter((x) => !isPlaced(x, a.sums[x]));
  const [nutrient, setNutrient] = useState<'p' | 'k' | 's'>('p');
  const [said, setSaid] = useState<string | null>(null);
  if (readOnly) return null;
  const chosen = gaps.includes(nutrient) ? nutrient : gaps[0];
  if (!chosen) return <p className="note">P, K and S are placed or left out.</p>;
  const fit = optionsAmong(
    fertilisers(book),
    (f) =>
      (chosen === 'p' ? f.pPct > 0 : chosen === 'k' ? f.kPct > 0 : f.sSulphatePct >= 5) &&
      f.slowType !== 'organic',
  );
  const use =
    product !== null && fit.some((f) => f.value === product)
      ? product
      : ((
          fit.find(
            (f) =>
              f.value === (chosen === 'k' ? 'kcl_60' : chosen === 's' ? 'kieserite' : 'tsp_0_46'),
          ) ?? fit[0]
        )?.value ?? '');
  const add = () => {
    try {
      const rate = productRate(book, {
        productId: use,
        nutrient: chosen,
        targetKgHa: a.sums[chosen].stillToApply,
      });
      edit((p) => ({
        ...p,
        passes: [
          ...p.passes,
          {
            id: lineId(),
            date,
            productId: use,
            productKgHa: Math.round(rate.productKgHa),
            placementId: 'broadcast_incorporated',
            status: 'planned',
            pricePerT: null,
          },
        ],
      }));
      setSaid(null);
    } catch (e) {
      if (!(e instanceof Refusal)) throw e;
      setSaid(e.message);
    }
  };
  return (
    <div className="mt-2 flex flex-wrap items-baseline gap-2">
      <ChoiceBox
        label="Bring the rest of"
        value={chosen}
        options={gaps.map((x) => ({
          value: x,
          label: `${x.toUpperCase()}, ${show(a.sums[x].stillToApply, 'nutrient_rate')} ${unit('nutrient_rate')}`,
        }))}
        onValue={(v) => {
          if (v) {
            setNutrient(v as 'p' | 'k' | 's');
            setProduct(null);
          }
        }}
      />
      <ChoiceBox label="with" value={use} options={fit} onValue={(v) => v && setProduct(v)} />
      <button type="button" className="button" onClick={add}>
        <Plus size={13} aria-hidden /> Add
      </button>
      {said && (
        <span role="alert" className="problem">
          {said}
        </span>
      )}
    </div>
  );
}

const PassRow = memo(function PassRow({ pass, index }: { pass: FertiliserPass; index: number }) {
  'use memo';
  const plan = usePlan('season');
  const assessed = useWorkspace((w) => w.a.supply.passes.find((p) => p.pass.id === pass.id));
  // Trees are fed until their leaves fall.
  const last = useWorkspace((w) => w.section?.calendar.end ?? w.plan.season.harvestDate);
  const stage = useWorkspace(
    (w) => w.section?.marks.find((m) => m.id === `pass.${pass.id}`)?.stage ?? '',
  );
  const { edit, readOnly } = useEdit();
  const book = useBook();
  const { show } = useUnits();
  const set = (part: Partial<FertiliserPass>) =>
    edit((p) => ({ ...p, passes: replaceAt(p.passes, index, part) }));
  const name = `Pass ${index + 1}`;
  return (
    <tr>
      <td>
        <DateBox
          label={`${name} date`}
          hideLabel
          disabled={readOnly}
          value={pass.date}
          min={plan.season.startDate}
          max={last ?? undefined}
          onValue={(v) => v && set({ date: v })}
        />
        <span className="note block">{stage}</span>
        {assessed && !assessed.counts && (
          <span className="problem block">may not go out: counts nothing</span>
        )}
      </td>
      <td>
        <SearchBox
          label={`${name} product`}
          hideLabel
          disabled={readOnly}
          value={pass.productId}
          options={optionsAmong(fertilisers(book), () => true)}
          onValue={(v) => v && set({ productId: v })}
        />
      </td>
      <td>
        <FigureBox
          label={`${name} product rate`}
          hideLabel
          disabled={readOnly}
          value={pass.productKgHa === 0 ? null : pass.productKgHa}
          dimension="product_rate"
          range={RANGES.productKgHa}
          onValue={(v) => v !== null && set({ productKgHa: v })}
        />
      </td>
      <td>
        <SearchBox
          label={`${name} placement`}
          hideLabel
          disabled={readOnly}
          value={pass.placementId}
          options={placements()
            .filter((p) => p.placementId !== 'surface_frozen_or_snow')
            .map((p) => ({ value: p.placementId, label: p.name }))}
          onValue={(v) => v && set({ placementId: v })}
        />
      </td>
      <td className="num">
        <WhyFigure step={assessed?.why} label={`N of ${name}`}>
          {assessed ? show(assessed.delivered.n, 'nutrient_rate') : '·'}
        </WhyFigure>
      </td>
      {(['p', 'k', 's'] as const).map((x) => (
        <td key={x} className="num">
          {assessed && assessed.delivered[x] > 0
            ? show(assessed.delivered[x], 'nutrient_rate')
            : '·'}
        </td>
      ))}
      <td className="pl-4">
        <FigureBox
          label={`${name} price per t`}
          hideLabel
          optional
          disabled={readOnly}
          value={pass.pricePerT}
          range={{ ...RANGES.pricePerT, label: 'Price' }}
          hideUnit
          onValue={(v) => set({ pricePerT: v })}
        />
        {assessed && assessed.price.from !== 'pass' && (
          <span className="note block">
            {assessed.price.from === 'list'
              ? `price list ${dateInWords(assessed.price.since ?? '')}: ${show(assessed.price.perT, 'price_per_mass', 2)}`
              : `placeholder ${show(assessed.price.perT, 'price_per_mass', 0)}`}
          </span>
        )}
      </td>
      <td className="num">{assessed ? show(assessed.cost, 'price_per_area') : '·'}</td>
      <td className="pl-4 whitespace-nowrap">
        <ChoiceBox
          label={`${name} is`}
          hideLabel
          disabled={readOnly}
          value={pass.status}
          options={optionsOf(['planned', 'done'])}
          onValue={(v) => v && set({ status: v as FertiliserPass['status'] })}
        />
        {!readOnly && (
          <button
            type="button"
            className="button ml-1 px-2"
            aria-label={`Remove ${name}`}
            onClick={() => edit((p) => ({ ...p, passes: without(p.passes, index) }))}
          >
            <Trash2 size={14} aria-hidden />
          </button>
        )}
      </td>
    </tr>
  );
});

const ProductsPart = dynamic(() => import('../products/ProductsPart').then((m) => m.ProductsPart), {
  ssr: false,
});
const OtherPlans = dynamic(() => import('../season/OtherPlans').then((m) => m.OtherPlans), {
  ssr: false,
});
const SplitAdvisor = dynamic(() => import('../season/SplitAdvisor').then((m) => m.SplitAdvisor), {
  ssr: false,
});
const WeatherYears = dynamic(() => import('./WeatherYears').then((m) => m.WeatherYears), {
  ssr: false,
});

/**
 * Supply: products and passes for what is left, placed on the season, with what they bring, cost
 * and risk.
 */
export function SupplyStation() {
  'use memo';
  const plan = usePlan('field', 'passes');
  const a = useAssessed('supply');
  const { edit, readOnly } = useEdit();
  const firstDay = useFirstDay();
  const { show, unit } = useUnits();
  const total = plan.field.areaHa * a.supply.cost;
  return (
    <>
      <Part
        title="Passes"
        aside="a price of its own, else of the farm’s price list, else a placeholder"
      >
        <SplitProposer />
        <div className="overflow-x-auto">
          <table className="ruled min-w-[62rem]" data-testid="passes">
            <thead>
              <tr>
                <th>Date</th>
                <th>Product</th>
                <th>Rate</th>
                <th>Placement</th>
                <th className="num">N, {unit('nutrient_rate')}</th>
                <th className="num">P</th>
                <th className="num">K</th>
                <th className="num">S</th>
                <th className="pl-4">Price {unit('price_per_mass')}</th>
                <th className="num">Cost {unit('price_per_area')}</th>
                <th className="pl-4">State</th>
              </tr>
            </thead>
            <tbody>
              {plan.passes.map((p, i) => (
                <PassRow key={p.id} pass={p} index={i} />
              ))}
              {plan.passes.length === 0 && (
                <tr>
                  <td colSpan={11} className="note">
                    No pass yet. Split the N into passes, or add one by hand.
                  </td>
                </tr>
              )}
              <tr className="sum">
                <th scope="row" colSpan={4}>
                  All passes
                </th>
                {(['n', 'p', 'k', 's'] as const).map((x) => (
                  <td key={x} className="num">
                    {show(a.supply.total[x], 'nutrient_rate')}
                  </td>
                ))}
                <td />
                <td className="num">{show(a.supply.cost, 'price_per_area')}</td>
                <td className="note pl-4">{total.toFixed(0)} for the field</td>
              </tr>
            </tbody>
          </table>
        </div>
        {!readOnly && (
          <button
            type="button"
            className="button mt-2"
            onClick={() =>
              edit((p) => ({
                ...p,
                passes: [
                  ...p.passes,
                  {
                    id: lineId(),
                    date: firstDay,
                    productId: 'can_27',
                    productKgHa: 0,
                    placementId: 'broadcast_surface',
                    status: 'planned',
                    pricePerT: null,
                  },
                ],
              }))
            }
          >
            <Plus size={13} aria-hidden /> Pass by hand
          </button>
        )}
        <FillGap />
        <LeaveOut />
      </Part>
      <WeatherYears />
      <OtherPlans />
      <ProductsPart />
      <div className="grid gap-x-8 xl:grid-cols-[3fr_2fr]">
        <Part title="Against the sheet">
          <LedgerSheet />
        </Part>
        <Part title="To settle">
          <Problems station="supply" />
          <Cautions station="supply" empty="Nothing to settle." />
        </Part>
      </div>
    </>
  );
}
