import type { Rectangle } from '@miradero/core/geometry';

/** One still of a running picture: a stream's next frame. @throws Error when none comes */
export async function frameOf(stream: MediaStream): Promise<HTMLCanvasElement> {
  const video = document.createElement('video');
  video.muted = true;
  video.srcObject = stream;
  // A page at rest gives one frame only: who asks for it must be listening before it plays.
  const next = new Promise<void>((resolve) => video.requestVideoFrameCallback(() => resolve()));
  await video.play();
  await next;
  const canvas = document.createElement('canvas');
  canvas.width = video.videoWidth;
  canvas.height = video.videoHeight;
  canvas.getContext('2d')!.drawImage(video, 0, 0);
  video.srcObject = null;
  return canvas;
}

/** A part of a canvas, or all of it, as a PNG file: not a pixel altered. */
export async function pngOf(
  canvas: HTMLCanvasElement,
  part: Rectangle | undefined,
  name: string,
): Promise<File> {
  const { x, y, width, height } =
    part && part.width > 0 && part.height > 0
      ? part
      : { x: 0, y: 0, width: canvas.width, height: canvas.height };
  const cut = document.createElement('canvas');
  cut.width = width;
  cut.height = height;
  cut.getContext('2d')!.drawImage(canvas, x, y, width, height, 0, 0, width, height);
  const blob = await new Promise<Blob | null>((resolve) => cut.toBlob(resolve, 'image/png'));
  if (!blob) throw new Error('the picture could not be made');
  return new File([blob], name, { type: 'image/png' });
}

export function stopTracks(stream: MediaStream | undefined): void {
  for (const track of stream?.getTracks() ?? []) track.stop();
}

/** What is shared goes on being shared, so that the next grab asks nobody. */
let shared: MediaStream | undefined;

const isLive = (stream: MediaStream | undefined): stream is MediaStream =>
  stream?.getVideoTracks().some(({ readyState }) => readyState === 'live') === true;

/** Asks for a screen, window or tab, unless one is shared already. @throws DOMException when the person says no */
export async function askForScreen(isAgain: boolean): Promise<MediaStream> {
  if (isAgain && isLive(shared)) return shared;
  stopTracks(shared);
  shared = await navigator.mediaDevices.getDisplayMedia({ video: true, audio: false });
  return shared;
}

/** What is shared is shared no more. */
export const stopSharing = (): void => stopTracks(shared);
