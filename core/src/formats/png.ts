import { crc32 } from './crc.ts';

const SIGNATURE = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a] as const;
const MM_AN_INCH = 25.4;
/** Bytes a pixel: RGBA of 8 bits. */
const PIXEL_BYTES = 4;

/** A chunk of a PNG file. Source: PNG (W3C, third edition), 5.3. @param type - four letters */
export function pngChunk(type: string, content: Uint8Array): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(12 + content.length);
  const view = new DataView(bytes.buffer);
  view.setUint32(0, content.length);
  for (let at = 0; at < 4; at += 1) bytes[4 + at] = type.charCodeAt(at);
  bytes.set(content, 8);
  view.setUint32(8 + content.length, crc32(bytes.subarray(4, 8 + content.length)));
  return bytes;
}

/**
 * What stands in a PNG file before its pixels: RGBA of 8 bits, straight alpha, sRGB, with its resolution.
 * Source: PNG (W3C, third edition), 11.2.1 (IHDR), 11.3.2.5 (sRGB), 11.3.4.3 (pHYs).
 *
 * @param size - pixels
 * @param ppi - pixels an inch
 */
export function pngHead(
  { width, height }: { readonly width: number; readonly height: number },
  ppi: number,
): Uint8Array<ArrayBuffer>[] {
  const header = new Uint8Array(13);
  const view = new DataView(header.buffer);
  view.setUint32(0, width);
  view.setUint32(4, height);
  header.set([8, 6, 0, 0, 0], 8);
  const physical = new Uint8Array(9);
  const perMetre = Math.round((ppi * 1_000) / MM_AN_INCH);
  const physicalView = new DataView(physical.buffer);
  physicalView.setUint32(0, perMetre);
  physicalView.setUint32(4, perMetre);
  physical[8] = 1;
  return [
    Uint8Array.from(SIGNATURE),
    pngChunk('IHDR', header),
    pngChunk('sRGB', new Uint8Array([0])),
    pngChunk('pHYs', physical),
  ];
}

export const pngEnd = (): Uint8Array<ArrayBuffer> => pngChunk('IEND', new Uint8Array(0));

/**
 * Rows as they are packed: each begins with the number of its filter, here *up*: what is even becomes zeros.
 * Source: PNG (W3C, third edition), 9.2.
 *
 * @param rows - RGBA, row-major, any number of whole rows
 * @param width - pixels
 * @param above - the row that lies above the first; undefined for the uppermost
 */
export function filteredRows(
  rows: Uint8Array | Uint8ClampedArray,
  width: number,
  above: Uint8Array | Uint8ClampedArray | undefined,
): Uint8Array<ArrayBuffer> {
  const bytes = width * PIXEL_BYTES;
  const count = rows.length / bytes;
  const out = new Uint8Array(count * (bytes + 1));
  for (let row = 0; row < count; row += 1) {
    const [from, to] = [row * bytes, row * (bytes + 1)];
    out[to] = 2;
    for (let at = 0; at < bytes; at += 1) {
      const up = row > 0 ? rows[from + at - bytes]! : (above?.[at] ?? 0);
      out[to + 1 + at] = rows[from + at]! - up;
    }
  }
  return out;
}

/** What a PNG file of RGBA with 8 bits holds. */
export interface PngParts {
  /** Pixels. */
  readonly width: number;
  readonly height: number;
  /** Pixels an inch; undefined where it does not say. */
  readonly ppi: number | undefined;
  /** Its rows with their filters, packed by zlib. */
  readonly packed: Uint8Array<ArrayBuffer>;
}

/** Takes a PNG file apart. @returns undefined for any other kind than RGBA of 8 bits, not interlaced */
export function partsOfPng(bytes: Uint8Array): PngParts | undefined {
  if (!SIGNATURE.every((byte, at) => bytes[at] === byte)) return undefined;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let size: { width: number; height: number } | undefined;
  let ppi: number | undefined;
  const packed: Uint8Array[] = [];
  for (let at = SIGNATURE.length; at + 12 <= bytes.length; ) {
    const length = view.getUint32(at);
    const type = String.fromCharCode(...bytes.subarray(at + 4, at + 8));
    const from = at + 8;
    if (from + length + 4 > bytes.length) return undefined;
    if (type === 'IHDR') {
      if ([8, 6, 0, 0, 0].some((value, part) => bytes[from + 8 + part] !== value)) return undefined;
      size = { width: view.getUint32(from), height: view.getUint32(from + 4) };
    }
    if (type === 'pHYs' && bytes[from + 8] === 1) ppi = (view.getUint32(from) * MM_AN_INCH) / 1_000;
    if (type === 'IDAT') packed.push(bytes.subarray(from, from + length));
    at = from + length + 4;
  }
  if (!size || packed.length === 0) return undefined;
  const all = new Uint8Array(packed.reduce((sum, part) => sum + part.length, 0));
  let to = 0;
  for (const part of packed) {
    all.set(part, to);
    to += part.length;
  }
  return { ...size, ppi, packed: all };
}

/**
 * Pixels of rows that were unpacked. Source: PNG (W3C, third edition), 9.2 and 9.4 (Paeth).
 *
 * @param rows - each begins with the number of its filter
 * @param width - pixels
 * @returns RGBA, row-major, length 4·width·rows
 * @throws RangeError for a filter that does not exist
 */
export function unfilteredRows(rows: Uint8Array, width: number): Uint8ClampedArray<ArrayBuffer> {
  const bytes = width * PIXEL_BYTES;
  const count = Math.floor(rows.length / (bytes + 1));
  const out = new Uint8ClampedArray(count * bytes);
  for (let row = 0; row < count; row += 1) {
    const from = row * (bytes + 1) + 1;
    const to = row * bytes;
    const filter = rows[from - 1]!;
    if (filter > 4) throw new RangeError(`there is no filter ${filter}`);
    for (let at = 0; at < bytes; at += 1) {
      const left = at >= PIXEL_BYTES ? out[to + at - PIXEL_BYTES]! : 0;
      const up = row > 0 ? out[to + at - bytes]! : 0;
      const corner = row > 0 && at >= PIXEL_BYTES ? out[to + at - bytes - PIXEL_BYTES]! : 0;
      out[to + at] = (rows[from + at]! + predicted(filter, left, up, corner)) & 255;
    }
  }
  return out;
}

function predicted(filter: number, left: number, up: number, corner: number): number {
  if (filter === 0) return 0;
  if (filter === 1) return left;
  if (filter === 2) return up;
  if (filter === 3) return (left + up) >> 1;
  const guess = left + up - corner;
  const [toLeft, toUp, toCorner] = [Math.abs(guess - left), Math.abs(guess - up), Math.abs(guess - corner)];
  return toLeft <= toUp && toLeft <= toCorner ? left : toUp <= toCorner ? up : corner;
}
