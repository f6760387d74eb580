'use client';

import { Command } from 'cmdk';
import type { Route } from 'next';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { useFoundFields, type FoundFarm, type FoundField } from './foundFields';

const STATIONS = ['Ground', 'Crop', 'Budget', 'Supply', 'Season', 'Sheet'];
/** Pages, with the other words that people look for them by. */
const PAGES: readonly (readonly [label: string, href: Route, words: string])[] = [
  ['Today, all fields', '/', 'home start overview list what is due decide'],
  ['Fields, the whole farm', '/fields', 'sums totals products orders cost money manure store'],
  [
    'Samples and laboratory files',
    '/samples',
    'laboratory lab report import upload soil test analysis csv xlsx waiting rows',
  ],
  [
    'Leaves side by side',
    '/samples/leaves',
    'compare blocks tissue own standard provisional norms dris balance similar crop',
  ],
  [
    'Library of figures',
    '/library',
    'crops materials fertilisers limes leaf ranges protocols reference book',
  ],
  ['Calculators', '/calculators', 'methods formula work out single figure'],
  ['New farm', '/farms/new', 'add create farm begin setup set up'],
];
/** What a farm's own pages are about. */
const OF_FARM: readonly (readonly [label: string, path: string, words: string])[] = [
  [
    'the farm: people, place, money, limits',
    '',
    'settings people person advisor farmer climate place currency prices price list money limits closed periods law schools stores heap tank machines spreader calibration backup restore export farm file',
  ],
  [
    'add, rename, take away fields',
    '/fields',
    'new field outline shapefile kml geojson map delete rename undo',
  ],
  ['next season', '/next-season', 'open year carry over hand on close season'],
];

const isStation = (word: string): boolean =>
  STATIONS.some((s) => s.toLowerCase() === word.toLowerCase());

/** Something done on the spot instead of a page that is gone to. */
export interface PaletteAction {
  label: string;
  words: string;
  run: () => void;
}
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
const placesOf = (fields: readonly FoundField[], farms: readonly FoundFarm[]): Place[] => [
  ...PAGES.map(([label, href, words]) => ({ value: `${label} ${words}`, href, label, farm: '' })),
  ...farms.flatMap((f) =>
    OF_FARM.map(([label, path, words]) => ({
      value: `${f.name} ${label} ${words} #${f.id}`,
      href: `/farms/${f.id}${path}` as Route,
      label: `${f.name}: ${label}`,
      farm: '',
    })),
  ),
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
export function Palette({
  actions,
  onClose,
}: {
  actions: readonly PaletteAction[];
  onClose: () => void;
}) {
  const router = useRouter();
  const [typed, setTyped] = useState('');
  const { fields, farms, settled } = useFoundFields(
    typed
      .split(/\s+/u)
      .filter((w) => !isStation(w))
      .join(' '),
  );
  const [selected, setSelected] = useState('');
  /** Enter was pressed before the answer was there: it holds for the answer. */
  const [entered, setEntered] = useState(false);
  const places = placesOf(fields, farms);
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
        placeholder="Field, station, page or setting"
      />
      <Command.List className="mt-2 max-h-[50vh] overflow-y-auto">
        <Command.Empty className="p-2">
          {settled ? 'Nothing of that name.' : 'Looking for it.'}
        </Command.Empty>
        {actions.map((x) => (
          <Command.Item
            key={x.label}
            value={`${x.label} ${x.words}`}
            onSelect={() => {
              onClose();
              x.run();
            }}
            className="cursor-pointer px-2 py-1 data-[selected=true]:bg-rule"
          >
            {x.label}
          </Command.Item>
        ))}
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
