import type { LayerFacts } from './layers.ts';
import { TILE_BYTES, type TilePixels, type Tiles } from './tiles.ts';

/** A tile of a layer before and after; undefined: nothing was, or is, there. */
export interface TileChange {
  readonly layer: string;
  readonly key: number;
  readonly before: TilePixels | undefined;
  readonly after: TilePixels | undefined;
}

/** What one action altered. */
export interface PaintStep {
  readonly tiles: readonly TileChange[];
  /** The layers, lowest first, where they altered. */
  readonly layers?: { readonly before: readonly LayerFacts[]; readonly after: readonly LayerFacts[] };
}

/** What is altered by going back and forth. */
export interface Painted {
  /** By the id of a layer; one that is not there any more has tiles that wait for it. */
  tilesOf(layer: string): Tiles;
  setLayers(layers: readonly LayerFacts[]): void;
}

/** So many bytes of tiles are kept for undo; the oldest steps go first. */
const MOST_BYTES = 96 * 1024 * 1024;
/** And so many steps: what is said of layers has no tiles. */
const MOST_STEPS = 500;

const bytesOf = ({ tiles }: PaintStep): number =>
  tiles.reduce((sum, { before, after }) => sum + (before ? TILE_BYTES : 0) + (after ? TILE_BYTES : 0), 0);

/** What was painted and can be taken back, and what was taken back and can be done again. */
export class PaintHistory {
  readonly #painted: Painted;
  readonly #most: number;
  readonly #done: PaintStep[] = [];
  readonly #undone: PaintStep[] = [];
  #bytes = 0;

  constructor(painted: Painted, most = MOST_BYTES) {
    this.#painted = painted;
    this.#most = most;
  }

  get canUndo(): boolean {
    return this.#done.length > 0;
  }
  get canRedo(): boolean {
    return this.#undone.length > 0;
  }
  /** Bytes of tiles before and after; those that a layer still has are counted, too. */
  get bytes(): number {
    return this.#bytes;
  }

  /** Takes up what was done; what was taken back before cannot be done again. @returns whether there was anything */
  record(step: PaintStep): boolean {
    if (step.tiles.length === 0 && !step.layers) return false;
    for (const gone of this.#undone.splice(0)) this.#bytes -= bytesOf(gone);
    this.#done.push(step);
    this.#bytes += bytesOf(step);
    while ((this.#bytes > this.#most || this.#done.length > MOST_STEPS) && this.#done.length > 1)
      this.#bytes -= bytesOf(this.#done.shift()!);
    return true;
  }

  /** What was said of the layers last goes on, as one step. @returns whether it does: nothing else was done since */
  goOn(after: readonly LayerFacts[]): boolean {
    const last = this.#done.at(-1);
    if (!last?.layers || last.tiles.length > 0 || this.canRedo) return false;
    this.#done[this.#done.length - 1] = { ...last, layers: { before: last.layers.before, after } };
    return true;
  }

  /** The newest last. */
  get done(): readonly PaintStep[] {
    return this.#done;
  }
  /** What was taken back last is last. */
  get undone(): readonly PaintStep[] {
    return this.#undone;
  }

  /** Takes up what was kept of an earlier time, before what was done since; after that nothing can be done again. */
  restore(done: readonly PaintStep[], undone: readonly PaintStep[]): void {
    const again = this.canUndo || this.canRedo ? [] : undone;
    this.#done.unshift(...done);
    this.#undone.unshift(...again);
    for (const step of [...done, ...again]) this.#bytes += bytesOf(step);
  }

  /** @returns what altered; undefined where there is nothing to take back */
  undo(): PaintStep | undefined {
    return this.#turn(this.#done, this.#undone, 'before');
  }
  /** @returns what altered; undefined where nothing was taken back */
  redo(): PaintStep | undefined {
    return this.#turn(this.#undone, this.#done, 'after');
  }

  #turn(from: PaintStep[], to: PaintStep[], side: 'before' | 'after'): PaintStep | undefined {
    const step = from.pop();
    if (!step) return undefined;
    for (const change of step.tiles) this.#painted.tilesOf(change.layer).set(change.key, change[side]);
    if (step.layers) this.#painted.setLayers(step.layers[side]);
    to.push(step);
    return step;
  }
}
