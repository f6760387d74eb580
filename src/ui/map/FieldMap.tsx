'use client';

import { Maximize, Minus, Plus } from 'lucide-react';
import {
  useCallback,
  useEffect,
  useRef,
  useState,
  type KeyboardEvent,
  type PointerEvent,
} from 'react';
import type { Metre } from '@/core/ground/outline';
import { drawMap } from './draw';
import { boundsOf, fitted, toGround, type MapModel, type MapView } from './view';

export interface FieldMapProps {
  model: MapModel;
  /** What is on the map, in words. */
  label: string;
  height?: number;
  /**
   * A click on the ground, in metres of the field's plane; while it is given the pointer draws
   * instead of naming cells.
   */
  onPick?: (at: Metre) => void;
  /** A draggable thing moved: its index among the points of kind `corner`. */
  onMoveCorner?: (index: number, at: Metre) => void;
  /** Starts the view afresh when it changes, for instance with another field. */
  fitKey?: string;
}
const ZOOM = 1.35;
const GRAB_PX = 12;

/**
 * The ground of a field on a metric canvas: drag to pan, wheel or keys to zoom, Enter where a click
 * would set something. The same figures stand in a table beside it.
 */
export function FieldMap({
  model,
  label,
  height = 420,
  onPick,
  onMoveCorner,
  fitKey = '',
}: FieldMapProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [width, setWidth] = useState(0);
  const [view, setView] = useState<MapView | null>(null);
  const held = useRef<{
    x: number;
    y: number;
    view: MapView;
    moved: boolean;
    corner: number | null;
  } | null>(null);
  const shown = view ?? fitted(boundsOf(model), Math.max(1, width), height);

  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const watch = new ResizeObserver(([entry]) => {
      if (entry) setWidth(Math.floor(entry.contentRect.width));
    });
    watch.observe(element);
    return () => watch.disconnect();
  }, []);
  const [fittedFor, setFittedFor] = useState(fitKey);
  if (fittedFor !== fitKey) {
    setFittedFor(fitKey);
    setView(null);
  }

  useEffect(() => {
    const element = canvas.current;
    const ctx = element?.getContext('2d');
    if (!element || !ctx || width === 0) return;
    const paint = () => {
      const dpr = window.devicePixelRatio || 1;
      if (element.width !== width * dpr || element.height !== height * dpr) {
        element.width = width * dpr;
        element.height = height * dpr;
      }
      ctx.setTransform(dpr, 0, 0, dpr, 0, 0);
      const style = getComputedStyle(document.documentElement);
      drawMap(
        ctx,
        model,
        shown,
        width,
        height,
        (name) => style.getPropertyValue(name).trim(),
        getComputedStyle(document.body).fontFamily,
      );
    };
    const frame = requestAnimationFrame(paint);
    // The theme may change under the canvas.
    const themes = new MutationObserver(paint);
    themes.observe(document.documentElement, { attributes: true, attributeFilter: ['data-theme'] });
    return () => {
      cancelAnimationFrame(frame);
      themes.disconnect();
    };
  }, [model, shown, width, height]);

  const zoom = useCallback(
    (factor: number, sx = width / 2, sy = height / 2) => {
      setView((v) => {
        const now = v ?? fitted(boundsOf(model), Math.max(1, width), height);
        const at = toGround(sx, sy, now, width, height);
        const scale = Math.min(40, Math.max(0.01, now.scale * factor));
        return { scale, x: at[0] - (sx - width / 2) / scale, y: at[1] + (sy - height / 2) / scale };
      });
    },
    [model, width, height],
  );
  // React listens to wheel passively; a map that zooms must be allowed to keep the page still.
  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const onWheel = (e: WheelEvent) => {
      if (!e.ctrlKey && !e.metaKey && document.activeElement !== element) return;
      e.preventDefault();
      zoom(e.deltaY < 0 ? ZOOM : 1 / ZOOM, e.offsetX, e.offsetY);
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    return () => element.removeEventListener('wheel', onWheel);
  }, [zoom]);

  /** What is being drawn must not move the ground under it. */
  const hold = () => setView((v) => v ?? shown);
  const pick = (at: Metre) => {
    if (!onPick) return;
    hold();
    onPick(at);
  };
  const place = (e: PointerEvent<HTMLCanvasElement>): Metre => {
    const r = e.currentTarget.getBoundingClientRect();
    return [e.clientX - r.left, e.clientY - r.top];
  };
  const down = (e: PointerEvent<HTMLCanvasElement>) => {
    const [x, y] = place(e);
    const corners = onMoveCorner ? model.points.filter((p) => p.kind === 'corner') : [];
    const ground = toGround(x, y, shown, width, height);
    const corner = corners.findIndex(
      (p) => Math.hypot(p.at[0] - ground[0], p.at[1] - ground[1]) * shown.scale < GRAB_PX,
    );
    held.current = { x, y, view: shown, moved: false, corner: corner >= 0 ? corner : null };
    e.currentTarget.setPointerCapture(e.pointerId);
  };
  const move = (e: PointerEvent<HTMLCanvasElement>) => {
    const h = held.current;
    if (!h) return;
    const [x, y] = place(e);
    if (!h.moved && Math.hypot(x - h.x, y - h.y) < 4) return;
    h.moved = true;
    if (h.corner !== null) hold();
    if (h.corner !== null) onMoveCorner?.(h.corner, toGround(x, y, shown, width, height));
    else
      setView({
        ...h.view,
        x: h.view.x - (x - h.x) / h.view.scale,
        y: h.view.y + (y - h.y) / h.view.scale,
      });
  };
  const up = (e: PointerEvent<HTMLCanvasElement>) => {
    const h = held.current;
    held.current = null;
    if (!h || h.moved || h.corner !== null) return;
    const [x, y] = place(e);
    pick(toGround(x, y, shown, width, height));
  };
  const keys = (e: KeyboardEvent<HTMLCanvasElement>) => {
    const step = 60 / shown.scale;
    const pan: Record<string, [number, number]> = {
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ArrowUp: [0, step],
      ArrowDown: [0, -step],
    };
    const by = pan[e.key];
    if (by) {
      e.preventDefault();
      setView({ ...shown, x: shown.x + by[0], y: shown.y + by[1] });
    } else if (e.key === '+' || e.key === '=') {
      e.preventDefault();
      zoom(ZOOM);
    } else if (e.key === '-') {
      e.preventDefault();
      zoom(1 / ZOOM);
    } else if (e.key === 'Enter' && onPick) {
      e.preventDefault();
      pick([shown.x, shown.y]);
    } else if (e.key === '0') {
      e.preventDefault();
      setView(null);
    }
  };
  return (
    <div className="relative">
      <canvas
        ref={canvas}
        role="img"
        aria-label={label}
        tabIndex={0}
        style={{ height }}
        className={`peer block w-full touch-none border border-rule ${onPick ? 'cursor-crosshair' : 'cursor-grab'}`}
        onPointerDown={down}
        onPointerMove={move}
        onPointerUp={up}
        onKeyDown={keys}
      />
      {onPick && (
        <span
          aria-hidden
          className="pointer-events-none absolute top-1/2 left-1/2 hidden size-6 -translate-1/2 peer-focus-visible:block"
        >
          <span className="absolute inset-x-0 top-1/2 h-px bg-ink" />
          <span className="absolute inset-y-0 left-1/2 w-px bg-ink" />
        </span>
      )}
      {onPick && (
        <p className="note absolute right-2 bottom-1 hidden peer-focus-visible:block">
          arrows move, Enter sets it at the cross
        </p>
      )}
      <div className="absolute top-1 left-1 flex gap-1">
        <button
          type="button"
          className="button px-1.5"
          aria-label="Zoom in"
          onClick={() => zoom(ZOOM)}
        >
          <Plus size={14} aria-hidden />
        </button>
        <button
          type="button"
          className="button px-1.5"
          aria-label="Zoom out"
          onClick={() => zoom(1 / ZOOM)}
        >
          <Minus size={14} aria-hidden />
        </button>
        <button
          type="button"
          className="button px-1.5"
          aria-label="Show the whole field"
          onClick={() => setView(null)}
        >
          <Maximize size={14} aria-hidden />
        </button>
      </div>
    </div>
  );
}
