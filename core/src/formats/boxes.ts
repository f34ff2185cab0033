/** One box of the ISO base media file format: its content lies at `from ..< to` of the file. */
export interface Box {
  readonly type: string;
  readonly from: number;
  readonly to: number;
}

const MOST_BOXES = 100_000;

/**
 * Boxes that lie side by side in `bytes[from ..< to]`; stops quietly where one claims more than there is.
 * Source: ISO/IEC 14496-12, 4.2 (size 0: to the end; size 1: 64 bits follow).
 */
export function* boxesIn(view: DataView, from = 0, to = view.byteLength): Generator<Box> {
  let at = from;
  for (let count = 0; at + 8 <= to && count < MOST_BOXES; count += 1) {
    const type = String.fromCharCode(...[4, 5, 6, 7].map((index) => view.getUint8(at + index)));
    const given = view.getUint32(at);
    const isLong = given === 1 && at + 16 <= to;
    const head = isLong ? 16 : 8;
    const size = isLong ? Number(view.getBigUint64(at + 8)) : given === 0 ? to - at : given;
    if (size < head || at + size > to) return;
    yield { type, from: at + head, to: at + size };
    at += size;
  }
}

/** The first box at the end of a path such as `['moov', 'mvhd']`. */
export function boxAt(view: DataView, path: readonly string[], within?: Box): Box | undefined {
  let found: Box | undefined = within;
  for (const type of path) {
    found = [...boxesIn(view, found?.from ?? 0, found?.to ?? view.byteLength)].find(
      (box) => box.type === type,
    );
    if (!found) return undefined;
  }
  return found;
}
