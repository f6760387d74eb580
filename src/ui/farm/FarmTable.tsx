'use client';

import { Download } from 'lucide-react';
import type { Route } from 'next';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useMemo, useState, type ReactNode } from 'react';
import { bookOf } from '@/core/book/book';
import { fertilisers } from '@/core/book/fertilisers';
import type { FarmTerms } from '@/core/document/farmTerms';
import { orderLine } from '@/core/farm/orders';
import { NUTRIENT_KEYS } from '@/core/lines/line';
import {
  farmTotals,
  sumRows,
  type FarmStore,
  type FarmTotals,
  type RowSums,
} from '@/core/farm/farmTotals';
import type { FarmField, FarmFieldRow } from '@/core/farm/wholeFarm';
import { Part } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { useUnits } from '../frame/units';
import { useReckoner } from './useReckoner';
import { Scrolled } from '../figure/Scrolled';

const PRICES = [
  ['nPricePerKg', 'N'],
  ['pPricePerKg', 'P'],
  ['kPricePerKg', 'K'],
  ['sPricePerKg', 'S'],
] as const;
const BIG_BAG_KG = 600;
const money = (v: number): string => Math.round(v).toLocaleString('en-GB');
/** Tonnes to a tenth where they are few, so that what is left is what one sees. */
const tonnes = (v: number): string => (Math.abs(v) < 100 ? String(Number(v.toFixed(1))) : money(v));
/** A field of the page that is shown; its row is null where the plan could not be reckoned. */
export interface ListedField {
  fieldId: string;
  name: string;
  areaHa: number;
  row: FarmFieldRow | null;
}
export interface FarmTableProps {
  farmId: string;
  terms: FarmTerms;
  stores: FarmStore[];
  fields: ListedField[];
  /** Sums over all fields of the farm; null while some of them are still reckoned. */
  sums: RowSums | null;
  freshness: { fields: number; fresh: number };
  finder: ReactNode;
  pager: ReactNode;
}

/** What is to be ordered for all fields: by weight, whole bags, or volume. */
function Orders({ products, terms }: { products: FarmTotals['products']; terms: FarmTerms }) {
  const { system } = useUnits();
  const [bagKg, setBagKg] = useState(BIG_BAG_KG);
  const book = useMemo(() => bookOf(terms.library), [terms.library]);
  // A product that has left the library since is ordered by weight.
  const densities = new Map(fertilisers(book).map((f) => [f.productId, f.densityKgL]));
  const lines = products.map((p) => ({
    ...orderLine(
      { productId: p.id, name: p.name, densityKgL: densities.get(p.id) ?? null },
      p.kg,
      bagKg,
    ),
    cost: p.cost,
  }));
  const fluid = (l: (typeof lines)[number]): string =>
    system === 'us' ? `${money(l.gallons ?? 0)} gal` : `${money(l.litres ?? 0)} L`;
  return (
    <Part title="To order" aside="for the passes that are still planned, whole bags">
      <FigureBox
        label="A bag holds"
        value={bagKg}
        range={{ label: 'Bag', unit: 'kg', min: 1, max: 2000 }}
        onValue={(v) => v !== null && setBagKg(v)}
      />
      <table className="ruled" data-testid="orders">
        <thead>
          <tr>
            <th>Product</th>
            <th className="num">t</th>
            <th className="num">bags, or volume</th>
            <th className="num">Cost</th>
          </tr>
        </thead>
        <tbody>
          {lines.map((l) => (
            <tr key={l.productId}>
              <th scope="row">{l.name}</th>
              <td className="num">{l.tonnes.toFixed(2)}</td>
              <td className="num">{l.bags === null ? fluid(l) : `${l.bags} bags`}</td>
              <td className="num">{money(l.cost)}</td>
            </tr>
          ))}
          {lines.length === 0 && (
            <tr>
              <td colSpan={4} className="note">
                no pass planned yet
              </td>
            </tr>
          )}
        </tbody>
      </table>
    </Part>
  );
}

function Sums({
  sums,
  stores,
  terms,
}: {
  sums: RowSums;
  stores: readonly FarmStore[];
  terms: FarmTerms;
}) {
  const t = useMemo(() => farmTotals(sums, stores, terms), [sums, stores, terms]);
  return (
    <div className="grid gap-x-8 xl:grid-cols-3">
      <Part
        title="Still to apply"
        aside="over all fields that are short; a surplus feeds no other field"
      >
        <table className="ruled" data-testid="farm-left">
          <thead>
            <tr>
              <th>Nutrient</th>
              <th className="num">kg left</th>
              <th className="num">kg over</th>
            </tr>
          </thead>
          <tbody>
            {NUTRIENT_KEYS.map((x) => (
              <tr key={x}>
                <th scope="row">{x.toUpperCase()}</th>
                <td className="num">{money(t.leftKg[x])}</td>
                <td className="num">{money(t.overKg[x])}</td>
              </tr>
            ))}
            <tr className="sum">
              <th scope="row">To buy it would cost</th>
              <td className="num">{money(t.toBuy)}</td>
              <td />
            </tr>
          </tbody>
        </table>
        <p className="note mt-1">
          Planned already: fertiliser {money(t.fertiliserCost)}, haulage of manure{' '}
          {money(t.haulCost)}. Prices are the farm’s own placeholders until somebody enters real
          ones.
        </p>
      </Part>
      <Orders products={t.products} terms={terms} />
      <Part title="Manure in store and planned" aside="t">
        <table className="ruled" data-testid="manure-supply">
          <thead>
            <tr>
              <th>Store</th>
              <th className="num">in store</th>
              <th className="num">planned</th>
              <th className="num">left</th>
            </tr>
          </thead>
          <tbody>
            {t.supply.map((s) => (
              <tr key={`${s.id}-${s.material}`}>
                <th scope="row">
                  {s.name}
                  <span className="note block">{s.material}</span>
                </th>
                <td className="num">{s.inStoreT === null ? 'not measured' : tonnes(s.inStoreT)}</td>
                <td className="num">{tonnes(s.plannedT)}</td>
                <td
                  className={`num ${s.leftT !== null && s.leftT < 0 ? 'text-hot font-bold' : ''}`}
                >
                  {s.leftT === null
                    ? '·'
                    : s.leftT < 0
                      ? `${tonnes(-s.leftT)} short`
                      : tonnes(s.leftT)}
                </td>
              </tr>
            ))}
            {t.supply.length === 0 && (
              <tr>
                <td colSpan={4} className="note">
                  no store and no manure yet
                </td>
              </tr>
            )}
          </tbody>
        </table>
      </Part>
    </div>
  );
}

type Prices = Pick<FarmTerms, (typeof PRICES)[number][0]>;

/**
 * Rows of the whole farm at other prices, reckoned in a worker, so that typing a price never
 * waits.
 */
function useTrial(farmId: string, own: Prices) {
  const [fields, setFields] = useState<FarmField[] | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const [prices, setPrices] = useState(own);
  const reckoner = useReckoner<FarmFieldRow[]>();
  const tried = PRICES.some(([k]) => prices[k] !== own[k]);
  const { start } = reckoner;
  useEffect(() => {
    if (!tried || fields) return;
    const gone = new AbortController();
    fetch(`/farms/${farmId}/plans.json`, { signal: gone.signal }).then(
      async (r) =>
        r.ok
          ? setFields((await r.json()) as FarmField[])
          : setFailed('The plans of this farm could not be read. Load the page again.'),
      (e: unknown) => {
        if (!gone.signal.aborted) setFailed(e instanceof Error ? e.message : String(e));
      },
    );
    return () => gone.abort();
  }, [farmId, tried, fields]);
  useEffect(() => {
    if (tried && fields)
      start((r, done) =>
        r.farm(
          fields.map((f) => ({ ...f, plan: { ...f.plan, farm: { ...f.plan.farm, ...prices } } })),
          done,
        ),
      );
  }, [tried, fields, prices, start]);
  return {
    prices,
    setPrices,
    rows: tried ? reckoner.value : null,
    running: tried ? reckoner.running : null,
    of: fields?.length ?? 0,
    failed: failed ?? reckoner.failed,
    cancel: reckoner.cancel,
  };
}

/** While the server renews the farm's figures: how far it is; the page is drawn anew at the end. */
function Renewing({ farmId, fields, fresh }: { farmId: string; fields: number; fresh: number }) {
  const router = useRouter();
  const [done, setDone] = useState(fresh);
  useEffect(() => {
    const timer = setInterval(
      () =>
        void fetch(`/farms/${farmId}/reckoning.json`)
          .then((r) => r.json() as Promise<{ fields: number; fresh: number }>)
          .then((now) => {
            setDone(now.fresh);
            if (now.fresh === now.fields) router.refresh();
          })
          // A server that does not answer just now is asked again.
          .catch(() => undefined),
      700,
    );
    return () => clearInterval(timer);
  }, [farmId, router]);
  return (
    <>
      What these figures rest on was changed. Reckoning: {done} of {fields} fields{' '}
      <progress
        className="mx-2 align-middle"
        value={done}
        max={fields}
        aria-label="Fields reckoned"
      />{' '}
      The sums follow.
    </>
  );
}

const left = (
  v: number,
  show: (v: number, d: 'nutrient_rate', digits: number) => string,
): string =>
  v < -0.5 ? `${show(-v, 'nutrient_rate', 0)} over` : show(Math.max(0, v), 'nutrient_rate', 0);

function FieldLine({ field, row: r }: { field: ListedField; row: FarmFieldRow | null }) {
  const { show } = useUnits();
  return (
    <tr>
      <th scope="row">
        <Link href={`/fields/${field.fieldId}/budget` as Route} className="font-bold">
          {field.name}
        </Link>
      </th>
      <td className="num">{show(field.areaHa, 'area', 1)}</td>
      {r === null ? (
        <td colSpan={9} className="text-hot pl-4">
          This plan could not be reckoned; it is in no sum.
        </td>
      ) : (
        <>
          <td className="pl-4">{r.cropName ?? <span className="note">{r.missing}</span>}</td>
          {NUTRIENT_KEYS.map((x) => (
            <td key={x} className="num">
              {r.left === null ? '·' : left(r.left[x], show)}
            </td>
          ))}
          <td className="max-w-96 min-w-64 pl-4">
            {[
              ...r.manures.map((m) => `${tonnes(m.tonnes)} t ${m.name}`),
              ...r.products.map((p) => `${money(p.kg)} kg ${p.name}`),
            ].join('; ') || <span className="note">nothing yet</span>}
          </td>
          <td className="num">{money(r.fertiliserCost)}</td>
          <td className="num">{r.haulCost > 0 ? money(r.haulCost) : '·'}</td>
          <td className={`pl-4 ${r.stops > 0 ? 'text-hot' : ''}`}>
            {r.stops > 0 ? `${r.stops} ${r.stops === 1 ? 'stop' : 'stops'}, ` : ''}
            {r.cautions}
          </td>
        </>
      )}
    </tr>
  );
}

/**
 * The fields of a farm: what each still needs, what is planned, and the sums over all of them, as
 * they are stored; other prices are tried out on the spot.
 */
export function FarmTable({
  farmId,
  terms,
  stores,
  fields,
  sums,
  freshness,
  finder,
  pager,
}: FarmTableProps) {
  const { unit } = useUnits();
  const trial = useTrial(farmId, terms);
  const { prices, rows } = trial;
  const tried = useMemo(
    () => rows && { of: new Map(rows.map((r) => [r.fieldId, r])), sums: sumRows(rows) },
    [rows],
  );
  const own = useMemo(() => ({ ...terms, ...prices }), [terms, prices]);
  const shown = tried?.sums ?? sums;
  return (
    <>
      <div className="mb-2 fields">
        {PRICES.map(([k, x]) => (
          <FigureBox
            key={k}
            label={`${x} price`}
            value={prices[k]}
            range={{
              label: `${x} price`,
              unit: 'per kg',
              min: 0,
              max: 100,
              above: k === 'nPricePerKg',
            }}
            onValue={(v) => v !== null && trial.setPrices((p) => ({ ...p, [k]: v }))}
          />
        ))}
        <span className="note">to try out; the farm’s own stay as they are</span>
        <a className="button ml-auto no-underline" href={`/farms/${farmId}/farm.xlsx`}>
          <Download size={14} aria-hidden /> XLSX
        </a>
      </div>
      {finder}
      <p role="status" className="note min-h-6" data-testid="reckoning">
        {trial.failed ??
          (trial.running !== null ? (
            <>
              Reckoning: {trial.running} of {trial.of} fields{' '}
              <progress
                className="mx-2 align-middle"
                value={trial.running}
                max={Math.max(1, trial.of)}
                aria-label="Fields reckoned"
              />{' '}
              <button type="button" className="plain" onClick={trial.cancel}>
                stop
              </button>
            </>
          ) : sums === null ? (
            <Renewing farmId={farmId} {...freshness} />
          ) : (
            ''
          ))}
      </p>
      <Scrolled label="Fields of the farm">
        <table className="ruled mb-4 min-w-[60rem]" data-testid="farm-fields">
          <thead>
            <tr>
              <th>Field</th>
              <th className="num">{unit('area')}</th>
              <th className="pl-4">Crop</th>
              {NUTRIENT_KEYS.map((x) => (
                <th key={x} className="num">
                  {x.toUpperCase()} left,
                  <br />
                  {unit('nutrient_rate')}
                </th>
              ))}
              <th className="pl-4">Planned</th>
              <th className="num">Fertiliser</th>
              <th className="num">Haulage</th>
              <th className="pl-4">Stops, cautions</th>
            </tr>
          </thead>
          <tbody>
            {fields.map((f) => (
              <FieldLine key={f.fieldId} field={f} row={tried?.of.get(f.fieldId) ?? f.row} />
            ))}
          </tbody>
        </table>
      </Scrolled>
      {pager}
      {shown && <Sums sums={shown} stores={stores} terms={own} />}
    </>
  );
}
