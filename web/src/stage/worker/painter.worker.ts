import { lensOf } from '@miradero/core/lens';
import { PixelClient } from '../../pixels/index.ts';
import type { FromWorker, PaintRequest, ToWorker } from '../messages.ts';
import { Scene } from '../scene.ts';
import { type Painted, paint } from './paint.ts';
import { PictureCache } from './picture-cache.ts';
import { loadSerif } from './serif.ts';

const tell = (message: FromWorker, transfer: Transferable[] = []) => {
  self.postMessage(message, { transfer });
};

/** Boards, and what is shown of them elsewhere in other places: all are painted from the same decoded pictures. */
const scenes = new Map<number, Scene>();
function sceneAt(id: number): Scene {
  const known = scenes.get(id) ?? new Scene();
  scenes.set(id, known);
  return known;
}
const pixels = new PixelClient();
const cache = new PictureCache(pixels, (report) => tell({ kind: 'stale', report }));

function answer(request: PaintRequest): void {
  const scene = sceneAt(request.scene);
  const width = Math.max(1, Math.round(request.view.width * request.scale));
  const height = Math.max(1, Math.round(request.view.height * request.scale));
  const canvas = new OffscreenCanvas(width, height);
  const overAll = (request.lenses ?? []).filter(({ on }) => on === null);
  // What a lens alters is read back: drawn where reading is quick.
  const willReadFrequently = overAll.some(({ lens }) => lensOf(lens).seesPixels);
  const context = canvas.getContext('2d', { alpha: request.ground === null, willReadFrequently })!;
  tellPainted(request, paint(context, scene, cache, request), canvas);
}

function tellPainted({ id }: PaintRequest, painted: Painted, canvas: OffscreenCanvas): void {
  const isAwaiting = !painted.isComplete && cache.report().loading > 0;
  const bitmap = canvas.transferToImageBitmap();
  tell({ kind: 'painted', frame: { id, bitmap, isAwaiting, ...painted } }, [bitmap]);
}

self.onmessage = ({ data }: MessageEvent<ToWorker>) => {
  switch (data.kind) {
    case 'items':
      sceneAt(data.scene).put(data.set, data.removed);
      break;
    case 'forget':
      scenes.delete(data.scene);
      break;
    case 'sources':
      cache.putSources(data.sources);
      break;
    case 'decoded':
      cache.give(data.picture, data);
      break;
    case 'budget':
      cache.budget = data.bytes;
      break;
    case 'pixels':
      pixels.connect(data.port);
      cache.tryAgain();
      break;
    case 'paint':
      answer(data.request);
      break;
  }
};

const { fonts } = self as unknown as { fonts: FontFaceSet };
void loadSerif(fonts, 'upright')
  .then(() => {
    cache.tellNews();
    return loadSerif(fonts, 'slanted');
  })
  .then(
    () => cache.tellNews(),
    // Without the font the notes stand in the fallback serif.
    () => {},
  );
