import type { SeasonGlance } from '@/core/views/glance';
import { layOut, STRATUM_FILL } from './geometry';

/** A season at a glance, for the list of fields. */
export function TinyFurrow({ section, label }: { section: SeasonGlance; label: string }) {
  const g = layOut(section, { width: 120, left: 0, right: 0, up: 17, down: 19 });
  return (
    <svg width={120} height={38} role="img" aria-label={label} className="block">
      <g transform="translate(0 18)">
        <path d={g.demandPath} fill="var(--demand-fill)" stroke="var(--demand)" />
        {g.strata.map((s) => (
          <path key={s.id} d={s.path} fill={STRATUM_FILL[s.kind]} />
        ))}
        <path d={g.mirrorPath} fill="none" stroke="var(--demand)" strokeDasharray="2 2" />
        <line x1={0} x2={120} y1={0} y2={0} stroke="var(--ink)" strokeWidth={1.4} />
      </g>
    </svg>
  );
}
