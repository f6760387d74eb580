import { planeOf, ringsOf, type Metre, type Outline } from '@/core/ground/outline';
import type { MarkKind } from '@/core/ground/samplingMarks';
import type { SamplingPlan } from '@/core/ground/samplingPlan';
import type { MapModel, MapPoint } from '../map/view';

export const MARK_WORDS: Record<MarkKind, string> = {
  gateway: 'gateway',
  feeding_point: 'feeding point',
  water_point: 'water point',
  old_heap: 'old heap',
  lime_pile: 'lime pile',
  tree_or_hedge: 'trees',
  fertiliser_spill: 'spill',
  wet_hole: 'wet hole',
  other: 'avoid',
};

const pointKind = (kind: string): MapPoint['kind'] =>
  kind === 'problem' ? 'problem' : kind === 'good' ? 'good' : 'sample';

export interface CellLook {
  fill?: string;
  text?: string;
}
/** A sampling plan as the map draws it; `look` colours a sample's ground by its reading. */
export function samplingModel(
  outline: Outline,
  plan: SamplingPlan,
  options: {
    cores?: readonly (readonly number[])[];
    draft?: readonly Metre[];
    look?: (label: string) => CellLook;
    walk?: boolean;
  } = {},
): MapModel {
  const plane = planeOf(outline);
  const points = plan.points.map((p) => ({
    label: p.label,
    at: plane.toMetres(p.at),
    kind: pointKind(p.kind),
    text: options.look?.(p.label).text,
  }));
  return {
    outline: ringsOf(outline).map((r) => r.map(plane.toMetres)),
    cells: plan.points.flatMap((p) =>
      p.shape.map((polygon) => ({
        label: p.label,
        rings: polygon.map((r) => r.map(plane.toMetres)),
        fill: options.look?.(p.label).fill,
      })),
    ),
    points: [
      ...points,
      ...(options.cores ?? []).map((c): MapPoint => ({
        label: '',
        at: plane.toMetres(c),
        kind: 'core',
      })),
    ],
    marks: plan.marks.map((m) => ({
      id: m.id,
      at: plane.toMetres(m.at),
      radiusM: m.radiusM,
      word: MARK_WORDS[m.kind],
    })),
    walk: options.walk === false ? [] : points.map((p) => p.at),
    draft: options.draft ?? [],
  };
}
