import { findSheet, SheetTracker } from '@miradero/core/easel';
import type { Rectangle } from '@miradero/core/geometry';

/** `find`: where a sheet lies. `begin`: it lies there, and is followed from now on. `see`: where it lies now. */
export type ToTracker =
  | { readonly kind: 'find'; readonly pixels: ImageData; readonly aspect: number }
  | {
      readonly kind: 'begin';
      readonly pixels: ImageData;
      readonly aspect: number;
      readonly rectangle: Rectangle;
    }
  | { readonly kind: 'see'; readonly pixels: ImageData };

/** Where it lies, pixels of the capture; null where it cannot be told. */
export type FromTracker = { readonly rectangle: Rectangle | null };

let tracker: SheetTracker | undefined;

self.onmessage = ({ data }: MessageEvent<ToTracker>) => {
  let rectangle: Rectangle | undefined;
  if (data.kind === 'find') rectangle = findSheet(data.pixels, data.aspect)?.rectangle;
  if (data.kind === 'begin') {
    tracker = new SheetTracker(data.pixels, data.rectangle, data.aspect);
    rectangle = data.rectangle;
  }
  if (data.kind === 'see') rectangle = tracker?.see(data.pixels);
  self.postMessage({ rectangle: rectangle ?? null } satisfies FromTracker);
};
