'use client';

import { useSyncExternalStore } from 'react';

const never = () => () => undefined;
/**
 * False until React has taken over the page. Boxes stay shut until then, so that nothing is typed
 * into a page that does not listen yet.
 */
export const useHydrated = (): boolean =>
  useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
