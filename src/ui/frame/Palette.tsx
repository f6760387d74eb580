'use client';

import { Command } from 'cmdk';
import type { Route } from 'next';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { useFoundFields, type FoundField } from './foundFields';

const STATIONS = ['Ground', 'Crop', 'Budget', 'Supply', 'Season', 'Sheet'];
const PAGES: readonly [string, Route][] = [
  ['Today, all fields', '/'],
  ['Fields, the whole farm', '/fields'],
  ['Library of figures', '/library'],
  ['Samples and laboratory files', '/samples'],
  ['Calculators', '/calculators'],
];

const isStation = (word: string): boolean =>
  STATIONS.some((s) => s.toLowerCase() === word.toLowerCase());

interface Place {
  /** What typing finds it by. */
  value: string;
  href: Route;
  label: string;
  farm: string;
}
/** Every word typed is in it, as the server finds fields; what begins with it comes first. */
const fits = (value: string, typed: string): number => {
  const [name, words] = [value.toLowerCase(), typed.toLowerCase().split(/\s+/u).filter(Boolean)];
  if (!words.every((w) => name.includes(w))) return 0;
  return name.startsWith(words[0] ?? '') ? 1 : 0.5;
};
const placesOf = (fields: readonly FoundField[]): Place[] => [
  ...PAGES.map(([label, href]) => ({ value: label, href, label, farm: '' })),
  ...fields.flatMap((f) =>
    STATIONS.map((s) => ({
      value: `${f.name} ${s} ${f.farm} #${f.id}`,
      href: `/fields/${f.id}/${s.toLowerCase()}` as Route,
      label: `${f.name}: ${s}`,
      farm: f.farm,
    })),
  ),
];

/** Find a field, a station or a page by typing. */
export function Palette({ onClose }: { onClose: () => void }) {
  const router = useRouter();
  const [typed, setTyped] = useState('');
  const { fields, settled } = useFoundFields(
    typed
      .split(/\s+/u)
      .filter((w) => !isStation(w))
      .join(' '),
  );
  const [selected, setSelected] = useState('');
  /** Enter was pressed before the answer was there: it holds for the answer. */
  const [entered, setEntered] = useState(false);
  const places = placesOf(fields);
  const go = (href: Route) => {
    onClose();
    router.push(href);
  };
  const awaited = entered && settled ? places.find((p) => p.value === selected)?.href : undefined;
  useEffect(() => {
    if (!awaited) return;
    onClose();
    router.push(awaited);
  }, [awaited, onClose, router]);
  return (
    <Command.Dialog
      open
      onOpenChange={(o) => {
        if (!o) onClose();
      }}
      value={selected}
      onValueChange={setSelected}
      filter={fits}
      onKeyDown={(e) => {
        setEntered(e.key === 'Enter' && !settled);
      }}
      label="Find a field, station or page"
      overlayClassName="fixed inset-0 z-50 bg-black/30"
      contentClassName="fixed top-[12vh] left-1/2 z-50 w-[min(34rem,94vw)] -translate-x-1/2 border-2 border-ink bg-raised p-3"
    >
      <Command.Input
        className="box w-full"
        value={typed}
        onValueChange={setTyped}
        placeholder="Field, station or page"
      />
      <Command.List className="mt-2 max-h-[50vh] overflow-y-auto">
        <Command.Empty className="p-2">
          {settled ? 'Nothing of that name.' : 'Looking for it.'}
        </Command.Empty>
        {places.map((p) => (
          <Command.Item
            key={p.href}
            value={p.value}
            onSelect={() => go(p.href)}
            className="cursor-pointer px-2 py-1 data-[selected=true]:bg-rule"
          >
            {p.label} {p.farm && <span className="note">{p.farm}</span>}
          </Command.Item>
        ))}
      </Command.List>
    </Command.Dialog>
  );
}
