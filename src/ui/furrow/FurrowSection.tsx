'use client';

import dynamic from 'next/dynamic';
import { useEffect, useId, useMemo, useRef, useState } from 'react';
import type { FurrowSection as Section } from '@/core/views/furrow';
import type { Outlook } from '@/core/season/outlook';
import { useUnits } from '../frame/units';
import { SectionEnd } from './SectionEnd';
import { WEATHER_ROOM, WeatherStrip, YearBands } from './YearBands';
import { layOut } from './geometry';
import {
  ClosedPeriods,
  flagsOf,
  Marks,
  Months,
  NamesBelow,
  PassFlags,
  SectionTable,
  Strata,
} from './picture';

// Only the station where the plan is made moves passes; the others do without the slider's code.
const PassSlider = dynamic(() => import('./PassSlider').then((m) => m.PassSlider));
const PassSizer = dynamic(() => import('./PassSizer').then((m) => m.PassSizer));
/** Full where the plan is made, low where the picture only goes along. */
const HEIGHTS = {
  full: { up: 104, down: 128, top: 46 },
  low: { up: 56, down: 72, top: 34 },
} as const;

/** From this width on the strata are named beside the picture, px. */
const NAMES_FROM = 720;
const NAMES_WIDTH = 208;

function useWidth(): [React.RefObject<HTMLDivElement | null>, number] {
  const ref = useRef<HTMLDivElement | null>(null);
  const [width, setWidth] = useState(1080);
  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    const observer = new ResizeObserver(() => setWidth(Math.max(320, element.clientWidth)));
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return [ref, width];
}

export interface FurrowSectionProps {
  section: Section;
  /** Moves a planned pass; without it the picture is only looked at. */
  onMove?: (passId: string, date: string) => void;
  /** Sizes one; with `onMove`. */
  onSize?: (passId: string, kgN: number) => void;
  /** The plan over weather years, drawn over the strata; null while there is none. */
  outlook?: Outlook | null;
  size: keyof typeof HEIGHTS;
}

/**
 * The season in section: demand above the soil line, what the ground gives below it, passes and
 * samples as marks on it.
 */
export function FurrowSection({ section, onMove, onSize, outlook, size }: FurrowSectionProps) {
  'use memo';
  const { up: UP, down: DOWN, top: TOP } = HEIGHTS[size];
  const [ref, width] = useWidth();
  const { show, unit } = useUnits();
  const pattern = useId();
  const [open, setOpen] = useState(true);
  const names = width >= NAMES_FROM;
  const margin = names ? NAMES_WIDTH : 8;
  const box = useMemo(
    () => ({ width, left: 8, right: margin, up: UP, down: DOWN }),
    [width, margin, UP, DOWN],
  );
  // Room for whole hundreds: the picture keeps its scale while a pass is dragged.
  const reaches = Math.ceil(Math.max(0, ...(outlook?.supply.p90 ?? [])) / 100) * 100;
  const g = useMemo(() => layOut(section, box, reaches), [section, box, reaches]);
  const passes = section.marks.filter((m) => m.kind === 'pass');
  const kg = (v: number) => `${show(v, 'nutrient_rate')} ${unit('nutrient_rate')}`;
  const drawn = { section, g, width, right: width - margin, names, up: UP, down: DOWN, kg };
  const y0 = TOP + UP;
  const bottom = y0 + DOWN + 22;
  const height = bottom + (outlook ? WEATHER_ROOM : 0);
  return (
    <section aria-label="The season in section" className="no-print mb-3 min-w-0">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h2>The season in section</h2>
        <span className="note">
          nitrogen, {unit('nutrient_rate')}, cumulative, in a normal year
          {outlook ? '; dotted: within reach in 8 weather years of 10' : ''}
        </span>
        <SectionEnd section={section} />
        <button
          type="button"
          className="plain ml-auto"
          aria-expanded={open}
          onClick={() => setOpen(!open)}
        >
          {open ? 'Fold away' : 'Unfold'}
        </button>
      </div>
      <div ref={ref} className={open ? 'relative overflow-hidden' : 'hidden'}>
        <svg
          width={width}
          height={height}
          className="block"
          role="img"
          aria-label={`Requirement ${kg(section.demandTotal)} above the soil line; ${section.strata.map((s) => `${s.label} ${kg(s.total)}`).join(', ')} below it.`}
        >
          <defs>
            <pattern
              id={pattern}
              width="6"
              height="6"
              patternUnits="userSpaceOnUse"
              patternTransform="rotate(45)"
            >
              <line x1="0" y1="0" x2="0" y2="6" stroke="var(--hot)" strokeWidth="1.6" />
            </pattern>
          </defs>
          <Months {...drawn} top={TOP} bottom={y0 + DOWN} />
          <g transform={`translate(0 ${y0})`}>
            <Strata drawn={drawn} pattern={pattern} />
            {outlook && <YearBands drawn={drawn} outlook={outlook} />}
            <ClosedPeriods {...drawn} />
            <Marks drawn={drawn} />
          </g>
          <PassFlags drawn={drawn} y0={y0} />
          {outlook && <WeatherStrip drawn={drawn} outlook={outlook} top={bottom} />}
        </svg>
        {onSize && <PassSizer flags={flagsOf(drawn)} onSize={onSize} />}
        {onMove && passes.length > 0 && (
          <PassSlider
            calendar={section.calendar}
            passes={passes}
            onMove={onMove}
            style={{ left: box.left, right: box.right, top: y0 - 10, height: 20 }}
          />
        )}
        {!names && <NamesBelow drawn={drawn} />}
        <details className="mt-1">
          <summary className="note cursor-pointer">
            The same as a table
            {onMove && passes.length > 0
              ? '; drag a pass along the line and its flag up or down, or use the arrow keys on either'
              : ''}
          </summary>
          <SectionTable section={section} />
        </details>
      </div>
    </section>
  );
}
