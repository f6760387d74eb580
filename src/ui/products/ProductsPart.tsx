'use client';

import { Plus, X } from 'lucide-react';
import { useState } from 'react';
import { doseLimit, fertiliserOf, fertilisers, type Fertiliser } from '@/core/book/fertilisers';
import { soilOf } from '@/core/book/soils';
import { cropParamsOf } from '@/core/book/stages';
import { crosswalkOf } from '@/core/book/crops';
import type { FertiliserPass, Plan } from '@/core/document/document';
import { listed, pricePerT } from '@/core/lines/prices';
import { rankCompounds, type RankedCompound } from '@/core/nitrogen/compoundRank';
import type { Book } from '@/core/book/book';
import { RANGES } from '@/core/quantity/range';
import { ChoiceBox, Part, SearchBox, TickBox } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { Scrolled } from '../figure/Scrolled';
import { useUnits } from '../frame/units';
import { lineId, useBook, useEdit, useWholeAssessment, useWholePlan } from '../workspace/context';
import { useDoors } from '../workspace/doors';
import { Additives } from './Additives';
import { Banded } from './Banded';
import { Liquids } from './Liquids';

/** Straights and compounds that a merchant usually has, to begin with. */
const USUAL = [
  'urea_46',
  'can_27',
  'ammonium_sulphate_21',
  'map_11_52',
  'dap_18_46',
  'tsp_0_46',
  'kcl_60',
  'sop_50',
  'kieserite',
  'gypsum',
  'npk_15_15_15',
];
const ALLOWED = new Set(['commonly_allowed', 'mined_grade_commonly_allowed']);
const MOST_CANDIDATES = 40;
const NUTRIENTS = ['n', 'p', 'k', 's'] as const;
type Nutrient = (typeof NUTRIENTS)[number];
const KG = { label: 'Nutrient', unit: 'kg/ha', min: 0, max: 1000 };
/** Room above what is wanted, so that whole products fit. */
const ROOM = 1.15;

/** Whether a product may lie on this field at all: certified land has a list of its own. */
const mayHere =
  (plan: Plan) =>
  (f: Fertiliser): boolean =>
    plan.field.certification === 'none' || ALLOWED.has(f.organicStatus);
const priceHere =
  (plan: Plan) =>
  (f: Fertiliser): number => {
    const own = listed(plan.farm.prices, f.productId, plan.asOf);
    return own ? pricePerT(own, f.densityKgL) : f.pricePerTDemo;
  };
const suffersFromChloride = (book: Book, plan: Plan): boolean => {
  const crop = plan.season.cropKey && crosswalkOf(book, plan.season.cropKey).seasonCropId;
  return crop ? cropParamsOf(crop)?.chlorideSensitive === 1 : false;
};

const passOf = (productId: string, kg: number, date: string): FertiliserPass => ({
  id: lineId(),
  date,
  productId,
  productKgHa: Math.round(kg),
  placementId: 'broadcast_incorporated',
  status: 'planned',
  pricePerT: null,
});
/** Adds products as planned passes on the day on which the crop is planted, or today. */
function useAdd() {
  const { edit } = useEdit();
  return (products: Record<string, number>) =>
    edit((p) => ({
      ...p,
      passes: [
        ...p.passes,
        ...Object.entries(products).map(([id, kg]) =>
          passOf(id, kg, p.season.plantingDate ?? p.asOf),
        ),
      ],
    }));
}

/** Which products bring what is still to apply: the cheapest blend, a compound, and additives. */
export function ProductsPart() {
  const { readOnly } = useEdit();
  if (readOnly) return null;
  return (
    <Part
      title="Products for what is still to apply"
      aside="prices of the farm’s list, else placeholders; the library decides what a product holds"
    >
      <div className="grid gap-x-8 gap-y-3 xl:grid-cols-2">
        <BlendFinder />
        <Compounds />
      </div>
      <Banded />
      <Liquids />
      <Additives />
    </Part>
  );
}

interface Found {
  products_kg_ha: Record<string, number>;
  delivered_kg_ha: Record<string, number>;
  product_cost_per_ha: number;
  left_out_products: string[];
}

function BlendFinder() {
  const plan = useWholePlan();
  const a = useWholeAssessment();
  const book = useBook();
  const { solveBlend } = useDoors();
  const { show, unit } = useUnits();
  const add = useAdd();
  const may = mayHere(plan);
  const [chosen, setChosen] = useState<string[] | null>(null);
  const [own, setOwn] = useState<Partial<Record<`${'min' | 'max'}_${Nutrient}`, number | null>>>(
    {},
  );
  const [most, setMost] = useState(3);
  const [chloride, setChloride] = useState<boolean | null>(null);
  const [found, setFound] = useState<Found | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const cap =
    doseLimit('soil_applied', soilOf(plan.field.soilTextureId).splitClass)?.maxSingleDoseKgHa ??
    120;
  const candidates =
    chosen ??
    fertilisers(book)
      .filter((f) => may(f) && (plan.field.certification !== 'none' || USUAL.includes(f.productId)))
      .map((f) => f.productId)
      .slice(0, MOST_CANDIDATES);
  const wanted = (x: Nutrient): number =>
    Math.round(x === 'n' ? Math.min(cap, a.sums.n.stillToApply) : a.sums[x].stillToApply);
  const min = (x: Nutrient) => {
    const typed = own[`min_${x}`];
    return typed === undefined ? wanted(x) : typed;
  };
  const max = (x: Nutrient) => {
    const typed = own[`max_${x}`];
    const least = min(x) ?? 0;
    // N that nobody asks for is N over; more of the others than is wanted stays in the ground.
    return typed === undefined ? (least > 0 || x === 'n' ? Math.ceil(least * ROOM) : null) : typed;
  };
  const sensitive = chloride ?? suffersFromChloride(book, plan);
  const figures = (of: (x: Nutrient) => number | null) =>
    Object.fromEntries(NUTRIENTS.flatMap((x) => (of(x) === null ? [] : [[x, of(x)]])));
  const solve = async () => {
    setBusy(true);
    const reply = await solveBlend({
      blend_candidates: candidates,
      nutrient_at_least_kg_ha: figures(min),
      nutrient_at_most_kg_ha: figures(max),
      max_products: most,
      max_n_per_pass_kg_ha: cap,
      is_chloride_sensitive: sensitive,
    });
    setBusy(false);
    setFound(reply.ok ? (reply.value as unknown as Found) : null);
    setSaid(reply.ok ? null : reply.refusal.message);
  };
  const kg = (v: number) => show(v, 'nutrient_rate');
  return (
    <div data-testid="blend">
      <h3>Cheapest blend</h3>
      <Scrolled label="What the blend is to bring">
        <table className="ruled max-w-[32rem]">
          <thead>
            <tr>
              <th>{unit('nutrient_rate')}</th>
              {NUTRIENTS.map((x) => (
                <th key={x} className="num">
                  {x.toUpperCase()}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {(['min', 'max'] as const).map((side) => (
              <tr key={side}>
                <th scope="row">{side === 'min' ? 'at least' : 'at most'}</th>
                {NUTRIENTS.map((x) => (
                  <td key={x} className="num">
                    <FigureBox
                      label={`${x.toUpperCase()} ${side === 'min' ? 'at least' : 'at most'}`}
                      hideLabel
                      hideUnit
                      optional
                      value={side === 'min' ? min(x) : max(x)}
                      range={KG}
                      onValue={(v) => setOwn((o) => ({ ...o, [`${side}_${x}`]: v }))}
                    />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </Scrolled>
      <ul className="mt-1 flex flex-wrap gap-1.5" aria-label="Products to choose from">
        {candidates.map((id) => (
          <li key={id} className="inline-flex items-center gap-1 border border-rule px-1.5">
            {fertiliserOf(book, id).name}
            <button
              type="button"
              className="plain"
              aria-label={`Leave ${fertiliserOf(book, id).name} out`}
              onClick={() => setChosen(candidates.filter((c) => c !== id))}
            >
              <X size={12} aria-hidden />
            </button>
          </li>
        ))}
      </ul>
      <div className="mt-1 flex flex-wrap items-baseline gap-2">
        {candidates.length < MOST_CANDIDATES && (
          <SearchBox
            label="Also"
            value={null}
            empty="another product"
            options={fertilisers(book)
              .filter((f) => may(f) && !candidates.includes(f.productId))
              .map((f) => ({ value: f.productId, label: f.name }))}
            onValue={(v) => v && setChosen([...candidates, v])}
          />
        )}
        <FigureBox
          label="Most products"
          value={most}
          range={{ label: 'Products', unit: '', min: 1, max: 10 }}
          onValue={(v) => v !== null && setMost(Math.round(v))}
        />
        <TickBox label="Suffers from chloride" value={sensitive} onValue={setChloride} />
        <button
          type="button"
          className="button button-strong"
          disabled={busy || candidates.length === 0}
          onClick={() => void solve()}
        >
          Find the cheapest blend
        </button>
      </div>
      {said && (
        <p role="alert" className="problem mt-1" data-testid="blend-none">
          {said}
        </p>
      )}
      {found && (
        <div className="mt-1" data-testid="blend-found">
          <table className="ruled max-w-[32rem]">
            <thead>
              <tr>
                <th>Product</th>
                <th className="num">{unit('product_rate')}</th>
                <th className="num">for the field, t</th>
              </tr>
            </thead>
            <tbody>
              {Object.entries(found.products_kg_ha).map(([id, rate]) => (
                <tr key={id}>
                  <th scope="row">{fertiliserOf(book, id).name}</th>
                  <td className="num">{show(rate, 'product_rate')}</td>
                  <td className="num">{((rate * plan.field.areaHa) / 1000).toFixed(2)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="note">
            Brings{' '}
            {Object.entries(found.delivered_kg_ha)
              .filter(([, v]) => v >= 0.5)
              .map(([x, v]) => `${x === 'cl' ? 'chloride' : x.toUpperCase()} ${kg(v)}`)
              .join(', ')}{' '}
            {unit('nutrient_rate')}; {show(found.product_cost_per_ha, 'price_per_area')}{' '}
            {unit('price_per_area')}, the least that meets all limits.
            {found.left_out_products.length > 0 &&
              ` Left out for chloride: ${found.left_out_products.map((id) => fertiliserOf(book, id).name).join(', ')}.`}
          </p>
          <button type="button" className="button" onClick={() => add(found.products_kg_ha)}>
            <Plus size={13} aria-hidden /> Add the blend to the passes
          </button>
        </div>
      )}
    </div>
  );
}

const MOST_ROWS = 5;
const ASSUMED_PASS = 12;
function Compounds() {
  const plan = useWholePlan();
  const a = useWholeAssessment();
  const book = useBook();
  const { show, unit } = useUnits();
  const add = useAdd();
  const [share, setShare] = useState(50);
  // Nobody has said what a pass costs here: until then it is called assumed.
  const [saidPass, setPass] = useState<number | null>(null);
  const pass = saidPass ?? ASSUMED_PASS;
  const [straightN, setStraightN] = useState('can_27');
  const { n, p, k } = a.sums;
  const ready = p.stillToApply > 0 || k.stillToApply > 0;
  const ranked: RankedCompound[] = ready
    ? rankCompounds(book, {
        nKgHa: n.stillToApply,
        pKgHa: p.stillToApply,
        kKgHa: k.stillToApply,
        nShareMax: share / 100,
        passCostHa: pass,
        straightN,
        priceOf: priceHere(plan),
        may: (f) => mayHere(plan)(f) && !(suffersFromChloride(book, plan) && f.clPct > 2),
      }).slice(0, MOST_ROWS)
    : [];
  return (
    <div data-testid="compounds">
      <h3>A compound for P and K, the rest of the N at its stage</h3>
      <div className="flex flex-wrap items-baseline gap-2">
        <FigureBox
          label="Of the N at most"
          value={share}
          range={{ label: 'Share of N', unit: '%', min: 0, max: 100 }}
          onValue={(v) => v !== null && setShare(v)}
        />
        <FigureBox
          label={saidPass === null ? 'A pass costs (assumed)' : 'A pass costs'}
          value={pass}
          range={{ ...RANGES.pricePerT, label: 'Pass', unit: 'money/ha', max: 1000 }}
          onValue={(v) => v !== null && setPass(v)}
        />
        <ChoiceBox
          label="Rest of the N by"
          value={straightN}
          options={fertilisers(book)
            .filter(
              (f) => f.nTotalPct >= 15 && f.pPct === 0 && f.kPct === 0 && f.slowType !== 'organic',
            )
            .map((f) => ({ value: f.productId, label: f.name }))}
          onValue={(v) => v && setStraightN(v)}
        />
      </div>
      {!ready && <p className="note">P and K are placed or left out.</p>}
      {ready && ranked.length === 0 && (
        <p className="note">No compound of the library fits what is still to apply here.</p>
      )}
      {ranked.length > 0 && (
        <Scrolled label="Compounds by cost">
          <table className="ruled max-w-[40rem]">
            <thead>
              <tr>
                <th>Products, {unit('product_rate')}</th>
                <th className="num">N left, {unit('nutrient_rate')}</th>
                <th className="num">all, {unit('price_per_area')}</th>
                <th>
                  <span className="sr-only">Add</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {ranked.map((r) => (
                <tr key={r.compound.productId}>
                  <th scope="row" className="font-normal">
                    {Object.entries(r.productsKgHa)
                      .map(
                        ([id, kg]) => `${fertiliserOf(book, id).name} ${show(kg, 'product_rate')}`,
                      )
                      .join(' + ')}
                  </th>
                  <td className="num">{show(r.nLeftKgHa, 'nutrient_rate')}</td>
                  <td className="num">{show(r.costHa, 'price_per_area')}</td>
                  <td className="pl-3">
                    <button
                      type="button"
                      className="button"
                      aria-label={`Add ${r.compound.name} to the passes`}
                      onClick={() => add(r.productsKgHa)}
                    >
                      Add
                    </button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </Scrolled>
      )}
    </div>
  );
}
