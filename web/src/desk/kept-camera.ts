import type { Camera } from '@miradero/core/geometry';
import { recall, remember } from '../state/index.ts';

const KEEP_AFTER_MS = 150;

const keyOf = (surface: string, board: string) => `miradero-camera-${surface}-${board}`;

/** Where this surface (board, perch) last looked on a board; undefined for never. */
export function keptCamera(surface: string, board: string): Camera | undefined {
  try {
    const camera = JSON.parse(recall(keyOf(surface, board)) ?? 'null') as Camera | null;
    const isWhole =
      camera !== null && [camera.scale, camera.centre?.x, camera.centre?.y].every(Number.isFinite);
    return isWhole && camera.scale > 0 ? camera : undefined;
  } catch {
    return undefined;
  }
}

/** Keeps a camera whenever it rests, and when its page goes. @returns what to call when it moved, and when its surface goes */
export function cameraKeeper(surface: string, board: string) {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let latest: Camera | undefined;
  const keep = () => {
    clearTimeout(timer);
    if (latest) remember(keyOf(surface, board), JSON.stringify(latest));
    latest = undefined;
  };
  window.addEventListener('pagehide', keep);
  return {
    moved(camera: Camera) {
      latest = camera;
      clearTimeout(timer);
      timer = setTimeout(keep, KEEP_AFTER_MS);
    },
    close() {
      keep();
      window.removeEventListener('pagehide', keep);
    },
  };
}
