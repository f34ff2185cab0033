import { useStore } from '../state/index.ts';
import { useSync } from './sync-context.tsx';

/** How far a long job on something is, in words ("43 % made"); undefined when there is none. */
export function useJobProgress(of: string): string | undefined {
  const share = useStore(useSync().jobs, (jobs) => jobs.get(of));
  return share === undefined ? undefined : `${Math.floor(share * 100)}\u2009% made`;
}
