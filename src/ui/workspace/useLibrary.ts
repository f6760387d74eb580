'use client';

import { useCallback } from 'react';
import { withLibrary } from '@/core/book/library';
import { useWorkspace } from './context';

/** Looks things up with the farm's own values laid over the book, as the assessment of the plan does. */
export function useLibrary(): <T>(work: () => T) => T {
  const { plan } = useWorkspace();
  const { library } = plan.farm;
  return useCallback(<T>(work: () => T): T => withLibrary(library, work), [library]);
}
