import type { Desk } from '../desk/index.ts';
import type { StageView } from '../stage/index.ts';
import type { EdgePan } from './edge-pan.ts';
import type { Marks } from './overlay.ts';

/** What a drag needs to know of the hand that does it. */
export interface HandSeat {
  readonly desk: Desk;
  readonly view: StageView;
  readonly edgePan: EdgePan;
  /** Shows what the drag is marking right now; nothing clears it. */
  mark(marks: Partial<Marks>): void;
}
