'use client';

import type { Answer } from '@/core/quantity/refusal';
import { Plus, Trash2 } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import type { ManureLab } from '@/core/document/organicDocument';
import { BLANK_LAB } from '@/core/document/organicDefaults';
import { materials } from '@/core/book/organicMaterials';
import { bookOf, type LibraryChange } from '@/core/book/book';
import { ChoiceBox, Part } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { TextBox } from '../figure/TextBox';
import { useHydrated } from '../frame/hydrated';
import { LabEntry } from '../organics/LabEntry';
import { replaceAt, without } from '../workspace/context';
import { Scrolled } from '../figure/Scrolled';
import { RemoveButton } from '../figure/RemoveButton';

export interface Store {
  id: string;
  name: string;
  materialKey: string;
  amountT: number | null;
  pricePerT: number;
  labs: ManureLab[];
}
type Draft = Omit<Store, 'id'> & { id: string | null };
export interface StoresPartProps {
  stores: Store[];
  library: LibraryChange[];
  readOnly: boolean;
  today: string;
  save: (store: Draft) => Promise<Answer<string>>;
  remove: (id: string) => Promise<Answer<void>>;
}

function StoreEditor({
  first,
  options,
  readOnly,
  today,
  save,
  remove,
  close,
}: { first: Draft; options: ReturnType<typeof materials>; close: () => void } & Pick<
  StoresPartProps,
  'readOnly' | 'today' | 'save' | 'remove'
>) {
  const router = useRouter();
  const [store, setStore] = useState(first);
  const [said, setSaid] = useState<string | null>(null);
  const [pending, start] = useTransition();
  const material = options.find((m) => m.key === store.materialKey);
  const keep = () =>
    start(async () => {
      const r = await save(store);
      setSaid(r.ok ? null : r.refusal.message);
      if (r.ok) {
        router.refresh();
        close();
      }
    });
  const drop = () =>
    start(async () => {
      if (store.id === null) return close();
      const r = await remove(store.id);
      setSaid(r.ok ? null : r.refusal.message);
      if (r.ok) {
        router.refresh();
        close();
      }
    });
  const setLab = (i: number, lab: ManureLab) =>
    setStore((s) => ({ ...s, labs: replaceAt(s.labs, i, lab) }));
  return (
    <div className="my-2 border-l-2 border-ink pl-4">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-2">
        <TextBox
          label="Store"
          wide
          value={store.name}
          disabled={readOnly}
          onValue={(name) => setStore((s) => ({ ...s, name }))}
        />
        <ChoiceBox
          label="Material"
          disabled={readOnly}
          value={store.materialKey}
          options={options.map((m) => ({ value: m.key, label: m.name }))}
          onValue={(v) => v && setStore((s) => ({ ...s, materialKey: v }))}
        />
        <FigureBox
          label="In store"
          optional
          disabled={readOnly}
          value={store.amountT}
          range={{ label: 'In store', unit: 't', min: 0, max: 1_000_000 }}
          onValue={(amountT) => setStore((s) => ({ ...s, amountT }))}
        />
        <FigureBox
          label="Price"
          disabled={readOnly}
          value={store.pricePerT}
          range={{ label: 'Price', unit: 'per t', min: -1000, max: 1000 }}
          onValue={(v) => v !== null && setStore((s) => ({ ...s, pricePerT: v }))}
        />
      </div>
      <p className="note my-1">
        Slurry: 8 to 10 part samples while filling after full agitation, bottle two-thirds full,
        chilled, sent the same day. Solids: 10 spots from 50 cm deep, mixed, 1 kg in a bag.
      </p>
      {material &&
        store.labs.map((lab, i) => (
          <details
            key={i}
            open={store.labs.length === 1 || lab.totalNKgT === null}
            className="border-b border-rule py-1"
          >
            <summary className="cursor-pointer">
              Analysis of {lab.date ?? 'a day not given'}
              {i === 0 ? ', the newest' : ''}
            </summary>
            <LabEntry
              lab={lab}
              material={material}
              readOnly={readOnly}
              onLab={(l) => setLab(i, l)}
            />
            {!readOnly && (
              <RemoveButton
                label={`Remove the analysis of ${lab.date ?? 'no day'}`}
                onClick={() => setStore((s) => ({ ...s, labs: without(s.labs, i) }))}
              />
            )}
          </details>
        ))}
      {said && (
        <p role="alert" className="problem">
          {said}
        </p>
      )}
      {!readOnly && (
        <div className="mt-2 flex flex-wrap gap-2">
          <button
            type="button"
            className="button"
            onClick={() =>
              setStore((s) => ({ ...s, labs: [{ ...BLANK_LAB, date: today }, ...s.labs] }))
            }
          >
            <Plus size={13} aria-hidden /> Analysis
          </button>
          <button type="button" className="button button-strong" disabled={pending} onClick={keep}>
            Save this store
          </button>
          <button type="button" className="button" onClick={close}>
            Close
          </button>
          {store.id !== null && (
            <button type="button" className="button" disabled={pending} onClick={drop}>
              <Trash2 size={14} aria-hidden /> Remove
            </button>
          )}
        </div>
      )}
    </div>
  );
}

/** Heaps and tanks of the farm: what lies in them, and what laboratories found, newest first. */
export function StoresPart({ stores, library, readOnly, today, save, remove }: StoresPartProps) {
  const hydrated = useHydrated();
  const [open, setOpen] = useState<string | null>(null);
  const options = materials(bookOf(library));
  const blank: Draft = {
    id: null,
    name: '',
    materialKey: 'sheep_bedded',
    amountT: null,
    pricePerT: 0,
    labs: [],
  };
  const nameOf = (key: string) => options.find((m) => m.key === key)?.name ?? key;
  return (
    <Part
      title="Stores"
      aside="an analysis counts for twelve months, or until ration, bedding or storage change"
    >
      <Scrolled label="Stores of the farm">
        <table className="ruled max-w-[58rem]">
          <thead>
            <tr>
              <th>Store</th>
              <th>Material</th>
              <th className="num">t</th>
              <th className="pl-4">Newest analysis</th>
              <th className="num">N, kg/t</th>
              <th className="num">P, kg/t</th>
              <th className="num">K, kg/t</th>
            </tr>
          </thead>
          <tbody>
            {stores.map((s) => {
              const lab = s.labs[0];
              const book = options.find((m) => m.key === s.materialKey);
              return (
                <tr key={s.id}>
                  <th scope="row">
                    <button
                      type="button"
                      className="plain"
                      disabled={!hydrated}
                      aria-expanded={open === s.id}
                      onClick={() => setOpen(open === s.id ? null : s.id)}
                    >
                      {s.name}
                    </button>
                  </th>
                  <td>{nameOf(s.materialKey)}</td>
                  <td className="num">{s.amountT ?? '·'}</td>
                  <td className="pl-4">
                    {lab ? lab.date : <span className="text-hot">none: book values</span>}
                  </td>
                  <td className="num">{lab?.totalNKgT ?? book?.totalNKgT}</td>
                  <td className="num">{lab?.pKgT ?? book?.pKgT}</td>
                  <td className="num">{lab?.kKgT ?? book?.kKgT}</td>
                </tr>
              );
            })}
            {stores.length === 0 && (
              <tr>
                <td colSpan={7} className="note">
                  No store yet: add the first heap or tank, so that manure planned is set against
                  manure there is.
                </td>
              </tr>
            )}
          </tbody>
        </table>
      </Scrolled>
      {open !== null && (
        <StoreEditor
          key={open}
          first={stores.find((s) => s.id === open) ?? blank}
          options={options}
          readOnly={readOnly}
          today={today}
          save={save}
          remove={remove}
          close={() => setOpen(null)}
        />
      )}
      {!readOnly && open !== 'new' && (
        <button
          type="button"
          className="button mt-2"
          disabled={!hydrated}
          onClick={() => setOpen('new')}
        >
          <Plus size={13} aria-hidden /> Store
        </button>
      )}
    </Part>
  );
}
