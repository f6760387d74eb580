'use client';

import { useEffect, useState } from 'react';

export interface FoundField {
  id: string;
  name: string;
  farm: string;
}

/** Fields that the server finds by words of their names. `settled` once the answer is there. */
export function useFoundFields(asked: string): { fields: FoundField[]; settled: boolean } {
  const [found, setFound] = useState<{ asked: string | null; fields: FoundField[] }>({
    asked: null,
    fields: [],
  });
  useEffect(() => {
    const gone = new AbortController();
    const timer = setTimeout(
      () =>
        void fetch(`/fields/found.json?q=${encodeURIComponent(asked)}`, { signal: gone.signal })
          .then((r) => r.json() as Promise<FoundField[]>)
          .then((fields) => setFound({ asked, fields }))
          // Pages can be reached all the same.
          .catch(() => undefined),
      asked === '' ? 0 : 120,
    );
    return () => {
      clearTimeout(timer);
      gone.abort();
    };
  }, [asked]);
  return { fields: found.fields, settled: found.asked === asked };
}
