'use client';

import type { Station } from '@/core/lines/problem';
import { useAssessed } from '../workspace/context';

/** Screens show the label of a figure; its key in brackets is for the open edge. */
const inPlainWords = (message: string): string => message.replace(/ \([a-z0-9_.[\]]+\) =/, ' =');

/** Inputs that core refused at this station; everything else goes on without them. */
export function Problems({ station }: { station: Station }) {
  const list = useAssessed('problems').problems.filter((p) => p.station === station);
  if (list.length === 0) return null;
  return (
    <ul role="alert" className="mb-3">
      {list.map((p, i) => (
        <li key={i} className="problem">
          {inPlainWords(p.message)}
        </li>
      ))}
    </ul>
  );
}
