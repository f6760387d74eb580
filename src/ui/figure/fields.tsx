'use client';

import { useId, type ReactNode } from 'react';

export { DateBox } from './DateBox';
export { SearchBox } from './SearchBox';

interface Common {
  label: string;
  disabled?: boolean;
  hideLabel?: boolean;
}

export function ChoiceBox({
  label,
  value,
  options,
  onValue,
  disabled,
  hideLabel,
  empty,
}: Common & {
  value: string | null;
  options: readonly { value: string; label: string }[];
  onValue: (v: string | null) => void;
  empty?: string;
}) {
  const id = useId();
  return (
    <span className="field inline-flex max-w-full flex-col">
      <span className="inline-flex max-w-full flex-wrap items-baseline gap-1.5">
        <label htmlFor={id} className={hideLabel ? 'sr-only' : ''}>
          {label}
        </label>
        <select
          id={id}
          className="box"
          disabled={disabled}
          value={value ?? ''}
          onChange={(e) => onValue(e.target.value === '' ? null : e.target.value)}
        >
          {(empty !== undefined || value === null) && <option value="">{empty ?? 'choose'}</option>}
          {options.map((o) => (
            <option key={o.value} value={o.value}>
              {o.label}
            </option>
          ))}
        </select>
      </span>
    </span>
  );
}

export function TickBox({
  label,
  value,
  onValue,
  disabled,
}: Common & { value: boolean; onValue: (v: boolean) => void }) {
  const id = useId();
  return (
    <span className="tick inline-flex items-center gap-1.5">
      <input
        id={id}
        type="checkbox"
        className="size-4 accent-[var(--ink)]"
        disabled={disabled}
        checked={value}
        onChange={(e) => onValue(e.target.checked)}
      />
      <label htmlFor={id}>{label}</label>
    </span>
  );
}

export function Part({
  title,
  aside,
  children,
}: {
  title: string;
  aside?: ReactNode;
  children: ReactNode;
}) {
  return (
    <section className="mb-5" aria-label={title}>
      <div className="mb-1 flex flex-wrap items-baseline gap-x-3">
        <h2>{title}</h2>
        {aside && <span className="note">{aside}</span>}
      </div>
      {children}
    </section>
  );
}

/** Keys of the tables in the words of the trade. */
export const words = (key: string): string => key.replaceAll('_', ' ');
export const optionsOf = (keys: readonly string[]): { value: string; label: string }[] =>
  keys.map((k) => ({ value: k, label: words(k) }));
