'use client';

import { useState } from 'react';
import { fertilisers } from '@/core/book/fertilisers';
import type { FeedRatioRow } from '@/core/tissue/feedRatio';
import type { LeafBeside } from '@/core/views/leafBeside';
import { feedAgainst, feedWanted } from '@/core/views/feedBeside';
import { Part, SearchBox } from '../figure/fields';
import { useBook } from '../workspace/context';

const SAYS: Readonly<Record<FeedRatioRow['says'], string>> = {
  basis: 'the basis',
  far_too_little: 'less than half of what is wanted',
  too_little: 'less than is wanted',
  fits: 'fits',
  too_much: 'more than is wanted',
  far_too_much: 'more than twice what is wanted',
};

/** A product's N:P:K:Ca:Mg against the leaf that it is to feed. */
export function FeedPart({ beside }: { beside: LeafBeside }) {
  const book = useBook();
  const [product, setProduct] = useState<string | null>(null);
  const feed = feedWanted(beside.leaf);
  if (!feed) return null;
  const known = fertilisers(book).filter((f) => f.nTotalPct > 0);
  const rows =
    product !== null && known.some((f) => f.productId === product)
      ? feedAgainst(book, feed, product)
      : null;
  const ratio = (of: (r: FeedRatioRow) => number, list: readonly FeedRatioRow[]) =>
    list.map((r) => Math.round(of(r))).join(' : ');
  return (
    <Part
      title="A feed against this crop"
      aside="per 100 of N, from the middle of the crop’s own leaf ranges"
    >
      <div data-testid="feed-ratio">
        <SearchBox
          label="Product"
          value={product}
          options={known.map((f) => ({ value: f.productId, label: f.name }))}
          onValue={setProduct}
        />
        {typeof rows === 'string' && <p className="problem">{rows}</p>}
        {Array.isArray(rows) && (
          <>
            <p>
              {rows.map((r) => r.nutrient).join(' : ')}: the crop{' '}
              <strong>{ratio((r) => r.wanted, rows)}</strong>, the product{' '}
              <strong>{ratio((r) => r.product, rows)}</strong>.
            </p>
            <table className="ruled max-w-[36rem]">
              <thead>
                <tr>
                  <th>If it feeds the N, it brings</th>
                  <th className="num">wanted</th>
                  <th className="num">product</th>
                  <th className="pl-2">that is</th>
                </tr>
              </thead>
              <tbody>
                {rows
                  .filter((r) => r.times !== null)
                  .map((r) => (
                    <tr key={r.nutrient}>
                      <th scope="row">{r.nutrient}</th>
                      <td className="num">{r.wanted.toFixed(0)}</td>
                      <td className="num">{r.product.toFixed(0)}</td>
                      <td className="pl-2">
                        {r.product === 0
                          ? 'it holds none'
                          : `${r.times?.toFixed(1)} times: ${SAYS[r.says]}`}
                      </td>
                    </tr>
                  ))}
              </tbody>
            </table>
          </>
        )}
        <p className="note max-w-[52rem]">
          What soil and water bring is not in it: a field that holds much P or K wants less of it
          than the leaf does. {feed.source}, {feed.confidence}.
        </p>
      </div>
    </Part>
  );
}
