'use client';

import { useRef } from 'react';
import { dateInWords } from '@/core/quantity/calendar';
import type { Mark } from '@/core/views/furrow';
import { useUnits } from '../frame/units';

const STEP = 5;
const LEAP = 20;
/** So many pixels up or down are one kilogram. */
const PX_PER_KG = 2;
const MOST = 250;

/**
 * Handles on the flags of passes: dragged up and down, or by arrow keys, a pass becomes larger or
 * smaller in steps of five.
 */
export function PassSizer({
  flags,
  onSize,
}: {
  /** Flags as they stand in the picture, px. */
  flags: { mark: Mark; left: number; top: number; width: number; height: number }[];
  /** So much N instead, kg/ha. */
  onSize: (passId: string, kgN: number) => void;
}) {
  const { show, unit, system } = useUnits();
  const held = useRef<{ id: string; y: number; kgN: number } | null>(null);
  // A step is five of the reader's own unit.
  const step = system === 'us' ? STEP * 1.12085 : STEP;
  const size = (mark: Mark, kgN: number) => {
    const next = Math.min(MOST, Math.max(step, Math.round(kgN / step) * step));
    if (Math.abs(next - mark.kgN) > 0.01) onSize(mark.id.replace('pass.', ''), next);
  };
  return flags.map(({ mark, left, top, width, height }) => (
    <span
      key={mark.id}
      role="slider"
      tabIndex={0}
      aria-orientation="vertical"
      aria-label={`Size of the pass of ${dateInWords(mark.date)}`}
      aria-valuemin={0}
      aria-valuemax={MOST}
      aria-valuenow={Math.round(mark.kgN)}
      aria-valuetext={`${show(mark.kgN, 'nutrient_rate')} ${unit('nutrient_rate')} N`}
      className="absolute block cursor-ns-resize touch-none border-2 border-transparent focus-visible:border-ink"
      style={{ left, top, width, height }}
      onKeyDown={(e) => {
        const by = {
          ArrowUp: step,
          ArrowRight: step,
          ArrowDown: -step,
          ArrowLeft: -step,
          PageUp: LEAP,
          PageDown: -LEAP,
        }[e.key];
        if (by === undefined) return;
        e.preventDefault();
        size(mark, mark.kgN + by);
      }}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        e.currentTarget.focus();
        held.current = { id: mark.id, y: e.clientY, kgN: mark.kgN };
      }}
      onPointerMove={(e) => {
        const from = held.current;
        if (from?.id === mark.id) size(mark, from.kgN + (from.y - e.clientY) / PX_PER_KG);
      }}
      onPointerUp={() => (held.current = null)}
      onPointerCancel={() => (held.current = null)}
    />
  ));
}
