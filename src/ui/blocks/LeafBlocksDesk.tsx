'use client';

import type { Route } from 'next';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useMemo, useState, useTransition } from 'react';
import { coreUnitOf } from '@/core/book/tissueNutrients';
import {
  bestQuarter,
  blocksApart,
  figuresOf,
  type BlockGroup,
  type BlocksApart,
} from '@/core/farm/blockFigures';
import type { NormList } from '@/core/farm/normFile';
import { dateInWords } from '@/core/quantity/calendar';
import type { Answer } from '@/core/quantity/refusal';
import {
  ENOUGH_FOR_NORMS,
  ENOUGH_FOR_SPAN,
  ownFigures,
  type OwnFigure,
} from '@/core/tissue/ownStandard';
import { Part, words } from '../figure/fields';
import { Scrolled } from '../figure/Scrolled';
import { TextBox } from '../figure/TextBox';
import { useHydrated } from '../frame/hydrated';
import { useUnits } from '../frame/units';

export const figure = (v: number): string => String(Number(v.toPrecision(3)));
export const spread = (v: number): string => String(Number(v.toPrecision(2)));
const DECIDES: readonly string[] = ['deficient', 'low', 'toxic_risk'];
interface Chosen {
  group: string;
  leafIds: string[];
  why: string;
}
export interface LeafBlocksDeskProps {
  group: BlockGroup;
  readOnly: boolean;
  keepStandard: (raw: Chosen) => Promise<Answer<void>>;
  keepNorms: (raw: Chosen) => Promise<Answer<void>>;
  bringNorms: (form: FormData) => Promise<Answer<{ norms: number; left: NormList['left'] }>>;
}

/** Every block of the group, a column a nutrient; ticked where somebody calls it good. */
function BlocksTable({
  group,
  good,
  readOnly,
  toggle,
}: Pick<LeafBlocksDeskProps, 'group' | 'readOnly'> & {
  good: ReadonlySet<string>;
  toggle: (id: string) => void;
}) {
  const { show, unit } = useUnits();
  return (
    <Scrolled label="Blocks side by side">
      <table className="ruled" data-testid="leaf-blocks">
        <thead>
          <tr>
            {!readOnly && <th>Good</th>}
            <th>Block</th>
            <th>Taken on</th>
            <th className="num">stage</th>
            <th className="num">harvested, {unit('mass_rate')}</th>
            {group.nutrients.map((n) => (
              <th key={n.nutrient} className="num">
                {n.nutrient.replace('_', '-')} <span className="note">{n.unit}</span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {group.nutrients.some((n) => n.low !== null) && (
            <tr className="note">
              {!readOnly && <td />}
              <th scope="row" colSpan={4} className="font-normal">
                printed range (
                {[...new Set(group.nutrients.map((n) => n.by).filter((by) => by !== ''))].join(
                  '; ',
                )}
                )
              </th>
              {group.nutrients.map((n) => (
                <td key={n.nutrient} className="num">
                  {n.low === null || n.high === null ? '·' : `${figure(n.low)}-${figure(n.high)}`}
                </td>
              ))}
            </tr>
          )}
          {group.blocks.map((b) => (
            <tr key={b.leafId}>
              {!readOnly && (
                <td>
                  <input
                    type="checkbox"
                    className="size-4 accent-[var(--ink)]"
                    aria-label={`${b.field}, ${dateInWords(b.date)}, is a good block`}
                    checked={good.has(b.leafId)}
                    onChange={() => toggle(b.leafId)}
                  />
                </td>
              )}
              <th scope="row">
                <Link href={`/fields/${b.fieldId}/season` as Route}>{b.field}</Link>
              </th>
              <td className="whitespace-nowrap">{dateInWords(b.date)}</td>
              <td className="num">{b.bbch}</td>
              <td className="num">
                {b.yieldTHa === null ? 'not said' : show(b.yieldTHa, 'mass_rate', 1)}
              </td>
              {group.nutrients.map((n) => {
                const v = b.values.find((x) => x.nutrient === n.nutrient);
                const decides = v?.cls && DECIDES.includes(v.cls);
                return (
                  <td key={n.nutrient} className={decides ? 'num font-bold text-hot' : 'num'}>
                    {v ? figure(v.value) : '·'}
                    {decides && <span className="sr-only"> {words(v.cls ?? '')}</span>}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </Scrolled>
  );
}

/** What the good blocks come to, and how the others differ. */
function GoodTable({ figures, apart }: { figures: OwnFigure[]; apart: BlocksApart[] }) {
  return (
    <Scrolled label="What the good blocks come to">
      <table className="ruled max-w-[46rem]" data-testid="good-blocks">
        <thead>
          <tr>
            <th>Nutrient</th>
            <th className="num">samples</th>
            <th className="num">mean</th>
            <th className="num">spread</th>
            <th className="num">middle eight tenths</th>
            <th className="pl-2">against the others</th>
          </tr>
        </thead>
        <tbody>
          {figures.map((f) => {
            const d = apart.find((x) => x.nutrient === f.nutrient);
            return (
              <tr key={f.nutrient}>
                <th scope="row">
                  {f.nutrient.replace('_', '-')}{' '}
                  <span className="note">{coreUnitOf(f.nutrient)}</span>
                </th>
                <td className="num">{f.n}</td>
                <td className="num font-bold">{figure(f.mean)}</td>
                <td className="num">{f.sd === null ? 'of one none' : spread(f.sd)}</td>
                <td className="num">
                  {f.lower === null || f.upper === null
                    ? `from ${ENOUGH_FOR_SPAN} on`
                    : `${figure(f.lower)}-${figure(f.upper)}`}
                </td>
                <td className={d?.sure ? 'pl-2 font-bold' : 'pl-2 note'}>
                  {d
                    ? `${d.pct > 0 ? '+' : '−'}${Math.abs(d.pct).toFixed(0)} %${d.sure ? '' : ', within chance'}`
                    : 'no others'}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </Scrolled>
  );
}

/** Blocks of one crop, part and stage; the good ones are chosen and kept as a standard. */
export function LeafBlocksDesk({
  group,
  readOnly,
  keepStandard,
  keepNorms,
  bringNorms,
}: LeafBlocksDeskProps) {
  const router = useRouter();
  const hydrated = useHydrated();
  const [working, start] = useTransition();
  const pending = working || !hydrated;
  const [good, setGood] = useState<ReadonlySet<string>>(new Set());
  const [why, setWhy] = useState('');
  const [said, setSaid] = useState<string | null>(null);
  const [done, setDone] = useState<string | null>(null);
  const [left, setLeft] = useState<NormList['left']>([]);
  const best = useMemo(() => bestQuarter(group.blocks), [group]);
  const chosen = group.blocks.filter((b) => good.has(b.leafId));
  const fields = new Set(chosen.map((b) => b.fieldId)).size;
  const others = group.blocks.filter((b) => !good.has(b.leafId));
  const toggle = (id: string) =>
    setGood((g) => {
      const next = new Set(g);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  const send = (keep: LeafBlocksDeskProps['keepStandard'], told: string) =>
    start(async () => {
      setDone(null);
      const reply = await keep({ group: group.key, leafIds: [...good], why });
      setSaid(reply.ok ? null : reply.refusal.message);
      if (!reply.ok) return;
      setDone(told);
      router.refresh();
    });
  const bring = (file: File | undefined) => {
    if (!file) return;
    const form = new FormData();
    form.set('file', file);
    start(async () => {
      setDone(null);
      const reply = await bringNorms(form);
      setSaid(reply.ok ? null : reply.refusal.message);
      setLeft(reply.ok ? reply.value.left : []);
      if (!reply.ok) return;
      setDone(
        `${reply.value.norms} ${reply.value.norms === 1 ? 'norm is' : 'norms are'} in${reply.value.left.length > 0 ? `, ${reply.value.left.length} ${reply.value.left.length === 1 ? 'row' : 'rows'} stayed out` : ''}.`,
      );
      router.refresh();
    });
  };
  return (
    <Part
      title={`${group.cropName}, ${group.partLabel.toLowerCase()}`}
      aside={`${group.stageLabel ? `${group.stageLabel}, ` : ''}BBCH ${group.bbchFrom}-${group.bbchTo}${group.setId === null ? '; no printed range for this crop' : ''}`}
    >
      <BlocksTable group={group} good={good} readOnly={readOnly} toggle={toggle} />
      {!readOnly && (
        <p className="my-2 flex flex-wrap items-baseline gap-3">
          <button
            type="button"
            className="button"
            disabled={pending || best.length === 0}
            onClick={() => setGood(new Set(best))}
          >
            Choose the best quarter by yield
          </button>
          <span className="note">
            {best.length === 0
              ? 'four blocks whose harvest is known are needed; or tick the good ones'
              : 'or tick the good ones: yield and quality both count'}
          </span>
        </p>
      )}
      {chosen.length > 0 && (
        <>
          <GoodTable
            figures={ownFigures(figuresOf(chosen))}
            apart={blocksApart(figuresOf(chosen), figuresOf(others))}
          />
          {fields < chosen.length && (
            <p className="note">
              {chosen.length} samples of {fields === 1 ? 'one block' : `${fields} blocks`}: years of
              a block are more alike than blocks are.
            </p>
          )}
          <p className="my-2 flex flex-wrap items-baseline gap-x-4 gap-y-2">
            <TextBox
              label="Why these are the good ones"
              wide
              max={300}
              value={why}
              onValue={setWhy}
            />
            <button
              type="button"
              className="button button-strong"
              disabled={pending}
              onClick={() =>
                send(
                  keepStandard,
                  'The standard is kept: it stands beside each leaf of this crop, part and stage.',
                )
              }
            >
              Keep {chosen.length === 1 ? 'it' : `these ${chosen.length}`} as the farm’s own{' '}
              {chosen.length < ENOUGH_FOR_SPAN ? 'provisional ' : ''}standard
            </button>
            <button
              type="button"
              className="button"
              disabled={pending || chosen.length < ENOUGH_FOR_NORMS}
              onClick={() => send(keepNorms, 'The norms of the balance are kept.')}
            >
              Keep as norms of the balance
            </button>
            <span className="note">
              {chosen.length < ENOUGH_FOR_NORMS &&
                `Norms want ${ENOUGH_FOR_NORMS} good blocks, better 200; here are ${chosen.length}.`}
            </span>
          </p>
        </>
      )}
      {!readOnly && (
        <p className="mt-2">
          <label className="inline-flex flex-wrap items-baseline gap-1.5">
            Norms of the balance for these leaves, from a table
            <input
              type="file"
              accept=".csv,.txt,.xlsx,text/csv"
              className="box"
              disabled={pending}
              onChange={(e) => {
                bring(e.target.files?.[0]);
                e.target.value = '';
              }}
            />
          </label>{' '}
          <span className="note">
            norm_set, ratio (N/P), mean, cv in %, n, part, stage, source, confidence
          </span>
        </p>
      )}
      {said && (
        <p role="alert" className="problem">
          {said}
        </p>
      )}
      {done && <p role="status">{done}</p>}
      {left.length > 0 && (
        <ul className="note" aria-label="Rows that stayed out">
          {left.map((l) => (
            <li key={l.row}>
              Line {l.row}, {l.text || 'no pair'}: {l.reason}.
            </li>
          ))}
        </ul>
      )}
    </Part>
  );
}
