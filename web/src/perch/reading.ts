import { applyAffine, invertAffine, type Point } from '@miradero/core/geometry';
import { isPlacement, pictureToBoard } from '@miradero/core/items';
import { whyOf } from '@miradero/core/text';
import { type Desk, sourcesOf } from '../desk/index.ts';
import { ORIGINAL, PixelError, pixelPool } from '../pixels/index.ts';
import type { StageView } from '../stage/index.ts';

/** The colour of one pixel of an original, sRGB, as it is written. */
export interface ColourRead {
  readonly hex: string;
  /** Where it was read, CSS pixels of the view; undefined: from somewhere on the screen. */
  readonly at: Point | undefined;
  readonly isCopied: boolean;
}

const hexOf = (colour: readonly number[]) =>
  `#${colour.map((value) => Math.round(value).toString(16).padStart(2, '0')).join('')}`;

async function copied(window: Window, text: string): Promise<boolean> {
  try {
    await window.navigator.clipboard.writeText(text);
    return true;
  } catch {
    // Without the keyboard a window may not write there.
    return false;
  }
}

/**
 * Reads the colour of the original's pixel under a point of a view, whatever lens, trim, turn or fade it is seen through, and
 * copies it.
 *
 * @returns what was read, or why nothing was, in words
 */
export async function readColour(
  desk: Desk,
  view: StageView,
  pointPx: Point,
  window: Window,
): Promise<ColourRead | string> {
  const item = view.itemAt(pointPx);
  if (!item || !isPlacement(item)) return 'There is no picture under the pointer.';
  const source = sourcesOf(desk.sync.shelf).source(item.picture);
  if (!source) return 'This picture is not here yet.';
  const at = applyAffine(invertAffine(pictureToBoard(item)), view.toBoard(pointPx));
  try {
    const colour = await pixelPool().ask('colour', { source, at, side: ORIGINAL });
    const hex = hexOf(colour);
    return { hex, at: pointPx, isCopied: await copied(window, hex) };
  } catch (error) {
    return error instanceof PixelError
      ? 'The pixels of this picture cannot be read.'
      : `The colour cannot be read: ${whyOf(error)}`;
  }
}

interface ScreenReader {
  open(): Promise<{ sRGBHex: string }>;
}
type WithReader = Window & { readonly EyeDropper?: new () => ScreenReader };

/** Whether the browser reads a colour from anywhere on the screen. */
export const canReadScreen = (window: Window): boolean => (window as WithReader).EyeDropper !== undefined;

/** @returns undefined when the person left it */
export async function readScreen(window: Window): Promise<ColourRead | undefined> {
  const { EyeDropper } = window as WithReader;
  if (!EyeDropper) return undefined;
  try {
    const { sRGBHex } = await new EyeDropper().open();
    return { hex: sRGBHex, at: undefined, isCopied: await copied(window, sRGBHex) };
  } catch {
    return undefined;
  }
}
