import type { Feature, FeatureCollection } from 'geojson';
import type { Outline } from './outline';
import type { SamplingPlan } from './samplingPlan';

export interface PlanFeatures {
  fieldName: string;
  outline: Outline;
  areaHa: number;
  plan: SamplingPlan;
}

/**
 * A field and its sampling plan as GeoJSON (RFC 7946): the outline, the cells, the points in
 * walking order, and what to avoid.
 */
export function planGeojson({ fieldName, outline, areaHa, plan }: PlanFeatures): FeatureCollection {
  const shaped = plan.points.filter((p) => p.shape.length > 0);
  return {
    type: 'FeatureCollection',
    features: [
      {
        type: 'Feature',
        id: 'field',
        properties: { role: 'field', name: fieldName, area_ha: Number(areaHa.toFixed(4)) },
        geometry: outline,
      },
      ...shaped.map((p): Feature => ({
        type: 'Feature',
        properties: { role: p.kind, label: p.label, area_ha: Number(p.areaHa.toFixed(4)) },
        geometry:
          p.shape.length === 1
            ? { type: 'Polygon', coordinates: p.shape[0] as number[][][] }
            : { type: 'MultiPolygon', coordinates: p.shape },
      })),
      ...plan.points.map((p, k): Feature => ({
        type: 'Feature',
        id: p.label,
        properties: {
          role: 'sample',
          label: p.label,
          field: fieldName,
          kind: p.kind,
          order: k + 1,
          cores: plan.coresPerSample,
          depth_cm: plan.layers.map((l) => `${l.fromCm}-${l.toCm}`).join(', '),
          note: p.note,
        },
        geometry: { type: 'Point', coordinates: p.at },
      })),
      ...plan.marks.map((m): Feature => ({
        type: 'Feature',
        id: m.id,
        properties: { role: 'avoid', kind: m.kind, radius_m: m.radiusM, note: m.note },
        geometry: { type: 'Point', coordinates: m.at },
      })),
    ],
  };
}
