'use client';

import { useState } from 'react';

/** A name that is changed in place: what was typed is settled when the box is left, or by Enter. */
export function NameBox({
  name,
  disabled,
  onName,
}: {
  name: string;
  disabled: boolean;
  onName: (name: string) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const settle = () => {
    const now = (typed ?? name).trim();
    setTyped(null);
    if (now !== '' && now !== name) onName(now);
  };
  return (
    <input
      className="box w-56"
      aria-label={`Name of ${name}`}
      disabled={disabled}
      maxLength={80}
      value={typed ?? name}
      onChange={(e) => setTyped(e.target.value)}
      onBlur={settle}
      onKeyDown={(e) => {
        if (e.key === 'Enter') settle();
      }}
    />
  );
}
