'use client';

import { useState, useTransition } from 'react';
import { useHydrated } from '../frame/hydrated';
import { useDoors, type FieldDoors } from '../workspace/doors';

type Asked = Parameters<FieldDoors['readMeter']>[0];
type Read = { shows: number } | { field: number; strip: number };

/** Fills the boxes from a stand-in meter, to practise with: nothing is kept until somebody adds it. */
export function SimulatedMeter({
  asked,
  onRead,
}: {
  asked: Asked | null;
  onRead: (read: Read) => void;
}) {
  const { readMeter } = useDoors();
  const [working, start] = useTransition();
  const hydrated = useHydrated();
  const [said, setSaid] = useState<string | null>(null);
  return (
    <span className="inline-flex flex-wrap items-baseline gap-2">
      <button
        type="button"
        className="button"
        disabled={asked === null || working || !hydrated}
        onClick={() =>
          asked &&
          start(async () => {
            const reply = await readMeter(asked);
            setSaid(reply.ok ? 'Made up, to practise with.' : reply.refusal.message);
            if (reply.ok) onRead(reply.value);
          })
        }
      >
        Hold a simulated meter to it
      </button>
      {said && (
        <span role="status" className="note">
          {said}
        </span>
      )}
    </span>
  );
}
