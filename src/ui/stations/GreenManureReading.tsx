'use client';

import type { GreenManurePlan } from '@/core/document/previousDocument';
import { greenManureView, type GreenManureView } from '@/core/views/greenManureView';
import { Refusal } from '@/core/quantity/refusal';
import { useBook, useWholePlan } from '../workspace/context';

const kg = (v: number): string => (v < 0 ? `ties up ${Math.round(-v)}` : `gives ${Math.round(v)}`);
/** What it does to N now, a stage later, by species, and when it turns. */
export function GreenManureReading({ previous }: { previous: GreenManurePlan }) {
  const plan = useWholePlan();
  const book = useBook();
  let v: GreenManureView;
  try {
    v = greenManureView(book, plan, previous);
  } catch (e) {
    if (e instanceof Refusal) return null;
    throw e;
  }
  return (
    <p className="mt-1 max-w-[46rem]" data-testid="green-manure">
      At C:N {v.cnRatio.toFixed(0)} it {kg(v.nowKgHa)} kg N/ha
      {v.nextStageKgHa !== null && (
        <>
          ; a stage later it {kg(v.nextStageKgHa)} at C:N {v.nextStageCn?.toFixed(0)}
        </>
      )}
      .{' '}
      {v.greatestTieUpKgHa > 0.5 && (
        <>
          It takes up to {Math.round(v.greatestTieUpKgHa)} kg first, most in week {v.atWeek}, and{' '}
          {v.turnWeek === null
            ? 'gives nothing back this season'
            : `is even again in week ${Math.round(v.turnWeek)}`}
          .{' '}
        </>
      )}
      {v.schoolsDiffer && (
        <>
          Species by species it {kg(v.perSpeciesKgHa)} kg: the mix holds for what is dug in, the
          species for rolled strips.{' '}
        </>
      )}
      <span className="note">Weeks of warm, moist soil at 17 °C; cool soil takes longer.</span>
    </p>
  );
}
