import type { Rectangle } from '../geometry/index.ts';
import { BareGround } from './bare.ts';
import {
  canMerge,
  composeTile,
  groundOf,
  type Layer,
  type LayerFacts,
  type LayerKind,
  layerFacts,
  mergedDown,
} from './layers.ts';
import type { Rgb8 } from './study.ts';
import { sharedTile, type TilePixels, Tiles, tileKey, tilesIn } from './tiles.ts';
import { PaintHistory, type PaintStep, type TileChange } from './undo.ts';

/** What is painted on a sheet: its layers on its ground, and what was done to them. */
export class PaintedSheet {
  /** Pixels that may be painted; a study keeps to its frame. */
  readonly frame: Rectangle;
  readonly history: PaintHistory;
  readonly #tiles = new Map<string, Tiles>();
  readonly #bare: BareGround;
  #layers: readonly LayerFacts[];

  /** @param layers - lowest first */
  constructor(frame: Rectangle, layers: readonly LayerFacts[], mostUndoBytes?: number) {
    this.frame = frame;
    this.#layers = layers;
    this.#bare = new BareGround(frame);
    this.history = new PaintHistory(
      {
        tilesOf: (id) => this.#tilesOf(id),
        setLayers: (next) => {
          this.#layers = next;
        },
      },
      mostUndoBytes,
    );
  }

  /** Lowest first. */
  get layers(): readonly Layer[] {
    return this.#layers.map((facts) => ({ ...facts, tiles: this.#tilesOf(facts.id) }));
  }

  /** @throws RangeError where there is none of that id */
  layer(id: string): Layer {
    const layer = this.layers.find((one) => one.id === id);
    if (!layer) throw new RangeError('That layer is not there any more.');
    return layer;
  }

  /** What is said of them, lowest first. */
  get facts(): readonly LayerFacts[] {
    return this.#layers;
  }

  /** The colour on which everything lies; null: one sees through it. */
  get ground(): Rgb8 | null {
    return groundOf(this.#layers);
  }

  /** Bytes of all its pixels, without those that are kept for undo alone. */
  get bytes(): number {
    return this.layers.reduce((sum, { tiles }) => sum + tiles.bytes, 0);
  }

  /** One tile as it is seen. */
  composed(key: number): TilePixels {
    return composeTile(this.layers, key, this.ground);
  }

  /** Share of its frame that is bare ground, 0..1; of what is under way nothing may be asked. */
  get bare(): number {
    return this.#bare.shareIn(this.layers);
  }

  /** Takes up what a stroke, a lasso or a fill altered. @returns whether it altered anything */
  record(tiles: readonly TileChange[]): boolean {
    return this.history.record({ tiles: this.#taken(tiles) });
  }

  /**
   * Alters what is said of a layer.
   *
   * @param goesOn - it belongs to what was done last, as one pull at a slider
   * @throws RangeError where there is none of that id
   */
  alter(id: string, facts: Partial<Omit<LayerFacts, 'id'>>, goesOn = false): void {
    this.layer(id);
    const after = this.#layers.map((one) => (one.id === id ? { ...one, ...facts } : one));
    if (goesOn && this.history.goOn(after)) this.#layers = after;
    else this.#become(after);
  }

  /** Tones a ground, and paints under, as one step. @param pixelsAt - what is painted under on a tile */
  tone(id: string, colour: Rgb8 | null, pixelsAt: (key: number) => TilePixels | undefined): void {
    const { tiles } = this.layer(id);
    const keys = new Set([...tiles.keys, ...[...tilesIn(this.frame)].map(tileKey)]);
    const changes = [...keys].flatMap((key): TileChange[] => {
      const [before, after] = [tiles.get(key), pixelsAt(key)];
      return before || after ? [{ layer: id, key, before, after }] : [];
    });
    this.#become(
      this.#layers.map((one) => (one.id === id ? { ...one, colour } : one)),
      changes,
    );
  }

  /** A new layer above another, or above all. */
  add(id: string, kind: LayerKind, above?: string): void {
    const at = above === undefined ? this.#layers.length : this.#indexOf(above) + 1;
    this.#become(this.#layers.toSpliced(at, 0, layerFacts(id, kind, this.#freeName(kind))));
  }

  /** Takes a layer away with all that is on it. */
  remove(id: string): void {
    const { tiles } = this.layer(id);
    const cleared = [...tiles.keys].map((key) => ({
      layer: id,
      key,
      before: tiles.get(key),
      after: undefined,
    }));
    this.#become(
      this.#layers.filter((one) => one.id !== id),
      cleared,
    );
  }

  /** Moves a layer to another height, counted from the lowest. */
  move(id: string, to: number): void {
    const from = this.#indexOf(id);
    const moved = this.#layers[from]!;
    this.#become(this.#layers.toSpliced(from, 1).toSpliced(to, 0, moved));
  }

  /** Whether a layer can become one with what lies below it. */
  canMerge(id: string): boolean {
    const at = this.#indexOf(id);
    const [upper, lower] = [this.#layers[at]!, this.#layers[at - 1]];
    return lower !== undefined && !lower.isLocked && canMerge(upper, lower);
  }

  /** Makes a layer one with what lies below it. @throws RangeError where that would be seen otherwise */
  merge(id: string): void {
    const at = this.#indexOf(id);
    if (!this.canMerge(id)) throw new RangeError('That layer cannot be merged with the one below it.');
    const [upper, lower] = [this.layers[at]!, this.layers[at - 1]!];
    const changes = [...mergedDown(upper, lower)].map(
      ([key, after]): TileChange => ({
        ...{ layer: lower.id, key, before: lower.tiles.get(key), after },
      }),
    );
    const cleared = [...upper.tiles.keys].map(
      (key): TileChange => ({ layer: id, key, before: upper.tiles.get(key), after: undefined }),
    );
    const next = this.#layers.filter((one) => one.id !== id);
    this.#become(
      next.map((one) => (one.id === lower.id ? { ...one, opacity: 1 } : one)),
      [...changes, ...cleared],
    );
  }

  undo(): PaintStep | undefined {
    return this.history.undo();
  }
  redo(): PaintStep | undefined {
    return this.history.redo();
  }

  #become(after: readonly LayerFacts[], tiles: readonly TileChange[] = []): void {
    const before = this.#layers;
    this.#layers = after;
    this.history.record({ tiles: this.#taken(tiles), layers: { before, after } });
  }

  /** The layers have what was altered; what is of one colour they share. */
  #taken(changes: readonly TileChange[]): TileChange[] {
    return changes.map((change) => {
      const after = change.after && sharedTile(change.after);
      this.#tilesOf(change.layer).set(change.key, after);
      return { ...change, after };
    });
  }

  /** A further one of a kind is numbered. */
  #freeName(kind: LayerKind): string {
    const taken = new Set(this.#layers.map(({ name }) => name));
    let name: string = kind;
    for (let number = 2; taken.has(name); number += 1) name = `${kind} ${number}`;
    return name;
  }

  #indexOf(id: string): number {
    const at = this.#layers.findIndex((one) => one.id === id);
    if (at < 0) throw new RangeError('That layer is not there any more.');
    return at;
  }

  #tilesOf(id: string): Tiles {
    const known = this.#tiles.get(id) ?? new Tiles();
    this.#tiles.set(id, known);
    return known;
  }
}
