'use client';

import { WhyFigure } from '../frame/why';
import { useUnits } from '../frame/units';
import { useAssessed, usePlan } from '../workspace/context';

/** The staves of the barrel: relative yield by each factor, the shortest first. */
export function Barrel() {
  const a = useAssessed('limiting');
  const plan = usePlan('season');
  const { show, unit } = useUnits();
  if (!a.limiting)
    return <p className="note">Known once the crop, its goal and the soil test are there.</p>;
  const [lowest] = a.limiting.relativeYields;
  const unknown = (['P', 'K', 'S', 'Mg'] as const).filter(
    (x) => !a.limiting?.relativeYields.some((f) => f.factor === x),
  );
  return (
    <>
      <p className="mb-1">
        {lowest && lowest.ry < 0.97 ? (
          <>
            <strong>{a.limiting.limiting} is the limiting factor.</strong> It holds the crop at{' '}
            {Math.round(lowest.ry * 100)} %: {show(a.limiting.yLiebigTHa, 'mass_rate', 1)} of{' '}
            {show(plan.season.yieldGoalTHa ?? 0, 'mass_rate', 1)} {unit('mass_rate')}, or{' '}
            {show(a.limiting.yProductTHa, 'mass_rate', 1)} if the limits multiply.
          </>
        ) : (
          'Nothing measured holds this crop back.'
        )}
      </p>
      <ul>
        {a.limiting.relativeYields.map((f) => (
          <li key={f.factor} className="flex items-center gap-2 border-b border-rule py-1">
            <span className={`w-10 ${f.factor === a.limiting?.limiting ? 'font-bold' : ''}`}>
              {f.factor}
            </span>
            <span className="h-3 flex-1 border border-faint" aria-hidden>
              <span
                className="block h-full"
                style={{
                  width: `${Math.round(f.ry * 100)}%`,
                  background: f === lowest && f.ry < 0.97 ? 'var(--hot)' : 'var(--organic-matter)',
                }}
              />
            </span>
            <span className="w-14 text-right whitespace-nowrap">
              <WhyFigure step={f.why} label={`Relative yield by ${f.factor}`}>
                {Math.round(f.ry * 100)} %
              </WhyFigure>
            </span>
          </li>
        ))}
      </ul>
      {unknown.length > 0 && (
        <p className="note mt-1">Not known: {unknown.join(', ')}. Unknown is not taken as fine.</p>
      )}
    </>
  );
}
