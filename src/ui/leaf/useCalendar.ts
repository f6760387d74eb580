'use client';

import { useMemo } from 'react';
import { withoutUnknown } from '@/core/document/keys';
import type { Plan } from '@/core/document/document';
import { seasonCalendar, type SeasonCalendar } from '@/core/lines/calendar';
import { Refusal } from '@/core/quantity/refusal';
import { useBook, useWholePlan } from '../workspace/context';

/** The plan as it can be reckoned: what hangs on a key that the book does not know is left out. */
export function useKnownPlan(): Plan {
  const plan = useWholePlan();
  const book = useBook();
  return useMemo(() => withoutUnknown(book, plan).plan, [book, plan]);
}

/** The days of the season with its clock; null where its dates do not make one. */
export function useCalendar(): SeasonCalendar | null {
  const plan = useKnownPlan();
  const book = useBook();
  return useMemo(() => {
    try {
      return seasonCalendar(book, plan);
    } catch (e) {
      if (e instanceof Refusal) return null;
      throw e;
    }
  }, [book, plan]);
}
