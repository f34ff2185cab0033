import { motionOfWebm } from './ebml.ts';
import { motionOfTracks } from './media-tracks.ts';
import type { Motion } from './motion.ts';
import { motionOfPng } from './png-frames.ts';

/** Motion of the kinds that are read here byte for byte; undefined for what stands still or is damaged. */
export function motionOfBytes(bytes: Uint8Array, type: string): Motion | undefined {
  if (type === 'image/png') return motionOfPng(bytes);
  if (type === 'video/webm') return motionOfWebm(bytes);
  return type === 'video/mp4' || type === 'image/avif' ? motionOfTracks(bytes) : undefined;
}
