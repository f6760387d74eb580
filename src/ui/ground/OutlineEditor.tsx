'use client';

import { Undo2 } from 'lucide-react';
import { useMemo, useState, useTransition } from 'react';
import type { OutlineFile, ReadOutline } from '@/core/ground/outlineFile';
import {
  checkOutline,
  fieldPlane,
  outlineAreaHa,
  piecesOf,
  type Metre,
  type Outline,
} from '@/core/ground/outline';
import { Refusal, type Answer } from '@/core/quantity/refusal';
import { Part } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { useUnits } from '../frame/units';
import { FieldMap } from '../map/FieldMap';
import { OutlineFileBox } from '../map/OutlineFileBox';
import type { MapModel } from '../map/view';
import { CornerTable } from './CornerTable';

export type SavedOutline =
  { saved: true; outline: Outline; areaHa: number } | { saved: false; was: number; areaHa: number };
export interface OutlineEditorProps {
  outline: Outline | null;
  latitudeDeg: number;
  longitudeDeg: number | null;
  fieldName: string;
  save: (outline: Outline, meant: boolean) => Promise<Answer<SavedOutline>>;
  readFile: (form: FormData) => Promise<Answer<OutlineFile>>;
  onDone: (outline: Outline, areaHa: number) => void;
  onCancel: (() => void) | null;
}

/** What is drawn: the first piece by its corners; its holes and the other pieces stay as they are. */
interface Drawing {
  origin: [number, number];
  corners: Metre[];
  holes: number[][][];
  others: number[][][][];
}
function drawingOf(outline: Outline): Drawing {
  const [first = [], ...others] = piecesOf(outline);
  const [outer = [], ...holes] = first;
  const at = outer[0] ?? [0, 0];
  const origin: [number, number] = [at[0] as number, at[1] as number];
  return { origin, corners: outer.slice(0, -1).map(fieldPlane(origin).toMetres), holes, others };
}
function outlineOf({ origin, corners, holes, others }: Drawing): Outline {
  const plane = fieldPlane(origin);
  const drawn = [corners.map((c) => [...plane.toDegrees(c)]), ...holes];
  return checkOutline(
    others.length === 0
      ? { type: 'Polygon', coordinates: drawn }
      : { type: 'MultiPolygon', coordinates: [drawn, ...others] },
  );
}

/**
 * The outline of a field: drawn corner by corner on a metric canvas, typed as metres, or taken
 * from a file. The ground stays where it is while corners are set.
 */
export function OutlineEditor({
  outline,
  latitudeDeg,
  longitudeDeg,
  fieldName,
  save,
  readFile,
  onDone,
  onCancel,
}: OutlineEditorProps) {
  const { show, unit } = useUnits();
  const [drawing, setDrawing] = useState<Drawing>(() =>
    outline
      ? drawingOf(outline)
      : { origin: [longitudeDeg ?? 0, latitudeDeg], corners: [], holes: [], others: [] },
  );
  /** Corners as they stood before each change, the last at the end. */
  const [before, setBefore] = useState<readonly Metre[][]>([]);
  const [found, setFound] = useState<readonly ReadOutline[]>([]);
  const [said, setSaid] = useState<string | null>(null);
  const [asked, setAsked] = useState<{ was: number; areaHa: number } | null>(null);
  const [pending, start] = useTransition();
  /** The corner that is being dragged: its whole way is one step back. */
  const [dragged, setDragged] = useState<number | null>(null);
  const { corners, origin, others } = drawing;
  const draw = (next: Metre[], corner: number | null = null) => {
    if (corner === null || corner !== dragged) setBefore((b) => [...b.slice(-99), corners]);
    setDragged(corner);
    setAsked(null);
    setDrawing((d) => ({ ...d, corners: next }));
  };
  const undo = () => {
    const last = before.at(-1);
    if (!last) return;
    setBefore((b) => b.slice(0, -1));
    setDragged(null);
    setAsked(null);
    setDrawing((d) => ({ ...d, corners: last }));
  };
  const drawn = useMemo<{ outline: Outline | null; problem: string | null }>(() => {
    if (corners.length < 3) return { outline: null, problem: null };
    try {
      return { outline: outlineOf(drawing), problem: null };
    } catch (e) {
      if (e instanceof Refusal) return { outline: null, problem: e.message };
      throw e;
    }
  }, [corners, drawing]);
  const model = useMemo<MapModel>(() => {
    const plane = fieldPlane(origin);
    return {
      outline: [
        ...(corners.length > 2 ? [corners] : []),
        ...others.flat().map((r) => r.map(plane.toMetres)),
      ],
      cells: [],
      marks: [],
      walk: [],
      draft: corners.length === 2 ? corners : [],
      points: corners.map((at, i) => ({ at, label: String(i + 1), kind: 'corner' })),
    };
  }, [corners, origin, others]);
  const choose = (o: ReadOutline) => {
    setDrawing(drawingOf(o.outline));
    setBefore([]);
    setFound([]);
    setAsked(null);
  };
  const store = (meant: boolean) =>
    start(async () => {
      if (!drawn.outline) return;
      const reply = await save(drawn.outline, meant);
      if (!reply.ok) return setSaid(reply.refusal.message);
      if (reply.value.saved) onDone(reply.value.outline, reply.value.areaHa);
      else setAsked(reply.value);
    });
  const ha = (v: number) => `${show(v, 'area', 2)} ${unit('area')}`;
  const last = corners.at(-1);
  return (
    <Part
      title="Outline of the field"
      aside="click to add a corner, drag a corner to move it; or take it from a file"
    >
      <OutlineFileBox
        read={readFile}
        onRead={(file) => {
          const [only, second] = file.outlines;
          if (only && !second) choose(only);
          else setFound(file.outlines);
        }}
      />
      {/* The row stays when the first corner is set: what is drawn on must not move. */}
      <div className="mb-2 fields">
        <FigureBox
          label="Longitude of the first corner"
          disabled={corners.length > 0}
          value={Number(origin[0].toFixed(6))}
          range={{ label: 'Longitude', unit: '°', min: -180, max: 180 }}
          onValue={(v) => v !== null && setDrawing((d) => ({ ...d, origin: [v, d.origin[1]] }))}
        />
        <FigureBox
          label="Latitude"
          disabled={corners.length > 0}
          value={Number(origin[1].toFixed(6))}
          range={{ label: 'Latitude', unit: '°', min: -89, max: 89 }}
          onValue={(v) => v !== null && setDrawing((d) => ({ ...d, origin: [d.origin[0], v] }))}
        />
      </div>
      {found.length > 0 && (
        <ul className="mb-2">
          {found.map((f, i) => (
            <li key={i} className="border-b border-rule py-1">
              <button type="button" className="button" onClick={() => choose(f)}>
                Take {f.name ?? `polygon ${i + 1}`}
              </button>{' '}
              <span className="note">{ha(f.areaHa)}</span>
            </li>
          ))}
        </ul>
      )}
      <div className="grid gap-4 lg:grid-cols-[1fr_25rem]">
        <FieldMap
          model={model}
          label={`Outline of ${fieldName}, ${corners.length} corners`}
          onPick={(at) => draw([...corners, at])}
          onMoveCorner={(i, at) =>
            draw(
              corners.map((p, k) => (k === i ? at : p)),
              i,
            )
          }
          fitKey={origin.join()}
        />
        <div className="max-h-[420px] overflow-y-auto">
          <CornerTable corners={corners} onCorners={draw} />
          <p className="mt-1 flex gap-2">
            <button
              type="button"
              className="button"
              onClick={() => draw([...corners, last ? [last[0] + 50, last[1]] : [0, 0]])}
            >
              Add a corner
            </button>
            <button
              type="button"
              className="button inline-flex items-center gap-1.5"
              disabled={before.length === 0}
              onClick={undo}
            >
              <Undo2 size={13} aria-hidden /> Undo the last corner
            </button>
          </p>
          {others.length > 0 && (
            <p className="note mt-1">
              {others.length === 1
                ? 'One more piece of the field stays as it is.'
                : `${others.length} more pieces of the field stay as they are.`}
            </p>
          )}
        </div>
      </div>
      <p role="status" className="mt-1">
        {drawn.outline
          ? `${ha(outlineAreaHa(drawn.outline))} on the ellipsoid`
          : corners.length < 3
            ? `${3 - corners.length} more ${corners.length === 2 ? 'corner' : 'corners'} to an area`
            : ''}
      </p>
      {[drawn.problem, said].map(
        (problem, i) =>
          problem && (
            <p key={i} role="alert" className="problem mt-1">
              {problem}
            </p>
          ),
      )}
      {asked && (
        <p role="alert" className="problem mt-1">
          The plans of this field reckon with {ha(asked.was)}; this outline encloses{' '}
          {ha(asked.areaHa)}, {Math.round((100 * (asked.areaHa - asked.was)) / asked.was)} %. Every
          sum of the field would follow.{' '}
          <button type="button" className="button" disabled={pending} onClick={() => store(true)}>
            It has {ha(asked.areaHa)}
          </button>
        </p>
      )}
      <p className="mt-2 flex flex-wrap items-baseline gap-3">
        <button
          type="button"
          className="button button-strong"
          disabled={!drawn.outline || pending || asked !== null}
          onClick={() => store(false)}
        >
          Save the outline
        </button>
        {onCancel && (
          <button type="button" className="button" onClick={onCancel}>
            Leave it
          </button>
        )}
      </p>
    </Part>
  );
}
