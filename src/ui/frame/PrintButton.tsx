'use client';

import { Printer } from 'lucide-react';

export const PrintButton = ({ label = 'Print' }: { label?: string }) => (
  <button type="button" className="button button-strong" onClick={() => window.print()}>
    <Printer size={14} aria-hidden /> {label}
  </button>
);
