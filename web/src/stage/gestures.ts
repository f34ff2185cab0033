import type { Point } from '@miradero/core/geometry';

/** A press as the hand sees it; positions in CSS pixels of the view. */
export interface Press {
  readonly point: Point;
  readonly isAdding: boolean;
  /** With Ctrl or Meta. */
  readonly isFollowing: boolean;
  readonly pointerType: string;
  /** 0..1; a half for what tells none. */
  readonly pressure: number;
  /** How far a pen leans, degrees from upright. */
  readonly tilt: number;
}

/** Where a pointer was on its way to where it is now. */
export interface Sample extends Point {
  readonly pressure: number;
  readonly tilt: number;
}

/** Modifiers during a drag. */
export interface DragKeys {
  readonly isShift: boolean;
  readonly isAlt: boolean;
  /** All of the way since the last move, to the point itself: more than one a frame where the pointer tells them. */
  readonly way?: readonly Sample[];
  /** Where it will most likely be next. */
  readonly ahead?: readonly Sample[];
}

/** One drag from press to release. */
export interface Drag {
  move(point: Point, keys: DragKeys): void;
  /** @param isClick - released where it was pressed */
  end(isClick: boolean): void;
  cancel(): void;
  /** The system took the pointer away in the middle; without this it is cancelled. */
  lost?(): void;
  /** It is meant as soon as the pointer moves at all, and held still it is nothing else. */
  readonly isFine?: boolean;
}

/** What a surface does with gestures. The gestures know nothing of boards. */
export interface Hand {
  pan(deltaPx: Point): void;
  zoom(pointPx: Point, factor: number): void;
  press(press: Press): Drag | undefined;
  double(point: Point): void;
  /** @param pointerType - mouse, pen or touch */
  hover(point: Point | undefined, pointerType: string): void;
  /** The secondary button, or a press that was held still. */
  secondary(point: Point): void;
  /** The wheel was tilted by a notch. */
  tilt?(to: 'left' | 'right'): void;
}

/** A press that stays within this distance is a click; a finger trembles more than a mouse. */
const CLICK_PX = { mouse: 3, pen: 6, touch: 10 } as const;
const DOUBLE_MS = 350;
/** Zoom of one wheel pixel: a notch of 100 px is a step of about 1.22. */
const WHEEL_ZOOM = 0.002;
/** Trackpad pinches arrive as wheel events with Ctrl and small deltas. */
const PINCH_ZOOM = 0.01;
const LINE_PX = 16;
const LONG_PRESS_MS = 550;

interface Contact {
  point: Point;
  readonly start: Point;
  readonly pointerType: string;
}

type Current =
  | { kind: 'pan'; last: Point }
  | { kind: 'drag'; drag: Drag; hasMoved: boolean }
  | { kind: 'pinch' };

/** Turns the pointer and wheel events of one element into pans, zooms, presses and drags. */
export class Gestures {
  readonly #element: HTMLElement;
  readonly #hand: Hand;
  readonly #pointOf: (event: { clientX: number; clientY: number }) => Point;
  readonly #contacts = new Map<number, Contact>();
  readonly #ending = new AbortController();
  #current: Current | undefined;
  #longPress: number | undefined;
  #lastClick: { point: Point; atMs: number } | undefined;

  constructor(
    element: HTMLElement,
    hand: Hand,
    pointOf: (event: { clientX: number; clientY: number }) => Point,
  ) {
    this.#element = element;
    this.#hand = hand;
    this.#pointOf = pointOf;
    const options = { signal: this.#ending.signal };
    element.addEventListener('pointerdown', (event) => this.#down(event), options);
    element.addEventListener('pointermove', (event) => this.#move(event), options);
    element.addEventListener('pointerup', (event) => this.#up(event, false), options);
    element.addEventListener('pointercancel', (event) => this.#up(event, true), options);
    element.addEventListener('pointerleave', (event) => hand.hover(undefined, event.pointerType), options);
    element.addEventListener('wheel', (event) => this.#wheel(event), { ...options, passive: false });
    // The keys alter what a drag does while it stands still, too.
    for (const kind of ['keydown', 'keyup'] as const) {
      element.addEventListener(kind, (event) => this.#keys(event), options);
    }
    element.addEventListener('contextmenu', (event) => event.preventDefault(), options);
    // Chromium 156 takes a swift drag for a fling, and swallows the tap that comes within a second of it, wherever that is.
    const onTouchMove = (event: TouchEvent) => event.preventDefault();
    element.addEventListener('touchmove', onTouchMove, { ...options, passive: false });
  }

  close(): void {
    this.#abandon();
    this.#ending.abort();
  }

  /** Ends what is being dragged without effect. @returns false when nothing was */
  cancel(): boolean {
    if (this.#current?.kind !== 'drag') return false;
    this.#abandon();
    return true;
  }

  #keys(event: KeyboardEvent): void {
    if (this.#current?.kind !== 'drag' || !this.#current.hasMoved) return;
    const [contact] = this.#contacts.values();
    if (contact) this.#current.drag.move(contact.point, { isShift: event.shiftKey, isAlt: event.altKey });
  }

  /** A finger or pen that is held still means what the secondary button means. */
  #waitForLongPress(pointerId: number): void {
    const view = this.#element.ownerDocument.defaultView!;
    view.clearTimeout(this.#longPress);
    this.#longPress = view.setTimeout(() => {
      const contact = this.#contacts.get(pointerId);
      if (contact === undefined || this.#contacts.size > 1) return;
      if (this.#current?.kind !== 'drag' || this.#current.hasMoved || this.#current.drag.isFine) return;
      this.#abandon();
      this.#hand.secondary(contact.point);
    }, LONG_PRESS_MS);
  }

  #down(event: PointerEvent): void {
    if (event.target !== this.#element && (event.target as Node).nodeName !== 'CANVAS') return;
    this.#element.focus({ preventScroll: true });
    // Text that a drag across the page selected would stay so until somebody pressed on text.
    this.#element.ownerDocument.getSelection()?.removeAllRanges();
    const point = this.#pointOf(event);
    this.#contacts.set(event.pointerId, { point, start: point, pointerType: event.pointerType });
    this.#element.setPointerCapture(event.pointerId);
    if (this.#contacts.size === 2) {
      this.#abandon();
      this.#current = { kind: 'pinch' };
      return;
    }
    if (this.#contacts.size > 2) return;
    if (event.button === 1) {
      event.preventDefault();
      this.#current = { kind: 'pan', last: point };
      return;
    }
    if (event.button === 2) {
      this.#hand.secondary(point);
      return;
    }
    if (event.button !== 0) return;
    if (event.pointerType !== 'mouse') this.#waitForLongPress(event.pointerId);
    const drag = this.#hand.press({
      ...{ point, isAdding: isAddingTo(event), isFollowing: event.ctrlKey || event.metaKey },
      ...{ pointerType: event.pointerType, pressure: pressureOf(event), tilt: tiltOf(event) },
    });
    if (drag) this.#current = { kind: 'drag', drag, hasMoved: false };
  }

  #move(event: PointerEvent): void {
    const point = this.#pointOf(event);
    const contact = this.#contacts.get(event.pointerId);
    if (contact === undefined) {
      this.#hand.hover(point, event.pointerType);
      return;
    }
    // Chromium 156 sends moves of its own when the page alters under a still pointer; their modifiers may be wrong.
    if (point.x === contact.point.x && point.y === contact.point.y) return;
    if (this.#current?.kind === 'pinch') {
      this.#pinch(event.pointerId, point);
      return;
    }
    contact.point = point;
    if (this.#current?.kind === 'pan') {
      this.#hand.pan({ x: point.x - this.#current.last.x, y: point.y - this.#current.last.y });
      this.#current.last = point;
    } else if (this.#current?.kind === 'drag') {
      this.#current.hasMoved ||= this.#current.drag.isFine || isAway(contact);
      if (this.#current.hasMoved) {
        const way = this.#current.drag.isFine ? this.#wayOf(event) : undefined;
        this.#current.drag.move(point, {
          ...{ isShift: event.shiftKey, isAlt: event.altKey },
          ...(way && { way, ahead: this.#samples(event.getPredictedEvents()) }),
        });
      }
    }
  }

  #wayOf(event: PointerEvent): Sample[] {
    const passed = event.getCoalescedEvents();
    return this.#samples(passed.length > 0 ? passed : [event]);
  }

  #samples(events: readonly PointerEvent[]): Sample[] {
    return events.map((one) => ({
      ...this.#pointOf(one),
      pressure: pressureOf(one),
      tilt: tiltOf(one),
    }));
  }

  /** Two contacts: the board follows both fingers, so that each stays on what it touched. */
  #pinch(pointerId: number, point: Point): void {
    const moved = this.#contacts.get(pointerId)!;
    const other = [...this.#contacts].find(([id]) => id !== pointerId)?.[1];
    if (other === undefined) return;
    const before = { x: (moved.point.x + other.point.x) / 2, y: (moved.point.y + other.point.y) / 2 };
    const after = { x: (point.x + other.point.x) / 2, y: (point.y + other.point.y) / 2 };
    const spanBefore = Math.hypot(moved.point.x - other.point.x, moved.point.y - other.point.y);
    const span = Math.hypot(point.x - other.point.x, point.y - other.point.y);
    moved.point = point;
    this.#hand.pan({ x: after.x - before.x, y: after.y - before.y });
    if (spanBefore > 1 && span > 1) this.#hand.zoom(after, span / spanBefore);
  }

  #up(event: PointerEvent, isCancelled: boolean): void {
    const contact = this.#contacts.get(event.pointerId);
    if (contact === undefined) return;
    this.#contacts.delete(event.pointerId);
    const current = this.#current;
    if (current?.kind === 'pinch' && this.#contacts.size > 0) return;
    this.#current = undefined;
    if (current?.kind !== 'drag') return;
    if (isCancelled) {
      if (current.drag.lost) current.drag.lost();
      else current.drag.cancel();
      return;
    }
    current.drag.end(!current.hasMoved);
    // Adding to a selection twice in a row is no double click.
    if (!current.hasMoved && !isAddingTo(event)) this.#click(contact.point);
  }

  #click(point: Point): void {
    const atMs = performance.now();
    const last = this.#lastClick;
    const isDouble =
      last !== undefined &&
      atMs - last.atMs < DOUBLE_MS &&
      Math.hypot(last.point.x - point.x, last.point.y - point.y) < CLICK_PX.touch;
    this.#lastClick = isDouble ? undefined : { point, atMs };
    if (isDouble) this.#hand.double(point);
  }

  #wheel(event: WheelEvent): void {
    event.preventDefault();
    const unit = event.deltaMode === 1 ? LINE_PX : event.deltaMode === 2 ? 800 : 1;
    const point = this.#pointOf(event);
    if (!event.ctrlKey && isTwoFingerScroll(event)) {
      // The view may be turned: what is a way on the screen goes with it.
      const { clientX, clientY } = event;
      const to = this.#pointOf({ clientX: clientX - event.deltaX, clientY: clientY - event.deltaY });
      this.#hand.pan({ x: to.x - point.x, y: to.y - point.y });
      return;
    }
    if (event.deltaY === 0 && event.deltaX !== 0) {
      this.#hand.tilt?.(event.deltaX > 0 ? 'right' : 'left');
      return;
    }
    const rate = event.ctrlKey ? PINCH_ZOOM : WHEEL_ZOOM;
    this.#hand.zoom(point, Math.exp(-event.deltaY * unit * rate));
  }

  #abandon(): void {
    if (this.#current?.kind === 'drag') this.#current.drag.cancel();
    this.#current = undefined;
  }
}

/**
 * Two fingers on a trackpad scroll in fine steps, also sideways. Chromium 156 reports them with a legacy `wheelDelta` of
 * exactly -3 times the delta; the notches of a wheel have 120 each.
 */
function isTwoFingerScroll(event: WheelEvent): boolean {
  const { wheelDeltaX, wheelDeltaY } = event as WheelEvent & { wheelDeltaX: number; wheelDeltaY: number };
  if (event.deltaMode !== 0) return false;
  return event.deltaY === 0 ? wheelDeltaX === -3 * event.deltaX : wheelDeltaY === -3 * event.deltaY;
}

/** Source: Pointer Events, 4.1.4: the altitude angle from tiltX and tiltY. */
function tiltOf({ pointerType, tiltX, tiltY }: PointerEvent): number {
  if (pointerType !== 'pen') return 0;
  const along = (degrees: number) => Math.tan((degrees * Math.PI) / 180);
  return (Math.atan(Math.hypot(along(tiltX), along(tiltY))) * 180) / Math.PI;
}

/** A mouse says a half while its button is down, and a finger or pen that measures nothing says 0 or 1. */
const pressureOf = ({ pointerType, pressure }: PointerEvent): number =>
  pointerType === 'pen' && pressure > 0 ? pressure : 0.5;

const isAddingTo = (event: PointerEvent): boolean => event.shiftKey || event.ctrlKey || event.metaKey;

const isAway = ({ start, point, pointerType }: Contact): boolean =>
  Math.hypot(point.x - start.x, point.y - start.y) > (CLICK_PX[pointerType as keyof typeof CLICK_PX] ?? 3);
