'use client';

import { useState } from 'react';

/** A computed figure: when it changes, the old one stands struck through beside it for a moment. */
export function Live({ text }: { text: string }) {
  const [state, setState] = useState({ now: text, before: null as string | null, turn: 0 });
  if (state.now !== text) setState({ now: text, before: state.now, turn: state.turn + 1 });
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
