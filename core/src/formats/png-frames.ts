import type { Motion } from './motion.ts';

/**
 * Frames and duration of an animated PNG; undefined for one that stands still. A delay of no time counts as the
 * shortest that is shown, 10 ms.
 * Source: PNG (W3C, third edition), 11.3.6 (acTL, fcTL).
 */
export function motionOfPng(bytes: Uint8Array): Motion | undefined {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let frames = 0;
  let durationMs = 0;
  for (let at = 8; at + 12 <= bytes.length; ) {
    const length = view.getUint32(at);
    const type = String.fromCharCode(...bytes.subarray(at + 4, at + 8));
    const from = at + 8;
    if (from + length > bytes.length) break;
    if (type === 'acTL') frames = view.getUint32(from);
    // The picture itself has begun: what was not announced by now does not move.
    if (type === 'IDAT' && frames === 0) return undefined;
    if (type === 'fcTL' && length >= 26) {
      const parts = view.getUint16(from + 22) || 100;
      durationMs += Math.max(10, (view.getUint16(from + 20) * 1000) / parts);
    }
    at = from + length + 4;
  }
  return frames > 1 ? { frames, durationMs: Math.round(durationMs) } : undefined;
}
