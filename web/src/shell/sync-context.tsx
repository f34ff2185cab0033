import { createContext, type ReactNode, useContext } from 'react';
import { useStore } from '../state/index.ts';
import type { SavedReport, Sync } from '../sync/index.ts';

const SyncContext = createContext<Sync | undefined>(undefined);

export function SyncProvider({ sync, children }: { sync: Sync; children: ReactNode }) {
  return <SyncContext value={sync}>{children}</SyncContext>;
}

export function useSync(): Sync {
  const sync = useContext(SyncContext);
  if (!sync) throw new Error('useSync outside of SyncProvider');
  return sync;
}

/** Where the work is, as it changes. */
export function useSaved(): SavedReport {
  const { saved } = useSync();
  return useStore(saved.store);
}
