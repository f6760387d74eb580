'use client';

import { Command } from 'cmdk';
import { ChevronsUpDown } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useId, useState } from 'react';

export interface Choice {
  value: string;
  label: string;
  /** Heading that it stands under. */
  group?: string;
}

/**
 * A choice out of a long list: what is chosen stands in full, and typing finds the rest. Every word
 * typed has to be in the name.
 */
export function SearchBox({
  label,
  value,
  options,
  onValue,
  disabled,
  hideLabel,
  empty,
}: {
  label: string;
  value: string | null;
  options: readonly Choice[];
  onValue: (v: string | null) => void;
  disabled?: boolean;
  hideLabel?: boolean;
  /** Words for nothing chosen; without them something has to be. */
  empty?: string;
}) {
  const id = useId();
  const [open, setOpen] = useState(false);
  const chosen = options.find((o) => o.value === value);
  const groups = [...new Set(options.map((o) => o.group ?? ''))];
  const take = (v: string | null) => {
    setOpen(false);
    onValue(v);
  };
  return (
    <span className="field inline-flex max-w-full flex-col">
      <span className="inline-flex max-w-full flex-wrap items-baseline gap-1.5">
        <span id={`${id}-label`} className={hideLabel ? 'sr-only' : 'label'}>
          {label}
        </span>
        <Popover.Root open={open} onOpenChange={setOpen}>
          <Popover.Trigger asChild>
            <button
              type="button"
              className="box inline-flex items-center justify-between gap-2 text-left"
              disabled={disabled}
              aria-labelledby={`${id}-label ${id}-value`}
            >
              <span id={`${id}-value`}>{chosen?.label ?? value ?? empty ?? 'choose'}</span>
              <ChevronsUpDown size={14} className="shrink-0 print:hidden" aria-hidden />
            </button>
          </Popover.Trigger>
          <Popover.Portal>
            <Popover.Content
              className="sheet-over z-50 w-[min(26rem,94vw)]"
              align="start"
              sideOffset={4}
              aria-label={label}
            >
              <Command
                label={`Search ${label.toLowerCase()}`}
                {...(value === null ? {} : { defaultValue: `${chosen?.label} ${value}` })}
                filter={(name, typed) =>
                  typed
                    .toLowerCase()
                    .split(/\s+/u)
                    .every((word) => name.toLowerCase().includes(word))
                    ? 1
                    : 0
                }
              >
                <Command.Input
                  className="box m-2 w-[calc(100%-1rem)]"
                  placeholder="type to search"
                />
                <Command.List className="max-h-72 overflow-y-auto px-2 pb-2">
                  <Command.Empty className="note p-1">Nothing has that in its name.</Command.Empty>
                  {empty !== undefined && (
                    <Command.Item className="choice" onSelect={() => take(null)}>
                      {empty}
                    </Command.Item>
                  )}
                  {groups.map((g) => (
                    <Command.Group key={g} heading={g || undefined} className="choice-group">
                      {options
                        .filter((o) => (o.group ?? '') === g)
                        .map((o) => (
                          <Command.Item
                            key={o.value}
                            className="choice"
                            value={`${o.label} ${o.value}`}
                            onSelect={() => take(o.value)}
                          >
                            {o.label}
                          </Command.Item>
                        ))}
                    </Command.Group>
                  ))}
                </Command.List>
              </Command>
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      </span>
    </span>
  );
}
