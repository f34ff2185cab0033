import type {
  SetLetters,
  ViewerBoard,
  ViewerItem,
  ViewerPicture,
  ViewerPrimitive,
} from '@miradero/core/board-file';
import {
  type Affine,
  applyAffine,
  boundsOfPoints,
  type Camera,
  compose,
  containsRectangle,
  invertAffine,
  overlaps,
  type Point,
  panBy,
  type Rectangle,
  screenToBoard,
  viewOf,
  zoomAt,
} from '@miradero/core/geometry';
import type { Path, PathsOnPicture, PictureQuad } from '@miradero/core/items';
import { Copies } from './copies.ts';

type Context = CanvasRenderingContext2D;

const MARGIN_PX = 32;
/** So small a picture is shown well enough by its thumbhash, device pixels. */
const HASH_UP_TO_PX = 24;
/** A copy of 256 px serves up to so many device pixels. */
const SMALL_UP_TO_PX = 300;
const WHEEL = 0.0016;
const KEY_PAN_PX = 80;
/** What is stepped to is at least so large on the screen, else it is brought closer, CSS pixels. */
const LEAST_STEPPED_PX = 200;
/** Of the view, what a picture that was brought closer takes. */
const STEPPED_SHARE = 0.7;
/** While copies come in, painting takes at most one of so many parts of the time. */
const DRAW_LATER_SHARE = 4;
const MOST_DRAW_LATER_MS = 400;
const CHOSEN_PX = 3;
const CHOSEN_COLOUR = '#2c7a6b';

const UNIT_SQUARE: readonly Point[] = [
  { x: 0, y: 0 },
  { x: 1, y: 0 },
  { x: 1, y: 1 },
  { x: 0, y: 1 },
];

const polygon = (corners: readonly Point[]): Path2D => {
  const path = new Path2D();
  for (const { x, y } of corners) path.lineTo(x, y);
  path.closePath();
  return path;
};

const paths = new Map<string, Path2D>();
const pathOf = (d: string): Path2D => {
  let path = paths.get(d);
  if (!path) {
    path = new Path2D(d);
    paths.set(d, path);
  }
  return path;
};

function drawPath(context: Context, { d, fill, stroke }: Path, frame: Affine): void {
  context.setTransform(...frame);
  if (fill) {
    context.fillStyle = fill;
    context.fill(pathOf(d));
  }
  if (!stroke) return;
  context.lineWidth = stroke.width;
  context.strokeStyle = stroke.colour;
  context.stroke(pathOf(d));
}

/** What somebody pressed. */
export interface PressedItem {
  readonly item: ViewerItem;
  /** Of the picture that it shows. */
  readonly pictureId: string | undefined;
  /** The picture that it shows; undefined for what is none. */
  readonly picture: ViewerPicture | undefined;
}

/** A board on a canvas, to be looked at: panned, zoomed, come close to. It alters nothing. */
export class BoardCanvas {
  readonly #board: ViewerBoard;
  readonly #canvas: HTMLCanvasElement;
  readonly #context: Context;
  readonly #copies = new Copies(() => this.#drawLater());
  readonly #bounds: readonly Rectangle[];
  readonly #onPress: (pressed: PressedItem | undefined) => void;
  /** Drawn above an item, in its own frame. */
  drawAbove: (context: Context, item: ViewerItem, frame: Affine) => void = () => {};
  readonly #pointers = new Map<number, Point>();
  #camera: Camera = { centre: { x: 0, y: 0 }, scale: 1 };
  #isFitted = true;
  /** The item that was pressed or stepped to. */
  #chosen = -1;
  #before: Camera | undefined;
  #frame = 0;
  #later: ReturnType<typeof setTimeout> | undefined;
  #lastPaintMs = 0;

  constructor(
    board: ViewerBoard,
    canvas: HTMLCanvasElement,
    onPress: (pressed: PressedItem | undefined) => void,
  ) {
    this.#board = board;
    this.#canvas = canvas;
    this.#onPress = onPress;
    this.#context = canvas.getContext('2d', { alpha: false })!;
    this.#bounds = board.items.map(({ frame, width, height }) =>
      boundsOfPoints(UNIT_SQUARE.map(({ x, y }) => applyAffine(frame, { x: x * width, y: y * height }))),
    );
    new ResizeObserver(() => this.#measure()).observe(canvas);
    this.#listen();
    this.#measure();
  }

  get #viewport() {
    return { width: this.#canvas.clientWidth, height: this.#canvas.clientHeight };
  }

  #measure(): void {
    const { width, height } = this.#viewport;
    this.#canvas.width = Math.max(1, Math.round(width * devicePixelRatio));
    this.#canvas.height = Math.max(1, Math.round(height * devicePixelRatio));
    if (this.#isFitted) this.#camera = this.#showing(this.#board.extent);
    this.#draw();
  }

  #showing({ x, y, width, height }: Rectangle): Camera {
    const room = this.#viewport;
    const scale = Math.min(
      Math.max(1, room.width - 2 * MARGIN_PX) / Math.max(width, 1),
      Math.max(1, room.height - 2 * MARGIN_PX) / Math.max(height, 1),
    );
    return { centre: { x: x + width / 2, y: y + height / 2 }, scale };
  }

  #look(camera: Camera, isFitted = false): void {
    this.#camera = camera;
    this.#isFitted = isFitted;
    this.#draw();
  }

  whole(): void {
    this.#before = undefined;
    this.#look(this.#showing(this.#board.extent), true);
  }

  #zoom(at: Point, factor: number): void {
    this.#look(zoomAt(this.#camera, this.#viewport, at, factor));
  }

  #itemAt(at: Point): number {
    const point = screenToBoard(this.#camera, this.#viewport, at);
    return this.#board.items.findLastIndex(({ frame, width, height, isGround }) => {
      if (isGround) return false;
      const { x, y } = applyAffine(invertAffine(frame), point);
      return x >= 0 && y >= 0 && x <= width && y <= height;
    });
  }

  /** Brings what was pressed twice close, and goes back. */
  #close(at: Point): void {
    const index = this.#itemAt(at);
    if (this.#before || index < 0) {
      this.#look(this.#before ?? this.#showing(this.#board.extent), !this.#before);
      this.#before = undefined;
      return;
    }
    this.#before = this.#camera;
    this.#look(this.#showing(this.#bounds[index]!));
  }

  /** Goes on to the next picture, as a page is read, or to the one before; around at the ends. */
  step(by: 1 | -1): void {
    const { walk } = this.#board;
    if (walk.length === 0) return;
    const at = walk.indexOf(this.#chosen);
    const from = at < 0 && by < 0 ? 0 : at;
    this.#choose(walk[(from + by + walk.length) % walk.length]!);
    this.#bringIn(this.#bounds[this.#chosen]!);
  }

  /** Moves as little as shows all of it, large enough to be judged. */
  #bringIn(part: Rectangle): void {
    const view = viewOf(this.#camera, this.#viewport);
    const longest = Math.max(part.width, part.height);
    const isLarge = longest * this.#camera.scale >= LEAST_STEPPED_PX;
    if (isLarge && containsRectangle(view, part)) return;
    const near = this.#showing(part);
    const scale = isLarge ? Math.min(near.scale, this.#camera.scale) : near.scale * STEPPED_SHARE;
    this.#look({ centre: near.centre, scale });
  }

  #choose(index: number): void {
    this.#chosen = index;
    const item = this.#board.items[index];
    const quad = item?.drawn.find((one): one is PictureQuad => one.kind === 'picture');
    this.#onPress(
      item && { item, pictureId: quad?.picture, picture: quad && this.#board.pictures[quad.picture] },
    );
    this.#draw();
  }

  #listen(): void {
    const canvas = this.#canvas;
    const at = ({ offsetX, offsetY }: MouseEvent): Point => ({ x: offsetX, y: offsetY });
    let moved = 0;
    canvas.addEventListener('pointerdown', (event) => {
      canvas.setPointerCapture(event.pointerId);
      this.#pointers.set(event.pointerId, at(event));
      if (this.#pointers.size === 1) moved = 0;
    });
    canvas.addEventListener('pointermove', (event) => {
      const from = this.#pointers.get(event.pointerId);
      if (!from) return;
      const to = at(event);
      const other = [...this.#pointers].find(([id]) => id !== event.pointerId)?.[1];
      moved += Math.hypot(to.x - from.x, to.y - from.y);
      this.#pointers.set(event.pointerId, to);
      const share = other ? 0.5 : 1;
      let camera = panBy(this.#camera, { x: (to.x - from.x) * share, y: (to.y - from.y) * share });
      if (other) {
        const [was, is] = [from, to].map((p) => Math.hypot(p.x - other.x, p.y - other.y)) as [number, number];
        const middle = { x: (to.x + other.x) / 2, y: (to.y + other.y) / 2 };
        if (was > 0 && is > 0) camera = zoomAt(camera, this.#viewport, middle, is / was);
      }
      this.#look(camera);
    });
    const end = (event: PointerEvent) => {
      if (!this.#pointers.delete(event.pointerId)) return;
      if (event.type === 'pointerup' && moved < 4) this.#choose(this.#itemAt(at(event)));
    };
    canvas.addEventListener('pointerup', end);
    canvas.addEventListener('pointercancel', end);
    canvas.addEventListener('dblclick', (event) => this.#close(at(event)));
    canvas.addEventListener(
      'wheel',
      (event) => {
        event.preventDefault();
        const lines = event.deltaMode === 1 ? 16 : 1;
        this.#zoom(at(event), Math.exp(-event.deltaY * lines * WHEEL));
      },
      { passive: false },
    );
    canvas.addEventListener('keydown', (event) => this.#key(event));
  }

  #key(event: KeyboardEvent): void {
    const { width, height } = this.#viewport;
    const middle = { x: width / 2, y: height / 2 };
    const pans: Readonly<Record<string, Point>> = {
      ...{ ArrowLeft: { x: KEY_PAN_PX, y: 0 }, ArrowRight: { x: -KEY_PAN_PX, y: 0 } },
      ...{ ArrowUp: { x: 0, y: KEY_PAN_PX }, ArrowDown: { x: 0, y: -KEY_PAN_PX } },
    };
    const pan = pans[event.key];
    if (pan) this.#look(panBy(this.#camera, pan));
    else if (event.key === '+' || event.key === '=') this.#zoom(middle, 1.25);
    else if (event.key === '-') this.#zoom(middle, 0.8);
    else if (event.key === '0') this.whole();
    else if (event.key === 'PageDown') this.step(1);
    else if (event.key === 'PageUp') this.step(-1);
    else if (event.key === 'Escape') this.#choose(-1);
    else return;
    event.preventDefault();
  }

  /** Draws anew: what lies above may be another. */
  redraw(): void {
    this.#draw();
  }

  #draw(): void {
    if (this.#frame === 0)
      this.#frame = requestAnimationFrame(() => {
        this.#frame = 0;
        this.#paint();
      });
  }

  /** Copies come by the hundred: they are drawn some at a time. */
  #drawLater(): void {
    this.#later ??= setTimeout(
      () => {
        this.#later = undefined;
        this.#draw();
      },
      Math.min(MOST_DRAW_LATER_MS, this.#lastPaintMs * DRAW_LATER_SHARE),
    );
  }

  #paint(): void {
    const begun = performance.now();
    const { items, ground } = this.#board;
    const context = this.#context;
    const { width, height } = this.#canvas;
    const view = viewOf(this.#camera, this.#viewport);
    const scale = this.#camera.scale * devicePixelRatio;
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.globalAlpha = 1;
    context.fillStyle = ground;
    context.fillRect(0, 0, width, height);
    const onCanvas: Affine = [scale, 0, 0, scale, -view.x * scale, -view.y * scale];
    for (const [index, item] of items.entries()) {
      if (!overlaps(this.#bounds[index]!, view)) continue;
      context.globalAlpha = item.opacity;
      context.globalCompositeOperation = item.isMultiplied ? 'multiply' : 'source-over';
      const frame = compose(onCanvas, item.frame);
      this.#paintItem(item, frame, scale);
      context.globalAlpha = 1;
      context.globalCompositeOperation = 'source-over';
      this.drawAbove(context, item, frame);
    }
    const chosen = items[this.#chosen];
    if (chosen?.drawn.some(({ kind }) => kind === 'picture')) {
      context.setTransform(...compose(onCanvas, chosen.frame));
      context.lineWidth =
        (CHOSEN_PX * devicePixelRatio) / (scale * Math.hypot(chosen.frame[0], chosen.frame[1]));
      context.strokeStyle = CHOSEN_COLOUR;
      context.strokeRect(0, 0, chosen.width, chosen.height);
    }
    this.#copies.load();
    this.#lastPaintMs = performance.now() - begun;
    document.documentElement.dataset.waiting = String(this.#copies.waiting);
  }

  #paintItem({ drawn }: ViewerItem, frame: Affine, scale: number): void {
    for (const one of drawn) this.#paintOne(one, frame, scale);
  }

  #paintOne(one: ViewerPrimitive, frame: Affine, scale: number): void {
    if (one.kind === 'path') drawPath(this.#context, one, frame);
    else if (one.kind === 'letters') this.#paintLetters(one, frame);
    else if (one.kind === 'picture') this.#paintPicture(one, frame, scale);
    else this.#paintMarks(one, frame);
  }

  #paintPicture(quad: PictureQuad, frame: Affine, scale: number): void {
    const context = this.#context;
    const { trim, place, toPlace, clip } = quad;
    const picture = this.#board.pictures[quad.picture];
    const onPlace = compose(frame, [place.width, 0, 0, place.height, place.x, place.y]);
    const shownPx = quad.longestSide * scale;
    const { small = null, large = null, hash = null } = picture ?? {};
    const image =
      (shownPx > SMALL_UP_TO_PX ? this.#copies.get(large) : undefined) ??
      (shownPx > HASH_UP_TO_PX || hash === null ? this.#copies.get(small) : undefined) ??
      this.#copies.meanwhile(hash);
    context.save();
    context.setTransform(...onPlace);
    context.clip(polygon(clip ?? UNIT_SQUARE), 'evenodd');
    if (!image) {
      context.fillStyle = 'rgb(128 128 128 / 0.4)';
      context.fillRect(0, 0, 1, 1);
    } else {
      const whole: Affine = toPlace ?? [
        ...([1 / trim.width, 0, 0, 1 / trim.height] as const),
        ...([-trim.x / trim.width, -trim.y / trim.height] as const),
      ];
      context.setTransform(...compose(onPlace, whole));
      context.imageSmoothingQuality = 'high';
      context.drawImage(image, 0, 0, 1, 1);
    }
    context.restore();
  }

  #paintMarks({ place, clip, layers }: PathsOnPicture, frame: Affine): void {
    const context = this.#context;
    const onPlace = compose(frame, [place.width, 0, 0, place.height, place.x, place.y]);
    const opacity = context.globalAlpha;
    context.save();
    context.setTransform(...onPlace);
    context.clip(polygon(clip), 'evenodd');
    for (const layer of layers) {
      context.globalAlpha = opacity * layer.opacity;
      for (const path of layer.paths) drawPath(context, path, compose(onPlace, layer.toPlace));
    }
    context.restore();
  }

  #paintLetters({ at, scale, colour, clip, letters, rules, boxes }: SetLetters, frame: Affine): void {
    const context = this.#context;
    const own = compose(frame, [scale, 0, 0, scale, at.x, at.y]);
    context.save();
    context.setTransform(...frame);
    context.beginPath();
    context.rect(clip.x, clip.y, clip.width, clip.height);
    context.clip();
    context.fillStyle = colour;
    context.strokeStyle = colour;
    for (let index = 0; index < letters.length; index += 4) {
      const [number, x, y, size] = letters.slice(index, index + 4) as [number, number, number, number];
      const { d, unitsPerEm } = this.#board.letters[number]!;
      const em = size / unitsPerEm;
      context.setTransform(...compose(own, [em, 0, 0, -em, x, y]));
      context.fill(pathOf(d));
    }
    context.setTransform(...own);
    for (let index = 0; index < rules.length; index += 4)
      context.fillRect(...(rules.slice(index, index + 4) as [number, number, number, number]));
    for (let index = 0; index < boxes.length; index += 4) {
      const box = boxes.slice(index, index + 4) as [number, number, number, number];
      context.lineWidth = box[2] / 8;
      context.strokeRect(...box);
    }
    context.restore();
  }
}
