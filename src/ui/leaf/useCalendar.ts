'use client';

import { useMemo } from 'react';
import { seasonCalendar, type SeasonCalendar } from '@/core/lines/calendar';
import { Refusal } from '@/core/quantity/refusal';
import { useBook, useWholePlan } from '../workspace/context';

/** The days of the season with its clock; null where its dates do not make one. */
export function useCalendar(): SeasonCalendar | null {
  const plan = useWholePlan();
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
