'use client';

import { proxy, wrap, type Remote } from 'comlink';
import {
  createContext,
  use,
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
  type ReactNode,
} from 'react';
import type { Plan } from '@/core/document/document';
import type { Outlook } from '@/core/season/outlook';
import type { Reckoner, SeasonYears } from '@/workers/reckoner';
import { useReckoner } from '../farm/useReckoner';
import { useWholePlan } from '../workspace/context';

// The plan over weather years, for every part of Supply: a first look at once, the full run a moment
// later. All parts read the same figures.

/** Typing goes on: the years are run once it has paused, ms. */
const PAUSE_MS = 500;

interface Of<T> {
  plan: Plan;
  value: T;
}
export interface Years {
  /** Of the plan as it stands: the full run, or a first look until that is through. */
  now: Outlook | null;
  /** `now` is the full run. */
  settled: boolean;
  /** The last full run, which may be of the plan before the last change; or why there is none. */
  full: SeasonYears | string | null;
  running: number | null;
  failed: string | null;
  cancel: () => void;
}
const Context = createContext<Years | null>(null);

/** Null where no station runs the years. */
export const useSeasonYears = (): Years | null => use(Context);

/** One look after the other, always at the newest plan; a worker of its own stays ready for them. */
function useFirstLook(plan: Plan): Of<Outlook | string> | null {
  const [look, setLook] = useState<Of<Outlook | string> | null>(null);
  const worker = useRef<{ own: Worker; remote: Remote<Reckoner> } | null>(null);
  const busy = useRef(false);
  const next = useRef<Plan | null>(null);
  const [first] = useState(plan);
  const run = useCallback(async () => {
    if (busy.current) return;
    busy.current = true;
    try {
      while (next.current) {
        const given = next.current;
        next.current = null;
        if (!worker.current) {
          const own = new Worker(new URL('../../workers/reckoner.ts', import.meta.url), {
            type: 'module',
          });
          worker.current = { own, remote: wrap<Reckoner>(own) };
        }
        const value = await worker.current.remote.firstLook(given);
        setLook({ plan: given, value });
      }
    } finally {
      busy.current = false;
    }
  }, []);
  useEffect(() => {
    if (plan === first) return;
    next.current = plan;
    void run();
  }, [plan, first, run]);
  useEffect(
    () => () => {
      worker.current?.own.terminate();
      worker.current = null;
    },
    [],
  );
  return look;
}

export function SeasonYearsProvider({ children }: { children: ReactNode }) {
  const plan = useWholePlan();
  const { value, running, failed, start, cancel } = useReckoner<Of<SeasonYears | string>>();
  const look = useFirstLook(plan);
  useEffect(() => {
    const timer = setTimeout(
      () => start(async (r, done) => ({ plan, value: await r.seasons(plan, proxy(done)) })),
      PAUSE_MS,
    );
    return () => clearTimeout(timer);
  }, [plan, start]);
  const years = useMemo((): Years => {
    const settled = value?.plan === plan;
    const of = settled ? value.value : look?.plan === plan ? look.value : null;
    const now = of === null || typeof of === 'string' ? null : 'outlook' in of ? of.outlook : of;
    return { now, settled, full: value?.value ?? null, running, failed, cancel };
  }, [plan, value, look, running, failed, cancel]);
  return <Context value={years}>{children}</Context>;
}
