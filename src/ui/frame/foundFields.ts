'use client';

import { useEffect, useState } from 'react';

export interface FoundField {
  id: string;
  name: string;
  farm: string;
}

export interface FoundFarm {
  id: string;
  name: string;
}
interface Found {
  fields: FoundField[];
  farms: FoundFarm[];
}

/** Fields that the server finds by words of their names, and the farms; `settled` once they are there. */
export function useFoundFields(asked: string): Found & { settled: boolean } {
  const [found, setFound] = useState<Found & { asked: string | null }>({
    asked: null,
    fields: [],
    farms: [],
  });
  useEffect(() => {
    const gone = new AbortController();
    const timer = setTimeout(
      () =>
        void fetch(`/fields/found.json?q=${encodeURIComponent(asked)}`, { signal: gone.signal })
          .then((r) => r.json() as Promise<Found>)
          .then((answer) => setFound({ asked, ...answer }))
          // Pages can be reached all the same.
          .catch(() => undefined),
      asked === '' ? 0 : 120,
    );
    return () => {
      clearTimeout(timer);
      gone.abort();
    };
  }, [asked]);
  return { fields: found.fields, farms: found.farms, settled: found.asked === asked };
}
