import { PixelClient } from '../../pixels/index.ts';
import type { FromWorker, PaintRequest, ToWorker } from '../messages.ts';
import { Scene, sceneItemOf } from '../scene.ts';
import { paint } from './paint.ts';
import { PictureCache } from './picture-cache.ts';
import { loadSerif } from './serif.ts';

const tell = (message: FromWorker, transfer: Transferable[] = []) => {
  self.postMessage(message, { transfer });
};

const scene = new Scene();
const pixels = new PixelClient();
const cache = new PictureCache(pixels, (report) => tell({ kind: 'stale', report }));

function answer(request: PaintRequest): void {
  const width = Math.max(1, Math.round(request.view.width * request.scale));
  const height = Math.max(1, Math.round(request.view.height * request.scale));
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d', { alpha: request.ground === null })!;
  const painted = paint(context, scene, cache, request);
  const isAwaiting = !painted.isComplete && cache.report().loading > 0;
  const bitmap = canvas.transferToImageBitmap();
  tell({ kind: 'painted', frame: { id: request.id, bitmap, isAwaiting, ...painted } }, [bitmap]);
}

self.onmessage = ({ data }: MessageEvent<ToWorker>) => {
  switch (data.kind) {
    case 'items':
      scene.put(data.set.map(sceneItemOf), data.removed);
      break;
    case 'sources':
      cache.putSources(data.sources);
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

void loadSerif((self as unknown as { fonts: FontFaceSet }).fonts).then(
  () => cache.tellNews(),
  // Without the font the notes stand in the fallback serif.
  () => {},
);
