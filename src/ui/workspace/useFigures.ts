'use client';

import { useEffect, useMemo, useState } from 'react';
import { bookOf, type Book } from '@/core/book/book';
import type { Plan } from '@/core/document/document';
import type { Figures } from '@/core/views/figures';

const WARM_UP_MS = 400;
type Engine = (book: Book, plan: Plan, withParts: boolean) => Figures;
let loaded: Engine | null = null;
const load = async (): Promise<Engine> =>
  (loaded ??= (await import('@/core/views/figures')).figuresOf);

/**
 * The figures of a plan. Those of the first paint come with the page; core and its tables are
 * fetched once the page stands, and from then
 * on every edit is assessed here. An edit made before they arrive shows its figures as soon as
 * they do.
 */
export function useFigures(
  book: Book,
  plan: Plan,
  initial: Plan,
  first: Figures,
  withParts: boolean,
): Figures {
  const [engine, setEngine] = useState<Engine | null>(() => loaded);
  const [start] = useState({ plan: initial, figures: first });
  useEffect(() => {
    if (!engine) void load().then((e) => setEngine(() => e));
  }, [engine]);
  // The first assessment unpacks the tables: it is made while nobody types, not with the first key.
  useEffect(() => {
    if (!engine) return;
    const warmUp = () => void engine(bookOf(start.plan.farm.library), start.plan, false);
    if (!('requestIdleCallback' in globalThis)) {
      const timer = setTimeout(warmUp, WARM_UP_MS);
      return () => clearTimeout(timer);
    }
    const idle = requestIdleCallback(warmUp, { timeout: WARM_UP_MS });
    return () => cancelIdleCallback(idle);
  }, [engine, start]);
  return useMemo(
    () =>
      engine && (plan !== start.plan || withParts !== (start.figures.parts !== null))
        ? engine(book, plan, withParts)
        : start.figures,
    [engine, book, plan, start, withParts],
  );
}
