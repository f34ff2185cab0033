import {
  FIRST_VIEW,
  isModelType,
  type ModelType,
  standingPoints,
  usualStance,
  wholeInView,
} from '@miradero/core/model';
import { type IntakeType, isPostered, MODEL_VIEW } from '@miradero/core/picture';
import { openModel } from '../../models/index.ts';

const QUALITY = 0.88;
/** How far into a clip its poster lies: the first frame is often black. */
const INTO_CLIP = 0.1;
const PATIENCE_MS = 20_000;

function webp(canvas: HTMLCanvasElement): Promise<Blob> {
  return new Promise((resolve, reject) => {
    canvas.toBlob(
      (blob) => (blob ? resolve(blob) : reject(new Error('the browser makes no WebP'))),
      'image/webp',
      QUALITY,
    );
  });
}

async function posterOfClip(bytes: Blob): Promise<Blob> {
  const address = URL.createObjectURL(bytes);
  const video = document.createElement('video');
  try {
    video.muted = true;
    video.preload = 'auto';
    const happens = (event: string) =>
      new Promise<void>((resolve, reject) => {
        const fail = () => reject(new Error('the clip does not open'));
        const timer = setTimeout(fail, PATIENCE_MS);
        video.addEventListener('error', fail, { once: true });
        video.addEventListener(
          event,
          () => {
            clearTimeout(timer);
            resolve();
          },
          { once: true },
        );
      });
    const loaded = happens('loadeddata');
    video.src = address;
    await loaded;
    const sought = happens('seeked');
    video.currentTime = Number.isFinite(video.duration) ? video.duration * INTO_CLIP : 0;
    await sought;
    const canvas = document.createElement('canvas');
    canvas.width = video.videoWidth;
    canvas.height = video.videoHeight;
    canvas.getContext('2d')!.drawImage(video, 0, 0);
    return await webp(canvas);
  } finally {
    video.removeAttribute('src');
    URL.revokeObjectURL(address);
  }
}

async function posterOfModel(bytes: Blob, type: ModelType): Promise<Blob> {
  const model = openModel({ bytes, type });
  try {
    const { points } = await model.look();
    const { width, height } = MODEL_VIEW;
    const stance = usualStance(type);
    return await model.picture(wholeInView(FIRST_VIEW, standingPoints(points, stance), width, height), {
      width,
      height,
      stance,
      type: 'image/webp',
    });
  } finally {
    model.close();
  }
}

/** The picture that stands for a clip or a model; undefined for what is one itself, or cannot be shown here. */
export async function posterOf(bytes: Blob, type: IntakeType): Promise<Blob | undefined> {
  if (!isPostered(type)) return undefined;
  try {
    return await (isModelType(type) ? posterOfModel(bytes, type) : posterOfClip(bytes));
  } catch {
    // It is kept and taken in all the same; the server says that nothing stands for it yet.
    return undefined;
  }
}
