import { pixelsOfSheet, type Size, type Straightened } from '@miradero/core/easel';
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
  /** How what is captured is turned upright, and where the sheet lay there when it was laid over. */
  readonly upright: Straightened;
  readonly holder: HTMLElement;
  readonly window: Window;
  close(): void;
}

const SIZE = { width: 520, height: 420 } as const;

/** What is laid over a window right now; one at a time. */
export const tracing = createStore<{ readonly now: Tracing | undefined }>(() => ({ now: undefined }));

/** Trimmed pixels of a board's sheet. */
export function sizeOf(desk: Desk): Size {
  const sheet = sheetOf(desk);
  return sheet ? pixelsOfSheet(sheet.setup).trimmed : { width: 1, height: 1 };
}

/** Width of a sheet by its height. */
export function aspectOf(desk: Desk): number {
  const { width, height } = sizeOf(desk);
  return width / height;
}

/** Opens the window; called in a press. @throws Error where the browser blocks it */
export async function layOver(desk: Desk, capture: Capture, upright: Straightened): Promise<void> {
  tracing.getState().now?.close();
  const tracker = new TrackerLink();
  const opened = await openHolder('Tracing paper', SIZE, () => {
    if (tracing.getState().now?.window === opened.window) tracing.setState({ now: undefined });
    capture.stop();
    tracker.close();
  });
  const { last } = capture;
  const { rectangle } = upright;
  if (last)
    await tracker.ask({
      ...{ kind: 'begin', pixels: pixelsOf(last, upright), aspect: aspectOf(desk), rectangle },
    });
  const { holder, window } = opened;
  tracing.setState({
    now: { desk, capture, tracker, upright, holder, window, close: () => opened.close() },
  });
}
