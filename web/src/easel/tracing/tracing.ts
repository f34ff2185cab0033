import { pixelsOfSheet } from '@miradero/core/easel';
import type { Rectangle } from '@miradero/core/geometry';
import type { Desk } from '../../desk/index.ts';
import { openHolder } from '../../perch/index.ts';
import { createStore } from '../../state/index.ts';
import { sheetOf } from '../sheet-of.ts';
import type { Capture } from './capture.ts';
import { pixelsOf } from './capture.ts';
import { TrackerLink } from './tracker-link.ts';

/** A captured window with what stands on a sheet laid over it. */
export interface Tracing {
  readonly desk: Desk;
  readonly capture: Capture;
  readonly tracker: TrackerLink;
  /** Where the sheet lay when it was laid over, pixels of the capture. */
  readonly rectangle: Rectangle;
  readonly holder: HTMLElement;
  readonly window: Window;
  close(): void;
}

const SIZE = { width: 520, height: 420 } as const;

/** What is laid over a window right now; one at a time. */
export const tracing = createStore<{ readonly now: Tracing | undefined }>(() => ({ now: undefined }));

/** Width of a sheet by its height. */
export function aspectOf(desk: Desk): number {
  const sheet = sheetOf(desk);
  if (!sheet) return 1;
  const { trimmed } = pixelsOfSheet(sheet.setup);
  return trimmed.width / trimmed.height;
}

/** Opens the window; called in a press. @throws Error where the browser blocks it */
export async function layOver(desk: Desk, capture: Capture, rectangle: Rectangle): Promise<void> {
  tracing.getState().now?.close();
  const tracker = new TrackerLink();
  const opened = await openHolder('Tracing paper', SIZE, () => {
    if (tracing.getState().now?.window === opened.window) tracing.setState({ now: undefined });
    capture.stop();
    tracker.close();
  });
  const { last } = capture;
  if (last) await tracker.ask({ kind: 'begin', pixels: pixelsOf(last), aspect: aspectOf(desk), rectangle });
  const { holder, window } = opened;
  tracing.setState({
    now: { desk, capture, tracker, rectangle, holder, window, close: () => opened.close() },
  });
}
