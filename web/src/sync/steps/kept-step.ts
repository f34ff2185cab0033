import type { Step } from './act.ts';

export type Side = 'undo' | 'redo';

/** One step as the browser keeps it, for one window. */
export interface KeptStep {
  window: string;
  /** Grows with every step that is kept. */
  number: number;
  side: Side;
  step: Step;
  keptAt: number;
}
