'use client';

import type { Route } from 'next';
import Link from 'next/link';
import { dateInWords } from '@/core/quantity/calendar';
import type { LeafBeside } from '@/core/views/leafBeside';
import type { BalanceBeside, OwnBeside, SimilarBeside } from '@/core/views/leafOwn';
import { Scrolled } from '../figure/Scrolled';
import { words } from '../figure/fields';
import { usePlan } from '../workspace/context';

// What stands beside a leaf out of the farm's own making: told, never classed.

const figure = (v: number): string => String(Number(v.toPrecision(3)));
const symbol = (nutrient: string): string => nutrient.replace('_', '-');

const SAYS: Readonly<Record<OwnBeside['rows'][number]['says'], string>> = {
  far_below: 'more than two spreads below them',
  below: 'below most of them',
  alike: 'like them',
  above: 'above most of them',
  far_above: 'more than two spreads above them',
  too_few: 'too few of them to say',
};
function Own({ own: { standard, provisional, rows } }: { own: OwnBeside }) {
  return (
    <section aria-label="The farm’s own good blocks" data-testid="own-beside" className="mb-4">
      <h3>Beside the farm’s own good blocks{provisional ? ', provisional' : ''}</h3>
      <Scrolled label="Beside the farm’s own good blocks">
        <table className="ruled max-w-[46rem]">
          <thead>
            <tr>
              <th>Nutrient</th>
              <th className="num">leaf</th>
              <th className="num">good blocks</th>
              <th className="pl-2">it is</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((r) => (
              <tr key={r.nutrient}>
                <th scope="row">{symbol(r.nutrient)}</th>
                <td className="num">
                  {figure(r.value)} {r.unit}
                </td>
                <td className="num">
                  {figure(r.figure.mean)}
                  {r.figure.sd === null ? '' : ` ± ${Number(r.figure.sd.toPrecision(2))}`}
                  <span className="note block">of {r.figure.n}</span>
                </td>
                <td className="pl-2">{SAYS[r.says]}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Scrolled>
      <p className="note">
        {standard.why} ({standard.by}, {dateInWords(standard.on)}):{' '}
        {[...new Set(standard.blocks.map((b) => b.field))].join(', ')}. A spread counts no narrower
        than sampling and laboratory make it. Good blocks inform; the printed range decides.
      </p>
    </section>
  );
}

const BALANCE: Readonly<Record<BalanceBeside['rows'][number]['says'], string>> = {
  short_by_both: 'short by balance and by its range',
  relatively_lowest: 'relatively lowest, not short by its range',
  in_balance: 'in balance',
};
function Balance({ of }: { of: BalanceBeside }) {
  const [first] = of.norms;
  return (
    <section aria-label={`Balance by ${of.normSet}`} data-testid="balance-beside" className="mb-4">
      <h3>Balance by the norms {of.normSet}</h3>
      {of.reading === null ? (
        <p className="note">{of.refused}</p>
      ) : (
        <>
          <table className="ruled max-w-[34rem]">
            <thead>
              <tr>
                <th>The relatively shortest first</th>
                <th className="num">index</th>
                <th className="pl-2">it is</th>
              </tr>
            </thead>
            <tbody>
              {of.rows.map((r) => (
                <tr key={r.nutrient} className={r.says === 'short_by_both' ? 'font-bold' : ''}>
                  <th scope="row">{symbol(r.nutrient)}</th>
                  <td className="num">{r.index.toFixed(1).replace('-', '−')}</td>
                  <td className="pl-2">{BALANCE[r.says]}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="note">
            Imbalance {of.reading.nbiMean.toFixed(1)} by nutrient
            {of.reading.skipped.length > 0
              ? `; not measured: ${of.reading.skipped.join(', ')}`
              : ''}
            . {first?.source}, {first?.confidence}. A balance always names something lowest: it acts
            only where the range agrees.
          </p>
        </>
      )}
    </section>
  );
}

function Similar({ of }: { of: SimilarBeside }) {
  return (
    <section aria-label="Ranges of a similar crop" data-testid="similar-beside" className="mb-4">
      <h3>Beside {words(of.like)}, a similar crop</h3>
      {of.refused !== null ? (
        <p className="note">{of.refused}</p>
      ) : (
        <table className="ruled max-w-[40rem]">
          <thead>
            <tr>
              <th>Nutrient</th>
              <th className="num">leaf</th>
              <th className="num">range of {words(of.like)}</th>
              <th className="pl-2">it lies</th>
              <th className="pl-2">range by, confidence</th>
            </tr>
          </thead>
          <tbody>
            {of.rows.map((r) => (
              <tr key={r.nutrient}>
                <th scope="row">{symbol(r.nutrient)}</th>
                <td className="num">
                  {figure(r.value)} {r.unit}
                </td>
                <td className="num">
                  {figure(r.row.sufficientLow)}-{figure(r.row.sufficientHigh)}
                </td>
                <td className="pl-2">{r.says === 'within' ? 'within it' : `${r.says} it`}</td>
                <td className="note pl-2">
                  {r.row.source}, {r.row.confidence}, of another crop
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="note">Another crop’s range is a hint: nothing is called short by it.</p>
    </section>
  );
}

/** Good blocks, balance and a similar crop; and where the farm keeps them. */
export function OwnBesideParts({ beside }: { beside: LeafBeside }) {
  const { farm } = usePlan('farm');
  if (!beside.leaf) return null;
  return (
    <>
      {beside.own.map((o) => (
        <Own key={o.standard.id} own={o} />
      ))}
      {beside.balance.map((b) => (
        <Balance key={b.normSet} of={b} />
      ))}
      {beside.similar && <Similar of={beside.similar} />}
      <p className="note no-print mb-4">
        <Link
          className="underline"
          href={`/samples/leaves?farm=${encodeURIComponent(farm.name)}` as Route}
        >
          Leaves side by side
        </Link>
        : other blocks of this crop, a standard out of the good ones, norms of the balance
        {beside.leaf.assessment.without === null ? '' : ', and a similar crop’s ranges'}.
      </p>
    </>
  );
}
