import { thumbHashToRGBA } from 'thumbhash';

/** Large copies that are kept decoded: about 3 MB each. */
const MOST_LARGE = 120;
/** Asked for at the same time: what is looked at next waits behind no more than these. */
const AT_ONCE = 24;
const MOST_TRIES = 4;
/** One that did not come is asked for again after so long, ms, and after twice as long the next time. */
const AGAIN_MS = 2_000;

interface Failed {
  readonly tries: number;
  readonly againMs: number;
}

/** Copies of pictures, asked for when they are looked at; those looked at last are kept. */
export class Copies {
  readonly #images = new Map<string, HTMLImageElement>();
  readonly #meanwhile = new Map<string, HTMLCanvasElement>();
  readonly #failed = new Map<string, Failed>();
  readonly #onChange: () => void;
  #wanted: string[] = [];
  #next: string[] = [];
  #loading = 0;

  /** @param onChange - something looks another way now */
  constructor(onChange: () => void) {
    this.#onChange = onChange;
  }

  /** Undefined until it is there; then it was noted as wanted. */
  get(path: string | null): HTMLImageElement | undefined {
    if (path === null) return undefined;
    const image = this.#images.get(path);
    if (!image) {
      this.#next.push(path);
      return undefined;
    }
    this.#images.delete(path);
    this.#images.set(path, image);
    return image.complete && image.naturalWidth > 0 ? image : undefined;
  }

  /** What a thumbhash shows. */
  meanwhile(hash: string | null): HTMLCanvasElement | undefined {
    if (hash === null) return undefined;
    let canvas = this.#meanwhile.get(hash);
    if (!canvas) {
      const { w, h, rgba } = thumbHashToRGBA(Uint8Array.from(atob(hash), (letter) => letter.charCodeAt(0)));
      canvas = document.createElement('canvas');
      Object.assign(canvas, { width: w, height: h });
      canvas.getContext('2d')!.putImageData(new ImageData(new Uint8ClampedArray(rgba), w, h), 0, 0);
      this.#meanwhile.set(hash, canvas);
    }
    return canvas;
  }

  /** After a frame: what it missed is asked for, and what earlier ones missed is not any more. */
  load(): void {
    this.#wanted = this.#next.reverse();
    this.#next = [];
    this.#pump();
    const large = [...this.#images.keys()].filter((path) => path.includes('/1024/'));
    for (const path of large.slice(0, Math.max(0, large.length - MOST_LARGE))) this.#images.delete(path);
  }

  /** How many are on their way. */
  get waiting(): number {
    return this.#wanted.length + this.#loading;
  }

  #pump(): void {
    while (this.#loading < AT_ONCE) {
      const path = this.#wanted.pop();
      if (path === undefined) return;
      if (!this.#images.has(path) && (this.#failed.get(path)?.againMs ?? 0) <= performance.now())
        this.#begin(path);
    }
  }

  #begin(path: string): void {
    const image = new Image();
    this.#images.set(path, image);
    this.#loading += 1;
    const end = () => {
      this.#loading -= 1;
      this.#pump();
    };
    image.onload = () => {
      this.#failed.delete(path);
      end();
      this.#onChange();
    };
    image.onerror = () => {
      this.#images.delete(path);
      const tries = (this.#failed.get(path)?.tries ?? 0) + 1;
      const wait = tries < MOST_TRIES ? AGAIN_MS * 2 ** (tries - 1) : Number.POSITIVE_INFINITY;
      this.#failed.set(path, { tries, againMs: performance.now() + wait });
      if (tries < MOST_TRIES) setTimeout(this.#onChange, wait);
      end();
    };
    image.src = path;
  }
}
