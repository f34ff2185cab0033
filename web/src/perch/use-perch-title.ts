import { useCallback } from 'react';
import { useMade } from '../state/index.ts';
import type { PaneControls } from './pane-controls.ts';
import { watchTitle } from './pane-desk.ts';

/** What the pane in front is called. */
export function usePerchTitle(controls: PaneControls): string {
  const { open } = controls;
  const watchIt = useCallback((listener: () => void) => watchTitle(open, listener), [open]);
  return useMade(watchIt, () => ({ title: open.title() })).title;
}
