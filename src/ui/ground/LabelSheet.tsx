import type { Route } from 'next';
import Link from 'next/link';
import { planeOf, ringsOf, type Metre, type Outline } from '@/core/ground/outline';
import type { SamplingPlan } from '@/core/ground/samplingPlan';
import { PrintButton } from '../frame/PrintButton';
import { MARK_WORDS } from './samplingModel';

export interface LabelSheetProps {
  fieldId: string;
  fieldName: string;
  farmName: string;
  planName: string;
  outline: Outline;
  plan: SamplingPlan;
  bags: { label: string; fromCm: number; toCm: number; kind: string; note: string }[];
  printedOn: string;
}
const W = 680;
const H = 460;

/** The map on paper: drawn as lines, so that it is sharp at any size and needs no screen. */
function PrintMap({ outline, plan }: { outline: Outline; plan: SamplingPlan }) {
  const plane = planeOf(outline);
  const rings = ringsOf(outline).map((r) => r.map(plane.toMetres));
  const all = rings.flat();
  const [x0, x1] = [Math.min(...all.map((p) => p[0])), Math.max(...all.map((p) => p[0]))];
  const [y0, y1] = [Math.min(...all.map((p) => p[1])), Math.max(...all.map((p) => p[1]))];
  const scale = 0.92 * Math.min(W / (x1 - x0), H / (y1 - y0));
  const at = (p: Metre): Metre => [
    W / 2 + (p[0] - (x0 + x1) / 2) * scale,
    H / 2 - (p[1] - (y0 + y1) / 2) * scale,
  ];
  const path = (list: readonly Metre[][]) =>
    list
      .map(
        (r) =>
          `M${r
            .map((p) =>
              at(p)
                .map((v) => v.toFixed(1))
                .join(' '),
            )
            .join('L')}Z`,
      )
      .join('');
  const points = plan.points.map((p) => ({ ...p, xy: at(plane.toMetres(p.at)) }));
  const bar = [10, 20, 50, 100, 200, 500, 1000].find((m) => m * scale > 60) ?? 1000;
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      className="w-full border border-rule"
      role="img"
      aria-label={`Map of ${plan.points.length} samples in walking order`}
    >
      {plan.points.map((p) => (
        <path
          key={p.label}
          d={path(p.shape.flatMap((polygon) => polygon.map((r) => r.map(plane.toMetres))))}
          fill="none"
          stroke="var(--rule)"
        />
      ))}
      <path d={path(rings)} fill="none" stroke="var(--ink)" strokeWidth="1.8" />
      <polyline
        points={points.map((p) => p.xy.map((v) => v.toFixed(1)).join(',')).join(' ')}
        fill="none"
        stroke="var(--water)"
        strokeDasharray="2 4"
      />
      {plan.marks.map((m) => {
        const [x, y] = at(plane.toMetres(m.at));
        return (
          <g key={m.id}>
            <circle
              cx={x}
              cy={y}
              r={Math.max(5, m.radiusM * scale)}
              fill="none"
              stroke="var(--ink)"
              strokeDasharray="4 3"
            />
            <text x={x} y={y + 4} fontSize="11" textAnchor="middle" fill="var(--ink)">
              {MARK_WORDS[m.kind]}
            </text>
          </g>
        );
      })}
      {points.map((p) => (
        <g key={p.label}>
          {p.kind === 'problem' ? (
            <path d={`M${p.xy[0]} ${p.xy[1] - 6}l6 11h-12Z`} fill="var(--ink)" />
          ) : (
            <circle
              cx={p.xy[0]}
              cy={p.xy[1]}
              r="3.5"
              fill={p.kind === 'good' ? 'none' : 'var(--ink)'}
              stroke="var(--ink)"
            />
          )}
          <text x={p.xy[0]} y={p.xy[1] - 7} fontSize="11" textAnchor="middle" fill="var(--ink)">
            {p.label}
          </text>
        </g>
      ))}
      <rect x="14" y={H - 12} width={bar * scale} height="2" fill="var(--ink)" />
      <text x="14" y={H - 18} fontSize="11" fill="var(--ink)">
        {bar} m
      </text>
      <text x={W - 20} y="22" fontSize="12" textAnchor="middle" fill="var(--ink)">
        N
      </text>
      <path d={`M${W - 20} 26v18`} stroke="var(--ink)" />
    </svg>
  );
}

/** Bag labels and the map of a sampling plan on paper, A4 or Letter. */
export function LabelSheet({
  fieldId,
  fieldName,
  farmName,
  planName,
  outline,
  plan,
  bags,
  printedOn,
}: LabelSheetProps) {
  return (
    <div className="max-w-[52rem]">
      <p className="no-print mb-2 flex flex-wrap items-baseline gap-3">
        <Link href={`/fields/${fieldId}/ground/sampling` as Route}>Back to the sampling plan</Link>
        <PrintButton />
      </p>
      <h1>{planName}</h1>
      <p className="mb-2">
        {farmName}, {fieldName}. {plan.points.length} samples of {plan.coresPerSample} cores,{' '}
        {plan.layers.map((l) => `${l.fromCm}-${l.toCm} cm`).join(' and ')}. Printed {printedOn}.
      </p>
      <PrintMap outline={outline} plan={plan} />
      <p className="note my-2">
        Walk in the order of the labels; within 3-5 m of the point for cells, in a zigzag for one
        composite. Keep out of gateways, headlands, heaps, spills, dung and wet holes. Cool nitrate
        and sulphate samples at once. Before pushing the probe below 40 cm check for cables, pipes
        and drains.
      </p>
      <section aria-label="Labels" className="labels break-before-page">
        <ul className="grid grid-cols-3 gap-0">
          {bags.map((b) => (
            <li
              key={b.label}
              data-testid="label"
              className="break-inside-avoid border border-dashed border-faint p-2.5"
              style={{ minHeight: '3.2rem' }}
            >
              <strong className="text-[1.15rem]">{b.label}</strong>
              <span className="block">
                {farmName}, {fieldName}
              </span>
              <span className="block">
                {b.fromCm}-{b.toCm} cm, {plan.coresPerSample} cores
                {b.kind === 'problem' || b.kind === 'good' ? `, ${b.kind} spot` : ''}
              </span>
              <span className="note block">Taken on ______________ by ______</span>
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}
