'use client';

import { Upload } from 'lucide-react';
import { useMemo, useState, useTransition } from 'react';
import type { ReadOutline } from '@/core/ground/fieldGeojson';
import {
  checkOutline,
  COMMON_CRS,
  fieldPlane,
  outlineAreaHa,
  type Metre,
  type Outline,
} from '@/core/ground/outline';
import { Refusal, type Answer } from '@/core/quantity/refusal';
import { ChoiceBox, Part } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { FieldMap } from '../map/FieldMap';
import type { MapModel } from '../map/view';
import { RemoveButton } from '../figure/RemoveButton';

export interface OutlineEditorProps {
  outline: Outline | null;
  latitudeDeg: number;
  fieldName: string;
  save: (outline: Outline) => Promise<Answer<{ outline: Outline; areaHa: number }>>;
  readFile: (form: FormData) => Promise<Answer<ReadOutline[]>>;
  onDone: (outline: Outline, areaHa: number) => void;
  onCancel: (() => void) | null;
}
const METRE = { label: 'Metres', unit: 'm', min: -20000, max: 20000 };
const CRS_OPTIONS = [
  { value: '', label: 'as the file says, else degrees' },
  ...COMMON_CRS.map((c) => ({ value: c.key, label: c.name })),
  { value: 'utm', label: 'a UTM zone, metres' },
  { value: 'own', label: 'another, as PROJ text' },
];

/**
 * The outline of a field: drawn corner by corner on a metric canvas, typed as metres, or taken
 * from a GeoJSON file.
 */
export function OutlineEditor({
  outline,
  latitudeDeg,
  fieldName,
  save,
  readFile,
  onDone,
  onCancel,
}: OutlineEditorProps) {
  const [origin, setOrigin] = useState<[number, number]>(() => {
    const p = outline?.coordinates[0]?.[0];
    return p ? [p[0] as number, p[1] as number] : [0, latitudeDeg];
  });
  const plane = useMemo(() => fieldPlane(origin), [origin]);
  const [corners, setCorners] = useState<Metre[]>(() => {
    const ring = outline?.coordinates[0];
    return ring
      ? ring.slice(0, -1).map(fieldPlane([ring[0]?.[0] as number, ring[0]?.[1] as number]).toMetres)
      : [];
  });
  const [crs, setCrs] = useState('');
  const [zone, setZone] = useState('32n');
  const [found, setFound] = useState<ReadOutline[]>([]);
  const [said, setSaid] = useState<string | null>(null);
  const [pending, start] = useTransition();
  // Holes are not drawn by hand: they stay as they are stored, or come with a file.
  const [holes, setHoles] = useState(() => outline?.coordinates.slice(1) ?? []);
  const drawn = useMemo<{ outline: Outline | null; problem: string | null }>(() => {
    if (corners.length === 0) return { outline: null, problem: null };
    try {
      return {
        outline: checkOutline({ coordinates: [corners.map((c) => plane.toDegrees(c)), ...holes] }),
        problem: null,
      };
    } catch (e) {
      if (e instanceof Refusal) return { outline: null, problem: e.message };
      throw e;
    }
  }, [corners, plane, holes]);
  const model = useMemo<MapModel>(
    () => ({
      outline: corners.length > 2 ? [corners] : [],
      cells: [],
      marks: [],
      walk: [],
      draft: corners.length === 2 ? corners : [],
      points: corners.map((at, i) => ({ at, label: String(i + 1), kind: 'corner' })),
    }),
    [corners],
  );
  const choose = (o: ReadOutline) => {
    const first = o.outline.coordinates[0]?.[0] as number[];
    const at: [number, number] = [first[0] as number, first[1] as number];
    setOrigin(at);
    setHoles(o.outline.coordinates.slice(1));
    setCorners((o.outline.coordinates[0] ?? []).slice(0, -1).map(fieldPlane(at).toMetres));
    setFound([]);
  };
  const load = (file: File | undefined) => {
    if (!file) return;
    setSaid(null);
    if (file.size > 5 * 1024 * 1024)
      return setSaid(`The file has ${(file.size / 1048576).toFixed(1)} MB; at most 5 MB are read.`);
    start(async () => {
      const form = new FormData();
      form.set('file', file);
      form.set('crs', crs === 'utm' ? `utm:${zone.trim()}` : crs === 'own' ? zone : crs);
      const reply = await readFile(form);
      if (!reply.ok) return setSaid(reply.refusal.message);
      if (reply.value.length === 1 && reply.value[0]) choose(reply.value[0]);
      else setFound(reply.value);
    });
  };
  const store = () =>
    start(async () => {
      if (!drawn.outline) return;
      const reply = await save(drawn.outline);
      if (reply.ok) onDone(reply.value.outline, reply.value.areaHa);
      else setSaid(reply.refusal.message);
    });
  return (
    <Part
      title="Outline of the field"
      aside="click to add a corner, drag a corner to move it; or import GeoJSON"
    >
      <div className="mb-2 flex flex-wrap items-baseline gap-x-5 gap-y-2">
        <ChoiceBox
          label="Projection of the file"
          value={crs}
          options={CRS_OPTIONS}
          onValue={(v) => setCrs(v ?? '')}
          empty="as the file says, else degrees"
        />
        {(crs === 'utm' || crs === 'own') && (
          <label className="inline-flex items-baseline gap-1.5">
            {crs === 'utm' ? 'Zone' : 'PROJ text'}
            <input className="box" value={zone} onChange={(e) => setZone(e.target.value)} />
          </label>
        )}
        <label className="button inline-flex cursor-pointer items-center gap-1.5 focus-within:outline-2">
          <Upload size={14} aria-hidden />
          Import GeoJSON
          <input
            type="file"
            className="sr-only"
            accept=".geojson,.json,application/geo+json"
            disabled={pending}
            onChange={(e) => {
              load(e.target.files?.[0]);
              e.target.value = '';
            }}
          />
        </label>
        {corners.length === 0 && (
          <>
            <FigureBox
              label="Longitude of the first corner"
              value={origin[0]}
              range={{ label: 'Longitude', unit: '°', min: -180, max: 180 }}
              onValue={(v) => v !== null && setOrigin([v, origin[1]])}
            />
            <FigureBox
              label="Latitude"
              value={origin[1]}
              range={{ label: 'Latitude', unit: '°', min: -89, max: 89 }}
              onValue={(v) => v !== null && setOrigin([origin[0], v])}
            />
          </>
        )}
      </div>
      {found.length > 0 && (
        <ul className="mb-2">
          {found.map((f, i) => (
            <li key={i} className="border-b border-rule py-1">
              <button type="button" className="button" onClick={() => choose(f)}>
                Take {f.name ?? `polygon ${i + 1}`}
              </button>{' '}
              <span className="note">{f.areaHa.toFixed(2)} ha</span>
            </li>
          ))}
        </ul>
      )}
      <div className="grid gap-4 lg:grid-cols-[1fr_20rem]">
        <FieldMap
          model={model}
          label={`Outline of ${fieldName}, ${corners.length} corners`}
          onPick={(at) => setCorners((c) => [...c, at])}
          onMoveCorner={(i, at) => setCorners((c) => c.map((p, k) => (k === i ? at : p)))}
          fitKey={`${origin.join()}`}
        />
        <div className="max-h-[420px] overflow-y-auto">
          <table className="ruled">
            <caption className="sr-only">Corners in metres from the first</caption>
            <thead>
              <tr>
                <th>Corner</th>
                <th>East, m</th>
                <th>North, m</th>
                <th>
                  <span className="sr-only">Remove</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {corners.map((c, i) => (
                <tr key={i}>
                  <th scope="row">{i + 1}</th>
                  {([0, 1] as const).map((axis) => (
                    <td key={axis}>
                      <FigureBox
                        label={`Corner ${i + 1} ${axis === 0 ? 'east' : 'north'}`}
                        hideLabel
                        value={Number(c[axis].toFixed(1))}
                        range={{ ...METRE, unit: '' }}
                        onValue={(v) =>
                          v !== null &&
                          setCorners((list) =>
                            list.map((p, k) =>
                              k === i ? (axis === 0 ? [v, p[1]] : [p[0], v]) : p,
                            ),
                          )
                        }
                      />
                    </td>
                  ))}
                  <td>
                    <RemoveButton
                      label={`Remove corner ${i + 1}`}
                      onClick={() => setCorners((list) => list.filter((_, k) => k !== i))}
                    />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <button
            type="button"
            className="button mt-1"
            onClick={() =>
              setCorners((list) => [
                ...list,
                list.length === 0
                  ? [0, 0]
                  : [(list[list.length - 1] as Metre)[0] + 50, (list[list.length - 1] as Metre)[1]],
              ])
            }
          >
            Add a corner
          </button>
        </div>
      </div>
      {drawn.problem && (
        <p role="alert" className="problem mt-1">
          {drawn.problem}
        </p>
      )}
      {said && (
        <p role="alert" className="problem mt-1">
          {said}
        </p>
      )}
      <p className="mt-2 flex flex-wrap items-baseline gap-3">
        <button
          type="button"
          className="button button-strong"
          disabled={!drawn.outline || pending}
          onClick={store}
        >
          Save the outline
        </button>
        {onCancel && (
          <button type="button" className="button" onClick={onCancel}>
            Leave it
          </button>
        )}
        {drawn.outline && (
          <strong>{outlineAreaHa(drawn.outline).toFixed(2)} ha on the ellipsoid</strong>
        )}
      </p>
    </Part>
  );
}
