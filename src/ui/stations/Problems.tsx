'use client';

import type { Station } from '@/core/plan/problem';
import { useWorkspace } from '../workspace/context';

/** Inputs that core refused at this station; everything else goes on without them. */
export function Problems({ station }: { station: Station }) {
  const list = useWorkspace().a.problems.filter((p) => p.station === station);
  if (list.length === 0) return null;
  return <ul role="alert" className="mb-3">{list.map((p, i) => <li key={i} className="problem">{p.message}</li>)}</ul>;
}
