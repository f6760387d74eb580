'use client';

import { Command } from 'cmdk';
import type { Route } from 'next';
import { useRouter } from 'next/navigation';
import type { FrameField } from './field';

const STATIONS = ['Ground', 'Crop', 'Budget', 'Supply', 'Season', 'Sheet'];
const PAGES: readonly [string, Route][] = [
  ['Today, all fields', '/'],
  ['Fields, the whole farm', '/fields'],
  ['Library of figures', '/library'],
  ['Samples and laboratory files', '/samples'],
  ['Calculators', '/calculators'],
];

/** Find a field, a station or a page by typing. */
export function Palette({ fields, onClose }: { fields: FrameField[]; onClose: () => void }) {
  const router = useRouter();
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
      <Command.Input className="box w-full" placeholder="Field, station or page" />
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
