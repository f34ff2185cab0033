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
