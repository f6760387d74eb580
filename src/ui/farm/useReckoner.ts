'use client';

import { proxy, wrap, type Remote } from 'comlink';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { Reckoner } from '@/workers/reckoner';

type Job<T> = (reckoner: Remote<Reckoner>, done: (count: number) => void) => Promise<T>;
export interface Reckoning<T> {
  value: T | null;
  /** How many are through, while it runs; null when it does not. */
  running: number | null;
  failed: string | null;
  start: (job: Job<T>) => void;
  cancel: () => void;
}

/**
 * A long sum in a worker: shows how far it is, can be cancelled, and a new start ends the one
 * before.
 */
export function useReckoner<T>(): Reckoning<T> {
  const worker = useRef<Worker | null>(null);
  const [state, setState] = useState<{
    value: T | null;
    running: number | null;
    failed: string | null;
  }>({ value: null, running: null, failed: null });
  const end = useCallback(() => {
    worker.current?.terminate();
    worker.current = null;
  }, []);
  useEffect(() => end, [end]);
  const start = useCallback(
    (job: Job<T>) => {
      end();
      const own = new Worker(new URL('../../workers/reckoner.ts', import.meta.url), {
        type: 'module',
      });
      worker.current = own;
      const mine = () => worker.current === own;
      setState((s) => ({ ...s, running: 0, failed: null }));
      own.onerror = (e) => {
        if (mine())
          setState((s) => ({ ...s, running: null, failed: e.message || 'The sum stopped.' }));
      };
      job(
        wrap<Reckoner>(own),
        proxy((count: number) => {
          if (mine()) setState((s) => ({ ...s, running: count }));
        }),
      ).then(
        (value) => {
          if (mine()) {
            end();
            setState({ value, running: null, failed: null });
          }
        },
        (e: unknown) => {
          if (mine())
            setState((s) => ({
              ...s,
              running: null,
              failed: e instanceof Error ? e.message : String(e),
            }));
        },
      );
    },
    [end],
  );
  const cancel = useCallback(() => {
    end();
    setState((s) => ({ ...s, running: null }));
  }, [end]);
  return { ...state, start, cancel };
}
