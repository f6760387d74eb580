import type { ReactNode } from 'react';

/**
 * A table that may be wider than the screen: it scrolls by itself, by key too, and the page does
 * not.
 */
export const Scrolled = ({ label, children }: { label: string; children: ReactNode }) => (
  <div className="relative overflow-x-auto" tabIndex={0} role="region" aria-label={label}>
    {children}
  </div>
);
