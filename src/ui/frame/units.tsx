'use client';

import {
  createContext,
  use,
  useCallback,
  useEffect,
  useMemo,
  useState,
  type ReactNode,
} from 'react';
import {
  fromCore,
  shownUnit,
  type Dimension,
  type Unit,
  type UnitSystem,
} from '@/core/quantity/units';
import { inWords, type Words } from '@/core/why/said';

interface Units {
  system: UnitSystem;
  toggle: () => void;
  unit: (dimension: Dimension) => Unit;
  /** A core figure in the unit shown, without the unit. */
  show: (value: number, dimension: Dimension, decimals?: number) => string;
  /** What core says, in the words and units of the reader. */
  words: (said: Words) => string;
}
const Context = createContext<Units | null>(null);
const KEY = 'furrow-units';

const rounded = (v: number, decimals: number): string => {
  const s = v.toFixed(decimals);
  return Number(s) === 0 ? (0).toFixed(decimals) : s;
};

/** kg/ha or lb/ac: converted at the edge only, remembered in this browser. */
export function UnitsProvider({ children }: { children: ReactNode }) {
  const [system, setSystem] = useState<UnitSystem>('metric');
  // Read after the first paint: the server does not know this browser's choice.
  useEffect(() => {
    const frame = requestAnimationFrame(() => {
      if (localStorage.getItem(KEY) === 'us') setSystem('us');
    });
    return () => cancelAnimationFrame(frame);
  }, []);
  const toggle = useCallback(
    () =>
      setSystem((s) => {
        const next = s === 'metric' ? 'us' : 'metric';
        localStorage.setItem(KEY, next);
        return next;
      }),
    [],
  );
  const value = useMemo<Units>(
    () => ({
      system,
      toggle,
      unit: (d) => shownUnit(d, system),
      words: (said) => inWords(said, system),
      show: (v, d, decimals = 0) => rounded(fromCore(v, shownUnit(d, system)), decimals),
    }),
    [system, toggle],
  );
  return <Context value={value}>{children}</Context>;
}

export function useUnits(): Units {
  const units = use(Context);
  if (!units) throw new Error('useUnits needs UnitsProvider');
  return units;
}
