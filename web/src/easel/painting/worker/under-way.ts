import type { Affine, Point, Rectangle } from '@miradero/core/geometry';
import {
  type AlteredParts,
  lassoMask,
  Moving,
  type PaintedSheet,
  PaintStroke,
  type PenPoint,
  Pushing,
  Smoothing,
  Smudge,
  type TileChange,
} from '@miradero/core/paint';
import type { StrokeWish } from '../messages.ts';
import type { Keeping } from './keeping.ts';
import type { Showing } from './showing.ts';

/** A stroke that is made on one layer. */
interface Stroke {
  readonly layer: string;
  readonly smoothing: Smoothing;
  to(points: readonly PenPoint[]): AlteredParts;
  end(): TileChange[];
  cancel(): AlteredParts;
  /** It goes on no more. */
  close(): void;
}

const NOTHING: AlteredParts = new Map();

/** What was under way is over. */
export interface Over {
  /** What looks otherwise than was shown. */
  readonly altered: AlteredParts;
  /** Whether anything was done that can be taken back. */
  readonly isRecorded: boolean;
}

/** What is being done to a sheet and is not taken up yet: a stroke, or a part of a layer that is carried. */
export class UnderWay {
  readonly #sheet: PaintedSheet;
  readonly #showing: Showing;
  readonly #keeping: Keeping | undefined;
  #stroke: Stroke | undefined;
  #moving: Moving | undefined;
  /** Where it is carried, and is not shown yet. */
  #to: Affine | undefined;
  #timer: ReturnType<typeof setTimeout> | undefined;

  constructor(sheet: PaintedSheet, showing: Showing, keeping: Keeping | undefined) {
    this.#sheet = sheet;
    this.#showing = showing;
    this.#keeping = keeping;
  }

  get isStroke(): boolean {
    return this.#stroke !== undefined;
  }
  get isCarrying(): boolean {
    return this.#moving !== undefined;
  }
  get isAnything(): boolean {
    return this.isStroke || this.isCarrying;
  }
  /** Where what is carried was, pixels of the sheet. */
  get taken(): Rectangle | null {
    return this.#moving?.bounds ?? null;
  }
  /** What would be recorded if it were taken up now. */
  get changes(): TileChange[] {
    return [...(this.#stroke?.end() ?? []), ...(this.#moving?.end() ?? [])];
  }

  begin({ layer: id, does, brush, colour, smoothing }: StrokeWish): void {
    const layer = this.#sheet.layer(id);
    const { frame } = this.#sheet;
    const stroke =
      does === 'smudge'
        ? new Smudge(layer, brush, frame)
        : does === 'push'
          ? new Pushing(layer, brush.sizePx / 2, frame)
          : new PaintStroke(layer, brush, does === 'erase' ? null : colour, frame);
    this.#stroke = {
      ...{ layer: id, smoothing: new Smoothing(smoothing) },
      ...{ to: (points) => stroke.to(points), end: () => stroke.end(), cancel: () => stroke.cancel() },
      close: () => stroke instanceof PaintStroke && stroke.close(),
    };
    this.#showing.workOn(id);
  }

  /** @param number - of the last of the points */
  goOn(points: readonly PenPoint[], number: number): void {
    const stroke = this.#stroke;
    if (!stroke) return;
    const way = points.flatMap((point) => stroke.smoothing.to(point));
    const altered = stroke.to(way);
    this.#alteredOn(stroke.layer, altered);
    this.#showing.show(altered, number);
    this.#keeping?.paint();
  }

  /** Takes up what is painted within corners, pixels of the sheet. @returns whether there is any */
  take(layer: string, corners: readonly Point[]): boolean {
    const { frame } = this.#sheet;
    this.#moving = Moving.of(this.#sheet.layer(layer), lassoMask(corners, frame), frame);
    return this.isCarrying;
  }

  /** It is shown where it came last once all that was told is heard: a key held, or a drag, tells faster than it can be shown. */
  carry(to: Affine): void {
    this.#to = to;
    this.#timer ??= setTimeout(() => this.#showCarried(), 0);
  }

  #showCarried(): void {
    const to = this.#to;
    this.#forgetCarried();
    if (!this.#moving || !to) return;
    this.#showing.show(this.#moving.show(to), null);
    this.#keeping?.paint();
  }

  #forgetCarried(): void {
    clearTimeout(this.#timer);
    this.#timer = undefined;
    this.#to = undefined;
  }

  /** It is done. @returns undefined where nothing was under way */
  end(): Over | undefined {
    this.#showCarried();
    const [stroke, moving] = [this.#stroke, this.#moving];
    if (stroke) {
      const altered = stroke.to(stroke.smoothing.end());
      this.#alteredOn(stroke.layer, altered);
      const isRecorded = this.#sheet.record(stroke.end());
      this.#strokeIsOver(stroke);
      return { altered, isRecorded };
    }
    if (!moving) return undefined;
    this.#moving = undefined;
    return { altered: NOTHING, isRecorded: this.#sheet.record(moving.end()) };
  }

  /** All is as it was before. @returns as `end` */
  cancel(): Over | undefined {
    this.#forgetCarried();
    const [stroke, moving] = [this.#stroke, this.#moving];
    this.#moving = undefined;
    if (moving) return { altered: moving.cancel(), isRecorded: false };
    if (!stroke) return undefined;
    const altered = stroke.cancel();
    this.#strokeIsOver(stroke);
    return { altered, isRecorded: false };
  }

  /** What is carried is taken away. @returns as `end` */
  discard(): Over | undefined {
    this.#forgetCarried();
    const moving = this.#moving;
    if (!moving) return undefined;
    this.#moving = undefined;
    const altered = moving.discard();
    return { altered, isRecorded: this.#sheet.record(moving.end()) };
  }

  #strokeIsOver(stroke: Stroke): void {
    this.#stroke = undefined;
    this.#showing.workOn(undefined);
    stroke.close();
  }

  #alteredOn(layer: string, altered: AlteredParts): void {
    const { tiles } = this.#sheet.layer(layer);
    this.#keeping?.alteredOn([...altered.keys()].map((key) => tiles.get(key)));
  }
}
