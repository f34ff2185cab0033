import { boundsOf } from '@miradero/core/board';
import { boundsOfPoints, containsPoint, type Point, type Rectangle } from '@miradero/core/geometry';
import { isPlacement, partOnBoard } from '@miradero/core/items';
import { type Desk, page } from '../desk/index.ts';
import type { StageView } from '../stage/index.ts';

/** What trembles by less rests, CSS pixels. */
const REST_PX = 4;
/** A pointer within so far of the left or right edge turns pages while something is close, CSS pixels. */
export const PAGE_EDGE_PX = 26;
/** It turns the first page after this time at the edge, and the next each time after this, ms. */
const PAGE_FIRST_MS = 450;
const PAGE_AGAIN_MS = 1_100;

export interface HoverSettings {
  readonly isHoverLook: boolean;
  readonly hoverMs: number;
}

interface Part {
  readonly id: string;
  readonly bounds: Rectangle;
}

/** The smallest marked region of a picture under a point, else the item there. */
function partAt(desk: Desk, view: StageView, pointPx: Point): Part | undefined {
  const item = view.itemAt(pointPx);
  if (!item) return undefined;
  const at = view.toBoard(pointPx);
  const purposes = isPlacement(item) ? desk.sync.shelf.get(item.picture)?.picture?.purposes : undefined;
  const regions = (purposes ?? []).flatMap(({ region }, index): Part[] => {
    if (!region || !isPlacement(item)) return [];
    const bounds = boundsOfPoints(partOnBoard(item, region));
    const isPoint = region.width === 0 || region.height === 0;
    return !isPoint && containsPoint(bounds, at) ? [{ id: `${item.id} ${index}`, bounds }] : [];
  });
  const smallest = regions.sort(
    (a, b) => a.bounds.width * a.bounds.height - b.bounds.width * b.bounds.height,
  )[0];
  return smallest ?? { id: item.id, bounds: boundsOf(item) };
}

/**
 * What resting does: on a picture or a marked region of it, it comes close, and springs back when the pointer leaves; at the
 * left or right edge, while something is close, the next or the one before comes. No press is needed: the keyboard stays
 * with the program it is with.
 */
export class HoverLook {
  readonly #desk: Desk;
  readonly #view: StageView;
  readonly #window: Window;
  #settings: HoverSettings;
  #timer: number | undefined;
  #restedAt: Point | undefined;
  #edge: 'left' | 'right' | undefined;
  #isSprung = false;

  constructor(desk: Desk, view: StageView, window: Window, settings: HoverSettings) {
    this.#desk = desk;
    this.#view = view;
    this.#window = window;
    this.#settings = settings;
  }

  set settings(settings: HoverSettings) {
    this.#settings = settings;
    if (!settings.isHoverLook) this.#leaveSpring();
  }

  /** @param isPressed - a button is down: a hand works, and does not rest */
  move(pointPx: Point, isPressed: boolean): void {
    const edge = isPressed ? undefined : this.#edgeAt(pointPx);
    if (edge !== this.#edge || isPressed) {
      this.#edge = edge;
      this.#wait(undefined);
      if (edge) this.#wait(() => this.#turnPages(edge), PAGE_FIRST_MS);
    }
    if (edge || isPressed || !this.#settings.isHoverLook) {
      this.#restedAt = undefined;
      return;
    }
    const { x, y } = this.#restedAt ?? { x: Number.NaN, y: Number.NaN };
    if (Math.hypot(pointPx.x - x, pointPx.y - y) <= REST_PX) return;
    this.#restedAt = pointPx;
    this.#wait(() => this.#comeClose(pointPx), this.#settings.hoverMs);
  }

  /** The pointer left the view: what came close by resting goes back. */
  leave(): void {
    this.#wait(undefined);
    this.#edge = undefined;
    this.#restedAt = undefined;
    this.#leaveSpring();
  }

  close(): void {
    this.#wait(undefined);
  }

  #leaveSpring(): void {
    if (this.#isSprung && this.#view.isClose) this.#view.goBack();
    this.#isSprung = false;
  }

  #edgeAt(pointPx: Point): 'left' | 'right' | undefined {
    if (!this.#view.isClose) return undefined;
    const { x } = this.#view.inHolder(pointPx);
    if (x < PAGE_EDGE_PX) return 'left';
    return x > this.#view.holderSize.width - PAGE_EDGE_PX ? 'right' : undefined;
  }

  #comeClose(pointPx: Point): void {
    const { tool, held } = this.#desk.now;
    // A hand that has a tool, or something selected, works: nothing moves under it.
    if (this.#view.isClose || tool || held || this.#desk.selection.size > 0) return;
    const part = partAt(this.#desk, this.#view, pointPx);
    if (!part) return;
    this.#isSprung = true;
    this.#view.comeClose(part.id, part.bounds);
  }

  #turnPages(edge: 'left' | 'right'): void {
    page(this.#desk, edge);
    this.#wait(() => this.#turnPages(edge), PAGE_AGAIN_MS);
  }

  #wait(then: (() => void) | undefined, delayMs = 0): void {
    this.#window.clearTimeout(this.#timer);
    this.#timer = then && this.#window.setTimeout(then, delayMs);
  }
}
