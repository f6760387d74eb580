'use client';

import { CalendarDays } from 'lucide-react';
import dynamic from 'next/dynamic';
import { Popover } from 'radix-ui';
import { useEffect, useId, useRef, useState } from 'react';
import { dateInWords } from '@/core/quantity/calendar';
import { typedDay } from '@/core/quantity/writtenDay';

const MonthSheet = dynamic(() => import('./MonthSheet').then((m) => m.MonthSheet), { ssr: false });

/** What stands there already may be no day of the calendar: it is shown as it is. */
const said = (day: string | null): string =>
  day !== null && typedDay(day) !== null ? dateInWords(day) : (day ?? '');
/** What is wrong with a text as a day, or nothing. */
function problemOf(label: string, text: string, min?: string, max?: string): string | null {
  if (text.trim() === '') return null;
  const read = typedDay(text);
  if (!read) return `${label}: “${text}” is no day of the calendar. Write it like 28 Mar 2027.`;
  if ('either' in read) return null;
  return (min !== undefined && read.day < min) || (max !== undefined && read.day > max)
    ? `${label} = ${said(read.day)} is outside ${min ? said(min) : 'any day'} to ${max ? said(max) : 'any day'}.`
    : null;
}

/**
 * A day: typed in any common way, shown in one, or picked from a month. What was typed stays until
 * it is a day; what may be two days is asked.
 */
export function DateBox({
  label,
  value,
  onValue,
  disabled,
  hideLabel,
  min,
  max,
}: {
  label: string;
  value: string | null;
  onValue: (v: string | null) => void;
  disabled?: boolean;
  hideLabel?: boolean;
  min?: string;
  max?: string;
}) {
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const [open, setOpen] = useState(false);
  const box = useRef<HTMLInputElement>(null);
  // A day that changed from elsewhere takes the place of what was being typed.
  const last = useRef(value);
  useEffect(() => {
    if (last.current !== value) setTyped(null);
    last.current = value;
  }, [value]);
  const text = typed ?? said(value);
  const read = typed === null ? null : typedDay(typed);
  const either = read && 'either' in read ? read.either : null;
  const problem = problemOf(label, text, min, max);
  const take = (day: string | null) => {
    last.current = day;
    if (day !== value) onValue(day);
  };
  const settle = (day: string) => {
    setTyped(null);
    take(day);
    box.current?.focus();
  };
  return (
    <span className="field inline-flex flex-col">
      <span className="inline-flex items-baseline gap-1.5">
        <label id={`${id}-label`} htmlFor={id} className={hideLabel ? 'sr-only' : ''}>
          {label}
        </label>
        <span className="inline-flex items-stretch">
          <input
            ref={box}
            id={id}
            autoComplete="off"
            placeholder="28 Mar 2027"
            className="box w-[8.2rem]"
            disabled={disabled}
            value={text}
            aria-invalid={problem || either ? true : undefined}
            aria-describedby={problem || either ? `${id}-p` : undefined}
            onChange={(e) => {
              setTyped(e.target.value);
              const next = typedDay(e.target.value);
              if (e.target.value.trim() === '') take(null);
              else if (next && 'day' in next) take(next.day);
            }}
            onBlur={() => {
              if (typed !== null && (typed.trim() === '' || (read && 'day' in read)))
                setTyped(null);
            }}
          />
          <Popover.Root open={open} onOpenChange={setOpen}>
            <Popover.Trigger asChild>
              <button
                type="button"
                className="button -ml-px px-1.5 print:hidden"
                disabled={disabled}
                aria-label="Pick a day"
                aria-describedby={`${id}-label`}
              >
                <CalendarDays size={14} aria-hidden />
              </button>
            </Popover.Trigger>
            <Popover.Portal>
              <Popover.Content className="sheet-over z-50 p-3" align="start" sideOffset={4}>
                <MonthSheet
                  day={value}
                  min={min}
                  max={max}
                  onDay={(day) => {
                    setOpen(false);
                    settle(day);
                  }}
                />
              </Popover.Content>
            </Popover.Portal>
          </Popover.Root>
        </span>
      </span>
      {either && (
        <span id={`${id}-p`} role="alert" className="problem">
          “{text}” reads two ways:{' '}
          {either.map((day) => (
            <button key={day} type="button" className="button mr-1.5" onClick={() => settle(day)}>
              {dateInWords(day)}
            </button>
          ))}
        </span>
      )}
      {problem && (
        <span id={`${id}-p`} role="alert" className="problem">
          {problem}
        </span>
      )}
    </span>
  );
}
