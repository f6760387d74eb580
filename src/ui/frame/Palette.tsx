'use client';

import { Command } from 'cmdk';
import type { Route } from 'next';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';

interface FoundField {
  id: string;
  name: string;
  farm: string;
}

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

/** Fields that the server finds by what is typed; the words of stations are not part of a name. */
function useFoundFields(typed: string): FoundField[] {
  const [found, setFound] = useState<FoundField[]>([]);
  const asked = typed
    .split(/\s+/u)
    .filter((w) => !isStation(w))
    .join(' ');
  useEffect(() => {
    const gone = new AbortController();
    const timer = setTimeout(
      () =>
        void fetch(`/fields/found.json?q=${encodeURIComponent(asked)}`, { signal: gone.signal })
          .then((r) => r.json() as Promise<FoundField[]>)
          .then(setFound)
          // Pages can be reached all the same.
          .catch(() => undefined),
      asked === '' ? 0 : 120,
    );
    return () => {
      clearTimeout(timer);
      gone.abort();
    };
  }, [asked]);
  return found;
}

/** Find a field, a station or a page by typing. */
export function Palette({ onClose }: { onClose: () => void }) {
  const router = useRouter();
  const [typed, setTyped] = useState('');
  const fields = useFoundFields(typed);
  const go = (href: Route) => {
    onClose();
    router.push(href);
  };
  return (
    <Command.Dialog
      open
      onOpenChange={(o) => {
        if (!o) onClose();
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
        <Command.Empty className="p-2">Nothing of that name.</Command.Empty>
        {PAGES.map(([label, href]) => (
          <Command.Item
            key={href}
            value={label}
            onSelect={() => go(href)}
            className="cursor-pointer px-2 py-1 data-[selected=true]:bg-rule"
          >
            {label}
          </Command.Item>
        ))}
        {fields.flatMap((f) =>
          STATIONS.map((s) => (
            <Command.Item
              key={`${f.id}-${s}`}
              value={`${f.name} ${s} ${f.farm}`}
              onSelect={() => go(`/fields/${f.id}/${s.toLowerCase()}` as Route)}
              className="cursor-pointer px-2 py-1 data-[selected=true]:bg-rule"
            >
              {f.name}: {s} <span className="note">{f.farm}</span>
            </Command.Item>
          )),
        )}
      </Command.List>
    </Command.Dialog>
  );
}
