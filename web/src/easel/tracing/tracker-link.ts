import type { Rectangle } from '@miradero/core/geometry';
import type { FromTracker, ToTracker } from './tracker.worker.ts';

/** The worker that looks for sheets; one question after the other. */
export class TrackerLink {
  readonly #worker = new Worker(new URL('./tracker.worker.ts', import.meta.url), { type: 'module' });
  readonly #waiting: ((rectangle: Rectangle | undefined) => void)[] = [];

  constructor() {
    this.#worker.onmessage = ({ data }: MessageEvent<FromTracker>) =>
      this.#waiting.shift()?.(data.rectangle ?? undefined);
    // Nothing is known of it then.
    this.#worker.onerror = () => this.#waiting.shift()?.(undefined);
  }

  ask(question: ToTracker): Promise<Rectangle | undefined> {
    return new Promise((resolve) => {
      this.#waiting.push(resolve);
      this.#worker.postMessage(question, [question.pixels.data.buffer]);
    });
  }

  close(): void {
    this.#worker.terminate();
    for (const resolve of this.#waiting.splice(0)) resolve(undefined);
  }
}
