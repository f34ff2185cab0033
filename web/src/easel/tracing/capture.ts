import type { Straightened } from '@miradero/core/easel';

export interface CaptureListener {
  /** A frame that is new; it is closed afterwards. A window that stands still has none. */
  onFrame(frame: VideoFrame): void;
  /** The other side, or the person, ended it. */
  onEnd(): void;
}

/** A window or screen of this computer, as its frames come. */
export class Capture {
  readonly #stream: MediaStream;
  #listener: CaptureListener | undefined;
  #last: VideoFrame | undefined;
  #isOver = false;

  /** @throws Error where this browser hands out no frames */
  constructor(stream: MediaStream) {
    this.#stream = stream;
    const [track] = stream.getVideoTracks();
    if (!track || !('MediaStreamTrackProcessor' in globalThis))
      throw new Error('This browser does not hand out what it captures. Chromium and its kin do.');
    track.addEventListener('ended', () => this.#end());
    const processor = new MediaStreamTrackProcessor({
      track: track as MediaStreamVideoTrack,
      maxBufferSize: 1,
    });
    void this.#read(processor.readable.getReader());
  }

  /** The frame that came last, as long as no other came; undefined before the first. */
  get last(): VideoFrame | undefined {
    return this.#last;
  }

  get isOver(): boolean {
    return this.#isOver;
  }

  /** Hears of frames from now on, in place of whoever did; of the last one at once. */
  listen(listener: CaptureListener | undefined): void {
    this.#listener = listener;
    if (this.#last) listener?.onFrame(this.#last);
    if (this.#isOver) listener?.onEnd();
  }

  stop(): void {
    this.#listener = undefined;
    for (const track of this.#stream.getTracks()) track.stop();
    this.#isOver = true;
    this.#last?.close();
    this.#last = undefined;
  }

  async #read(reader: ReadableStreamDefaultReader<VideoFrame>): Promise<void> {
    for (;;) {
      const { done, value } = await reader.read().catch(() => ({ done: true, value: undefined }));
      if (done || !value) break;
      if (this.#isOver) {
        value.close();
        break;
      }
      this.#last?.close();
      this.#last = value;
      this.#listener?.onFrame(value);
    }
    this.#end();
  }

  #end(): void {
    if (this.#isOver) return;
    this.#isOver = true;
    this.#listener?.onEnd();
  }
}

/** The pixels of a frame, turned upright where that is said. */
export function pixelsOf(frame: VideoFrame, upright?: Straightened): ImageData {
  const { displayWidth, displayHeight } = frame;
  const { width, height } = upright?.size ?? { width: displayWidth, height: displayHeight };
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
  if (upright) context.setTransform(...upright.toUpright);
  context.drawImage(frame, 0, 0);
  return context.getImageData(0, 0, width, height);
}
