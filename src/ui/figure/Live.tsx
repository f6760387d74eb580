'use client';

import { useState } from 'react';
import { useUnits } from '../frame/units';

/**
 * A computed figure: when it changes, the old one stands struck through beside it for a moment. In
 * other units it is the same figure.
 */
export function Live({ text }: { text: string }) {
  const { system } = useUnits();
  const [state, setState] = useState({
    now: text,
    system,
    before: null as string | null,
    turn: 0,
  });
  if (state.now !== text || state.system !== system)
    setState({
      now: text,
      system,
      before: state.system === system ? state.now : null,
      turn: state.turn + 1,
    });
  return (
    <span className="relative whitespace-nowrap">
      {state.before !== null && (
        <s key={state.turn} aria-hidden className="faded absolute right-full mr-1 text-faint">
          {state.before}
        </s>
      )}
      {text}
    </span>
  );
}
