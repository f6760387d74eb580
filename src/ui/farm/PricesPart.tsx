'use client';

import { Plus, Upload } from 'lucide-react';
import { useState, useTransition, type ReactNode } from 'react';
import type { FarmTerms, ProductPrice } from '@/core/document/farmTerms';
import type { PricedProduct, PriceList } from '@/core/farm/priceFile';
import type { Answer } from '@/core/quantity/refusal';
import { ChoiceBox, DateBox, Part } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { RemoveButton, RemoveHead } from '../figure/RemoveButton';
import { Scrolled } from '../figure/Scrolled';
import { replaceAt, without } from '../workspace/context';

const PER = [
  { value: 't', label: 't' },
  { value: 'short_ton', label: 'short ton' },
  { value: 'kg', label: 'kg' },
  { value: 'bag', label: 'bag' },
  { value: 'l', label: 'L' },
];
export interface PricesPartProps {
  prices: FarmTerms['prices'];
  currency: string | null;
  products: PricedProduct[];
  today: string;
  readPrices: (form: FormData) => Promise<Answer<PriceList>>;
  off: boolean;
  readOnly: boolean;
  onPrices: (prices: FarmTerms['prices']) => void;
}

/** A line of the list, or one that is still being written. */
type Written = Omit<ProductPrice, 'price'> & { price: number | null };

function PriceRow({
  price,
  products,
  off,
  set,
  action,
}: Pick<PricesPartProps, 'products' | 'off'> & {
  price: Written;
  set: (part: Partial<ProductPrice>) => void;
  action: ReactNode;
}) {
  const name = products.find((p) => p.id === price.product)?.name ?? 'a product';
  return (
    <tr>
      <th scope="row">
        <ChoiceBox
          label={
            price.product === '' ? 'Product of a new price' : `Product priced from ${price.from}`
          }
          hideLabel
          disabled={off}
          value={price.product || null}
          options={products.map((p) => ({ value: p.id, label: p.name }))}
          onValue={(v) => v && set({ product: v })}
        />
      </th>
      <td>
        <FigureBox
          label={`Price of ${name}, from ${price.from}`}
          hideLabel
          disabled={off}
          value={price.price}
          range={{ label: 'Price', unit: '', min: 0, max: 1_000_000 }}
          onValue={(v) => v !== null && set({ price: v })}
        />
      </td>
      <td className="whitespace-nowrap">
        <ChoiceBox
          label={`Price of ${name}, from ${price.from}, is per`}
          hideLabel
          disabled={off}
          value={price.per}
          options={PER}
          onValue={(v) => {
            const per = v as ProductPrice['per'];
            set({ per, bagKg: per === 'bag' ? (price.bagKg ?? 50) : null });
          }}
        />
        {price.per === 'bag' && (
          <FigureBox
            label={`A bag of ${name}, from ${price.from}`}
            hideLabel
            disabled={off}
            value={price.bagKg}
            range={{ label: 'A bag', unit: 'kg', min: 0.5, max: 2000 }}
            onValue={(v) => v !== null && set({ bagKg: v })}
          />
        )}
      </td>
      <td>
        <DateBox
          label={`Price of ${name} holds from`}
          hideLabel
          disabled={off}
          value={price.from}
          onValue={(v) => v && set({ from: v })}
        />
      </td>
      <td>{action}</td>
    </tr>
  );
}

/** What products cost, by the day; a merchant's list comes in as a file. */
export function PricesPart(props: PricesPartProps) {
  const { prices, currency, products, today, readPrices, off, readOnly, onPrices } = props;
  const [pending, start] = useTransition();
  const [said, setSaid] = useState<string | null>(null);
  const [left, setLeft] = useState<PriceList['left']>([]);
  const [draft, setDraft] = useState<Written>({
    product: '',
    price: null,
    per: 't',
    bagKg: null,
    from: today,
  });
  const bring = (file: File) =>
    start(async () => {
      const form = new FormData();
      form.set('file', file);
      const reply = await readPrices(form);
      setLeft(reply.ok ? reply.value.left : []);
      if (!reply.ok) return setSaid(reply.refusal.message);
      const found = reply.value.prices;
      const same = (a: ProductPrice, b: ProductPrice) =>
        a.product === b.product && a.from === b.from;
      onPrices([...prices.filter((p) => !found.some((f) => same(p, f))), ...found]);
      setSaid(
        `${found.length} ${found.length === 1 ? 'price stands' : 'prices stand'} in the list: look at ${found.length === 1 ? 'it' : 'them'}, then save.`,
      );
    });
  return (
    <Part
      title="Price list"
      aside={`${currency === null ? '' : `in ${currency}; `}a pass without a price of its own takes the newest that holds on its day`}
    >
      {prices.length === 0 && (
        <p className="note">No prices yet: passes are reckoned with the book’s placeholders.</p>
      )}
      {(prices.length > 0 || !readOnly) && (
        <Scrolled label="Prices of products">
          <table className="ruled">
            <thead>
              <tr>
                <th>Product</th>
                <th>Price</th>
                <th>per</th>
                <th>holds from</th>
                <RemoveHead />
              </tr>
            </thead>
            <tbody>
              {prices.map((price, i) => (
                <PriceRow
                  key={i}
                  price={price}
                  products={products}
                  off={off}
                  set={(part) => onPrices(replaceAt(prices, i, part))}
                  action={
                    !readOnly && (
                      <RemoveButton
                        label={`Remove price ${i + 1}`}
                        onClick={() => onPrices(without(prices, i))}
                      />
                    )
                  }
                />
              ))}
              {!readOnly && (
                <PriceRow
                  price={draft}
                  products={products}
                  off={off}
                  set={(part) => setDraft((d) => ({ ...d, ...part }))}
                  action={
                    <button
                      type="button"
                      className="button"
                      disabled={off || draft.product === '' || draft.price === null}
                      onClick={() => {
                        if (draft.price === null) return;
                        onPrices([...prices, { ...draft, price: draft.price }]);
                        setDraft({ ...draft, product: '', price: null });
                      }}
                    >
                      <Plus size={13} aria-hidden /> Add
                    </button>
                  }
                />
              )}
            </tbody>
          </table>
        </Scrolled>
      )}
      {!readOnly && (
        <p className="mt-2 flex flex-wrap gap-2">
          <label className="button">
            <Upload size={14} aria-hidden /> Prices from a file
            <input
              type="file"
              accept=".csv,.txt,.tsv,.xlsx,text/csv"
              className="sr-only"
              disabled={off || pending}
              onChange={(e) => {
                const file = e.target.files?.[0];
                e.target.value = '';
                if (file) bring(file);
              }}
            />
          </label>
        </p>
      )}
      {said && (
        <p role="status" className="mt-2">
          {said}
        </p>
      )}
      {left.length > 0 && (
        <ul aria-label="Rows of the file that stay out" className="mt-1">
          {left.map((l) => (
            <li key={l.row} className="problem">
              Line {l.row}, {l.text || 'no product'}: {l.reason}.
            </li>
          ))}
        </ul>
      )}
    </Part>
  );
}
