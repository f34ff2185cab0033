import { type Rgb, rgbOfHex } from '@miradero/core/colour';
import { applyAffine, invertAffine, type Point } from '@miradero/core/geometry';
import { isPlacement, type Placement, pictureToBoard } from '@miradero/core/items';
import { type Desk, sourcesOf } from '../desk/index.ts';
import { type AreaRead, ORIGINAL, PixelError, pixelPool, type ReadPart } from '../pixels/index.ts';
import type { StageView } from '../stage/index.ts';
import { ask } from '../sync/index.ts';

/** A colour that was read. */
export interface Reading {
  readonly colour: Rgb;
  /** Root mean square ΔE00 within what was read; undefined for a colour from somewhere on the screen. */
  readonly spread: number | undefined;
  /** Pixels that were counted. */
  readonly count: number;
  /** Where; undefined: somewhere on the screen. */
  readonly of: ReadOf | undefined;
  /**
   * `exact`: of the file's own pixels. `soon`: of a smaller copy, the exact one follows. `awaited`: of what the browser
   * decodes, while the server makes the exact pixels ready. `about`: of that, and there is nothing better.
   */
  readonly exactness: 'exact' | 'soon' | 'awaited' | 'about';
  /** The pixels around, to be looked at. */
  readonly seen: AreaRead | undefined;
}

/** A part of a placed picture. */
export interface ReadOf {
  readonly placement: string;
  readonly picture: string;
  readonly name: string;
  /** Fractions 0..1 of the picture: the point, or the middle of what was drawn around. */
  readonly at: Point;
  readonly outline: readonly Point[] | undefined;
  /** Pixels of the original. */
  readonly size: { readonly width: number; readonly height: number };
}

/** A level that is here soon, to be told at once. */
const SOON_SIDE = 512;

/** Pictures of which exact pixels were asked for by this page. */
const asked = new Set<string>();

/** Has the exact pixels of a picture made ready; it is told when they are, as of anything new about it. */
function haveExact(picture: string): void {
  if (asked.has(picture)) return;
  asked.add(picture);
  // The server is away: it is asked again by the next reading.
  ask('POST /api/pictures/:id/exact', { parameters: { id: picture } }).catch(() => asked.delete(picture));
}

/** Why there is no reading, in words for the person. */
export class NotRead extends Error {}

const isWithin = ({ x, y }: Point): boolean => x >= 0 && y >= 0 && x < 1 && y < 1;

/** The picture under a point, and where of it that is; whatever it is seen through, trimmed, turned or flipped. */
export function pictureAt(
  view: StageView,
  pointPx: Point,
): { readonly placement: Placement; readonly at: Point } | undefined {
  const item = view.itemAt(pointPx);
  if (!item || !isPlacement(item)) return undefined;
  const at = onPicture(item, view.toBoard(pointPx));
  return isWithin(at) ? { placement: item, at } : undefined;
}

/** A point of the board as fractions of a placed picture. */
export const onPicture = (placement: Placement, pointBoard: Point): Point =>
  applyAffine(invertAffine(pictureToBoard(placement)), pointBoard);

function readingOf(
  desk: Desk,
  placement: Placement,
  read: ReadPart,
  seen: AreaRead,
  exactness: Reading['exactness'],
): Reading {
  const outline = 'outline' in read ? read.outline : undefined;
  const at = 'at' in read ? read.at : middleOf(read.outline);
  const { pictureWidth: width, pictureHeight: height } = placement;
  return {
    ...{ colour: seen.mean, spread: seen.spread, count: seen.count, exactness, seen },
    of: {
      ...{ placement: placement.id, picture: placement.picture, at, outline, size: { width, height } },
      name: desk.sync.shelf.get(placement.picture)?.name ?? '',
    },
  };
}

const middleOf = (points: readonly Point[]): Point => ({
  x: points.reduce((sum, { x }) => sum + x, 0) / points.length,
  y: points.reduce((sum, { y }) => sum + y, 0) / points.length,
});

/**
 * Reads a part of a placed picture: soon from a small copy, then exactly.
 *
 * @param onSoon - told what a small copy says, where that comes first
 * @throws NotRead with why there is none
 */
export async function readPart(
  desk: Desk,
  placement: Placement,
  read: ReadPart,
  { onSoon, signal }: { onSoon?: (reading: Reading) => void; signal?: AbortSignal } = {},
): Promise<Reading> {
  const source = sourcesOf(desk.sync.shelf).source(placement.picture);
  if (!source) throw new NotRead('This picture is not here yet.');
  const readAt = (side: number) =>
    pixelPool().ask('area', { source, read, side }, { ...(signal && { signal }) });
  let isDone = false;
  if (onSoon)
    readAt(SOON_SIDE)
      .then((seen) => {
        if (!isDone) onSoon(readingOf(desk, placement, read, seen, 'soon'));
      })
      // The exact one says what is wrong.
      .catch(() => {});
  try {
    const seen = await readAt(ORIGINAL);
    const exactness = seen.isExact ? 'exact' : source.exact === null ? 'awaited' : 'about';
    if (exactness === 'awaited') haveExact(source.id);
    return readingOf(desk, placement, read, seen, exactness);
  } catch (error) {
    if (!(error instanceof PixelError)) throw error;
    throw new NotRead(
      error.trouble === 'unreachable'
        ? 'The pixels of this picture do not come: the server is away.'
        : error.trouble === 'absent'
          ? 'There is nothing opaque to read there.'
          : 'The pixels of this picture cannot be read.',
    );
  } finally {
    isDone = true;
  }
}

interface ScreenReader {
  open(): Promise<{ sRGBHex: string }>;
}
type WithReader = Window & { readonly EyeDropper?: new () => ScreenReader };

/** Whether the browser reads a colour from anywhere on the screen. */
export const canReadScreen = (window: Window): boolean => (window as WithReader).EyeDropper !== undefined;

/** Whether the browser hands out a picture of a screen, a window or a tab. */
export const canGrabScreen = ({ mediaDevices }: Navigator): boolean =>
  (mediaDevices as Partial<MediaDevices> | undefined)?.getDisplayMedia !== undefined;

/** @returns undefined when the person left it, or the browser has no such thing */
export async function readScreen(window: Window): Promise<Reading | undefined> {
  const { EyeDropper } = window as WithReader;
  if (!EyeDropper) return undefined;
  try {
    const { sRGBHex } = await new EyeDropper().open();
    const colour = rgbOfHex(sRGBHex);
    return {
      colour,
      spread: undefined,
      count: 1,
      of: undefined,
      exactness: 'exact',
      seen: undefined,
    };
  } catch {
    return undefined;
  }
}

/** Writes to the clipboard of a window. @returns false where that is not allowed */
export async function copyText(window: Window, text: string): Promise<boolean> {
  try {
    await window.navigator.clipboard.writeText(text);
    return true;
  } catch {
    // Without the keyboard a window may not write there.
    return false;
  }
}
