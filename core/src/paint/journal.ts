import { crc32 } from '../formats/index.ts';
import type { Rectangle } from '../geometry/index.ts';
import type { LayerFacts } from './layers.ts';

/**
 * How a sheet is kept while it is painted: a file to which is only added. Packed tiles come first, then a state that names them:
 * what was being written when everything ended is left out, and the last whole state is what stood on the sheet.
 *
 * A record: magic, kind, length of what follows, the CRC-32 of all that but the magic; each 32 bits, little endian. A tile begins with its number.
 */
const MAGIC = 0x4d_72_64_31;
const HEAD_BYTES = 16;
const KINDS = { tile: 1, state: 2 } as const;

/** A tile of a layer before and after, by the numbers under which they were kept; 0: nothing. */
export type KeptChange = readonly [layer: string, key: number, before: number, after: number];

export interface KeptStep {
  readonly tiles: readonly KeptChange[];
  readonly layers?: { readonly before: readonly LayerFacts[]; readonly after: readonly LayerFacts[] };
}

/** What a sheet was like at a moment. */
export interface KeptSheet {
  /** Pixels. */
  readonly width: number;
  readonly height: number;
  readonly ppi: number;
  readonly frame: Rectangle;
  /** Of what it is a study: a picture, and the part of it in parts of its sides. */
  readonly reference: { readonly picture: string; readonly part: Rectangle } | null;
  readonly layers: readonly LayerFacts[];
  /** Numbers of tiles by layer: key, then number. */
  readonly tiles: Readonly<Record<string, readonly (readonly [key: number, tile: number])[]>>;
  readonly done: readonly KeptStep[];
  readonly undone: readonly KeptStep[];
  /** Grows with everything that is done. */
  readonly change: number;
  /** The version that was made of it last, and whether it was altered since. */
  readonly version: string | null;
  readonly isAltered: boolean;
}

function record(kind: number, content: Uint8Array): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(HEAD_BYTES + content.length);
  const view = new DataView(bytes.buffer);
  for (const [at, value] of [MAGIC, kind, content.length].entries()) view.setUint32(at * 4, value, true);
  view.setUint32(12, crc32(content, crc32(bytes.subarray(4, 12))), true);
  bytes.set(content, HEAD_BYTES);
  return bytes;
}

/** @param tile - its number, from 1 @param packed - its pixels, however they were packed */
export function tileRecord(tile: number, packed: Uint8Array): Uint8Array<ArrayBuffer> {
  const content = new Uint8Array(4 + packed.length);
  new DataView(content.buffer).setUint32(0, tile, true);
  content.set(packed, 4);
  return record(KINDS.tile, content);
}

export const stateRecord = (state: KeptSheet): Uint8Array<ArrayBuffer> =>
  record(KINDS.state, new TextEncoder().encode(JSON.stringify(state)));

export interface ReadJournal {
  /** The last whole one. */
  readonly state: KeptSheet;
  /** Packed pixels by number: those that the state names, and others. */
  readonly tiles: ReadonlyMap<number, Uint8Array>;
  /** Where the state ends: what follows is not whole. */
  readonly end: number;
}

/** Every number of a tile that a state names. */
export function tilesOfState({ tiles, done, undone }: KeptSheet): Set<number> {
  const numbers = new Set(Object.values(tiles).flatMap((kept) => kept.map(([, tile]) => tile)));
  for (const step of [...done, ...undone])
    for (const [, , before, after] of step.tiles) for (const tile of [before, after]) numbers.add(tile);
  numbers.delete(0);
  return numbers;
}

/** Reads as far as records are whole. @returns undefined where no state is, or one of its tiles is missing */
export function readJournal(bytes: Uint8Array): ReadJournal | undefined {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const tiles = new Map<number, Uint8Array>();
  let last: { state: KeptSheet; end: number } | undefined;
  for (let at = 0; at + HEAD_BYTES <= bytes.length; ) {
    const [magic, kind, length, crc] = [0, 4, 8, 12].map((part) => view.getUint32(at + part, true));
    const from = at + HEAD_BYTES;
    if (magic !== MAGIC || from + length! > bytes.length) break;
    const content = bytes.subarray(from, from + length!);
    if (crc32(content, crc32(bytes.subarray(at + 4, at + 12))) !== crc) break;
    at = from + length!;
    if (kind === KINDS.tile) tiles.set(view.getUint32(from, true), content.subarray(4));
    else last = { state: JSON.parse(new TextDecoder().decode(content)) as KeptSheet, end: at };
  }
  if (!last || [...tilesOfState(last.state)].some((tile) => !tiles.has(tile))) return undefined;
  return { ...last, tiles };
}
