'use client';

import { useId } from 'react';

/** A line of text with its label; what is wrong with it stands below, and what was typed stays. */
export function TextBox({
  label,
  value,
  onValue,
  disabled,
  hideLabel,
  max = 120,
  problem,
  wide,
}: {
  label: string;
  value: string;
  onValue: (v: string) => void;
  disabled?: boolean;
  hideLabel?: boolean;
  max?: number;
  problem?: string | null;
  wide?: boolean;
}) {
  const id = useId();
  return (
    <span className="field inline-flex max-w-full flex-col">
      <span className="inline-flex max-w-full flex-wrap items-baseline gap-1.5">
        <label htmlFor={id} className={hideLabel ? 'sr-only' : ''}>
          {label}
        </label>
        <input
          id={id}
          className={`box ${wide ? 'w-72' : 'w-44'}`}
          autoComplete="off"
          maxLength={max}
          disabled={disabled}
          value={value}
          aria-invalid={problem ? true : undefined}
          aria-describedby={problem ? `${id}-p` : undefined}
          onChange={(e) => onValue(e.target.value)}
        />
      </span>
      {problem && (
        <span id={`${id}-p`} role="alert" className="problem">
          {problem}
        </span>
      )}
    </span>
  );
}
