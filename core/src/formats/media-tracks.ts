import { type Box, boxAt, boxesIn } from './boxes.ts';
import type { Motion } from './motion.ts';

const typeAt = (view: DataView, at: number): string =>
  String.fromCharCode(...[0, 1, 2, 3].map((index) => view.getUint8(at + index)));

/** Time scale and duration of `mvhd` or `mdhd`, seconds; null where it is not known. */
function durationIn(view: DataView, box: Box): number | null {
  const isLong = view.getUint8(box.from) === 1;
  const scale = view.getUint32(box.from + (isLong ? 20 : 12));
  const duration = isLong ? Number(view.getBigUint64(box.from + 24)) : view.getUint32(box.from + 16);
  const isUnknown = scale === 0 || duration === 0 || duration >= 0xffffffff;
  return isUnknown ? null : duration / scale;
}

/** Shown size of a track header: 16.16 fixed, its sides changed where the matrix turns it by a quarter. */
function sizeIn(view: DataView, box: Box): { width: number; height: number } {
  const matrix = box.from + (view.getUint8(box.from) === 1 ? 52 : 40);
  const width = Math.round(view.getUint32(matrix + 36) / 65_536);
  const height = Math.round(view.getUint32(matrix + 40) / 65_536);
  const isTurned = view.getInt32(matrix) === 0 && view.getInt32(matrix + 4) !== 0;
  return isTurned ? { width: height, height: width } : { width, height };
}

/**
 * Size, number of frames and duration of the first moving track of an ISO media file: an MP4's `vide`, an AVIF
 * sequence's `pict`. Undefined where there is none, or where the file ends before its description.
 * Source: ISO/IEC 14496-12, 8.2.2 (mvhd), 8.3.2 (tkhd), 8.4.2 (mdhd), 8.7.3 (stsz); AVIF 1.1, 3.
 */
export function motionOfTracks(bytes: Uint8Array): Motion | undefined {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  try {
    const movie = boxAt(view, ['moov']);
    if (!movie) return undefined;
    for (const track of boxesIn(view, movie.from, movie.to)) {
      if (track.type !== 'trak') continue;
      const handler = boxAt(view, ['mdia', 'hdlr'], track);
      const header = boxAt(view, ['tkhd'], track);
      if (!handler || !header || !['vide', 'pict'].includes(typeAt(view, handler.from + 8))) continue;
      const sizes = boxAt(view, ['mdia', 'minf', 'stbl', 'stsz'], track);
      const time = boxAt(view, ['mdia', 'mdhd'], track) ?? boxAt(view, ['mvhd'], movie);
      const seconds = time ? durationIn(view, time) : null;
      return {
        ...sizeIn(view, header),
        frames: sizes ? Math.max(1, view.getUint32(sizes.from + 8)) : 1,
        durationMs: seconds === null ? null : Math.round(seconds * 1000),
      };
    }
    return undefined;
  } catch (error) {
    if (error instanceof RangeError) return undefined;
    throw error;
  }
}
