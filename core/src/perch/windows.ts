import type { Rectangle } from '../geometry/index.ts';
import { fillWindow } from './fill.ts';

/** One screen, CSS pixels of the whole desktop. */
export interface ScreenOfDesktop {
  readonly label: string;
  /** What of it windows may cover. */
  readonly available: Rectangle;
  readonly isPrimary: boolean;
}

/** A set-up of screens by what tells it from others: windows go back to where they stood with the same screens. */
export const screensKey = (screens: readonly ScreenOfDesktop[]): string =>
  screens
    .map(({ available: { x, y, width, height }, isPrimary }) =>
      [width, height, x, y, isPrimary ? 'first' : ''].join(' ').trim(),
    )
    .sort()
    .join(' | ');

/** Most of a window lies on the screen that shows the largest part of it. */
function screenOf(window: Rectangle, screens: readonly ScreenOfDesktop[]): ScreenOfDesktop | undefined {
  const seen = ({ available }: ScreenOfDesktop) => {
    const across =
      Math.min(window.x + window.width, available.x + available.width) - Math.max(window.x, available.x);
    const down =
      Math.min(window.y + window.height, available.y + available.height) - Math.max(window.y, available.y);
    return across > 0 && down > 0 ? across * down : 0;
  };
  const best = [...screens].sort((a, b) => seen(b) - seen(a))[0];
  return best && seen(best) > 0 ? best : undefined;
}

/**
 * A window moved, and made smaller where it must be, so that it lies within one screen: the one it is on, else the first.
 *
 * @returns it, and whether it had to be brought back from a screen that is gone
 */
export function keptOnScreen(
  window: Rectangle,
  screens: readonly ScreenOfDesktop[],
): { readonly place: Rectangle; readonly isBroughtBack: boolean } {
  const on = screenOf(window, screens);
  const { available } = on ?? screens.find(({ isPrimary }) => isPrimary) ?? screens[0]!;
  const width = Math.min(window.width, available.width);
  const height = Math.min(window.height, available.height);
  const within = (at: number, length: number, from: number, room: number) =>
    Math.min(from + room - length, Math.max(from, at));
  return {
    isBroughtBack: on === undefined,
    place: {
      ...{ width, height },
      x: within(window.x, width, available.x, available.width),
      y: within(window.y, height, available.y, available.height),
    },
  };
}

/**
 * Arranges windows in a part of the screen, as large as they can be with the shapes they have; none runs off it.
 *
 * @param sizes - what they have now, CSS pixels
 * @param area - a part of the desktop, CSS pixels
 * @returns the place of each, whole pixels
 */
export function arrangeWindows(
  sizes: readonly { readonly width: number; readonly height: number }[],
  area: Rectangle,
  gapPx: number,
): Rectangle[] {
  const places = fillWindow(
    sizes.map(({ width, height }) => width / height),
    area,
    gapPx,
  );
  return places.map(({ x, y, width, height }) => {
    const left = Math.ceil(area.x + x - 1e-9);
    const top = Math.ceil(area.y + y - 1e-9);
    return {
      ...{ x: left, y: top },
      width: Math.max(1, Math.floor(area.x + x + width + 1e-9) - left),
      height: Math.max(1, Math.floor(area.y + y + height + 1e-9) - top),
    };
  });
}
