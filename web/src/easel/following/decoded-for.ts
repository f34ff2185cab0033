import { pixelsOfSheet } from '@miradero/core/easel';
import { isPlacement } from '@miradero/core/items';
import { sufficientSide } from '@miradero/core/picture';
import type { Desk } from '../../desk/index.ts';
import { ORIGINAL, type PixelSource, pixelPool, sidesOf } from '../../pixels/index.ts';
import type { DecodedPicture } from '../../stage/index.ts';
import { sheetOf } from '../sheet-of.ts';

interface Shape {
  readonly type: string;
  readonly width: number;
  readonly height: number;
}

/** Longest side of the whole picture as it is seen on the board, or will be, device pixels. */
function sideSeen({ session, view }: Desk, drawing: string, { width, height }: Shape, sheet: number): number {
  const standing = session.standing.filter(isPlacement).find((one) => one.drawing === drawing);
  const across = standing ? standing.width / standing.trim.width : (sheet * width) / Math.max(width, height);
  const longest = across * Math.max(1, height / width);
  return longest * (view?.camera.scale ?? 1) * window.devicePixelRatio;
}

/**
 * A saved picture decoded in the size in which it is seen on the board.
 *
 * @returns undefined for what no browser decodes @throws PixelError where it is not whole
 */
export async function decodedFor(
  desk: Desk,
  drawing: string,
  file: Blob,
  shape: Shape,
): Promise<DecodedPicture | undefined> {
  if (shape.type === 'image/tiff') return undefined;
  const { width, height } = shape;
  const source: PixelSource = {
    ...{ id: drawing, width, height, levels: [], file, wholePath: null, hasTiles: false, exact: null },
    space: 'srgb',
  };
  const sheet = sheetOf(desk);
  const longest = sheet ? Math.max(...Object.values(pixelsOfSheet(sheet.setup).trimmed)) : 0;
  const sides = sidesOf(source);
  const seenAt = sufficientSide(sides, sideSeen(desk, drawing, shape, longest))!;
  // To be made smaller takes half as long as to be decoded: what can be had whole is seen like that first.
  const side = sides.includes(ORIGINAL) ? ORIGINAL : seenAt;
  return { side, seenAt, bitmap: await pixelPool().ask('level', { source, side }) };
}
