'use client';

import { useLayoutEffect, useState, type ReactNode } from 'react';
import { createStore } from 'zustand';
import { WorkspaceContext, type WorkspaceState } from './context';
import { shared } from './share';

/**
 * The workspace for all parts below. A part hears only of changes of what it looks at: every edit
 * assesses the whole plan anew, and most of it says the same as before.
 */
export function WorkspaceProvider({
  value,
  children,
}: {
  value: WorkspaceState;
  children: ReactNode;
}) {
  const [store] = useState(() => createStore<WorkspaceState>(() => value));
  useLayoutEffect(() => {
    store.setState(shared(store.getState(), value), true);
  }, [store, value]);
  return <WorkspaceContext value={store}>{children}</WorkspaceContext>;
}
