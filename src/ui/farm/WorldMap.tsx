'use client';

import type { PointerEvent } from 'react';

/**
 * The world in outline: a click sets the place, which stands as coordinates beside it. The boxes do
 * the same by keyboard.
 */
export function WorldMap({
  land,
  latitudeDeg,
  longitudeDeg,
  onPlace,
}: {
  land: string;
  latitudeDeg: number | null;
  longitudeDeg: number | null;
  onPlace: (latitudeDeg: number, longitudeDeg: number) => void;
}) {
  const click = (e: PointerEvent<SVGSVGElement>) => {
    const r = e.currentTarget.getBoundingClientRect();
    const lon = ((e.clientX - r.left) / r.width) * 360 - 180;
    const lat = 75 - ((e.clientY - r.top) / r.height) * 140;
    onPlace(Number(lat.toFixed(1)), Number(lon.toFixed(1)));
  };
  const placed = latitudeDeg !== null && longitudeDeg !== null;
  return (
    <svg
      viewBox="0 15 360 140"
      role="img"
      aria-label={
        placed
          ? `The world, with the farm at ${latitudeDeg}, ${longitudeDeg}`
          : 'The world: a click sets the place of the farm'
      }
      className="block w-full max-w-[44rem] cursor-crosshair border border-rule bg-raised"
      onPointerUp={click}
    >
      <path d={land} className="fill-rule stroke-faint" strokeWidth={0.3} />
      <path d="M0 90H360" className="stroke-faint" strokeWidth={0.3} strokeDasharray="2 2" />
      {placed && (
        <g transform={`translate(${longitudeDeg + 180} ${90 - latitudeDeg})`}>
          <path d="M-7 0H7M0 -7V7" className="stroke-ink" strokeWidth={1} />
          <circle r={2.6} className="fill-paper stroke-ink" strokeWidth={1.2} />
        </g>
      )}
    </svg>
  );
}
