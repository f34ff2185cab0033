import type { Motion } from './motion.ts';

/** Elements that are entered, and those that are read. Source: RFC 8794 (EBML), RFC 9559 (Matroska), section 5.1. */
const SEGMENT = 0x18538067;
const SEGMENT_FACTS = 0x1549a966;
const TRACKS = 0x1654ae6b;
const TRACK = 0xae;
const VIDEO = 0xe0;
const ENTERED = new Set([SEGMENT, SEGMENT_FACTS, TRACKS, TRACK, VIDEO]);
const CLUSTER = 0x1f43b675;
const TIME_SCALE = 0x2ad7b1;
const DURATION = 0x4489;
const PIXEL_WIDTH = 0xb0;
const PIXEL_HEIGHT = 0xba;
const FRAME_DURATION = 0x23e383;
const HEADER = 0x1a45dfa3;

/** A number of variable length at `at`: its value and how many bytes it takes. Source: RFC 8794, 4. */
function readNumber(view: DataView, at: number, keepsMarker: boolean): { value: number; length: number } {
  const first = view.getUint8(at);
  const length = Math.clz32(first) - 23;
  if (length > 8) throw new RangeError('a number longer than eight bytes');
  let value = keepsMarker ? first : first & (0xff >> length);
  let isUnknown = value === 0xff >> length;
  for (let index = 1; index < length; index += 1) {
    const byte = view.getUint8(at + index);
    isUnknown &&= byte === 0xff;
    value = value * 256 + byte;
  }
  return { value: isUnknown && !keepsMarker ? Number.POSITIVE_INFINITY : value, length };
}

function unsigned(view: DataView, from: number, to: number): number {
  let value = 0;
  for (let at = from; at < to; at += 1) value = value * 256 + view.getUint8(at);
  return value;
}

/** Every read element before the first cluster, by its id; the first of each counts. */
function readHead(view: DataView): Map<number, { from: number; to: number }> {
  const found = new Map<number, { from: number; to: number }>();
  let at = 0;
  while (at < view.byteLength) {
    const id = readNumber(view, at, true);
    if (id.value === CLUSTER) break;
    const size = readNumber(view, at + id.length, false);
    const from = at + id.length + size.length;
    const to = Math.min(view.byteLength, from + size.value);
    if (!found.has(id.value)) found.set(id.value, { from, to });
    at = ENTERED.has(id.value) || id.value === HEADER ? from : to;
  }
  return found;
}

/** Size, duration and (about) the number of frames of a WebM file; undefined where its head does not say its size. */
export function motionOfWebm(bytes: Uint8Array): Motion | undefined {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  try {
    const found = readHead(view);
    const number = (id: number): number | undefined => {
      const place = found.get(id);
      return place && unsigned(view, place.from, place.to);
    };
    const width = number(PIXEL_WIDTH);
    const height = number(PIXEL_HEIGHT);
    if (!width || !height) return undefined;
    const duration = found.get(DURATION);
    const ticks = duration
      ? duration.to - duration.from === 8
        ? view.getFloat64(duration.from)
        : view.getFloat32(duration.from)
      : Number.NaN;
    const durationMs = (ticks * (number(TIME_SCALE) ?? 1_000_000)) / 1_000_000;
    const frameNs = number(FRAME_DURATION);
    const isKnown = Number.isFinite(durationMs) && durationMs > 0;
    return {
      ...{ width, height, durationMs: isKnown ? Math.round(durationMs) : null },
      frames: isKnown && frameNs ? Math.max(1, Math.round((durationMs * 1_000_000) / frameNs)) : 1,
    };
  } catch (error) {
    if (error instanceof RangeError) return undefined;
    throw error;
  }
}
