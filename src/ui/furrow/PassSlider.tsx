'use client';

import { Slider } from 'radix-ui';
import type { CSSProperties } from 'react';
import { dateOf, type SeasonDays } from '@/core/lines/days';
import type { Mark } from '@/core/views/furrow';
import { dateInWords } from '@/core/quantity/calendar';

/** Handles on the soil line: a pass is dragged, or moved a day with the arrow keys. */
export function PassSlider({
  calendar,
  passes,
  onMove,
  style,
}: {
  calendar: SeasonDays;
  passes: Mark[];
  onMove: (passId: string, date: string) => void;
  style: CSSProperties;
}) {
  const inOrder = [...passes].sort((a, b) => a.day - b.day);
  const days = inOrder.map((p) => p.day);
  const moved = (next: number[]) => {
    const added =
      next.find((d, i) => d !== days[i] && !days.includes(d)) ?? next.find((d, i) => d !== days[i]);
    const removed =
      days.find((d, i) => d !== next[i] && !next.includes(d)) ?? days.find((d, i) => d !== next[i]);
    const pass = passes.find((p) => p.day === removed);
    if (pass && added !== undefined) onMove(pass.id.replace('pass.', ''), dateOf(calendar, added));
  };
  return (
    <Slider.Root
      min={0}
      max={calendar.days}
      step={1}
      value={days}
      onValueChange={moved}
      minStepsBetweenThumbs={1}
      className="absolute flex touch-none items-center"
      style={style}
    >
      <Slider.Track className="h-full grow" />
      {inOrder.map((p) => (
        <Slider.Thumb
          key={p.id}
          aria-label={`Date of the pass of ${p.label}`}
          aria-valuetext={dateInWords(p.date)}
          className="block size-5 cursor-grab rounded-full border-2 border-transparent focus-visible:border-ink"
        />
      ))}
    </Slider.Root>
  );
}
