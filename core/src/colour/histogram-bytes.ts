import type { ColourHistogram } from './histogram.ts';

/** Bytes of a cell: OKLab l, a, b as 1/16384 (16 bits, signed), weight as a float; little-endian. */
const CELL_BYTES = 10;
const FINE = 16_384;

/** A histogram as few bytes, to be kept. */
export function bytesOfHistogram({ cells }: ColourHistogram): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array((cells.length / 4) * CELL_BYTES);
  const view = new DataView(bytes.buffer);
  for (let at = 0, to = 0; at < cells.length; at += 4, to += CELL_BYTES) {
    for (let axis = 0; axis < 3; axis += 1)
      view.setInt16(to + 2 * axis, Math.round(cells[at + axis]! * FINE), true);
    view.setFloat32(to + 6, cells[at + 3]!, true);
  }
  return bytes;
}

/** What `bytesOfHistogram` wrote. @throws RangeError for what it cannot have written */
export function histogramOfBytes(bytes: Uint8Array): ColourHistogram {
  if (bytes.length % CELL_BYTES !== 0) throw new RangeError(`${bytes.length} bytes are no histogram`);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const cells = new Float64Array((bytes.length / CELL_BYTES) * 4);
  let total = 0;
  for (let at = 0, from = 0; at < cells.length; at += 4, from += CELL_BYTES) {
    for (let axis = 0; axis < 3; axis += 1) cells[at + axis] = view.getInt16(from + 2 * axis, true) / FINE;
    cells[at + 3] = view.getFloat32(from + 6, true);
    total += cells[at + 3]!;
  }
  return { cells, total };
}
