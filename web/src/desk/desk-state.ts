import type { Rectangle } from '@miradero/core/geometry';

/** A picture on its way in: its shape and name stand already. */
export interface Arrival {
  readonly key: string;
  readonly name: string;
  readonly place: Rectangle;
}
