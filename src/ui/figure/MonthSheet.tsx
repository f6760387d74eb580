'use client';

import { DayPicker } from 'react-day-picker';

// Days are plain dates here: noon keeps a time zone from moving them.
const asDate = (day: string): Date => new Date(`${day}T12:00:00`);
const asDay = (date: Date): string =>
  `${date.getFullYear()}-${String(date.getMonth() + 1).padStart(2, '0')}-${String(date.getDate()).padStart(2, '0')}`;

/** A month to pick a day from, by mouse, touch or arrow keys. */
export function MonthSheet({
  day,
  min,
  max,
  onDay,
}: {
  day: string | null;
  min?: string | undefined;
  max?: string | undefined;
  onDay: (day: string) => void;
}) {
  const selected = day ? asDate(day) : undefined;
  const shown = selected ?? (min ? asDate(min) : max ? asDate(max) : undefined);
  return (
    <DayPicker
      mode="single"
      required={false}
      selected={selected}
      {...(shown ? { defaultMonth: shown } : {})}
      weekStartsOn={1}
      autoFocus
      disabled={[
        ...(min ? [{ before: asDate(min) }] : []),
        ...(max ? [{ after: asDate(max) }] : []),
      ]}
      onSelect={(date) => {
        if (date) onDay(asDay(date));
      }}
      classNames={{
        root: 'month-sheet',
        months: 'relative',
        month_caption: 'mb-1 px-1 font-semibold',
        nav: 'absolute right-0 top-0 flex gap-1',
        button_previous: 'button px-1',
        button_next: 'button px-1',
        chevron: 'size-4 fill-current',
        weekday: 'note w-9 text-center font-normal',
        day_button: 'size-9 cursor-pointer text-center disabled:opacity-35 hover:underline',
        selected: 'bg-ink text-paper',
        today: 'font-semibold',
      }}
    />
  );
}
